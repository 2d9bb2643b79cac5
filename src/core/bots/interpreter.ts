import type { Channel } from '../channels';
import { localised, type Localised } from '../localised';
import type { Need } from '../routing/needs';
import { holds } from './conditions';
import { heardChoice } from './heard';
import { lineNumber, type BotScript, type Cue, type Listen, type Step } from './model';
import { filled, lastSentence, notUnderstood, questionOn } from './sentences';

/** The most lines that run between two inputs; more means the script goes in a circle. */
export const STEP_LIMIT = 200;

/** A conversation's place in a script. Plain data: it is stored between inputs. */
export type BotState = {
  readonly lineId: string | null;
  readonly language: string;
  readonly values: Readonly<Record<string, string>>;
  /** Tries used up at the line that listens now. */
  readonly tries: number;
  /** Telephone keys gathered so far for a free answer; `#` sends it. */
  readonly keyed: string;
  readonly status: 'running' | 'listening' | 'handed-over' | 'ended';
};

export type BotInput = { readonly type: 'start' } | { readonly type: 'text'; readonly text: string } | { readonly type: 'key'; readonly key: string } | { readonly type: 'silence' }
  /** Begins at a line other than the first: a queue sent the contact back to a scene. */
  | { readonly type: 'scene'; readonly lineId: string };

/** What the driver must carry out, in order. */
export type BotAct =
  | { readonly type: 'say'; readonly lineId: string | null; readonly text: string; readonly options: readonly { readonly key: string; readonly label: string }[] }
  | { readonly type: 'heard'; readonly lineId: string; readonly choiceId: string | null; readonly understood: boolean }
  | { readonly type: 'remember'; readonly name: string; readonly value: string }
  | { readonly type: 'hand-over'; readonly lineId: string | null; readonly queueId: string; readonly needs: readonly Need[]; readonly priority: number; readonly because: string | null }
  | { readonly type: 'end'; readonly lineId: string | null };

/** What the script may look at besides its own state. */
export type BotWorld = { readonly channel: Channel; readonly open: boolean };

export const beginning = (language: string): BotState => ({ lineId: null, language, values: {}, tries: 0, keyed: '', status: 'running' });

type Run = { state: BotState; acts: BotAct[] };

/**
 * Runs a script from an input to the next point where it listens, hands over or ends. Pure and deterministic; never
 * throws: any fault hands over to the fallback queue with its reason, after a built-in sentence.
 */
export function runBot(script: BotScript, world: BotWorld, before: BotState, input: BotInput): Run {
  if (before.status === 'handed-over' || before.status === 'ended') return { state: before, acts: [] };
  const run: Run = { state: before, acts: [] };
  const steps = new Map(script.scenes.flatMap((scene) => scene.steps).map((step) => [step.id, step]));
  const next = input.type === 'start' ? firstLine(script) : input.type === 'scene' ? input.lineId : answer(script, steps, world, run, input);
  if (next === 'waiting') return run;
  return proceed(script, steps, world, run, next);
}

function proceed(script: BotScript, steps: ReadonlyMap<string, Step>, world: BotWorld, run: Run, from: string | 'end' | 'missing'): Run {
  let line = from;
  for (let count = 0; count < STEP_LIMIT; count++) {
    if (line === 'end') return finish(run, null);
    const step = line === 'missing' ? undefined : steps.get(line);
    if (!step) return fault(script, run, 'the line it should go to is not there');
    run.state = { ...run.state, lineId: step.id };
    switch (step.verb) {
      case 'say':
        say(run, script, step.id, step.wording);
        line = after(script, step.id);
        break;
      case 'listen':
        ask(script, world, run, step, step.wording);
        return run;
      case 'branch': {
        const seen = { channel: world.channel, open: world.open, language: run.state.language, values: run.state.values };
        line = follow(script, step.id, step.ways.find((way) => holds(way.when, seen))?.cue ?? step.otherwise);
        break;
      }
      case 'hand-over':
        say(run, script, step.id, step.wording);
        run.state = { ...run.state, status: 'handed-over' };
        run.acts.push({ type: 'hand-over', lineId: step.id, queueId: step.queueId, needs: step.needs, priority: step.priority, because: null });
        return run;
      case 'end':
        say(run, script, step.id, step.wording);
        return finish(run, step.id);
    }
  }
  return fault(script, run, `it went over ${STEP_LIMIT} lines without waiting for the customer`);
}

