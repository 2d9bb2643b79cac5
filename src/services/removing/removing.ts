import { object, string } from 'yup';
import { LaneError } from '../../core/errors';
import { holds } from '../../core/people/rights';
import { readBots, retireBot } from '../../data/bots';
import type { Db } from '../../data/database';
import { readDoors, retireDoor } from '../../data/doors';
import { readPeople } from '../../data/people';
import { readPlans } from '../../data/plans';
import { type Field, readFields, writeField } from '../../data/fields';
import { GROUPS, PARTNERS } from '../../data/groups';
import { readQueues, retireQueue } from '../../data/queuesettings';
import { isKeptApart, RETIRED_KINDS, RETIRED_NAMES, type RetiredKind } from '../../core/removing/kinds';
import { forgetRetired, isSoonLooked, readRetired, retiredValue, wasUsedSince } from '../../data/retired';
import { readSkills, SKILL_SETS } from '../../data/skills';
import { readTeams } from '../../data/teams';
import { putSkill, putTeam, type SkillValue, type TeamValue } from '../people/keepteams';
import type { Tx } from '../ground/host';
import { groupRemoval, partnerRemoval } from './asked';
import { fieldRemoval } from './field';
import { skillRemoval, teamRemoval } from './ofpeople';
import { type Actor, mustHold, mustHoldEverywhere, mustHoldOne } from '../ground/actor';
import { bind } from '../ground/bind';
import { announce, noteChange } from '../ground/change';
import { exactly, id, oneOf } from '../ground/schemas';
import { parse } from '../ground/validate';
import { dropPlanned } from '../drafts/plans';
import { botRemoval, undoableBots } from './bot';
import { doorRemoval } from './door';
import { queueRemoval } from './queue';
import type { Removal, RemovalOf, RemovalView, RemovingDeps, RetiredView } from './removal';
import { RIGHT_TO_REMOVE, RIGHTS_TO_REMOVE, thingSchema } from './wasused';

const REMOVALS: Readonly<Record<RetiredKind, RemovalOf>> = {
  queue: queueRemoval,
  door: doorRemoval,
  bot: botRemoval,
  group: groupRemoval,
  partner: partnerRemoval,
  skill: skillRemoval,
  team: teamRemoval,
  field: fieldRemoval,
};

const schema = exactly(
  object({
    kind: oneOf<RetiredKind>(RETIRED_KINDS, 'The kind'),
    id: id('What to remove'),
    instead: string().max(80).nullable().defined(),
  }),
);

function known(deps: RemovingDeps, db: Db, kind: RetiredKind, thingId: string, instead: string | null): Removal {
  const found = REMOVALS[kind](deps, db, thingId, instead);
  if (!found) throw new LaneError('not-found', `This ${RETIRED_NAMES[kind]} is not there any more.`);
  return found;
}

