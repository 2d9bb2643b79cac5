import { type FactDay, NONE } from '../../core/measures/columns';
import { passing } from '../../core/measures/narrowing';
import { around, haveWords, searchedWords } from '../../core/wordsearch';
import { customersLike, customersOf, type FoundContact, foundContacts, textsOf } from '../../data/contactsearch';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { type Asked, askedOf, spansOf } from './asking';
import { type AskedView, askedView } from './askedview';
import { factDays } from './factdays';
import { namesOf } from './names';

/** Contacts on a page of those found. */
const PAGE = 50;
/** Contacts whose words are read at once, and how long one question goes on looking. */
const BATCH = 200;
const LOOKS_MS = 3000;

export type FoundLine = Omit<FoundContact, 'no' | 'customerId' | 'queues' | 'people' | 'outcomes'> & {
  readonly queues: string;
  readonly people: string;
  readonly outcomes: string;
  /** What stands around the words looked for. */
  readonly said: string | null;
};
export type FindView = AskedView & {
  readonly lines: readonly FoundLine[];
  /** The contact after which to look further, by its number; null where all have been looked at. */
  readonly further: number | null;
  /** How far back it has been looked, floor ms; null where all of the range has been. */
  readonly lookedBackTo: number | null;
};

/** Contacts by who, what was said and how they went, latest first. Private values are never found by what they are. */
export function findContacts(host: Host, actor: Actor, input: unknown): FindView {
  mustHold(actor, 'conversations.view');
  const asked = askedOf(host, actor, input);
  const { finding } = asked;
  const words = searchedWords(finding.words ?? '');
  const began = performance.now();
  const found: number[] = [];
  let last: Place | null = null;
  let done = true;
  for (const { one, fits } of matching(host, asked)) {
    if (found.length === PAGE || performance.now() - began > LOOKS_MS) {
      done = false;
      break;
    }
    last = one;
    if (fits) found.push(one.no);
  }
  const said = words.length > 0 ? textsOf(host.db, found) : null;
  const nameOf = namesOf(host, actor);
  const named = (key: 'queue' | 'person' | 'outcome', list: string | null) =>
    [...new Set(list ? list.split(',') : [])].map((id) => nameOf(key, id)).join(', ');
  return {
    ...askedView(host, actor, asked),
    lines: foundContacts(host.db, found).map(({ no, customerId: _customer, ...line }) => ({
      ...line,
      queues: named('queue', line.queues),
      people: named('person', line.people),
      outcomes: named('outcome', line.outcomes),
      said: (said?.get(no) ?? []).map((text) => around(text, words)).find((text) => text !== null) ?? null,
    })),
    further: done ? null : (last?.no ?? null),
    lookedBackTo: done ? null : (last?.at ?? null),
  };
}

type Place = { readonly no: number; readonly at: number };

/** Contacts of the range, latest first, each with whether it is one that is looked for. */
export function* matching(host: Host, asked: Asked): Generator<{ readonly one: Place; readonly fits: boolean }> {
  const { finding } = asked;
  const words = searchedWords(finding.words ?? '');
  const customers = finding.customer ? customersLike(host.db, finding.customer) : null;
  for (const batch of candidates(factDays(host, spansOf(asked.now)), asked)) {
    const nos = batch.map((c) => c.no);
    const whose = customers && customersOf(host.db, nos);
    const theirs = whose ? nos.filter((no) => customers.has(whose.get(no) ?? '')) : nos;
    const texts = words.length > 0 ? textsOf(host.db, theirs) : null;
    const fitting = new Set(texts ? theirs.filter((no) => haveWords(texts.get(no) ?? [], words)) : theirs);
    for (const one of batch) yield { one, fits: fitting.has(one.no) };
  }
}

/** Contacts of the range that pass, latest first, some at a time; only those after one where it is looked further. */
function* candidates(days: readonly FactDay[], { now: { narrowing }, finding }: Asked): Generator<readonly Place[]> {
  let batch: Place[] = [];
  let skipping = finding.after !== null;
  for (const day of [...days].reverse()) {
    const part = day.part('contacts');
    const mask = passing(part, narrowing);
    const [no, at, lasted, how] = [part.numbers('no'), part.numbers('at'), part.numbers('lasted'), part.coded('how')];
    for (let i = part.rows - 1; i >= 0; i--) {
      const one = no[i] as number;
      if (skipping) {
        skipping = one !== finding.after;
        continue;
      }
      if (mask !== null && mask[i] === 0) continue;
      if (finding.ended && how.entries[how.codes[i] as number]?.[0] !== finding.ended) continue;
      const length = lasted[i] as number;
      if (finding.minutes > 0 && (length === NONE || length < finding.minutes * 60_000)) continue;
      batch.push({ no: one, at: part.from + (at[i] as number) });
      if (batch.length === BATCH) {
        yield batch;
        batch = [];
      }
    }
  }
  if (batch.length > 0) yield batch;
}
