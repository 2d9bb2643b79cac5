import { type Channel, CHANNEL_NAMES } from '../channels';
import { plusDays, weekdayOf } from '../hours/dates';
import { type Hours, localDate } from '../hours/weekly';
import { languageName, type Localised } from '../localised';
import { changesRouting, type Stage } from '../routing/clock';
import type { ClockCount } from '../routing/clockcounts';
import type { Limits } from '../routing/limits';
import type { Onward } from '../routing/onward';
import { goalOf, type QueueSettings } from '../routing/queue';
import { mixedVoices, type FindRecorded } from '../sound/recorded';
import { checkDoors, type DoorWorld, opensEver } from './doorchecks';
import { type Finding, gathering } from './finding';

/** What the checks look at. `counts` are how many could take a queue's contacts stage by stage. */
export type QueueWorld = DoorWorld & {
  /** What a queue tells callers, and words that somebody recorded. */
  readonly said: (queue: QueueSettings) => readonly Localised[];
  readonly recorded: FindRecorded;
  readonly queues: readonly QueueSettings[];
  readonly hours: readonly Hours[];
  readonly groups: readonly {
    readonly id: string;
    readonly name: string;
    readonly limits: Limits;
    readonly members: number;
  }[];
  readonly partners: readonly {
    readonly id: string;
    readonly name: string;
    readonly hoursId: string | null;
    readonly limits: Limits;
    readonly numbers: readonly { readonly id: string; readonly name: string; readonly limits: Limits }[];
  }[];
  readonly counts: (queueId: string, channel: Channel) => readonly ClockCount[];
  readonly now: number;
};

const LIMIT_WORDS: Readonly<Record<keyof Limits, string>> = {
  atOnce: 'at once',
  perHour: 'an hour',
  perDay: 'a day',
  perMonth: 'a month',
};
const zeroLimits = (limits: Limits): (keyof Limits)[] =>
  (Object.keys(LIMIT_WORDS) as (keyof Limits)[]).filter((k) => limits[k] === 0);

/** How far ahead holidays are looked for, days. */
const AHEAD_DAYS = 30;
/** Days ahead on which other hours of the same zone are closed by date, while these are open as in any week. */
function missedHolidays(
  hours: Hours,
  { hours: all, now }: Pick<QueueWorld, 'hours' | 'now'>,
): { readonly date: string; readonly name: string; readonly note: string }[] {
  const today = localDate(now, hours.zone);
  const last = plusDays(today, AHEAD_DAYS);
  const missed = new Map<string, { date: string; name: string; note: string }>();
  for (const other of all.filter((h) => h.id !== hours.id && h.zone === hours.zone))
    for (const { date, intervals, note } of other.exceptions)
      if (
        intervals.length === 0 &&
        date >= today &&
        date <= last &&
        !missed.has(date) &&
        !hours.exceptions.some((e) => e.date === date) &&
        hours.weekly.some((w) => w.day === weekdayOf(date)) &&
        // It closes a day on which they would be open otherwise.
        other.weekly.some((w) => w.day === weekdayOf(date))
      )
        missed.set(date, { date, name: other.name, note });
  return [...missed.values()].sort((a, b) => (a.date < b.date ? -1 : 1));
}

/** Where a queue sends contacts on: by its entry rules and by its clocks. */
export function waysOn(queue: QueueSettings): { readonly to: string; readonly where: string }[] {
  const of = (o: Onward, where: string) => (o.to === 'queue' ? [{ to: o.queueId, where }] : []);
  return [
    ...queue.entryRules.flatMap((r) => of(r.then, 'an entry rule')),
    ...Object.values(queue.clocks).flatMap((stages) =>
      stages.flatMap((s) =>
        s.acts.flatMap((a) => (a.does === 'move' ? of(a.onward, `the stage at ${s.atSeconds} s`) : [])),
      ),
    ),
  ];
}
/** A circle of overflow that begins and ends at a queue, as the queues passed, or null. */
export function circleFrom(queue: QueueSettings, queues: ReadonlyMap<string, QueueSettings>): string[] | null {
  const walk = (id: string, path: readonly string[]): string[] | null => {
    for (const { to } of waysOn(queues.get(id) ?? queue)) {
      if (to === queue.id) return [...path, to];
      if (path.includes(to) || !queues.has(to)) continue;
      const found = walk(to, [...path, to]);
      if (found) return found;
    }
    return null;
  };
  return walk(queue.id, [queue.id]);
}

