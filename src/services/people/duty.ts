import { LaneError } from '../../core/errors';
import type { DutyProfile } from '../../core/people/duty';
import type { LoadRules } from '../../core/people/load';
import { type LeftWaiting, type Taken, wouldTake } from '../../core/routing/wouldtake';
import { AWAY_REASONS } from '../../data/duty';
import { readProfile, readProfiles, removeProfile, writeProfile } from '../../data/dutyprofiles';
import { readPeople, readPerson } from '../../data/people';
import { readQueues } from '../../data/queuesettings';
import { type Actor, mustHold, mustHoldEverywhere, mustSee } from '../ground/actor';
import { bind } from '../ground/bind';
import { type Undoable, recordChange, removeUndoable, sameRevision } from '../ground/change';
import type { Tx } from '../ground/host';
import { parse } from '../ground/validate';
import { idSchema, profileSchema, reasonsSchema, situationSchema } from './dutyschemas';
import { type AwayReason, type DutyDeps, peopleOn, viewDuty } from './dutyview';
import { levelsNow } from './peoplebook';

export const profileBody = (p: DutyProfile): DutyProfile => ({
  id: p.id,
  name: p.name,
  rows: p.rows,
  load: p.load,
  acceptSeconds: p.acceptSeconds,
  autoAccept: p.autoAccept,
  restSeconds: p.restSeconds,
});

function checkProfile(tx: Tx, p: DutyProfile): void {
  const refuse = (what: string, where: string) => {
    throw new LaneError('not-valid', `There is no such ${what}.`, [{ where, what: 'is not known' }]);
  };
  const queues = new Map(readQueues(tx.db).map((q) => [q.id, q]));
  const seen = new Set<string>();
  p.rows.forEach((r, i) => {
    if (!queues.get(r.queueId)?.channels.includes(r.channel)) refuse('queue on this channel', `rows[${i}]`);
    if (seen.has(`${r.queueId}|${r.channel}`))
      throw new LaneError('not-valid', 'A queue and channel stand in two bands.', [
        { where: `rows[${i}]`, what: 'is there twice' },
      ]);
    seen.add(`${r.queueId}|${r.channel}`);
  });
  if (readProfiles(tx.db).some((o) => o.id !== p.id && o.name.toLowerCase() === p.name.toLowerCase()))
    throw new LaneError('not-valid', `There is already a duty profile called ${p.name}.`, [
      { where: 'name', what: 'is taken' },
    ]);
}

/** Checks and keeps a duty profile; gives how many people are on it. */
export function putProfile(deps: DutyDeps, tx: Tx, p: DutyProfile): number {
  checkProfile(tx, p);
  writeProfile(tx.db, p);
  return peopleOn(deps, tx.db, p.id).length;
}

function drop(tx: Tx, profileId: string): void {
  const on = readPeople(tx.db).filter((p) => p.dutyProfileId === profileId || p.forNow?.profileId === profileId);
  if (on.length > 0)
    throw new LaneError(
      'not-now',
      `${on.length} ${on.length === 1 ? 'person is' : 'people are'} on this profile: ${on
        .slice(0, 3)
        .map((p) => p.name)
        .join(', ')}${on.length > 3 ? '…' : ''}. Give them another first.`,
    );
  removeProfile(tx.db, profileId);
}

export const undoableDuty = (deps: DutyDeps): Record<string, Undoable> => ({
  'duty-profile': {
    name: 'duty profile',
    path: (profileId) => `/people/duty?profile=${profileId}`,
    read: (db, profileId) => {
      const p = readProfile(db, profileId);
      return p ? profileBody(p) : null;
    },
    restore: (tx, actor, profileId, value) => {
      mustHoldEverywhere(actor, 'people.change');
      if (value === null) drop(tx, profileId);
      else putProfile(deps, tx, value as DutyProfile);
      deps.floor.refreshPeople(tx, peopleOn(deps, tx.db, profileId));
    },
  },
  'away-reasons': {
    name: 'away reasons',
    path: () => '/people/duty?reasons=1',
    read: (db) => AWAY_REASONS.all(db).map((r) => ({ id: r.id, name: r.name, paid: r.paid, minutes: r.minutes })),
    restore: (tx, actor, _id, value) => {
      mustHoldEverywhere(actor, 'people.change');
      putReasons(tx, (value ?? []) as AwayReason[]);
    },
  },
});

