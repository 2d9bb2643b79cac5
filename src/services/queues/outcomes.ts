import { boolean, object, string } from 'yup';
import { LaneError } from '../../core/errors';
import {
  codeFor,
  gapsIn,
  type Outcome,
  OUTCOME_CATEGORIES,
  OUTCOME_CODE,
  type OutcomeCategory,
} from '../../core/outcomes';
import { holds } from '../../core/people/rights';
import type { Db } from '../../data/database';
import { dropOutcome, type OutcomeRecord, outcomeUses, readOutcomes, writeOutcome } from '../../data/outcomes';
import { readQueues } from '../../data/queuesettings';
import { type Actor, mustHold, mustHoldEverywhere } from '../ground/actor';
import { bind } from '../ground/bind';
import { type Undoable, recordChange, removeUndoable, sameRevision } from '../ground/change';
import type { Host, Tx } from '../ground/host';
import { exactly, oneOf, requiredText, whole } from '../ground/schemas';
import { parse } from '../ground/validate';

const seconds = whole(0, 86_400, 'The length').nullable().defined();
const outcomeSchema = exactly(
  object({
    revision: whole(0, 1e9, 'The revision'),
    /** Null for a new one, which gets its code from its phrase. */
    code: string().matches(OUTCOME_CODE, 'A code has 2 to 8 characters A–Z and 0–9').nullable().defined(),
    label: requiredText(40, 'The phrase'),
    who: oneOf<Outcome['who']>(['agents', 'system'], 'Who files it'),
    shortest: seconds,
    longest: seconds,
    category: oneOf<OutcomeCategory>(OUTCOME_CATEGORIES, 'What it counts as'),
    retired: boolean().required(),
  }),
);
const retireSchema = exactly(object({ code: string().required('The code is missing') }));

export type OutcomeLine = OutcomeRecord & { readonly uses: number; readonly queues: readonly string[] };
export type OutcomesView = {
  readonly outcomes: readonly OutcomeLine[];
  readonly all: readonly string[];
  readonly mayChange: boolean;
};

/** What the functions of this file are given first. */
export type OutcomesDeps = { readonly host: Host };

const bare = ({ revision: _r, place: _p, ...outcome }: OutcomeRecord): Outcome => outcome;

const undoableOutcomes: Readonly<Record<string, Undoable>> = {
  outcome: {
    name: 'outcome',
    path: () => '/queues/outcomes',
    read: (db, code) => {
      const found = readOutcomes(db).find((o) => o.code === code);
      return found ? bare(found) : null;
    },
    restore: (tx, actor, code, value) => {
      mustHoldEverywhere(actor, 'queues.change');
      if (value === null) remove(tx, code);
      else put(tx, value as Outcome);
    },
  },
};

/** Every length of a contact must leave an agent a code, for all queues together and for each that shows only some. */
function checkGaps(db: Db): void {
  const all = readOutcomes(db);
  const sets = [
    { name: 'without a queue’s own list', codes: all },
    ...readQueues(db)
      .filter((q) => q.outcomes !== null)
      .map((q) => ({ name: `in ${q.name}`, codes: all.filter((o) => q.outcomes?.includes(o.code)) })),
  ];
  for (const set of sets) {
    const gap = gapsIn(set.codes)[0];
    if (gap)
      throw new LaneError(
        'not-valid',
        `${set.name.replace(/^./, (c) => c.toUpperCase())}, a contact of ` +
          `${gap.to === null ? `${gap.from} s and more` : gap.to === gap.from ? `${gap.from} s` : `${gap.from} to ${gap.to} s`} ` +
          `would have no outcome that an agent can file.`,
        [{ where: 'shortest', what: 'leaves a length without an outcome' }],
      );
  }
}

function put(tx: Tx, outcome: Outcome): void {
  const all = readOutcomes(tx.db);
  writeOutcome(tx.db, outcome, all.find((o) => o.code === outcome.code)?.place ?? all.length);
  checkGaps(tx.db);
}

function remove(tx: Tx, code: string): void {
  if ((outcomeUses(tx.db).get(code) ?? 0) > 0)
    throw new LaneError('not-now', `It has been filed, so it is retired rather than deleted.`);
  const queue = readQueues(tx.db).find((q) => q.outcomes?.includes(code));
  if (queue) throw new LaneError('not-now', `${queue.name} offers it. Take it out there first.`);
  dropOutcome(tx.db, code);
  checkGaps(tx.db);
}

export function viewOutcomes({ host }: OutcomesDeps, actor: Actor): OutcomesView {
  mustHold(actor, 'settings.view');
  const uses = outcomeUses(host.db);
  const queues = readQueues(host.db);
  return {
    outcomes: readOutcomes(host.db).map((o) => ({
      ...o,
      uses: uses.get(o.code) ?? 0,
      queues: queues.filter((q) => q.outcomes?.includes(o.code)).map((q) => q.name),
    })),
    all: queues.filter((q) => q.outcomes === null).map((q) => q.name),
    mayChange: holds(actor, 'queues.change') && actor.teams === 'all',
  };
}

export function saveOutcome({ host }: OutcomesDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'queues.change');
  const { revision, code, ...rest } = parse(outcomeSchema, input);
  return host.transact((tx) => {
    const all = readOutcomes(tx.db);
    const before = all.find((o) => o.code === code);
    if (code !== null && !before) throw new LaneError('not-found', 'This outcome is not there any more.');
    const twin = all.find((o) => o.code !== code && o.label.toLowerCase() === rest.label.toLowerCase());
    if (twin)
      throw new LaneError('not-valid', `There is an outcome “${twin.label}” already.`, [
        { where: 'label', what: 'is taken' },
      ]);
    const outcome: Outcome = { ...rest, code: code ?? codeFor(rest.label, new Set(all.map((o) => o.code))) };
    sameRevision(before, revision, outcome.label);
    if (outcome.shortest !== null && outcome.longest !== null && outcome.longest < outcome.shortest)
      throw new LaneError('not-valid', 'The longest contact is shorter than the shortest.', [
        { where: 'longest', what: 'is below the shortest' },
      ]);
    put(tx, outcome);
    recordChange(tx, actor, 'outcome', outcome.code, before && bare(before), outcome, {
      label: outcome.label,
    });
    return { id: outcome.code };
  });
}

/** Takes a code away: deleted when it was never filed, else retired, so that old contacts keep their outcome. */
export function retireOutcome({ host }: OutcomesDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'queues.change');
  const { code } = parse(retireSchema, input);
  return host.transact((tx) => {
    const before = readOutcomes(tx.db).find((o) => o.code === code);
    if (!before) throw new LaneError('not-found', 'This outcome is not there any more.');
    if ((outcomeUses(tx.db).get(code) ?? 0) === 0)
      return removeUndoable(tx, actor, undoableOutcomes, 'outcome', code, () => remove(tx, code));
    const after = { ...bare(before), retired: true };
    put(tx, after);
    recordChange(tx, actor, 'outcome', code, bare(before), after, { label: before.label });
    return { id: code };
  });
}

/** Outcome codes and their rules. One that was used is retired rather than deleted. */
export const createOutcomes = (deps: OutcomesDeps) => ({
  undoable: undoableOutcomes,
  ...bind(deps, { view: viewOutcomes, save: saveOutcome, retire: retireOutcome }),
});
