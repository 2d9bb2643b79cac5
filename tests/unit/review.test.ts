import { rows as kept } from '../../src/data/database';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { fillHistory } from '../../demo/fill';
import { CHANNELS, type Channel } from '../../src/core/channels';
import type { LaneEvent } from '../../src/core/events';
import { readTable } from '../../src/core/formats/csv';
import { weekdayOf } from '../../src/core/hours/dates';
import { localTime } from '../../src/core/hours/weekly';
import { eventsAfter } from '../../src/data/events';
import type { Actor } from '../../src/services/ground/actor';
import { handsIn } from '../helpers/hands';
import { sized } from '../helpers/size';
import { codeOf, makeWorld, MORNING, type World } from '../helpers/world';

/**
 * Review against the log: every figure is counted again here from the events alone, by loops that know nothing of the
 * tables and measures of the product.
 */
let w: World;
let log: readonly LaneEvent[];
const lead = (): Actor => w.actor('Noor Amsel');
beforeAll(() => {
  w = makeWorld();
  const begin = MORNING - 150 * 60_000;
  w.at(begin);
  fillHistory(w.db, begin, MORNING, 11, sized({ quick: 0.4, usual: 0.4, long: 1 }), () => undefined);
  w.at(MORNING);
  // However the morning went, two have said in their own words what they want.
  for (const words of ['when are you open', 'I would like to open an account for our school'])
    handsIn(() => w).chat(`guest ${words}`, [words]);
  log = eventsAfter(w.db, 0, 1_000_000);
});
afterAll(() => w.close());

type Of<T extends LaneEvent['type']> = Extract<LaneEvent, { type: T }>;
const all = <T extends LaneEvent['type']>(type: T): Of<T>[] => log.filter((e): e is Of<T> => e.type === type);
const average = (numbers: readonly number[]) =>
  numbers.length === 0 ? null : numbers.reduce((sum, n) => sum + n, 0) / numbers.length;

/** One entry into a queue, followed through the log; calls that are promised and messages are figures of their own. */
function visits() {
  const ended = new Map(all('visit.ended').map((e) => [e.visitId, e]));
  const live = all('visit.began').filter((began) => !began.callback && !began.message);
  return live.map((began) => {
    const end = ended.get(began.visitId);
    return {
      ...began,
      how: end?.how ?? null,
      waited: end ? (end.floorAt - began.placedAt) / 1000 : null,
      stayed: end ? (end.floorAt - began.floorAt) / 1000 : null,
    };
  });
}
const rated = (of: ReturnType<typeof visits>) =>
  of.filter((v) => v.how === 'accepted' || (v.how === 'gave-up' && (v.stayed ?? 0) > 5));
const levelOf = (of: ReturnType<typeof visits>) => {
  const counted = rated(of);
  return counted.length === 0
    ? null
    : counted.filter((v) => v.how === 'accepted' && (v.waited ?? 0) <= v.goalSeconds).length / counted.length;
};
const figure = (id: string, asked: object = {}, who: Actor = lead()) =>
  w.services.review.behind(who, { ...asked, measure: id }).value;