const BACK: Readonly<Record<RetiredKind, (tx: Tx, id: string) => void>> = {
  queue: (tx, thingId) => retireQueue(tx.db, thingId, null),
  door: (tx, thingId) => retireDoor(tx.db, thingId, null),
  bot: (tx, thingId) => retireBot(tx.db, thingId, null),
  group: (tx, thingId) => GROUPS.restore(tx.db, thingId, retiredValue(tx.db, 'group', thingId)),
  partner: (tx, thingId) => PARTNERS.restore(tx.db, thingId, retiredValue(tx.db, 'partner', thingId)),
  skill: (tx, thingId) => putSkill(tx, retiredValue(tx.db, 'skill', thingId) as SkillValue),
  team: (tx, thingId) => putTeam(tx, withoutGone(tx, retiredValue(tx.db, 'team', thingId) as TeamValue)),
  field: (tx, thingId) => writeField(tx.db, retiredValue(tx.db, 'field', thingId) as Field, readFields(tx.db).length),
};
/** A team without what is not there any more of what it gave, and of who supervised it. */
function withoutGone(tx: Tx, team: TeamValue): TeamValue {
  const skills = new Set(readSkills(tx.db).map((s) => s.id));
  const sets = new Set(SKILL_SETS.all(tx.db).map((s) => s.id));
  const people = new Set(readPeople(tx.db).map((p) => p.id));
  return {
    ...team,
    levels: Object.fromEntries(Object.entries(team.levels).filter(([skillId]) => skills.has(skillId))),
    setIds: team.setIds.filter((setId) => sets.has(setId)),
    supervisorIds: team.supervisorIds.filter((personId) => people.has(personId)),
  };
}
const NAMES: Readonly<Record<RetiredKind, (db: Db) => readonly string[]>> = {
  queue: (db) => readQueues(db).map((q) => q.name),
  door: (db) => readDoors(db).map((d) => d.name),
  bot: (db) => readBots(db).map((b) => b.name),
  group: (db) => GROUPS.all(db).map((g) => g.name),
  partner: (db) => PARTNERS.all(db).map((p) => p.name),
  skill: (db) => readSkills(db).map((x) => x.name),
  team: (db) => readTeams(db).map((t) => t.name),
  field: (db) => readFields(db).map((f) => f.label),
};

/** As History has it: what is written of a bot is undone in its script, its removal there. */
const NOTED = {
  queue: 'queue',
  door: 'door',
  bot: 'bot-removal',
  group: 'group',
  partner: 'partner',
  skill: 'skill',
  team: 'team',
  field: 'field',
} as const satisfies Record<RetiredKind, string>;

/** Kinds of what is changed with it that say who takes what. */
const OF_PEOPLE: ReadonlySet<string> = new Set(['duty-profile', 'own-rows', 'person', 'desk-rules']);

/** What is planned for a thing that goes. */
const plannedFor = (db: Db, kind: RetiredKind, thingId: string) =>
  readPlans(db).filter((p) => p.kind === kind && p.thingId === thingId && (p.state === 'planned' || p.state === 'on'));

/** What is changed for a time goes back first: it would come back as it is for now. */
const onNow = (db: Db, kind: RetiredKind, thingId: string): string[] =>
  plannedFor(db, kind, thingId).some((p) => p.state === 'on')
    ? ['A planned change of it is on: end it first, under Planned.']
    : [];

/** What removing a thing would do, shown before it is done. */
export async function viewRemoval(
  deps: RemovingDeps,
  actor: Actor,
  input: Readonly<Record<string, string>>,
  signal?: AbortSignal,
): Promise<RemovalView> {
  mustHoldOne(actor, RIGHTS_TO_REMOVE);
  const { kind, id: thingId, instead } = parse(schema, { ...input, instead: input.instead || null });
  mustHoldEverywhere(actor, RIGHT_TO_REMOVE[kind]);
  const { name, stops, touches, insteads, needsInstead } = known(deps, deps.host.db, kind, thingId, instead ?? null);
  const used = await deps.reading('was-used', actor, { kind, id: thingId }, signal);
  return {
    name,
    stops: [...stops, ...onNow(deps.host.db, kind, thingId)],
    insteads,
    needsInstead,
    used,
    touches: [
      ...touches.map(({ name: of, path, becomes }) => ({ name: of, path, becomes })),
      ...plannedFor(deps.host.db, kind, thingId).map(() => ({
        name: 'A planned change of it',
        path: '/plans',
        becomes: 'is called off',
      })),
    ],
  };
}

/**
 * Takes a thing away, with all that leads to it, in one press: deleted where nothing ever happened with it, else retired.
 * Throws `not-now` with what keeps it.
 */
