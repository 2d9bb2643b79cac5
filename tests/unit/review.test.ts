import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { fillHistory } from '../../demo/fill';
import { CHANNELS, type Channel } from '../../src/core/channels';
import type { LaneEvent } from '../../src/core/events';
import { readTable } from '../../src/core/formats/csv';
import { eventsAfter } from '../../src/data/events';
import type { Actor } from '../../src/services/ground/actor';
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
  fillHistory(w.db, begin, MORNING, 11, sized({ quick: 0.2, usual: 0.4, long: 1 }), () => undefined);
  w.at(MORNING);
  log = eventsAfter(w.db, 0, 1_000_000);
});
afterAll(() => w.close());

type Of<T extends LaneEvent['type']> = Extract<LaneEvent, { type: T }>;
const all = <T extends LaneEvent['type']>(type: T): Of<T>[] => log.filter((e): e is Of<T> => e.type === type);
const average = (numbers: readonly number[]) =>
  numbers.length === 0 ? null : numbers.reduce((sum, n) => sum + n, 0) / numbers.length;

/** One entry into a queue, followed through the log. */
function visits() {
  const ended = new Map(all('visit.ended').map((e) => [e.visitId, e]));
  return all('visit.began').map((began) => {
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
  w.services.review.view(who, asked).figures.find((f) => f.id === id)?.value ?? null;

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
    // Between the two order statistics at nine tenths of the way, in proportion.
    const place = (waits.length - 1) * 0.9;
    const [low = NaN, high = NaN] = [waits[Math.floor(place)], waits[Math.ceil(place)]];
    expect(figure('speed-90')).toBeCloseTo(low + (high - low) * (place - Math.floor(place)), 9);
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
  it('each person: how many, how long, first reply, in goal, passed on', () => {
    const began = new Map(all('leg.began').map((e) => [e.legId, e]));
    const visit = new Map(all('visit.began').map((e) => [e.visitId, e]));
    const passed = new Set(all('leg.wrapping').flatMap((e) => (e.passedOn ? [e.legId] : [])));
    const people = w.services.review.view(lead(), {}).people;
    expect(people.reduce((n, p) => n + p.handled, 0)).toBe(all('leg.ended').length);
    for (const p of people) {
      const mine = all('leg.ended').filter((e) => e.personId === p.personId);
      const waited = mine.map((e) => {
        const leg = began.get(e.legId);
        const from = visit.get(leg?.visitId ?? '');
        return { leg, from, seconds: ((leg?.floorAt ?? NaN) - (from?.placedAt ?? NaN)) / 1000 };
      });
      const replies = waited.flatMap(({ leg, from }) => {
        const first = all('message.written').find(
          (m) => m.contactId === leg?.contactId && m.personId === p.personId && m.floorAt >= leg.floorAt,
        );
        return from && from.channel !== 'voice' && first ? [(first.floorAt - from.placedAt) / 1000] : [];
      });
      expect(p.handled).toBe(mine.length);
      expect(p.handleSeconds).toBeCloseTo(average(mine.map((e) => e.handleSeconds)) ?? NaN, 9);
      expect(p.inGoal).toBeCloseTo(
        waited.filter((x) => x.seconds <= (x.from?.goalSeconds ?? -1)).length / waited.length,
        12,
      );
      expect(p.passedOn).toBe(mine.filter((e) => passed.has(e.legId)).length);
      if (replies.length > 0) expect(p.firstReplySeconds).toBeCloseTo(average(replies) ?? NaN, 9);
    }
  });
});

describe('narrowed', () => {
  it('a queue’s and a channel’s figures are those of their own visits, and together they are all', () => {
    const { queues } = w.services.review.view(lead(), {});
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
      ['offered', 0],
      ['handled', 0],
      ['service-level', null],
      ['speed', null],
      ['speed-90', null],
      ['handle-time', null],
      ['gave-up', null],
      ['bot', null],
      ['left-bot', null],
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
  it('a supervisor’s figures are of their own people only', () => {
    const bertil = w.actor('Bertil Achterberg');
    const theirs = new Set(w.services.people.view(bertil).people.map((p) => p.id));
    expect(figure('handled', {}, bertil)).toBe(all('leg.ended').filter((e) => theirs.has(e.personId)).length);
    for (const p of w.services.review.view(bertil, {}).people) expect(theirs.has(p.personId)).toBe(true);
  });
});

describe('what stands behind a figure', () => {
  it('is as many contacts as it says, each of them there once', () => {
    for (const { id, unit, value } of w.services.review.view(lead(), {}).figures) {
      const behind = w.services.review.behind(lead(), { measure: id });
      expect(behind).toMatchObject({ unit, value });
      expect(behind.lines.length).toBe(Math.min(200, behind.total));
      expect(new Set(behind.lines.map((l) => l.id)).size).toBe(behind.lines.length);
    }
    expect(w.services.review.behind(lead(), { measure: 'offered' }).total).toBe(
      new Set(visits().map((v) => v.contactId)).size,
    );
  });
  it('a share begins with those that count for it', () => {
    const good = new Set(
      visits()
        .filter((v) => v.how === 'accepted' && (v.waited ?? 0) <= v.goalSeconds)
        .map((v) => v.contactId),
    );
    const { lines } = w.services.review.behind(lead(), { measure: 'service-level' });
    const before = lines.slice(0, Math.min(good.size, lines.length));
    for (const line of before) expect(good.has(line.id)).toBe(true);
  });
  it('a figure nobody knows is not there', () => {
    expect(codeOf(() => w.services.review.behind(lead(), { measure: 'luck' }))).toBe('not-found');
    expect(codeOf(() => w.services.review.behind(lead(), { person: 'nobody' }))).toBe('not-found');
  });
  it('the file says what the page says', () => {
    const view = w.services.review.view(lead(), {});
    const { name, text } = w.services.review.csv(lead(), {});
    expect(name).toBe(`review-${view.from}-to-${view.to}.csv`);
    const { rows } = readTable(text);
    const round = (n: number | null) => (n === null ? '' : String(Math.round(n * 1000) / 1000));
    expect(rows.filter((r) => r.cells[0] === 'figure').map((r) => [r.cells[1], r.cells[3]])).toEqual(
      view.figures.map((f) => [f.name, round(f.value)]),
    );
    expect(rows.filter((r) => r.cells[0] === 'person').map((r) => [r.cells[1], r.cells[3], r.cells[7]])).toEqual(
      view.people.map((p) => [p.name, String(p.handled), String(p.passedOn)]),
    );
  });
});