describe('each figure is what the log says', () => {
  it('there is something to count', () => {
    expect(visits().length).toBeGreaterThan(30);
    expect(rated(visits()).some((v) => v.how === 'gave-up')).toBe(true);
  });
  it('offered, answered in goal, waits and who gave up', () => {
    expect(figure('offered')).toBe(visits().length);
    expect(figure('service-level')).toBeCloseTo(levelOf(visits()) ?? NaN, 12);
    const waits = visits()
      .flatMap((v) => (v.how === 'accepted' && v.waited !== null ? [v.waited] : []))
      .sort((a, b) => a - b);
    expect(figure('speed')).toBeCloseTo(average(waits) ?? NaN, 9);
    // Between the two order statistics at nine tenths of the way, in proportion; told within 1%.
    const place = (waits.length - 1) * 0.9;
    const [low = NaN, high = NaN] = [waits[Math.floor(place)], waits[Math.ceil(place)]];
    const exact = low + (high - low) * (place - Math.floor(place));
    expect(Math.abs((figure('speed-90') ?? Infinity) - exact)).toBeLessThanOrEqual(exact / 100);
    const counted = rated(visits());
    expect(figure('gave-up')).toBeCloseTo(counted.filter((v) => v.how === 'gave-up').length / counted.length, 12);
  });
  it('handled, and how long it took', () => {
    const ended = all('leg.ended');
    expect(figure('handled')).toBe(ended.length);
    expect(figure('handle-time')).toBeCloseTo(average(ended.map((e) => e.handleSeconds)) ?? NaN, 9);
  });
  it('handle time itself is made of calls whole and of texts gap by gap', () => {
    const channelOf = new Map(all('visit.began').map((v) => [v.visitId, v.channel]));
    for (const began of all('leg.began')) {
      const ended = all('leg.ended').find((e) => e.legId === began.legId);
      const wrapping = all('leg.wrapping').find((e) => e.legId === began.legId);
      if (!ended || !wrapping) continue;
      const wrapUp = (ended.floorAt - wrapping.floorAt) / 1000;
      let talk = (wrapping.floorAt - began.floorAt) / 1000;
      if (channelOf.get(began.visitId) !== 'voice') {
        const signs = all('message.written')
          .filter(
            (m) =>
              m.contactId === began.contactId &&
              (m.from === 'customer' || m.personId === began.personId) &&
              m.floorAt > began.floorAt &&
              m.floorAt < wrapping.floorAt,
          )
          .map((m) => m.floorAt);
        talk = 0;
        let last = began.floorAt;
        for (const at of [...signs, wrapping.floorAt]) {
          talk += Math.min(300, (at - last) / 1000);
          last = at;
        }
      }
      expect([began.legId, ended.handleSeconds]).toEqual([began.legId, expect.closeTo(talk + wrapUp, 6)]);
    }
  });
  it('what bots did alone, and where customers left them', () => {
    const started = all('contact.started');
    const ends = new Map(all('contact.ended').map((e) => [e.contactId, e.how]));
    const share = (how: string) => started.filter((c) => ends.get(c.contactId) === how).length / started.length;
    expect(figure('bot')).toBeCloseTo(share('bot'), 12);
    expect(figure('left-bot')).toBeCloseTo(share('left-bot'), 12);
  });
  it('how much was said, how long it all took, and how it was rated', () => {
    const written = all('message.written');
    const from = (who: string) => written.filter((m) => m.from === who).length;
    const line = (id: string) =>
      w.services.review.each(lead(), { kind: 'channels' }).rows.reduce((n, row) => n + (row.values[id] ?? 0), 0);
    expect(line('messages-in')).toBe(from('customer'));
    expect(line('messages-out')).toBe(from('bot') + from('person'));
    const started = new Map(all('contact.started').map((e) => [e.contactId, e.floorAt]));
    const took = all('contact.ended').map((e) => (e.floorAt - (started.get(e.contactId) ?? 0)) / 1000);
    const rows = w.services.review.each(lead(), { kind: 'channels' }).rows;
    const mean =
      rows.reduce((n, row) => n + (row.values['first-to-last'] ?? 0) * (row.counts['first-to-last'] ?? 0), 0) /
      took.length;
    expect(mean).toBeCloseTo(average(took) ?? NaN, 6);
    const given = kept<{ value: string }>(w.db, "SELECT value FROM contact_values WHERE name = 'rating'").map((v) =>
      Number(v.value),
    );
    expect(given.length).toBeGreaterThan(0);
    expect(figure('rating')).toBeCloseTo(average(given) ?? NaN, 9);
    const moods = all('contact.ended').flatMap((e) => e.mood ?? []);
    expect(moods.length).toBeGreaterThan(0);
    expect(figure('upset')).toBeCloseTo(moods.filter((mood) => mood === 'upset').length / moods.length, 9);
  });
  it('messages by the hour of the clock at which they were written, and by whom', async () => {
    const { hours, doors } = await w.services.reading('messages', lead(), {});
    const zone = 'Europe/London';
    const told = new Map<string, number>();
    for (const { from, floorAt } of all('message.written')) {
      const local = localTime(floorAt, zone);
      const key = `${weekdayOf(local.slice(0, 10))} ${Number(local.slice(11, 13))} ${from}`;
      told.set(key, (told.get(key) ?? 0) + 1);
    }
    const of = (h: (typeof hours)[number], who: string) => told.get(`${h.day} ${h.hour} ${who}`) ?? 0;
    for (const h of hours)
      expect(h).toMatchObject({
        in: of(h, 'customer'),
        out: of(h, 'bot') + of(h, 'person'),
        byPerson: of(h, 'person'),
      });
    expect(hours.reduce((n, h) => n + h.in + h.out, 0)).toBe(all('message.written').length);
    const written = (id: string) => doors.reduce((n, door) => n + (door.values[id] ?? 0), 0);
    expect(written('messages-person')).toBe(all('message.written').filter((m) => m.from === 'person').length);
  });
  it('what customers were told first of how long they would wait, and the wait that followed', () => {
    const first = new Map<string, Of<'visit.told'>>();
    for (const e of all('visit.told')) if (!first.has(e.visitId)) first.set(e.visitId, e);
    const ended = new Map(all('visit.ended').map((e) => [e.visitId, e]));
    const pairs = [...first.values()].flatMap((told) => {
      const end = ended.get(told.visitId);
      return end?.how === 'accepted' ? [[told.seconds, (end.floorAt - told.floorAt) / 1000] as const] : [];
    });
    expect(pairs.length).toBeGreaterThan(0);
    expect(figure('wait-told')).toBeCloseTo(average(pairs.map(([said]) => said)) ?? NaN, 9);
    expect(figure('wait-after-told')).toBeCloseTo(average(pairs.map(([, then]) => then)) ?? NaN, 9);
    expect(figure('told-wrong-by')).toBeCloseTo(average(pairs.map(([said, then]) => Math.abs(then - said))) ?? NaN, 9);
  });
  it('two ranges side by side are what each says for itself', async () => {
    const [today, before] = ['2026-11-17', '2026-11-16'];
    const both = await w.services.reading('review-ranges', lead(), { from: today, to: today, against: before });
    const other = await w.services.reading('review-ranges', lead(), { from: before, to: before, against: today });
    for (const f of both.figures) {
      expect([f.id, f.value]).toEqual([f.id, figure(f.id, { from: today, to: today })]);
      const there = other.figures.find((o) => o.id === f.id);
      // The range that is compared with stops at the hour of today.
      if (there && f.countBefore === there.count) expect([f.id, f.before]).toEqual([f.id, there.value]);
    }
    expect(both.figures.find((f) => f.id === 'started')).toMatchObject({ value: all('contact.started').length });
  });
  it('each person: how many, how long, first reply, in goal, passed on', () => {
    const began = new Map(all('leg.began').map((e) => [e.legId, e]));
    const visit = new Map(all('visit.began').map((e) => [e.visitId, e]));
    const passed = new Set(all('leg.wrapping').flatMap((e) => (e.passedOn ? [e.legId] : [])));
    const asked = (leg: Of<'leg.began'> | undefined) =>
      all('offer.made').find((o) => o.visitId === leg?.visitId && o.personId === leg.personId)?.floorAt;
    const people = w.services.review.view(lead(), {}).people;
    expect(people.reduce((n, p) => n + (p.values.handled ?? 0), 0)).toBe(all('leg.ended').length);
    for (const p of people) {
      const mine = all('leg.ended').filter((e) => e.personId === p.id);
      const turns = mine.map((e) => {
        const leg = began.get(e.legId);
        return { leg, from: visit.get(leg?.visitId ?? '') };
      });
      const replies = turns.flatMap(({ leg, from }) => {
        const first = all('message.written').find(
          (m) => m.contactId === leg?.contactId && m.personId === p.id && m.floorAt >= leg.floorAt,
        );
        return leg && from && from.channel !== 'voice' && first ? [(first.floorAt - leg.floorAt) / 1000] : [];
      });
      // What they could have met: they were first asked while there was time.
      const able = turns.filter(({ leg, from }) => {
        const first = asked(leg);
        return from && !from.callback && first !== undefined && first - from.placedAt <= from.goalSeconds * 1000;
      });
      const met = able.filter(({ leg, from }) => from && leg && leg.floorAt - from.placedAt <= from.goalSeconds * 1000);
      const offers = all('offer.ended').filter((o) => o.personId === p.id);
      const refused = offers.filter((o) => o.how === 'missed' || o.how === 'declined').length;
      const taken = offers.filter((o) => o.how === 'accepted').length;
      expect(p.values.handled).toBe(mine.length);
      const near = (n: number | null, digits: number) => (n === null ? null : expect.closeTo(n, digits));
      expect(p.values['handle-time']).toEqual(near(average(mine.map((e) => e.handleSeconds)), 6));
      expect(p.values.met).toEqual(able.length === 0 ? null : expect.closeTo(met.length / able.length, 12));
      const on = mine.filter((e) => passed.has(e.legId)).length;
      expect(p.values['passed-on']).toEqual(near(mine.length === 0 ? null : on / mine.length, 12));
      expect(p.values['own-reply']).toEqual(replies.length === 0 ? null : expect.closeTo(average(replies) ?? NaN, 6));
      expect(p.values.missed).toEqual(refused + taken === 0 ? null : expect.closeTo(refused / (refused + taken), 12));
    }
  });
});

