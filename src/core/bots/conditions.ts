import jsonLogic, { type RulesLogic } from 'json-logic-js';
import type { Horizon } from '../routing/horizon';
import type { Value, Values } from './value';

/**
 * Conditions are kept as JsonLogic: comparisons of one subject with one value, all or any of which must hold. What the
 * rows of an editor cannot write is not a condition here.
 */
type Var = { readonly var: string };
type Single =
  | { readonly '==': [Var, Value] }
  | { readonly '!=': [Var, Value] }
  | { readonly '>': [Var, Value] }
  | { readonly '>=': [Var, Value] }
  | { readonly '<': [Var, Value] }
  | { readonly '<=': [Var, Value] }
  | { readonly in: [string, Var] }
  | { readonly '!!': [Var] }
  | { readonly '!': [Var] };
export type Condition = Single | { readonly and: readonly Single[] } | { readonly or: readonly Single[] };

export const OPERATORS = [
  'is',
  'is-not',
  'contains',
  'more',
  'at-least',
  'less',
  'at-most',
  'is-set',
  'is-not-set',
] as const;
export type Operator = (typeof OPERATORS)[number];
export const OPERATOR_WORDS: Readonly<Record<Operator, string>> = {
  is: 'is',
  'is-not': 'is not',
  contains: 'contains',
  more: 'is more than',
  'at-least': 'is at least',
  less: 'is less than',
  'at-most': 'is at most',
  'is-set': 'is known',
  'is-not-set': 'is not known',
};
const SIGNS = { is: '==', 'is-not': '!=', more: '>', 'at-least': '>=', less: '<', 'at-most': '<=' } as const;

/** A condition as an editor shows it: rows, all or any of which must hold. */
export type ConditionRow = { readonly subject: string; readonly operator: Operator; readonly value: Value };
export type ConditionRows = { readonly join: 'all' | 'any'; readonly rows: readonly ConditionRow[] };

function single({ subject, operator, value }: ConditionRow): Single {
  const v: Var = { var: subject };
  switch (operator) {
    case 'contains':
      return { in: [String(value), v] };
    case 'is-set':
      return { '!!': [v] };
    case 'is-not-set':
      return { '!': [v] };
    case 'is':
      return { '==': [v, value] };
    case 'is-not':
      return { '!=': [v, value] };
    case 'more':
      return { '>': [v, value] };
    case 'at-least':
      return { '>=': [v, value] };
    case 'less':
      return { '<': [v, value] };
    case 'at-most':
      return { '<=': [v, value] };
  }
}

export const conditionFrom = ({ join, rows }: ConditionRows): Condition => {
  const [first] = rows;
  return first && rows.length === 1
    ? single(first)
    : join === 'all'
      ? { and: rows.map(single) }
      : { or: rows.map(single) };
};

const isVar = (x: unknown): x is Var =>
  typeof x === 'object' && x !== null && Object.keys(x).length === 1 && 'var' in x && typeof x.var === 'string';
const isValue = (x: unknown): x is Value =>
  typeof x === 'string' || typeof x === 'boolean' || (typeof x === 'number' && Number.isFinite(x));

/** The operator of a JsonLogic expression and what it is given; an empty one when it is no operation. */
function operationOf(logic: unknown): [string, unknown[]] {
  const [only, more] = typeof logic === 'object' && logic !== null ? Object.entries(logic) : [];
  return only && !more && Array.isArray(only[1]) ? [only[0], only[1]] : ['', []];
}

function rowOf(logic: unknown): ConditionRow | null {
  const [sign, args] = operationOf(logic);
  const [a, b] = args;
  if (sign === 'in')
    return args.length === 2 && typeof a === 'string' && isVar(b)
      ? { subject: b.var, operator: 'contains', value: a }
      : null;
  if (!isVar(a)) return null;
  if (sign === '!!' || sign === '!')
    return args.length === 1 ? { subject: a.var, operator: sign === '!!' ? 'is-set' : 'is-not-set', value: '' } : null;
  const operator = Object.entries(SIGNS).find(([, s]) => s === sign)?.[0] as Operator | undefined;
  return operator && args.length === 2 && isValue(b) ? { subject: a.var, operator, value: b } : null;
}

/** Questions about people that were each a yes or no, and how many they ask for now. */
const ONCE_YES_NO: Readonly<Record<string, string>> = {
  'anyone.onDuty': 'people.all.onDuty',
  'anyone.free': 'people.all.free',
  'person.onDuty': 'people.last.onDuty',
};
function asCount(row: ConditionRow): ConditionRow {
  const subject = ONCE_YES_NO[row.subject];
  if (subject === undefined) return row;
  const yes = row.value === true || row.value === 'true' || row.value === 'yes';
  const some = row.operator === 'is-set' || (row.operator === 'is-not' ? !yes : row.operator === 'is' && yes);
  return some ? { subject, operator: 'at-least', value: 1 } : { subject, operator: 'is', value: 0 };
}
/** Facts under the names that they have now. */
export const factsByNow = <V extends Value | null>(facts: Readonly<Record<string, V>>): Record<string, V | number> =>
  Object.fromEntries(
    Object.entries(facts).map(([name, value]) => {
      const now = ONCE_YES_NO[name];
      return now === undefined ? [name, value] : [now, typeof value === 'boolean' ? Number(value) : value];
    }),
  );

