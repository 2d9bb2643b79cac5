import { object } from 'yup';
import { chunksOf, isHereAlready, pastChunk, pastImport } from '../../data/past';
import { LaneError } from '../../core/errors';
import { type Actor, mustHoldEverywhere } from '../ground/actor';
import type { Host } from '../ground/host';
import { exactly, id, whole } from '../ground/schemas';
import { parse } from '../ground/validate';
import { namedIn } from './pastthings';
import { readChunk } from './readpast';

/** What some chunks of a file would bring in. */
export type Checked = {
  readonly contacts: number;
  readonly states: number;
  readonly messages: number;
  readonly refused: number;
  /** The first of those that are refused. */
  readonly reasons: readonly { readonly line: number; readonly why: string }[];
  /** How often what is named, by kind and name. */
  readonly named: Readonly<Record<string, number>>;
  /** The first and last instant, floor ms; null where there is none. */
  readonly from: number | null;
  readonly to: number | null;
};
const MOST_REASONS = 200;

const rangeSchema = exactly(
  object({ id: id('The file'), from: whole(0, 1e6, 'The first chunk'), to: whole(0, 1e6, 'The last chunk') }),
);

/** Reads chunks [from, to) of a file that is there and tells what they would bring in. For a thread of its own. */
export function checkPast(host: Host, actor: Actor, input: unknown): Checked {
  mustHoldEverywhere(actor, 'review.import');
  const asked = parse(rangeSchema, input);
  const file = pastImport(host.db, asked.id);
  if (!file) throw new LaneError('not-found', 'This file is not there any more.');
  const now = host.times.floor();
  const reasons: { line: number; why: string }[] = [];
  const named: Record<string, number> = {};
  let [contacts, states, messages, refused] = [0, 0, 0, 0];
  let [from, to] = [Infinity, -Infinity];
  const seen = new Set<string>();
  const refuse = (line: number, why: string) => {
    refused++;
    if (reasons.length < MOST_REASONS) reasons.push({ line, why });
  };
  for (let place = asked.from; place < Math.min(asked.to, chunksOf(host.db, file.id)); place++) {
    const chunk = pastChunk(host.db, file.id, place);
    if (!chunk) continue;
    for (const { line, is, refused: why } of readChunk(chunk, file.isTable, now)) {
      if (is === null) {
        refuse(line, why);
        continue;
      }
      if (is.kind === 'contact' && (seen.has(is.id) || isHereAlready(host.db, is.id))) {
        refuse(line, `The contact ${is.id} is here already.`);
        continue;
      }
      for (const { kind, name } of namedIn(is)) {
        const key = `${kind} ${name}`;
        named[key] = (named[key] ?? 0) + 1;
      }
      const at = is.kind === 'contact' ? is.startedAt : is.at;
      [from, to] = [Math.min(from, at), Math.max(to, at)];
      if (is.kind === 'state') states++;
      else {
        seen.add(is.id);
        contacts++;
        messages += is.messages.length;
      }
    }
  }
  return {
    contacts,
    states,
    messages,
    refused,
    reasons,
    named,
    from: from === Infinity ? null : from,
    to: to === -Infinity ? null : to,
  };
}

/** Two parts of a file together. */
export function together(a: Checked, b: Checked): Checked {
  const named = { ...a.named };
  for (const [key, many] of Object.entries(b.named)) named[key] = (named[key] ?? 0) + many;
  const least = (x: number | null, y: number | null, of: (p: number, q: number) => number) =>
    x === null ? y : y === null ? x : of(x, y);
  return {
    contacts: a.contacts + b.contacts,
    states: a.states + b.states,
    messages: a.messages + b.messages,
    refused: a.refused + b.refused,
    reasons: [...a.reasons, ...b.reasons].slice(0, MOST_REASONS),
    named,
    from: least(a.from, b.from, Math.min),
    to: least(a.to, b.to, Math.max),
  };
}
export const NOTHING_CHECKED: Checked = {
  contacts: 0,
  states: 0,
  messages: 0,
  refused: 0,
  reasons: [],
  named: {},
  from: null,
  to: null,
};
