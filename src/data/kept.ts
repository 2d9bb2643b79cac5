import { beginning } from '../core/bots/conversation';
import { scriptFrom } from '../core/bots/upgrade';
import { queueFromFirst, queueFromSecond } from '../core/routing/earlierqueues';
import { objectIn } from './readable';

/**
 * How what is kept as JSON is read by later code. Each kind of thing has a version of its shape, which stands in the JSON
 * as `v`; without one it is the first. A changed shape gets a step here that brings the version before up to it, and
 * an old example of every version stays in the tests (`tests/helpers/oldkept.ts`). A step is never changed again: what
 * something is set to today, where nothing is said, may be otherwise than what it was when this was kept.
 */
type Old = Readonly<Record<string, unknown>>;
type Shape = {
  /** `steps[n]` brings version n + 1 up to n + 2. */
  readonly steps: readonly ((old: Old) => object)[];
  /** Fields that hold something of another kind, or a list of it, with versions of its own. */
  readonly parts?: Readonly<Record<string, KeptKind>>;
};
const FIRST: Shape = { steps: [] };

/** What a step added, with the values that it took for what had been kept before. */
const added =
  (values: Old) =>
  (old: Old): object => ({ ...values, ...old });

export type KeptKind =
  | 'allowed-hosts'
  | 'article'
  | 'asking'
  | 'away-reason'
  | 'bot'
  | 'bot-place'
  | 'bot-test'
  | 'coaching'
  | 'connector'
  | 'desk-profile'
  | 'desk-rules'
  | 'duty-profile'
  | 'field'
  | 'first-view'
  | 'figure-goal'
  | 'group'
  | 'mailed-view'
  | 'marked-days'
  | 'outcome'
  | 'partner'
  | 'people-filter'
  | 'person-limits'
  | 'person-rows'
  | 'phrasebook'
  | 'pinned'
  | 'queue'
  | 'report'
  | 'report-copy'
  | 'recording'
  | 'review-view'
  | 'role'
  | 'script'
  | 'sent-report'
  | 'shared-scene'
  | 'shift'
  | 'site'
  | 'skill-set'
  | 'stand-in-system'
  | 'stock-set'
  | 'table';

export const KEPT: { readonly [K in KeptKind]: Shape } = {
  'allowed-hosts': FIRST,
  article: FIRST,
  asking: FIRST,
  'away-reason': FIRST,
  /** A bot's draft, as History keeps it. */
  bot: { steps: [], parts: { draft: 'script' } },
  /** What stood there before had fewer of its fields. */
  'bot-place': { steps: [(old) => ({ ...beginning(''), ...old }), added({ talk: null })] },
  'bot-test': FIRST,
  coaching: FIRST,
  connector: { steps: [added({ headers: [], body: null, signIn: { by: 'bearer' } })] },
  'desk-profile': FIRST,
  'desk-rules': FIRST,
  'duty-profile': {
    steps: [
      added({ acceptSeconds: 20, autoAccept: false, restSeconds: null, outboundQueueId: null }),
      // What outbound work counts for is asked where somebody calls out.
      ({ outboundQueueId: _queue, ...old }) => old,
    ],
  },
  field: { steps: [added({ type: 'text', filledBy: ['bot'], reported: true })] },
  'figure-goal': FIRST,
  'first-view': FIRST,
  'mailed-view': FIRST,
  group: FIRST,
  'marked-days': { steps: [added({ queueIds: [] })] },
  outcome: {
    steps: [
      added({ who: 'agents', shortest: null, longest: null, category: 'settled', reached: true, retired: false }),
      // What reached nobody is counted so, and nothing else asked whether somebody was reached.
      ({ reached, ...old }) => ({ ...old, ...(reached === false ? { category: 'no-contact' } : {}) }),
    ],
  },
  partner: { steps: [added({ hoursId: null, limits: { atOnce: null, perHour: null, perDay: null, perMonth: null } })] },
  'people-filter': FIRST,
  recording: FIRST,
  report: FIRST,
  'report-copy': FIRST,
  'review-view': FIRST,
  'person-limits': FIRST,
  'person-rows': FIRST,
  phrasebook: { steps: [added({ otherWords: [], wishes: {}, aside: [] })] },
  /** What a published bot goes by besides its script. */
  pinned: {
    steps: [added({ shared: [], connectors: [], phrasebook: null })],
    parts: { shared: 'shared-scene', connectors: 'connector' },
  },
  queue: { steps: [queueFromFirst, queueFromSecond] },
  role: FIRST,
  script: { steps: [scriptFrom] },
  'sent-report': FIRST,
  'shared-scene': FIRST,
  shift: FIRST,
  site: FIRST,
  'skill-set': FIRST,
  'stand-in-system': FIRST,
  'stock-set': FIRST,
  table: FIRST,
};