describe('narrowed', () => {
  it('a queue’s and a channel’s figures are those of their own visits, and together they are all', () => {
    const queues = w.services.review.view(lead(), {}).choices.queue;
    let together = 0;
    for (const { id } of queues) {
      const mine = visits().filter((v) => v.queueId === id);
      expect(figure('offered', { queue: id })).toBe(mine.length);
      expect(figure('service-level', { queue: id })).toEqual(levelOf(mine));
      together += mine.length;
    }
    expect(together).toBe(visits().length);
    const byChannel = (channel: Channel) => figure('offered', { channel }) ?? 0;
    expect(CHANNELS.reduce((n, c) => n + byChannel(c), 0)).toBe(visits().length);
  });
  it('stage by stage a queue’s visits are all of its visits, at the stage to which their wait had come', async () => {
    const stages = new Map<string, number>();
    for (const e of all('visit.staged')) stages.set(e.visitId, (stages.get(e.visitId) ?? 0) + 1);
    for (const { id } of w.services.review.view(lead(), {}).choices.queue) {
      const mine = visits().filter((v) => v.queueId === id);
      if (mine.length === 0) continue;
      const { inside } = await w.services.reading('review-subject', lead(), { kind: 'queues', id });
      expect(inside[0]?.rows.map((row) => [row.id, row.values.offered])).toEqual(
        [...new Set(mine.map((v) => stages.get(v.visitId) ?? 0))]
          .sort((a, b) => a - b)
          .map((n) => [`${id} ${n}`, mine.filter((v) => (stages.get(v.visitId) ?? 0) === n).length]),
      );
      expect(inside[0]?.rows.reduce((n, row) => n + (row.values.answered ?? 0), 0)).toBe(
        mine.filter((v) => v.how === 'accepted').length,
      );
    }
    expect(stages.size).toBeGreaterThan(0);
    const { rows } = await w.services.reading('review-each', lead(), { kind: 'stages' });
    const one = await w.services.reading('review-subject', lead(), { kind: 'stages', id: rows[0]?.id ?? '' });
    const channels = one.splits.find((split) => split.by === 'channel')?.rows ?? [];
    expect(channels.reduce((n, row) => n + row.count, 0)).toBe(rows[0]?.values.offered);
  });
  it('what customers wanted of a bot, in their own words, is what its phrasebook understood', async () => {
    const wanted = new Map<string, Set<string>>();
    for (const e of all('bot.heard'))
      if (e.understood && e.intent) wanted.set(e.intent.id, new Set([...(wanted.get(e.intent.id) ?? []), e.contactId]));
    expect(wanted.size).toBeGreaterThan(1);
    const { rows } = await w.services.reading('review-each', lead(), { kind: 'intents' });
    expect(new Map(rows.map((row) => [row.id, row.values.started]))).toEqual(
      new Map([...wanted].map(([id, contacts]) => [id, contacts.size])),
    );
    // What such a thing was made of is all of it.
    const [most] = rows;
    const page = await w.services.reading('review-subject', lead(), { kind: 'intents', id: most?.id ?? '' });
    const channels = page.splits.find((one) => one.by === 'channel')?.rows ?? [];
    expect(channels.reduce((n, row) => n + row.count, 0)).toBe(most?.values.started);
    // On a bot's page stand those of its own contacts.
    const bots = w.services.review.view(lead(), {}).choices.bot;
    const pages = await Promise.all(
      bots.map(({ id }) => w.services.reading('review-subject', lead(), { kind: 'bots', id }).catch(() => null)),
    );
    const ofBots = pages.flatMap((page) => page?.inside.find((one) => one.kind === 'intents')?.rows ?? []);
    expect(ofBots.reduce((n, row) => n + (row.values.started ?? 0), 0)).toBe(
      [...wanted.values()].reduce((n, contacts) => n + contacts.size, 0),
    );
  });
  it('each queue’s share stands beside the share it is meant to reach', () => {
    const { perQueue } = w.services.review.view(lead(), {});
    for (const q of perQueue) {
      const mine = visits().filter((v) => v.queueId === q.id);
      expect([q.name, q.offered, q.inGoal]).toEqual([q.name, mine.length, levelOf(mine)]);
      if (q.inGoal !== null && q.wanted !== null) {
        if (q.inGoal >= q.wanted) expect(q.standing).toBe('met');
        else expect(['near', 'missed']).toContain(q.standing);
      }
    }
  });
  it('a day before anything happened has nothing, not noughts where nothing can be said', () => {
    const empty = w.services.review.view(lead(), { from: '2026-01-05', to: '2026-01-05' });
    expect(empty.figures.map((f) => [f.id, f.value])).toEqual([
      ['started', 0],
      ['handled', 0],
      ['service-level', null],
      ['speed', null],
      ['speed-90', null],
      ['gave-up', null],
      ['handle-time', null],
      ['own-reply', null],
      ['missed', null],
      ['bot', null],
      ['left-bot', null],
      ['came-back', null],
      ['rating', null],
    ]);
    expect([empty.people, empty.perQueue, empty.busy]).toEqual([[], [], []]);
  });
  it.each([
    [{ from: '2026-11-20', to: '2026-11-10' }, 'not-valid'],
    [{ from: '2020-01-01', to: '2026-11-10' }, 'not-valid'],
    [{ from: '2026-02-30' }, 'not-valid'],
    [{ queue: 'nobody' }, 'none'],
    [{ channel: 'fax' }, 'not-valid'],
  ])('asked for %j: %s', (asked, code) => {
    expect(codeOf(() => w.services.review.view(lead(), asked))).toBe(code);
  });
  it('several at once, and several keys together', () => {
    const [one, other] = [...new Set(visits().map((v) => v.queueId))];
    const both = visits().filter((v) => v.queueId === one || v.queueId === other);
    expect(figure('offered', { queue: `${one},${other}` })).toBe(both.length);
    expect(figure('service-level', { queue: `${one},${other}`, channel: 'chat,voice' })).toEqual(
      levelOf(both.filter((v) => v.channel === 'chat' || v.channel === 'voice')),
    );
    // A contact has every queue it was in: the figures of contacts are narrowed too.
    const inOne = new Set(visits().flatMap((v) => (v.queueId === one ? [v.contactId] : [])));
    expect(figure('started', { queue: one })).toBe(inOne.size);
  });
  it('a skill means the visits whose needs hold it', () => {
    const skill = visits().flatMap((v) => v.needs)[0]?.skillId ?? '';
    const mine = visits().filter((v) => v.needs.some((n) => n.skillId === skill));
    expect(mine.length).toBeGreaterThan(0);
    expect(figure('offered', { skill })).toBe(mine.length);
    expect(figure('service-level', { skill })).toEqual(levelOf(mine));
  });
  it('against any other days', () => {
    const view = w.services.review.view(lead(), { from: '2026-11-17', to: '2026-11-17', against: '2026-11-09' });
    expect(view.before).toEqual({ from: '2026-11-09', to: '2026-11-09', whole: false });
    expect(view.figures.map((f) => f.before).every((before) => before === null || before === 0)).toBe(true);
  });
  it('whoever has some teams finds the contacts of the queues these serve, in every figure, and their own people by name', () => {
    const bertil = w.actor('Bertil Achterberg');
    const view = w.services.review.view(bertil, {});
    const queues = new Set(view.choices.queue.map((q) => q.id));
    expect(view.partly).toBe(true);
    const theirs = visits().filter((v) => queues.has(v.queueId));
    const of = new Set(theirs.map((v) => v.visitId));
    expect(theirs.length).toBeLessThan(visits().length);
    expect(figure('service-level', {}, bertil)).toEqual(levelOf(theirs));
    expect(figure('started', {}, bertil)).toBe(new Set(theirs.map((v) => v.contactId)).size);
    const legs = new Map(all('leg.began').map((l) => [l.legId, l.visitId]));
    expect(figure('handled', {}, bertil)).toBe(all('leg.ended').filter((e) => of.has(legs.get(e.legId) ?? '')).length);
    const people = new Set(w.services.people.view(bertil).people.map((p) => p.id));
    for (const p of view.people) expect(people.has(p.id)).toBe(true);
    // Asking about somebody else, their team or another queue gives nothing of theirs.
    const stranger = w.services.people.view(lead()).people.find((p) => !people.has(p.id));
    expect(figure('handled', { person: stranger?.id }, bertil)).toBe(0);
    expect(figure('offered', { queue: visits().find((v) => !queues.has(v.queueId))?.queueId }, bertil) ?? 0).toBe(0);
    for (const asked of [
      { kind: 'people', id: stranger?.id },
      { kind: 'queues', id: visits().find((v) => !queues.has(v.queueId))?.queueId },
    ])
      expect(codeOf(() => w.services.review.subject(bertil, asked))).toBe('not-found');
    for (const kind of ['people', 'teams', 'queues'])
      for (const row of w.services.review.each(bertil, { kind }).rows) {
        const may = kind === 'people' ? people : kind === 'queues' ? queues : new Set(bertil.teams);
        expect(may.has(row.id)).toBe(true);
      }
  });
});

