import { localised } from '../localised';
import { readAnswer } from './answers';
import { articleWish } from './sentences';
import type { BotInput } from './conversation';
import { heardChoice, plainWords } from './heard';
import type { Choice, Listen, Step } from './model';
import type { Meaning, Place } from './program';
import { read } from './reading';
import { request } from './requests';
import { remember, type Lead, type Run } from './run';
import { listen, repeat, say, speak, wait, words } from './saying';
import { orElse, plainSpeech, together } from '../messages/ssml';
import { notUnderstood, stillThere, whichOfTwo } from './sentences';
import { finish, follow } from './ways';

/** What a customer does. */
type Said = Extract<BotInput, { type: 'text' | 'key' | 'silence' }>;

/** Somebody who writes goes quiet: reminded once, then closed. */
export function quiet(run: Run): Lead {
  const { quiet: rule } = run.program.script;
  if (run.state.silences > 0) {
    finish(run, 'went-quiet');
    return 'stop';
  }
  run.state = { ...run.state, silences: 1 };
  say(run, run.state.lineId, orElse(words(run, rule.wording), stillThere(run.state.language)));
  run.acts.push({ type: 'wait', seconds: rule.closeSeconds });
  return 'stop';
}

/** The text of an answer: keys are gathered until `#`. Null while keys are still coming; silence is empty. */
export function spokenOrKeyed(run: Run, input: Said): string | null {
  if (input.type === 'text') return input.text.trim();
  if (input.type === 'key' && input.key !== '#') {
    run.state = { ...run.state, keyed: run.state.keyed + input.key };
    wait(run, 6);
    return null;
  }
  // Whoever stops pressing keys has sent them.
  const { keyed } = run.state;
  run.state = { ...run.state, keyed: '' };
  return keyed;
}

/** The two choices that were asked back between, with keys of their own; null where none were. */
const askedBetween = (run: Run, choices: readonly Choice[]): readonly Choice[] | null =>
  run.state.doubt?.flatMap((id, i) => choices.filter((c) => c.id === id).map((c) => ({ ...c, key: String(i + 1) }))) ??
  null;

export function chosen(run: Run, place: Place, step: Listen, choices: readonly Choice[], input: Said): Lead {
  const said = input.type === 'silence' ? '' : input.type === 'key' ? input.key : input.text;
  const open = askedBetween(run, choices) ?? choices;
  const plain = heardChoice(open, said);
  if (plain) return choose(run, place, step, choices.find((c) => c.id === plain.id) ?? plain, said, null);
  const { recogniser } = run.program;
  if (!recogniser || input.type !== 'text' || said.trim() === '' || !open.some((c) => c.intentId))
    return again(run, place, step, input.type === 'silence');
  return request(run, { ask: 'meaning', book: recogniser.book, text: said, language: run.state.language });
}

/**
 * Goes on with what words may mean: by the first of it, or by asking back once which of two. An intent that is no choice
 * here still outdoes those below it.
 */
export function meant(run: Run, place: Place, step: Listen, said: string, { ranked, verdict }: Meaning): Lead {
  const choices = step.hears.kind === 'choices' ? step.hears.choices : [];
  const two = askedBetween(run, choices);
  const choiceOf = (intentId: string): Choice | undefined => (two ?? choices).find((c) => c.intentId === intentId);
  const [first, second] = ranked;
  const one = first && choiceOf(first.intentId);
  if (verdict === 'none' || !first || !one) return again(run, place, step, false);
  const other = verdict === 'ask' && !two && second ? choiceOf(second.intentId) : undefined;
  if (!other || other.id === one.id)
    return choose(run, place, step, choices.find((c) => c.id === one.id) ?? one, said, {
      id: first.intentId,
      confidence: first.confidence,
    });
  const [a, b] = [one, other].map((c) => localised(c.label, run.state.language, run.program.script.languages));
  run.state = { ...run.state, doubt: [one.id, other.id] };
  const options = [one, other].map((c, i) => ({ ...c, key: String(i + 1) }));
  speak(run, step, plainSpeech(whichOfTwo(run.state.language, a ?? '', b ?? '')), options);
  return listen(run, step);
}