export const keptVersion = (kind: KeptKind): number => KEPT[kind].steps.length + 1;

const each = (value: unknown, work: (one: object) => object): unknown =>
  Array.isArray(value)
    ? value.map((one) => each(one, work))
    : typeof value === 'object' && value !== null
      ? work(value)
      : value;
const withParts = (shape: Shape, value: Old, work: (kind: KeptKind, one: object) => object): Old => {
  if (!shape.parts) return value;
  const whole: Record<string, unknown> = { ...value };
  for (const [field, kind] of Object.entries(shape.parts))
    if (field in whole) whole[field] = each(whole[field], (one) => work(kind, one));
  return whole;
};

/** A thing as it is kept: with the version of its shape, and of its parts. */
export function asKept(kind: KeptKind, value: object): object {
  const v = keptVersion(kind);
  const whole = withParts(KEPT[kind], value as Old, asKept);
  return v === 1 ? whole : { v, ...whole };
}

/** A kept thing in its present shape. Throws RangeError for a version that this code does not know. */
export function broughtUp(kind: KeptKind, kept: object): object {
  const { v = 1, ...old } = kept as { readonly v?: unknown };
  const now = keptVersion(kind);
  if (typeof v !== 'number' || v > now)
    throw new RangeError(`it is kept as ${kind} ${String(v)}, newer than this code`);
  let value: object = old;
  for (const step of KEPT[kind].steps.slice(v - 1)) value = step(value as Old);
  return withParts(KEPT[kind], value as Old, broughtUp);
}

/** The text in which a thing is kept. */
export const keptText = (kind: KeptKind, value: object): string => JSON.stringify(asKept(kind, value));

/** The thing that a text keeps, in its present shape. Throws where the text is not an object's, or newer than this code. */
export const keptIn = (kind: KeptKind, text: string): object => broughtUp(kind, objectIn(text));

/** Kinds under which History keeps a thing by another name than its own. */
const IN_HISTORY: ReadonlyMap<string, KeptKind> = new Map([
  ['away-reasons', 'away-reason'],
  ['own-limits', 'person-limits'],
  ['own-rows', 'person-rows'],
  ['bot-removal', 'bot'],
]);
const kindInHistory = (kind: string): KeptKind | undefined =>
  IN_HISTORY.get(kind) ?? (Object.hasOwn(KEPT, kind) ? (kind as KeptKind) : undefined);

/** A thing, a list of them, or nothing as History keeps it; what has no versions of its own is kept as it is. */
export function historyText(kind: string, value: unknown): string | null {
  const known = kindInHistory(kind);
  if (value === null || value === undefined) return null;
  return JSON.stringify(known ? each(value, (one) => asKept(known, one)) : value);
}
export function historyValue(kind: string, text: string | null): unknown {
  const known = kindInHistory(kind);
  const value: unknown = text === null ? null : JSON.parse(text);
  return known ? each(value, (one) => broughtUp(known, one)) : value;
}