describe('pages of one thing', () => {
  const kinds = ['people', 'teams', 'queues', 'channels', 'doors', 'bots', 'languages', 'skills', 'outcomes'];
  it.each(kinds)('%s: the page of each says what its row says, and what it is made of adds up', (kind) => {
    const { rows, columns } = w.services.review.each(lead(), { kind });
    expect(rows.length).toBeGreaterThan(0);
    for (const row of rows.slice(0, 4)) {
      const view = w.services.review.subject(lead(), { kind, id: row.id });
      expect(view.name).toBe(row.name);
      for (const { id } of columns) {
        const own = view.figures.find((f) => f.id === id);
        if (own) expect([id, own.value]).toEqual([id, row.values[id] ?? null]);
      }
      for (const { rows: split } of view.splits)
        if (split.length > 0) expect(split.reduce((n, one) => n + one.share, 0)).toBeCloseTo(1, 9);
      // The figure of one thing has its own contacts behind it.
      const first = columns[0]?.id ?? '';
      const behind = w.services.review.behind(lead(), { kind, id: row.id, measure: first });
      expect([behind.of, behind.value]).toEqual([row.name, row.values[first]]);
    }
  });
  it('through the range the counts add up to the whole', () => {
    for (const asked of [{}, { from: '2026-11-17', to: '2026-11-17' }, { from: '2026-08-01', to: '2026-11-17' }]) {
      const { line, figures } = w.services.review.view(lead(), asked);
      for (const id of ['started', 'handled'])
        expect(line.points.reduce((n, p) => n + (p.values[id] ?? 0), 0)).toBe(figures.find((f) => f.id === id)?.value);
    }
  });
  it('busy hours add up to what started', () => {
    const { busy, figures } = w.services.review.view(lead(), {});
    expect(busy.reduce((n, b) => n + b.started, 0)).toBe(figures.find((f) => f.id === 'started')?.value);
  });
  it('a kind or a figure nobody knows is not there', () => {
    expect(codeOf(() => w.services.review.each(lead(), { kind: 'moods' }))).toBe('not-found');
    for (const asked of [{ kind: '__proto__', id: 'x' }, { kind: 'people', id: 'nobody' }, { kind: 'queues' }])
      expect(codeOf(() => w.services.review.subject(lead(), asked))).toBe('not-found');
  });
});

