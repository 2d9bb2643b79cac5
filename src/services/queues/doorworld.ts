import { allSteps } from '../../core/bots/model';
import { checkLanguages, checkShifts, type DoorWorld, type ShiftWorld } from '../../core/checks/doorchecks';
import { gathering, type Finding } from '../../core/checks/finding';
import { botsOfDoor, type Door, readDoors } from '../../data/doors';
import { SHIFTS } from '../../data/duty';
import { readBots } from '../../data/bots';
import { readAllHours } from '../../data/hours';
import { type Person, readPeople, readPerson } from '../../data/people';
import { readQueues } from '../../data/queuesettings';
import { readTeams } from '../../data/teams';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { profileNow, zoneOfPerson } from '../people/peoplebook';
import { gapsAtDoor } from '../words/atdoor';
import { meantToWork } from '../people/readiness';

type DoorLine = DoorWorld['doors'][number];
type ShiftLine = ShiftWorld['shifts'][number];

const rowsOf = (host: Host, person: Person, at: number) => profileNow(host, person, at)?.rows ?? [];

/** People on shift by what they share: many have their team's week and one duty profile. */
function shiftsNow(host: Host, people: readonly Person[], doors: readonly DoorLine[], at: number): ShiftLine[] {
  const shifts = new Map(SHIFTS.all(host.db).map((s) => [s.id, s]));
  const teams = new Map(readTeams(host.db).map((t) => [t.id, t.name]));
  const leading = new Map<unknown, string[]>();
  const found = new Map<string, { -readonly [K in keyof ShiftLine]: ShiftLine[K] }>();
  for (const person of people) {
    const shift = shifts.get(person.id) ?? shifts.get(person.teamId);
    if (!shift) continue;
    const rows = rowsOf(host, person, at);
    const doorIds =
      leading.get(rows) ??
      doors.filter((d) => rows.some((r) => r.channel === d.channel && d.queueIds.includes(r.queueId))).map((d) => d.id);
    leading.set(rows, doorIds);
    const { weekly, exceptions } = shift;
    const pattern = { zone: zoneOfPerson(host, person), weekly, exceptions };
    const key = JSON.stringify([pattern, doorIds]);
    const team = teams.get(person.teamId) ?? '';
    const there = found.get(key);
    if (!there) found.set(key, { pattern, doorIds, people: 1, teams: [team] });
    else {
      there.people++;
      if (!there.teams.includes(team)) there.teams = [...there.teams, team];
    }
  }
  return [...found.values()];
}

/** Doors with where they lead, as settings have them. */
export function doorsNow(host: Host): DoorLine[] {
  const at = host.times.floor();
  const bots = new Map(readBots(host.db).map((b) => [b.id, b]));
  const queues = new Map(readQueues(host.db).map((q) => [q.id, q.name]));
  const queuesOf = (door: Door): string[] =>
    door.meets.by === 'people'
      ? [door.meets.queueId]
      : botsOfDoor(door).flatMap((botId) => {
          const bot = bots.get(botId);
          return bot
            ? [
                bot.draft.fallbackQueueId,
                ...allSteps(bot.draft).flatMap((s) => (s.verb === 'hand-over' ? [s.target.queueId] : [])),
              ]
            : [];
        });
  const bot = (when: string, botId: string): DoorLine['bots'] => {
    const named = bots.get(botId);
    return named ? [{ when, name: named.name, live: named.liveVersion !== null }] : [];
  };
  const peopleOf = ({ meets, channel }: Door): DoorLine['people'] => {
    if (meets.by !== 'people') return null;
    const asked = meets.personIds
      .flatMap((id) => readPerson(host.db, id) ?? [])
      .filter(
        (p) => meantToWork(p) && rowsOf(host, p, at).some((r) => r.queueId === meets.queueId && r.channel === channel),
      );
    return { named: meets.personIds.length, asked: asked.length, queue: queues.get(meets.queueId) ?? meets.queueId };
  };
  return readDoors(host.db).map((door): DoorLine => ({
    id: door.id,
    name: door.name,
    hoursId: door.hoursId,
    channel: door.channel,
    queueIds: [...new Set(queuesOf(door))],
    bots: [
      ...(door.whenClosed.does === 'bot' ? bot('When it is closed', door.whenClosed.botId) : []),
      ...(door.meets.by === 'first-words'
        ? door.meets.rules.flatMap((r) => bot('Asked for by first words', r.botId))
        : []),
      ...(door.meets.by === 'people' && door.meets.away.then.does === 'bot'
        ? bot('When nobody is on duty', door.meets.away.then.botId)
        : []),
    ],
    people: peopleOf(door),
  }));
}

/**
 * Days ahead on which people are on shift while every door whose contacts they take is shut. Looks at everybody's shifts,
 * so that it is read where it holds nobody up.
 */
export function readSlowFindings(host: Host, actor: Actor): Finding[] {
  mustHold(actor, 'people.view');
  if (actor.teams !== 'all' || !actor.rights.includes('settings.view')) return [];
  const now = host.times.floor();
  const doors = doorsNow(host);
  const shifts = shiftsNow(host, readPeople(host.db).filter(meantToWork), doors, now);
  const { found, add } = gathering();
  checkLanguages(
    readDoors(host.db).map((door) => ({
      ...door,
      // Its first language is spoken whatever it lacks: there is nothing else to speak.
      gaps: door.languages.slice(1).flatMap((language) => {
        const gaps = gapsAtDoor(host.db, door, language).length;
        return gaps > 0 ? [{ language, gaps }] : [];
      }),
    })),
    add,
  );
  checkShifts({ now, hours: readAllHours(host.db), doors, shifts }, add);
  return found;
}
