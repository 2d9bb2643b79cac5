import { checkBot } from '../../core/bots/checks';
import type { BotFault, CheckWorld } from '../../core/bots/faults';
import { mayset } from '../../core/bots/graph';
import { allSteps, type BotScript } from '../../core/bots/model';
import type { Channel } from '../../core/channels';
import { type Hours, openings } from '../../core/hours/weekly';
import type { Stage } from '../../core/routing/clock';
import { clockCounts } from '../../core/routing/clockcounts';
import type { Need } from '../../core/routing/needs';
import { ARTICLES } from '../../data/articles';
import { readBots, SHARED_SCENES } from '../../data/bots';
import { CONNECTORS, TABLES } from '../../data/connectors';
import { botsOfDoor, readDoors } from '../../data/doors';
import { readFields } from '../../data/fields';
import { GROUPS, PARTNERS } from '../../data/groups';
import { readAllHours } from '../../data/hours';
import { imageIds } from '../../data/images';
import { readPeople } from '../../data/people';
import { readPhrasebook } from '../../data/phrasebook';
import { type QueueRecord, readQueues } from '../../data/queuesettings';
import { readTeams } from '../../data/teams';
import { readSkills } from '../../data/skills';
import type { LiveFloor } from '../contacts/livefloor';
import { recordedWords } from './recordings';
import { bind } from '../ground/bind';
import type { Host } from '../ground/host';

const named = (kind: string, things: readonly { readonly id: string; readonly name: string }[]): [string, string][] =>
  things.map((t) => [`${kind} ${t.id}`, t.name]);

/** Whether hours are open at some instant of the coming week at which others are closed. */
function openWhileClosed(door: Hours | undefined, queue: Hours | undefined, now: number): boolean {
  if (!door || !queue) return false;
  const theirs = openings(queue, now, 0, 8);
  return openings(door, now, 0, 7).some((o) => !theirs.some((t) => t.start <= o.start && t.end >= o.end));
}

/** What scripts refer to, as it is now: what the checks of bots look at. Undoable for as long as no setting changes. */
export type BotWorlds = ReturnType<typeof createBotWorlds>;

/** What the functions of this file are given first. */
export type BotWorldsDeps = { readonly host: Host; readonly floor: LiveFloor };

function common({ host, floor }: BotWorldsDeps) {
  const { db } = host;
  const book = readPhrasebook(db)?.book;
  const bots = readBots(db);
  const queues = readQueues(db);
  const now = host.times.floor();
  const answers = new Map<string, boolean>();
  const somebody =
    (q: QueueRecord) =>
    (channel: Channel, needs: readonly Need[], groupId: string | null): boolean => {
      const key = JSON.stringify([q.id, channel, needs, groupId]);
      let able = answers.get(key);
      if (able === undefined) {
        const stages = q.clocks[channel] ?? [];
        const clock: readonly Stage[] =
          groupId === null
            ? stages
            : [{ atSeconds: 0, early: false, acts: [{ does: 'add-group', groupId }] }, ...stages];
        able =
          (channel === 'voice' && stages.some((s) => s.acts.some((a) => a.does === 'add-partner'))) ||
          clockCounts(
            floor.router.floor,
            { ...q, clocks: { ...q.clocks, [channel]: clock } },
            channel,
            needs,
            new Set(),
            now,
          ).some((m) => m.skilled > 0);
        answers.set(key, able);
      }
      return able;
    };
  return {
    bots,
    queues,
    able: new Map(queues.map((q) => [q.id, somebody(q)])),
    hours: new Map(readAllHours(db).map((h) => [h.id, h])),
    doors: readDoors(db),
    fields: readFields(db),
    now,
    setBy: new Map(bots.map((b) => [b.id, new Set(allSteps(b.draft).flatMap(mayset))])),
    shared: new Map(SHARED_SCENES.all(db).map(({ id, name, steps, inputs }) => [id, { id, name, steps, inputs }])),
    names: new Map([
      ...named('queue', queues),
      ...named('skill', readSkills(db)),
      ...named('group', GROUPS.all(db)),
      ...named('team', readTeams(db)),
      ...named('partner', PARTNERS.all(db)),
      ...named(
        'person',
        readPeople(db).filter((p) => p.active),
      ),
      ...named('connector', CONNECTORS.all(db)),
      ...named('table', TABLES.all(db)),
      ...named('hours', readAllHours(db)),
      ...named('shared', SHARED_SCENES.all(db)),
      ...named(
        'list',
        (book?.recognised ?? []).map((r) => ({ id: r.id, name: r.label })),
      ),
      ...named(
        'intent',
        (book?.intents ?? []).map((i) => ({ id: i.id, name: i.label })),
      ),
      ...imageIds(db).map((imageId) => [`image ${imageId}`, 'a picture'] as const),
      ...(ARTICLES.all(db).length > 0 ? [['articles any', 'articles'] as const] : []),
    ]),
  };
}

export function worldOf(deps: BotWorldsDeps, botId: string | null): CheckWorld {
  const all = deps.host.remembered('bot-world', () => common(deps));
  const doors = all.doors.filter((d) => botId !== null && botsOfDoor(d).includes(botId));
  return {
    names: all.names,
    shared: all.shared,
    recorded: recordedWords(deps.host),
    channels: [...new Set(doors.map((d) => d.channel))],
    queues: new Map(
      all.queues.map((q) => [
        q.id,
        {
          name: q.name,
          channels: q.channels,
          able: all.able.get(q.id) ?? (() => false),
          closedWhile:
            q.hoursId === null
              ? []
              : doors
                  .filter(
                    (d) =>
                      q.channels.includes(d.channel) &&
                      openWhileClosed(all.hours.get(d.hoursId), all.hours.get(q.hoursId ?? ''), all.now),
                  )
                  .map((d) => d.name),
        },
      ]),
    ),
    fields: all.fields.map((f) => ({
      name: f.name,
      label: f.label,
      shown: all.queues.some((q) => q.fields === null || q.fields.includes(f.id)),
      setElsewhere:
        f.filledBy.some((by) => by === 'agent') ||
        [...all.setBy].some(([id, names]) => id !== botId && names.has(f.name)),
    })),
  };
}

export const faultsOf = (deps: BotWorldsDeps, botId: string | null, script: BotScript): BotFault[] =>
  checkBot(script, worldOf(deps, botId));

export const createBotWorlds = (deps: BotWorldsDeps) => bind(deps, { worldOf, faultsOf });