describe('what stands behind a figure', () => {
  it('is as many contacts as it says, each of them there once', () => {
    for (const { id, unit, value } of w.services.review.view(lead(), {}).figures) {
      const behind = w.services.review.behind(lead(), { measure: id });
      expect(behind).toMatchObject({ unit, value });
      expect(behind.lines.length).toBe(Math.min(50, behind.total));
      expect(new Set(behind.lines.map((l) => l.id)).size).toBe(behind.lines.length);
    }
    expect(w.services.review.behind(lead(), { measure: 'started' }).total).toBe(all('contact.started').length);
    expect(w.services.review.behind(lead(), { measure: 'offered' }).total).toBe(
      new Set(visits().map((v) => v.contactId)).size,
    );
  });
  it('a share begins with what it missed, and either side can be asked for, page by page', () => {
    const missed = rated(visits()).filter((v) => !(v.how === 'accepted' && (v.waited ?? 0) <= v.goalSeconds));
    const of = new Set(missed.map((v) => v.contactId));
    const { lines, sides } = w.services.review.behind(lead(), { measure: 'service-level' });
    expect(sides).toEqual({ with: rated(visits()).length - missed.length, without: missed.length });
    for (const line of lines.slice(0, of.size)) expect(of.has(line.id)).toBe(true);
    const found: string[] = [];
    for (let page = 0, pages = 1; page < pages; page++) {
      const view = w.services.review.behind(lead(), { measure: 'service-level', side: 'without', page: String(page) });
      found.push(...view.lines.map((l) => l.id));
      ({ pages } = view);
    }
    expect(found.sort()).toEqual([...of].sort());
  });
  it('a figure nobody knows is not there', () => {
    expect(codeOf(() => w.services.review.behind(lead(), { measure: 'luck' }))).toBe('not-found');
    expect(w.services.review.behind(lead(), { kind: 'people', id: 'nobody', measure: 'handled' }).total).toBe(0);
  });
  it('the file says what the page says', () => {
    const view = w.services.review.view(lead(), {});
    const { name, text } = w.services.review.csv(lead(), {});
    expect(name).toBe(`review-${view.from}-to-${view.to}.csv`);
    const { rows } = readTable(text);
    const round = (n: number | null | undefined) =>
      n === null || n === undefined ? '' : String(Math.round(n * 1000) / 1000);
    const shown = rows.map((r) => r.cells);
    for (const f of view.figures) expect(shown.find((cells) => cells[0] === f.id)?.[3]).toBe(round(f.value));
    const people = w.services.review.csv(lead(), { kind: 'people' });
    expect(people.name).toBe(`review-people-${view.from}-to-${view.to}.csv`);
    const each = readTable(people.text).rows.map((r) => r.cells);
    expect(each.map((cells) => [cells[1], cells[2]])).toEqual(
      view.people.map((p) => [p.name, round(p.values.handled)]),
    );
    const [one, two] = view.people;
    const cellsOf = (asked: object) =>
      readTable(w.services.review.csv(lead(), { kind: 'people', id: one?.id, ...asked }).text).rows.map((r) => r.cells);
    const figures = cellsOf({}).filter((cells) => cells[0] === 'figure');
    expect(figures[0]?.slice(1, 4)).toEqual(['Handled', 'count', round(one?.values.handled)]);
    const queues = cellsOf({}).filter((cells) => cells[0] === 'by queue');
    expect(queues.reduce((n, cells) => n + Number(cells[3]), 0)).toBe(one?.values.handled);
    // Reasons sum to the difference, in the file as on the page.
    const beside = cellsOf({ with: two?.id });
    const reasons = beside.filter((cells) => cells[0] === 'why they differ' && cells[2] === 'contacts');
    const sum = (at: number) => reasons.reduce((n, cells) => n + Number(cells[at]), 0);
    expect([sum(3), sum(4)]).toEqual([one?.values.handled, two?.values.handled]);
  });
});