/** The rows of a condition, or null when it says something that rows cannot. */
export function rowsFrom(condition: unknown): ConditionRows | null {
  const one = rowOf(condition);
  if (one) return { join: 'all', rows: [asCount(one)] };
  const [join, parts] = operationOf(condition);
  if ((join !== 'and' && join !== 'or') || parts.length === 0) return null;
  const rows = parts.map(rowOf);
  return rows.every((r) => r !== null) ? { join: join === 'and' ? 'all' : 'any', rows: rows.map(asCount) } : null;
}

/** What a condition asks about, each once: names of facts that the driver is asked for, and `values.NAME`. */
export const subjectsOf = (condition: Condition): string[] => [
  ...new Set(rowsFrom(condition)?.rows.map((r) => r.subject)),
];

/** What else than values a condition can ask about, with what can be compared. */
export const SUBJECTS: readonly {
  readonly subject: string;
  readonly label: string;
  readonly type: 'text' | 'number' | 'yes-no';
}[] = [
  { subject: 'open', label: 'the door is open', type: 'yes-no' },
  { subject: 'channel', label: 'the channel', type: 'text' },
  { subject: 'language', label: 'the language', type: 'text' },
  { subject: 'time', label: 'the time of day', type: 'text' },
  { subject: 'weekday', label: 'the weekday (Monday is 1)', type: 'number' },
  { subject: 'date', label: 'the date', type: 'text' },
  { subject: 'customer.known', label: 'the customer is known', type: 'yes-no' },
  { subject: 'customer.name', label: 'the customer’s name', type: 'text' },
  { subject: 'customer.earlier', label: 'the customer’s earlier contacts', type: 'number' },
  { subject: 'page.address', label: 'the page they write from', type: 'text' },
  { subject: 'page.site', label: 'the site they write from', type: 'text' },
  { subject: 'page.place', label: 'where they are', type: 'text' },
  { subject: 'person.minutesSinceReply', label: 'minutes since their last person replied', type: 'number' },
];
export const FIGURE_WORDS: Readonly<Record<string, string>> = {
  onDuty: 'people on duty',
  free: 'free people',
  able: 'people able',
  waiting: 'waiting',
  longestWait: 'longest wait in seconds',
  expectedWait: 'expected wait in seconds',
};

/** Figures that count people, for whom it matters until when they may join. */
export const countsPeople = (figure: string): boolean => ['onDuty', 'free', 'able'].includes(figure);

/** What a subject about a queue, a team or hours is about; `within` as in Count. */
export type SubjectThing = {
  readonly kind: 'queue' | 'team' | 'hours';
  readonly id: string;
  readonly figure: string;
  readonly within: Horizon;
};
/** `queue.ID.free`, `queue.ID.free:20` (of those who join within 20 s), `team.ID.free`, `hours.ID.open`. */
export function subjectThing(subject: string): SubjectThing | null {
  const [, kind, id = '', figure = '', within] =
    /^(queue|team|hours)\.(.+)\.(\w+?)(?::(\d{1,5}))?$/.exec(subject) ?? [];
  if (kind !== 'queue' && kind !== 'team' && kind !== 'hours') return null;
  return { kind, id, figure, within: within === undefined ? null : Number(within) };
}
/** How a figure of a queue stands in a condition, and in what a trial is set to. */
export const thingSubject = ({ kind, id, figure, within }: SubjectThing): string =>
  `${kind}.${id}.${figure}${within === null ? '' : `:${within}`}`;

/** How many people, of all or the one who last dealt with the customer, in a queue or team or anywhere, are what. */
export type PeopleAsked = {
  readonly who: 'all' | 'last';
  readonly place: Pick<SubjectThing, 'kind' | 'id'> | null;
  readonly are: 'onDuty' | 'free' | 'able';
  readonly within: Horizon;
};
/** `people.all.free`, `people.last.onDuty`, and people in queues and teams; null for what does not count people. */
export function peopleAsked(subject: string): PeopleAsked | null {
  const [, who, state] = /^people\.(all|last)\.(onDuty|free)$/.exec(subject) ?? [];
  if ((who === 'all' || who === 'last') && (state === 'onDuty' || state === 'free'))
    return { who, place: null, are: state, within: null };
  const thing = subjectThing(subject);
  if (!thing || thing.kind === 'hours') return null;
  const { kind, id, figure: are, within } = thing;
  if (are !== 'onDuty' && are !== 'free' && are !== 'able') return null;
  return { who: 'all', place: { kind, id }, are, within };
}
/** How such a question stands in a condition. Only a queue knows who is able, and until when somebody joins. */
export function peopleSubject({ who, place, are, within }: PeopleAsked): string {
  const state = are === 'able' && (who === 'last' || place?.kind !== 'queue') ? 'free' : are;
  if (who === 'last' || !place) return `people.${who}.${state}`;
  return thingSubject({ ...place, figure: state, within: place.kind === 'queue' ? within : null });
}