export async function removeThing(
  deps: RemovingDeps,
  actor: Actor,
  input: unknown,
): Promise<{ id: string; retired: boolean }> {
  mustHoldOne(actor, RIGHTS_TO_REMOVE);
  const { kind, id: thingId, instead } = parse(schema, input);
  mustHoldEverywhere(actor, RIGHT_TO_REMOVE[kind]);
  const { host, floor } = deps;
  const asked = host.times.floor();
  const usedBefore = await deps.reading('was-used', actor, { kind, id: thingId });
  return host.transact((tx) => {
    const removal = known(deps, tx.db, kind, thingId, instead ?? null);
    const missing = removal.needsInstead && (instead ?? null) === null;
    if (missing) throw new LaneError('not-now', `Choose what takes the place of ${removal.name}.`);
    const stops = [...removal.stops, ...onNow(tx.db, kind, thingId)];
    if (stops.length > 0) throw new LaneError('not-now', stops.join(' '));
    const batch = tx.ids('batch');
    for (const { write, history, name } of removal.touches) {
      write(tx);
      if (history)
        noteChange(tx, actor, history.kind, history.id, history.before, history.after, { label: name, batch });
    }
    for (const plan of plannedFor(tx.db, kind, thingId)) dropPlanned(tx, plan.id);
    const used = usedBefore || (isSoonLooked(kind) && wasUsedSince(tx.db, kind, thingId, asked));
    if (used) removal.retire(tx);
    else {
      removal.drop(tx);
      if (isKeptApart(kind)) forgetRetired(tx.db, kind, thingId);
    }
    noteChange(tx, actor, NOTED[kind], thingId, removal.value, null, { label: removal.name, batch });
    announce(tx, kind, thingId);
    floor.refreshSettings(tx);
    // Who takes what hangs on profiles and on people's own rows.
    const ofPeople = removal.touches.some(({ history }) => history && OF_PEOPLE.has(history.kind));
    if (ofPeople || kind === 'skill' || kind === 'team')
      floor.refreshPeople(
        tx,
        readPeople(tx.db).map((p) => p.id),
      );
    return { id: thingId, retired: used };
  });
}

/** Retired things by kind, as the reader may see them. */
export function viewRetired({ host }: RemovingDeps, actor: Actor): RetiredView {
  mustHold(actor, 'settings.view');
  return {
    retired: readRetired(host.db),
    mayBringBack: RETIRED_KINDS.filter((kind) => holds(actor, RIGHT_TO_REMOVE[kind]) && actor.teams === 'all'),
  };
}

/** Brings a retired thing back as it was. What led to it before leads where it was sent; History has what that was. */
export function bringBack(deps: RemovingDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldOne(actor, RIGHTS_TO_REMOVE);
  const { kind, id: thingId } = parse(thingSchema, input);
  mustHoldEverywhere(actor, RIGHT_TO_REMOVE[kind]);
  return deps.host.transact((tx) => {
    const there = readRetired(tx.db).find((r) => r.kind === kind && r.id === thingId);
    if (!there) throw new LaneError('not-found', `This ${RETIRED_NAMES[kind]} is not retired.`);
    const twin = NAMES[kind](tx.db).find((name) => name.toLowerCase() === there.name.toLowerCase());
    if (twin)
      throw new LaneError('not-now', `There is another ${RETIRED_NAMES[kind]} called ${twin} now. Rename it first.`);
    BACK[kind](tx, thingId);
    const { value, name } = known(deps, tx.db, kind, thingId, null);
    noteChange(tx, actor, NOTED[kind], thingId, null, value, { label: name });
    announce(tx, kind, thingId);
    deps.floor.refreshSettings(tx);
    if (kind === 'skill' || kind === 'team')
      deps.floor.refreshPeople(
        tx,
        readPeople(tx.db).map((p) => p.id),
      );
    return { id: thingId };
  });
}

/** Removing what is not needed any more, and bringing it back. */
export const createRemoving = (deps: RemovingDeps) => ({
  undoable: undoableBots,
  ...bind(deps, { view: viewRemoval, remove: removeThing, retired: viewRetired, bringBack }),
});