describe('views that are kept', () => {
  const keep = (who: Actor, more: object = {}) =>
    w.services.review.keepView(who, {
      name: 'Chats',
      forAll: false,
      path: '/review/queues',
      asked: 'channel=chat',
      ...more,
    });
  const kept = (who: Actor) => w.services.review.view(who, {}).kept;
  const bertil = () => w.actor('Bertil Achterberg');
  it('are found by name by whoever kept them, and lead to as many days up to today', () => {
    const { id } = keep(lead());
    expect(kept(lead())).toEqual([
      {
        id,
        name: 'Chats',
        href: '/review/queues?from=2026-11-11&to=2026-11-17&channel=chat',
        mine: true,
        forAll: false,
        owner: null,
        first: false,
      },
    ]);
    expect(kept(bertil())).toEqual([]);
    // By the same name it is kept anew; other days stay as they are.
    expect(keep(lead(), { asked: 'from=2026-11-02&to=2026-11-03&channel=sms,voice' }).id).toBe(id);
    expect(kept(lead()).map((k) => k.href)).toEqual([
      '/review/queues?from=2026-11-02&to=2026-11-03&channel=sms%2Cvoice',
    ]);
  });
  it('kept for all are found by all, forgotten by their owner alone, and show what each may see', () => {
    const { id } = keep(lead(), { name: 'For all', forAll: true, path: '/review' });
    const found = kept(bertil()).find((k) => k.id === id);
    expect(found).toMatchObject({ mine: false, forAll: true });
    expect(codeOf(() => w.services.review.dropView(bertil(), { id }))).toBe('not-found');
    w.services.review.dropView(lead(), { id });
    expect(kept(bertil())).toEqual([]);
    expect(codeOf(() => w.services.review.dropView(lead(), { id }))).toBe('not-found');
  });
  it.each([
    { path: '/people' },
    { path: '/review/../people' },
    { path: 'https://elsewhere/review' },
    { asked: 'from=never' },
    { asked: 'colour=red' },
    { name: ' ' },
  ])('%j is not kept', (more) => {
    expect(codeOf(() => keep(lead(), more))).toBe('not-valid');
  });
});
