import { choiceName, type Cue, type Step } from './model';

const NEXT: Cue = { to: 'next' };

/** A way out of a line: its key within the line, how it reads, where it goes. */
export type Way = { readonly key: string; readonly label: string; readonly cue: Cue };

/** Every way out of a line that a cue decides, in the order in which they are read. */
export function waysOf(step: Step): Way[] {
  const way = (key: string, label: string, cue: Cue | null): Way[] => (cue ? [{ key, label, cue }] : []);
  switch (step.verb) {
    case 'listen':
      return [
        ...(step.hears.kind === 'choices'
          ? step.hears.choices.map((c) => ({ key: c.id, label: choiceName(c), cue: c.cue }))
          : []),
        ...way('otherwise', 'anything else', step.otherwise),
      ];
    case 'branch':
      return [
        ...step.ways.map((w, i) => ({ key: `way-${i + 1}`, label: `way ${i + 1}`, cue: w.cue })),
        ...way('otherwise', 'otherwise', step.otherwise),
      ];
    case 'look-up':
      return [
        ...way('found', 'found', step.found),
        ...way('not-found', 'not found', step.notFound),
        ...way('failed', 'failed', step.failed),
      ];
    case 'do':
      return [
        ...way('done', 'done', step.done),
        ...way('refused', 'refused', step.refused),
        ...way('unsure', 'unsure', step.unsure),
      ];
    case 'identify':
      return [...way('known', 'known', step.known), ...way('unknown', 'unknown', step.unknown)];
    case 'hours':
      return [...way('open', 'open', step.open), ...way('closed', 'closed', step.closed)];
    case 'count':
      return mayBeUnknown(step) ? way('unknown', 'not known', step.unknown ?? NEXT) : [];
    case 'articles':
      return [...way('done', 'answered', step.done), ...way('nothing', 'nothing fits', step.nothing)];
    case 'go-to':
      return way('go', 'go to', step.cue);
    case 'hand-over':
      return step.target.to === 'person' ? way('off', 'off duty', step.target.off) : [];
    case 'call-back':
      return way('otherwise', 'nothing came of it', step.otherwise);
    default:
      return [];
  }
}

/** Whether what is counted may turn out not to be known: how long it will take, or in a queue that is not there. */
export const mayBeUnknown = (step: Extract<Step, { verb: 'count' }>): boolean =>
  step.figure === 'expectedWait' || step.queue.by === 'value';

/**
 * Whether the conversation can come to the line below by falling through. A typed answer goes on with the next line.
 */
export const fallsThrough = (step: Step): boolean =>
  ['say', 'count', 'remember', 'text-them', 'play', 'take-message'].includes(step.verb) ||
  (step.verb === 'listen' && step.hears.kind === 'value');

/** Changes every cue of a line. */
export function withCues(step: Step, change: (cue: Cue, key: string) => Cue): Step {
  const may = (cue: Cue | null, key: string): Cue | null => cue && change(cue, key);
  switch (step.verb) {
    case 'listen':
      return {
        ...step,
        hears:
          step.hears.kind === 'choices'
            ? { ...step.hears, choices: step.hears.choices.map((c) => ({ ...c, cue: change(c.cue, c.id) })) }
            : step.hears,
        otherwise: may(step.otherwise, 'otherwise'),
      };
    case 'branch':
      return {
        ...step,
        ways: step.ways.map((w, i) => ({ ...w, cue: change(w.cue, `way-${i + 1}`) })),
        otherwise: change(step.otherwise, 'otherwise'),
      };
    case 'look-up':
      return {
        ...step,
        found: change(step.found, 'found'),
        notFound: change(step.notFound, 'not-found'),
        failed: may(step.failed, 'failed'),
      };
    case 'do':
      return {
        ...step,
        done: change(step.done, 'done'),
        refused: change(step.refused, 'refused'),
        unsure: may(step.unsure, 'unsure'),
      };
    case 'identify':
      return { ...step, known: change(step.known, 'known'), unknown: change(step.unknown, 'unknown') };
    case 'hours':
      return { ...step, open: change(step.open, 'open'), closed: change(step.closed, 'closed') };
    case 'count':
      return mayBeUnknown(step) ? { ...step, unknown: change(step.unknown ?? NEXT, 'unknown') } : step;
    case 'articles':
      return { ...step, done: change(step.done, 'done'), nothing: change(step.nothing, 'nothing') };
    case 'go-to':
      return { ...step, cue: change(step.cue, 'go') };
    case 'call-back':
      return { ...step, otherwise: may(step.otherwise, 'otherwise') };
    case 'hand-over':
      return step.target.to === 'person'
        ? { ...step, target: { ...step.target, off: may(step.target.off, 'off') } }
        : step;
    default:
      return step;
  }
}
