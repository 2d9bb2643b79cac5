import { type Channel, CHANNELS } from '../../core/channels';
import { LaneError } from '../../core/errors';
import { inOrder, type StageAct } from '../../core/routing/clock';
import type { Onward } from '../../core/routing/onward';
import type { QueueSettings } from '../../core/routing/queue';
import { readBots } from '../../data/bots';
import type { Db } from '../../data/database';
import { GROUPS, PARTNERS } from '../../data/groups';
import { readAllHours } from '../../data/hours';
import { type QueueRecord, readQueue, readQueues, writeQueue } from '../../data/queuesettings';
import { readSkills } from '../../data/skills';
import { type Actor, mustHoldEverywhere } from '../ground/actor';
import { announce, type Undoable, noteChange } from '../ground/change';
import type { Tx } from '../ground/host';
import type { QueuesDeps } from './queuesview';

/**
 * Settings as the page sent them, in the form they are kept: channels and stages in order, nothing for channels not
 * taken.
 */
export function settingsOf({ id, settings }: { id: string | null; settings: unknown }): QueueSettings {
  const s = settings as Omit<QueueSettings, 'id'>;
  const channels = CHANNELS.filter((c) => s.channels.includes(c));
  const kept = <T>(by: Readonly<Partial<Record<Channel, T>>>): Partial<Record<Channel, T>> =>
    Object.fromEntries(channels.flatMap((c) => (by[c] === undefined ? [] : [[c, by[c]]])));
  const clocks = Object.fromEntries(
    Object.entries(kept(s.clocks))
      .map(([c, stages]) => [c, inOrder(stages ?? [])])
      .filter(([, stages]) => (stages?.length ?? 0) > 0),
  );
  return { ...s, id: id ?? '', channels, goals: kept(s.goals), clocks };
}

/** Refuses what points at something that is not there, naming it. */
function checkReferences(db: Db, queue: QueueSettings): void {
  const refuse = (where: string, what: string): never => {
    throw new LaneError('not-valid', `${queue.name}: ${what}.`, [{ where, what }]);
  };
  const ids = {
    skill: new Set(readSkills(db).map((s) => s.id)),
    group: new Set(GROUPS.all(db).map((g) => g.id)),
    partner: new Set(PARTNERS.all(db).map((p) => p.id)),
    queue: new Set(readQueues(db).map((q) => q.id)),
    hours: new Set(readAllHours(db).map((h) => h.id)),
  };
  for (const n of queue.needs) {
    if (!ids.skill.has(n.skillId)) refuse('needs', `the needed skill ${n.skillId} is not known`);
    if (n.atMost !== undefined && n.atMost < n.atLeast) refuse('needs', 'a need’s highest level is below its lowest');
  }
  if (queue.hoursId !== null && !ids.hours.has(queue.hoursId)) refuse('hoursId', 'its hours are not known');
  if (queue.callback.queueId !== null && !ids.queue.has(queue.callback.queueId))
    refuse('callback.queueId', 'the callback queue is not known');
  const toward = (where: string, o: Onward): void => {
    if (o.to === 'queue' && (!ids.queue.has(o.queueId) || o.queueId === queue.id))
      refuse(
        where,
        o.queueId === queue.id ? 'it would send contacts to itself' : 'it sends contacts to a queue that is not known',
      );
    if (o.to === 'group' && !ids.group.has(o.groupId)) refuse(where, 'it asks a group that is not known');
    if (o.to === 'partner' && !ids.partner.has(o.partnerId)) refuse(where, 'it asks a partner desk that is not known');
    if (
      o.to === 'scene' &&
      !readBots(db).some((b) => b.id === o.botId && b.draft.scenes.some((s) => s.id === o.sceneId))
    )
      refuse(where, 'it leads to a scene that is not known');
  };
  queue.entryRules.forEach((rule, i) => toward(`entryRules[${i}]`, rule.then));
  const check = (where: string, act: StageAct): void => {
    if (act.does === 'lower' && !ids.skill.has(act.skillId)) refuse(where, 'a stage loosens a skill that is not known');
    if (act.does === 'add-group' && !ids.group.has(act.groupId))
      refuse(where, 'a stage adds a group that is not known');
    if (act.does === 'add-partner' && !ids.partner.has(act.partnerId))
      refuse(where, 'a stage adds a partner desk that is not known');
    if (act.does === 'ask' && !Object.values(act.wording).some((text) => text.trim() !== ''))
      refuse(where, 'a question of its wait clock has no words');
    if (act.does === 'ask' && act.choices.length === 0) refuse(where, 'a question of its wait clock has no answer');
    if (act.does === 'move') toward(where, act.onward);
  };
  for (const [c, stages] of Object.entries(queue.clocks))
    stages.forEach((stage, i) => stage.acts.forEach((act) => check(`clocks.${c}[${i}]`, act)));
}

/** Writes a queue down under a settings version of its own; the floor follows. Throws `not-valid` when its name is taken. */
function put({ floor }: QueuesDeps, tx: Tx, queue: QueueSettings, before: QueueRecord | undefined): void {
  const all = readQueues(tx.db);
  const twin = all.find((o) => o.id !== queue.id && o.name.toLowerCase() === queue.name.toLowerCase());
  if (twin)
    throw new LaneError('not-valid', `There is already a queue called ${twin.name}.`, [
      { where: 'name', what: 'is taken' },
    ]);
  checkReferences(tx.db, queue);
  writeQueue(tx.db, queue, before?.place ?? all.length, announce(tx, 'queue', queue.id));
  floor.refreshSettings(tx);
}
/** As History has it. */
export const bare = ({ revision: _revision, place: _place, ...settings }: QueueRecord): QueueSettings => settings;

/** The same, and notes who did it. */
export function keep(
  deps: QueuesDeps,
  tx: Tx,
  actor: Actor,
  queue: QueueSettings,
  before: QueueRecord | undefined,
): void {
  put(deps, tx, queue, before);
  noteChange(tx, actor, 'queue', queue.id, before ? bare(before) : null, queue);
}

export const undoableQueues = (deps: QueuesDeps): Readonly<Record<string, Undoable>> => ({
  queue: {
    name: 'queue',
    path: (id) => `/queues?queue=${id}`,
    read: (db, id) => {
      const found = readQueue(db, id);
      return found ? bare(found) : null;
    },
    restore: (tx, actor, id, value) => {
      mustHoldEverywhere(actor, 'queues.change');
      if (value === null)
        throw new LaneError('not-now', 'A queue is removed on its own page, where what leads to it is shown first.');
      put(deps, tx, { ...(value as QueueSettings), id }, readQueue(tx.db, id));
    },
  },
});