/** Takes an answer at the listening line; gives the line to go on with, or `waiting` when it stays. */
function answer(script: BotScript, steps: ReadonlyMap<string, Step>, world: BotWorld, run: Run, input: Exclude<BotInput, { type: 'start' | 'scene' }>): string | 'end' | 'missing' | 'waiting' {
  const step = run.state.lineId === null ? undefined : steps.get(run.state.lineId);
  if (step?.verb !== 'listen') return 'missing';
  if (step.hears.kind === 'choices') {
    const said = input.type === 'silence' ? '' : input.type === 'key' ? input.key : input.text;
    const choice = heardChoice(step.hears.choices, said);
    if (!choice) return again(script, world, run, step);
    run.acts.push({ type: 'heard', lineId: step.id, choiceId: choice.id, understood: true });
    remember(run, step, choice.label.en ?? localised(choice.label, run.state.language));
    run.state = { ...run.state, tries: 0, keyed: '', language: choice.setsLanguage ?? run.state.language };
    return follow(script, step.id, choice.cue);
  }
  if (input.type === 'key' && input.key !== '#') {
    run.state = { ...run.state, keyed: run.state.keyed + input.key };
    return 'waiting';
  }
  const text = input.type === 'text' ? input.text.trim() : input.type === 'key' ? run.state.keyed : '';
  run.state = { ...run.state, keyed: '' };
  if (text === '') return again(script, world, run, step);
  run.acts.push({ type: 'heard', lineId: step.id, choiceId: null, understood: true });
  remember(run, step, text);
  run.state = { ...run.state, tries: 0 };
  return after(script, step.id);
}

function again(script: BotScript, world: BotWorld, run: Run, step: Listen): string | 'end' | 'missing' | 'waiting' {
  const tries = run.state.tries + 1;
  run.acts.push({ type: 'heard', lineId: step.id, choiceId: null, understood: false });
  run.state = { ...run.state, tries };
  if (tries >= step.tries) {
    run.state = { ...run.state, tries: 0 };
    return follow(script, step.id, step.otherwise);
  }
  const own = localised(step.again, run.state.language, script.languages);
  const question = localised(step.wording, run.state.language, script.languages);
  speak(run, world, script, step, own || `${notUnderstood(run.state.language)} ${question}`);
  return 'waiting';
}

function ask(script: BotScript, world: BotWorld, run: Run, step: Listen, wording: Localised): void {
  speak(run, world, script, step, localised(wording, run.state.language, script.languages));
  run.state = { ...run.state, status: 'listening', tries: 0, keyed: '' };
}

function speak(run: Run, world: BotWorld, script: BotScript, step: Listen, words: string): void {
  const choices = step.hears.kind === 'choices' ? step.hears.choices : [];
  const { language, values } = run.state;
  const text = filled(questionOn(world.channel, language, words, choices), values);
  const options = choices.map((c) => ({ key: c.key, label: localised(c.label, language, script.languages) }));
  run.acts.push({ type: 'say', lineId: step.id, text, options });
}

function say(run: Run, script: BotScript, lineId: string, wording: Localised): void {
  const text = filled(localised(wording, run.state.language, script.languages), run.state.values);
  if (text) run.acts.push({ type: 'say', lineId, text, options: [] });
}

function remember(run: Run, step: Listen, value: string): void {
  if (!step.remember) return;
  run.state = { ...run.state, values: { ...run.state.values, [step.remember]: value } };
  run.acts.push({ type: 'remember', name: step.remember, value });
}

function finish(run: Run, lineId: string | null): Run {
  run.state = { ...run.state, status: 'ended' };
  run.acts.push({ type: 'end', lineId });
  return run;
}

function fault(script: BotScript, run: Run, reason: string): Run {
  const place = run.state.lineId === null ? null : lineNumber(script, run.state.lineId);
  run.acts.push({ type: 'say', lineId: null, text: lastSentence(run.state.language), options: [] });
  run.acts.push({
    type: 'hand-over', lineId: run.state.lineId, queueId: script.fallbackQueueId, needs: [], priority: 0,
    because: place === null ? reason : `at ${place} ${reason}`,
  });
  run.state = { ...run.state, status: 'handed-over' };
  return run;
}

const firstLine = (script: BotScript): string => script.scenes.flatMap((s) => s.steps)[0]?.id ?? 'missing';

/** The line after this one: a scene's last line falls through to its end, and the conversation with it. */
function after(script: BotScript, lineId: string): string | 'end' {
  const scene = script.scenes.find((s) => s.steps.some((step) => step.id === lineId));
  const index = scene?.steps.findIndex((step) => step.id === lineId) ?? -1;
  return scene?.steps[index + 1]?.id ?? 'end';
}

function follow(script: BotScript, lineId: string, cue: Cue): string | 'end' | 'missing' {
  switch (cue.to) {
    case 'next': return after(script, lineId);
    case 'line': return cue.lineId;
    case 'scene': return script.scenes.find((scene) => scene.id === cue.sceneId)?.steps[0]?.id ?? 'missing';
    case 'end': return 'end';
  }
}