/** “free people at any stage”: a figure, and of people until when they may join. */
export function figureWords(figure: string, within: Horizon): string {
  const words = FIGURE_WORDS[figure] ?? figure;
  if (!countsPeople(figure)) return words;
  return `${words} ${within === null ? 'at any stage' : within === 0 ? 'now' : `within ${within} s`}`;
}

export function subjectName(subject: string, nameOf: (id: string) => string = (id) => id): string {
  const thing = subjectThing(subject);
  if (thing?.kind === 'hours') return `${nameOf(thing.id)} is open`;
  if (thing?.kind === 'team') return `${FIGURE_WORDS[thing.figure] ?? thing.figure} in ${nameOf(thing.id)}`;
  if (thing) return `${figureWords(thing.figure, thing.within)} in ${nameOf(thing.id)}`;
  const asked = peopleAsked(subject);
  if (asked)
    return asked.who === 'last'
      ? `their last person ${asked.are === 'free' ? 'free' : 'on duty'}`
      : `${FIGURE_WORDS[asked.are] ?? asked.are} anywhere`;
  return (
    SUBJECTS.find((s) => s.subject === subject)?.label ??
    (subject.startsWith('values.') ? subject.slice('values.'.length) : subject)
  );
}

function rowSentence({ subject, operator, value }: ConditionRow, nameOf?: (id: string) => string): string {
  const name = subjectName(subject, nameOf);
  if (peopleAsked(subject)?.who === 'last' && typeof value === 'number') {
    const one = {
      is: 1 === value,
      'at-least': value <= 1,
      more: value < 1,
      'is-not': value !== 1,
      less: value > 1,
      'at-most': value >= 1,
    };
    if (operator in one)
      return name.replace('person', one[operator as keyof typeof one] ? 'person is' : 'person is not');
  }
  const yesNo =
    SUBJECTS.find((s) => s.subject === subject)?.type === 'yes-no' || subjectThing(subject)?.kind === 'hours';
  if (yesNo) {
    const not =
      (operator === 'is' && value === false) || (operator === 'is-not' && value === true) || operator === 'is-not-set';
    return not ? name.replace(/ is /, ' is not ') : name;
  }
  return operator === 'is-set' || operator === 'is-not-set'
    ? `${name} ${OPERATOR_WORDS[operator]}`
    : `${name} ${OPERATOR_WORDS[operator]} ${String(value)}`;
}

/** A condition read as a sentence part: "colour is red and free people in Accounts is more than 0". */
export function conditionSentence(condition: Condition, nameOf?: (id: string) => string): string {
  const rows = rowsFrom(condition);
  return rows
    ? rows.rows.map((r) => rowSentence(r, nameOf)).join(rows.join === 'all' ? ' and ' : ' or ')
    : 'a condition that cannot be read';
}

/** Text as it is compared: without regard to case; a text that is a number counts as one beside a number. */
const compared = (value: Value | null | undefined): Value | null =>
  value === undefined || value === null ? null : typeof value === 'string' ? value.toLowerCase() : value;

/**
 * Whether a condition holds. `facts` are by subject name; values stand under their own names. A comparison of size with
 * something that is not known does not hold, whichever way it points.
 */
export function holds(condition: Condition, values: Values, facts: Readonly<Record<string, Value | null>>): boolean {
  const rows = rowsFrom(condition);
  if (!rows) return false;
  // Each subject stands under a name of its own, since a value may be called as JsonLogic's own paths are.
  const known: Record<string, Value | null> = {};
  const logic = rows.rows.map((row, i): RulesLogic => {
    const own = row.subject.startsWith('values.') ? row.subject.slice('values.'.length) : null;
    const subject = compared(
      own === null
        ? Object.hasOwn(facts, row.subject)
          ? facts[row.subject]
          : null
        : Object.hasOwn(values, own)
          ? values[own]
          : null,
    );
    if (row.operator in { more: 1, 'at-least': 1, less: 1, 'at-most': 1 } && (subject === null || subject === ''))
      return false;
    // An answer to a yes-or-no question may be compared with the word for it.
    const value = compared(row.value) ?? '';
    const meant =
      row.operator !== 'contains' && typeof subject === 'boolean' && typeof value === 'string'
        ? ['yes', 'true', 'sí', 'si', 'oui', 'tak'].includes(value)
        : value;
    known[`it${i}`] = row.operator === 'contains' ? String(subject ?? '') : subject;
    return single({ ...row, subject: `it${i}`, value: meant });
  });
  return jsonLogic.apply(rows.join === 'all' ? { and: logic } : { or: logic }, known) === true;
}