function choose(
  run: Run,
  place: Place,
  step: Listen,
  choice: Choice,
  said: string,
  intent: { id: string; confidence: number } | null,
): Lead {
  run.acts.push({ type: 'heard', lineId: step.id, choiceId: choice.id, understood: true, intent });
  if (step.into) remember(run, step.into, choice.label.en ?? localised(choice.label, run.state.language));
  notice(run, step, said);
  run.state = {
    ...run.state,
    tries: 0,
    silences: 0,
    keyed: '',
    doubt: null,
    needs: choice.needs ? [...run.state.needs, ...choice.needs] : run.state.needs,
  };
  if (choice.setsLanguage && choice.setsLanguage !== run.state.language) {
    run.state = { ...run.state, language: choice.setsLanguage };
    run.acts.push({ type: 'language', language: choice.setsLanguage });
  }
  return follow(run, place, choice.id, choice.cue);
}

function notice(run: Run, step: Listen, said: string): void {
  const { recogniser } = run.program;
  for (const { listId, into } of recogniser ? step.notices : []) {
    const found = recogniser?.thing(listId, said);
    if (found) remember(run, into, recogniser?.thingName(listId, found, run.state.language) ?? found);
  }
}

export function valued(
  run: Run,
  place: Place,
  step: Listen,
  asked: Extract<Listen['hears'], { kind: 'value' }>['asked'],
  input: Said,
): Lead {
  // One key answers yes or no; other answers by keys are sent with #.
  const said = asked.type === 'yes-no' && input.type === 'key' ? input.key : spokenOrKeyed(run, input);
  if (said === null) return 'stop';
  const { recogniser } = run.program;
  const value = readAnswer(asked, said, {
    language: run.state.language,
    local: run.world.local,
    country: run.program.country,
    listed: (listId, text) => {
      const found = recogniser?.thing(listId, text);
      return found ? (recogniser?.thingName(listId, found, run.state.language) ?? found) : null;
    },
  });
  if (value === null) return again(run, place, step, said === '');
  run.acts.push({ type: 'heard', lineId: step.id, choiceId: null, understood: true, intent: null });
  if (step.into) remember(run, step.into, value);
  notice(run, step, said);
  run.state = { ...run.state, tries: 0, silences: 0 };
  return follow(run, place, 'next', { to: 'next' });
}

function again(run: Run, place: Place, step: Listen, silent: boolean): Lead {
  const tries = run.state.tries + 1;
  run.acts.push({ type: 'heard', lineId: step.id, choiceId: null, understood: false, intent: null });
  run.state = { ...run.state, tries, doubt: null };
  if (tries >= step.tries) {
    run.state = { ...run.state, tries: 0 };
    return follow(run, place, 'otherwise', step.otherwise);
  }
  const own = [...(silent ? [words(run, step.silent)] : []), words(run, step.again)].find((speech) => speech.text);
  const sorry =
    silent && step.hears.kind === 'value' ? stillThere(run.state.language) : notUnderstood(run.state.language);
  speak(run, step, own ?? together(`${sorry} `, words(run, step.wording)));
  return listen(run, step);
}

export function articles(run: Run, place: Place, step: Extract<Step, { verb: 'articles' }>, input: Said): Lead {
  const { reading } = run.state;
  const said = input.type === 'silence' ? '' : input.type === 'key' ? input.key : input.text.trim();
  const wish = reading ? (said === '' ? 'done' : articleWish(plainWords(said))) : null;
  if (reading && wish === 'done') {
    run.state = { ...run.state, reading: null, tries: 0 };
    return follow(run, place, 'done', step.done);
  }
  if (reading && wish) {
    run.state = {
      ...run.state,
      reading: { ...reading, at: wish === 'on' ? Math.min(reading.at + 1, reading.parts.length - 1) : reading.at },
    };
    return read(run, step);
  }
  if (said === '')
    return run.state.tries + 1 >= step.tries ? follow(run, place, 'nothing', step.nothing) : repeat(run, step);
  return request(run, { ask: 'article', query: said, language: run.state.language, seen: [] });
}
