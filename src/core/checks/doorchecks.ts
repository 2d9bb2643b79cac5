import { type Channel, CHANNEL_NAMES } from '../channels';
import { dateFormat } from '../formatters';
import { languageName } from '../localised';
import { type Hours, openAt, openings, type WeekPattern } from '../hours/weekly';
import type { QueueSettings } from '../routing/queue';
import type { Add } from './finding';

/** Doors: whether they ever open, and where they lead. */
export type DoorWorld = {
  readonly now: number;
  readonly queues: readonly QueueSettings[];
  readonly hours: readonly Hours[];
  readonly doors: readonly {
    readonly id: string;
    readonly name: string;
    readonly hoursId: string;
    readonly channel: Channel;
    /** Queues to which its bots hand over, or within which people are asked. */
    readonly queueIds: readonly string[];
    /** Bots that answer beside its own, and when. */
    readonly bots: readonly { readonly when: string; readonly name: string; readonly live: boolean }[];
    /** Where it leads straight to people: how many, and how many of them could be asked; null for no such door. */
    readonly people: { readonly named: number; readonly asked: number; readonly queue: string } | null;
  }[];
};

/** Doors with the shifts of whoever takes their contacts. */
export type ShiftWorld = Pick<DoorWorld, 'now' | 'hours' | 'doors'> & {
  /** Shifts that several may share, of how many of which teams, and the doors whose contacts these take. */
  readonly shifts: readonly {
    readonly pattern: WeekPattern;
    readonly people: number;
    readonly teams: readonly string[];
    readonly doorIds: readonly string[];
  }[];
};

const DAY_MS = 86_400_000;
/** How far ahead shifts are looked at, days. */
const AHEAD_DAYS = 30;

export function opensEver(hours: Hours, now: number): boolean {
  const opening = openAt(hours, now);
  return opening.open || opening.opensAt !== null;
}

export function checkDoors(world: DoorWorld, add: Add): void {
  const hours = new Map(world.hours.map((h) => [h.id, h]));
  const byId = new Map(world.queues.map((q) => [q.id, q]));
  for (const door of world.doors) {
    const doorHours = hours.get(door.hoursId);
    if (doorHours && !opensEver(doorHours, world.now))
      add('door', door, 'never', 'stops', `Its hours, ${doorHours.name}, never open.`);
    for (const bot of door.bots.filter((b) => !b.live))
      add(
        'door',
        door,
        `unpublished-${bot.name}`,
        'advice',
        `${bot.when} ${bot.name} answers, which has never been published: contacts go to that bot’s fallback queue.`,
      );
    if (door.people && door.people.asked < door.people.named) {
      const { named, asked, queue } = door.people;
      const channel = CHANNEL_NAMES[door.channel].name;
      add(
        'door',
        door,
        'people',
        asked === 0 ? 'stops' : 'advice',
        asked === 0
          ? `It leads to ${named === 1 ? 'somebody who does' : `${named} people who do`} not take ${queue} by ${channel}, or whose account is off.`
          : `It leads to ${named} people, of whom ${named - asked} do not take ${queue} by ${channel}, or are switched off.`,
      );
    }
    for (const queueId of door.queueIds) {
      const queue = byId.get(queueId);
      const queueHours = queue?.hoursId ? hours.get(queue.hoursId) : undefined;
      if (!queue || !queueHours || !doorHours || queue.entryRules.some((r) => r.if.when === 'closed')) continue;
      const open = openings(doorHours, world.now, 0, 7);
      const inQueue = openings(queueHours, world.now, -1, 8);
      if (open.some((o) => !inQueue.some((q) => q.start <= o.start && q.end >= o.end)))
        add(
          'door',
          door,
          `closed-${queueId}`,
          'advice',
          `It is open at times when ${queue.name}, to which it leads, is closed, and ${queue.name} has no rule for that.`,
        );
    }
  }
}

/** Doors that are open in languages in which their customers would meet something else. */
export function checkLanguages(
  doors: readonly {
    readonly id: string;
    readonly name: string;
    readonly gaps: readonly { readonly language: string; readonly gaps: number }[];
  }[],
  add: Add,
): void {
  for (const door of doors)
    for (const { language, gaps } of door.gaps)
      add(
        'door',
        door,
        `language-${language}`,
        'advice',
        `It is open in ${languageName(language)}, and customers would meet ${gaps === 1 ? 'one thing' : `${gaps} things`} in another language.`,
      );
}

/** Days ahead on which people are on shift and none of the doors whose contacts they take opens in all of it. */
export function checkShifts(world: ShiftWorld, add: Add): void {
  const hours = new Map(world.hours.map((h) => [h.id, h]));
  const until = world.now + AHEAD_DAYS * DAY_MS;
  const open = new Map(
    world.doors.map((door) => {
      const mine = hours.get(door.hoursId);
      return [door.id, mine ? openings(mine, world.now, -1, AHEAD_DAYS + 1) : []] as const;
    }),
  );
  const days = new Map<number, { people: number; teams: Set<string>; day: string; id: string }>();
  for (const shift of world.shifts) {
    const openings_ = shift.doorIds.flatMap((id) => open.get(id) ?? []);
    if (shift.doorIds.length === 0) continue;
    for (const stretch of openings(shift.pattern, world.now, 0, AHEAD_DAYS)) {
      if (stretch.start <= world.now || stretch.start >= until) continue;
      if (openings_.some((o) => o.start < stretch.end && o.end > stretch.start)) continue;
      const { zone } = shift.pattern;
      const id = dateFormat('en-CA', { timeZone: zone, year: 'numeric', month: '2-digit', day: '2-digit' }).format(
        stretch.start,
      );
      const place = Date.parse(id);
      const there = days.get(place) ?? {
        people: 0,
        teams: new Set<string>(),
        id,
        day: dateFormat('en-GB', { timeZone: zone, weekday: 'long', day: 'numeric', month: 'long' }).format(
          stretch.start,
        ),
      };
      for (const team of shift.teams) there.teams.add(team);
      days.set(place, { ...there, people: there.people + shift.people });
    }
  }
  for (const { people, teams, id, day } of [...days.values()].sort((a, b) => (a.id < b.id ? -1 : 1)))
    add(
      'shift',
      { id, name: day },
      'shut',
      'advice',
      `${people === 1 ? 'One person' : `${people} people`} of ${[...teams].join(', ')} ${people === 1 ? 'is' : 'are'} on shift while every door whose contacts they take is shut.`,
    );
}