function putReasons(tx: Tx, reasons: readonly AwayReason[]): void {
  for (const r of AWAY_REASONS.all(tx.db)) AWAY_REASONS.remove(tx.db, r.id);
  reasons.forEach((r, i) => AWAY_REASONS.write(tx.db, r.id, r.name, { paid: r.paid, minutes: r.minutes }, i));
}

/** Adds or changes a duty profile; applies to the next contact of everybody on it. */
export function saveDutyProfile(deps: DutyDeps, actor: Actor, input: unknown): { id: string; people: number } {
  mustHoldEverywhere(actor, 'people.change');
  const { revision, ...p } = parse(profileSchema, input);
  return deps.host.transact((tx) => {
    const before = p.id === null ? undefined : readProfile(tx.db, p.id);
    if (p.id !== null && !before) throw new LaneError('not-found', 'This duty profile is not there any more.');
    sameRevision(before, revision, p.name);
    const after: DutyProfile = { ...p, id: p.id ?? tx.ids('profile'), load: p.load as LoadRules };
    const people = putProfile(deps, tx, after);
    recordChange(tx, actor, 'duty-profile', after.id, before && profileBody(before), after);
    deps.floor.refreshPeople(tx, peopleOn(deps, tx.db, after.id));
    return { id: after.id, people };
  });
}

export function removeDutyProfile(deps: DutyDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'people.change');
  const asked = parse(idSchema, input);
  return deps.host.transact((tx) =>
    removeUndoable(tx, actor, undoableDuty(deps), 'duty-profile', asked.id, () => drop(tx, asked.id)),
  );
}

/** What somebody with nothing open would take of a situation: the router's own answer, for a profile not yet kept. */
export function previewDutyProfile(
  { host }: DutyDeps,
  actor: Actor,
  input: unknown,
): { taken: Taken[]; left: LeftWaiting[] } {
  mustHold(actor, 'people.view');
  const asked = parse(situationSchema, input);
  const person = asked.personId === null ? null : mustSee(actor, readPerson(host.db, asked.personId));
  const levels = person
    ? new Map([...levelsNow(host, person, host.times.floor())].map(([skill, l]) => [skill, l.level]))
    : null;
  return wouldTake(
    { rows: asked.rows, load: asked.load as LoadRules },
    new Map(readQueues(host.db).map((q) => [q.id, q])),
    asked.lines,
    levels,
  );
}

/** Replaces the list of away reasons. */
export function saveReasons(deps: DutyDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'people.change');
  const { reasons } = parse(reasonsSchema, input);
  return deps.host.transact((tx) => {
    const names = reasons.map((r) => r.name.toLowerCase());
    if (new Set(names).size !== names.length)
      throw new LaneError('not-valid', 'Two reasons have the same name.', [
        { where: 'reasons', what: 'names must differ' },
      ]);
    const before = undoableDuty(deps)['away-reasons']?.read(tx.db, '', null);
    const after = reasons.map((r): AwayReason => ({
      id: r.id ?? tx.ids('reason'),
      name: r.name,
      paid: r.paid,
      minutes: r.minutes,
    }));
    putReasons(tx, after);
    recordChange(tx, actor, 'away-reasons', 'away-reasons', before, after, { label: 'Away reasons' });
    return { id: 'away-reasons' };
  });
}

export const createDuty = (deps: DutyDeps) => ({
  undoable: undoableDuty(deps),
  ...bind(deps, {
    view: viewDuty,
    saveProfile: saveDutyProfile,
    removeProfile: removeDutyProfile,
    preview: previewDutyProfile,
    saveReasons,
  }),
});
