import { isText } from '../channels';
import { localised } from '../localised';
import { escapeXml, type Speech, withoutTags, wordingSpeech } from '../messages/ssml';
import { valuesAt, type ShownImage } from './conversation';
import { offered, wordingOn, type Choice, type Listen, type Step, type Wording } from './model';
import { withOptions } from '../messages/options';
import { menuOptions } from './menu';
import type { Lead, Run } from './run';
import { filled } from './value';

/** A wording's text for this language and channel, with its values. */
export function words(run: Run, wording: Wording): Speech {
  const speech = wordingSpeech(
    localised(wordingOn(wording, run.world.channel), run.state.language, run.program.script.languages),
  );
  if (!speech.text.includes('{')) return speech;
  const values = valuesAt(run.state);
  const safe = speech.tagged
    ? Object.fromEntries(
        Object.entries(values).map(([name, value]) => [name, typeof value === 'string' ? escapeXml(value) : value]),
      )
    : values;
  return { ...speech, text: filled(speech.text, safe, run.state.language, run.world.channel === 'voice') };
}

export function say(
  run: Run,
  lineId: string | null,
  speech: Speech,
  more: {
    after?: string;
    mayInterrupt?: boolean;
    image?: ShownImage | null;
    options?: readonly { key: string; label: string }[];
  } = {},
): void {
  const plain = withoutTags(speech).trim() + (more.after ?? '');
  if (plain)
    run.acts.push({
      type: 'say',
      lineId,
      text: plain,
      ssml: run.world.channel === 'voice' && speech.tagged ? speech.text : null,
      options: more.options ?? [],
      mayInterrupt: more.mayInterrupt ?? true,
      image: more.image ?? null,
    });
}

export function speak(
  run: Run,
  step: Listen,
  question: Speech,
  among: readonly Choice[] = step.hears.kind === 'choices' ? offered(step.hears.choices) : [],
): void {
  const { language } = run.state;
  const options = menuOptions(among, language, run.program.script.languages);
  const by = (step.hears.kind === 'choices' && step.hears.offeredBy) || 'keys';
  const asked = withOptions(run.world.channel, language, question, options, by);
  say(run, step.id, asked, { options: options.map(({ key, label }) => ({ key, label })) });
}

export function ask(run: Run, step: Listen, question: Speech): Lead {
  run.state = { ...run.state, tries: 0, silences: 0, keyed: '', doubt: null };
  speak(run, step, question);
  return listen(run, step);
}

export function listen(
  run: Run,
  step: Extract<Step, { verb: 'listen' | 'take-message' | 'articles' }>,
  again = false,
): Lead {
  run.state = {
    ...run.state,
    status: 'listening',
    tries: again || step.verb === 'listen' || run.state.reading ? run.state.tries : 0,
  };
  wait(
    run,
    isText(run.world.channel)
      ? run.program.script.quiet.remindSeconds
      : step.verb === 'take-message'
        ? 20
        : step.silenceSeconds,
  );
  return 'stop';
}

export const wait = (run: Run, seconds: number): void => void run.acts.push({ type: 'wait', seconds });

/** Asks the same once more. */
export function repeat(run: Run, step: Extract<Step, { verb: 'take-message' | 'articles' }>): Lead {
  run.state = { ...run.state, tries: run.state.tries + 1 };
  say(run, step.id, words(run, step.wording));
  return listen(run, step, true);
}