/** Whether a stage changes nothing for who may take the contact, nor says or offers anything. */
function idle(stage: Stage, before: readonly Stage[], queue: QueueSettings): boolean {
  return stage.acts.every((act) => {
    if (act.does === 'lower') {
      const need = queue.needs.find((n) => n.skillId === act.skillId);
      const lowered = before.reduce(
        (sum, s) => sum + s.acts.reduce((n, a) => (a.does === 'lower' && a.skillId === act.skillId ? n + a.by : n), 0),
        0,
      );
      // A skill that only a hand-over may ask for is loosened for it.
      return need !== undefined && (need.firm === true || lowered >= need.atLeast);
    }
    if (act.does === 'add-group')
      return before.some((s) => s.acts.some((a) => a.does === 'add-group' && a.groupId === act.groupId));
    if (act.does === 'add-partner')
      return before.some((s) => s.acts.some((a) => a.does === 'add-partner' && a.partnerId === act.partnerId));
    if (act.does === 'say') return !Object.values(act.wording).some((text) => text.trim() !== '');
    return false;
  });
}

/**
 * Every fault of queues, hours, groups, partner desks and doors that can be seen from their settings and the people
 * there are.
 */
export function checkQueues(world: QueueWorld): Finding[] {
  const { found, add } = gathering();
  const byId = new Map(world.queues.map((q) => [q.id, q]));
  const hours = new Map(world.hours.map((h) => [h.id, h]));
  for (const queue of world.queues) {
    for (const { language, recorded, of } of mixedVoices(
      world
        .said(queue)
        .flatMap((wording) =>
          Object.entries(wording).flatMap(([l, text]) => (text.trim() === '' ? [] : [{ language: l, text }])),
        ),
      world.recorded,
    ))
      add(
        'queue',
        queue,
        `voices-${language}`,
        'advice',
        `In ${languageName(language)} ${recorded} of ${of} sentences are recorded and the others spoken, so that callers hear two voices.`,
      );
    for (const channel of queue.channels) {
      const counts = world.counts(queue.id, channel);
      const name = CHANNEL_NAMES[channel].name;
      const partner =
        channel === 'voice' && (queue.clocks.voice ?? []).some((s) => s.acts.some((a) => a.does === 'add-partner'));
      if (!partner && counts.every((c) => c.skilled === 0))
        add(
          'queue',
          queue,
          `nobody-${channel}`,
          'stops',
          `${name}: nobody at all could take its contacts, at any stage.`,
          queue.channels.length > 1 ? { does: 'drop-channel', queueId: queue.id, channel } : null,
        );
      else if (counts[0]?.skilled === 0)
        add(
          'queue',
          queue,
          `late-${channel}`,
          'advice',
          `${name}: nobody could take a contact before ${counts.find((c) => c.skilled > 0)?.atSeconds ?? 0} s.`,
        );
      const stages = queue.clocks[channel] ?? [];
      stages.forEach((stage, i) => {
        if (idle(stage, stages.slice(0, i), queue))
          add(
            'queue',
            queue,
            `idle-${channel}-${stage.atSeconds}`,
            'advice',
            `${name}: the stage at ${stage.atSeconds} s changes nothing.`,
            { does: 'drop-stage', queueId: queue.id, channel, atSeconds: stage.atSeconds },
          );
        if (stage.early && !changesRouting(stage))
          add(
            'queue',
            queue,
            `early-${channel}-${stage.atSeconds}`,
            'advice',
            `${name}: the stage at ${stage.atSeconds} s may come early, but asks nobody else.`,
          );
        if (
          stage.atSeconds < 30 &&
          stage.acts.some((a) => a.does === 'ask' && a.choices.some((c) => c.what === 'callback'))
        )
          add(
            'queue',
            queue,
            `callback-${channel}-${stage.atSeconds}`,
            'advice',
            `${name}: a callback is offered after ${stage.atSeconds} s; before 30 s it takes calls that would have been answered soon.`,
          );
        const move = stages
          .slice(0, i)
          .find((s) =>
            s.acts.some(
              (a) =>
                a.does === 'move' && a.onward.to !== 'group' && a.onward.to !== 'partner' && a.onward.to !== 'queue',
            ),
          );
        if (move)
          add(
            'queue',
            queue,
            `after-${channel}-${stage.atSeconds}`,
            'advice',
            `${name}: the stage at ${stage.atSeconds} s never comes, since contacts have moved on at ${move.atSeconds} s.`,
            { does: 'drop-stage', queueId: queue.id, channel, atSeconds: stage.atSeconds },
          );
      });
      // While everybody wraps up nobody answers: half of the goal should be left for it.
      const goal = goalOf(queue, channel);
      const { seconds, mayFinishEarly } = queue.wrapUp;
      if (seconds !== null && !mayFinishEarly && channel === 'voice' && seconds > goal.seconds * 4)
        add(
          'queue',
          queue,
          'wrap-up',
          'advice',
          `Wrap-up of ${seconds} s, which may not be ended early, is far longer than the goal of ${goal.seconds} s allows.`,
          { does: 'shorten-wrap-up', queueId: queue.id, seconds: goal.seconds * 2 },
        );
    }
    const circle = circleFrom(queue, byId);
    if (circle)
      add(
        'queue',
        queue,
        'circle',
        'advice',
        `Overflow goes in a circle: ${circle.map((id) => byId.get(id)?.name ?? id).join(' → ')}. A ` +
          `contact stays where it would come by a second time.`,
      );
    queue.entryRules.forEach((rule, i) => {
      if (rule.if.when === 'closed' && queue.hoursId === null)
        add(
          'queue',
          queue,
          `closed-${i}`,
          'advice',
          `Entry rule ${i + 1} asks whether the queue is closed, but it has no hours of its own.`,
          { does: 'drop-rule', queueId: queue.id, index: i },
        );
      const target = rule.then.to === 'queue' ? byId.get(rule.then.queueId) : undefined;
      const missing = target ? queue.channels.filter((c) => !target.channels.includes(c)) : [];
      if (target && missing.length > 0)
        add(
          'queue',
          queue,
          `channel-${i}`,
          'advice',
          `Entry rule ${i + 1} moves contacts to ${target.name}, which does not take ` +
            `${missing.map((c) => CHANNEL_NAMES[c].name).join(', ')}; those stay here.`,
        );
      if (world.queues.length > 0 && i > 0 && JSON.stringify(queue.entryRules[i - 1]?.if) === JSON.stringify(rule.if))
        add(
          'queue',
          queue,
          `twice-${i}`,
          'advice',
          `Entry rules ${i} and ${i + 1} ask the same, so the second never decides.`,
          { does: 'drop-rule', queueId: queue.id, index: i },
        );
    });
    if (queue.hoursId !== null && hours.has(queue.hoursId) && !opensEver(hours.get(queue.hoursId) as Hours, world.now))
      add('queue', queue, 'hours', 'stops', `Its hours, ${hours.get(queue.hoursId)?.name ?? ''}, never open.`);
  }
  for (const h of world.hours)
    if (!opensEver(h, world.now))
      add(
        'hours',
        h,
        'never',
        world.doors.some((d) => d.hoursId === h.id) ? 'stops' : 'advice',
        'These hours never open.',
      );
  for (const h of world.hours.filter((x) => world.doors.some((d) => d.hoursId === x.id)))
    for (const { date, name, note } of missedHolidays(h, world))
      add(
        'hours',
        h,
        `dated-${date}`,
        'advice',
        `On ${date} ${name} is closed${note ? ` (${note})` : ''}, and these hours open as in any week.`,
      );
  for (const g of world.groups) {
    for (const limit of zeroLimits(g.limits))
      add('group', g, `zero-${limit}`, 'stops', `It may take 0 contacts ${LIMIT_WORDS[limit]}, so it takes none.`, {
        does: 'lift-limit',
        kind: 'group',
        thingId: g.id,
        numberId: null,
        limit,
      });
    if (g.members === 0) add('group', g, 'empty', 'stops', 'Nobody belongs to it.');
    if (!world.queues.some((q) => JSON.stringify([q.clocks, q.entryRules]).includes(`"${g.id}"`)))
      add('group', g, 'unused', 'advice', 'No queue asks it.');
  }
  for (const p of world.partners) {
    for (const limit of zeroLimits(p.limits))
      add(
        'partner',
        p,
        `zero-${limit}`,
        'stops',
        `It may take 0 contacts ${LIMIT_WORDS[limit]}, so it is never dialled.`,
        { does: 'lift-limit', kind: 'partner', thingId: p.id, numberId: null, limit },
      );
    const deskHours = p.hoursId === null ? undefined : hours.get(p.hoursId);
    if (deskHours && !opensEver(deskHours, world.now))
      add('partner', p, 'never', 'stops', `Its hours, ${deskHours.name}, never open.`);
    for (const n of p.numbers)
      for (const limit of zeroLimits(n.limits))
        add(
          'partner',
          p,
          `zero-${n.id}-${limit}`,
          'stops',
          `${n.name} may take 0 contacts ${LIMIT_WORDS[limit]}, so it is never dialled.`,
          { does: 'lift-limit', kind: 'partner', thingId: p.id, numberId: n.id, limit },
        );
  }
  checkDoors(world, add);
  return found;
}
