import { describe, expect, it } from 'vitest';
import { advance } from './advance';
import type { Act, RouterEvent } from './acts';
import type { PartnerFacts } from './floor';
import { NO_LIMITS } from './limits';
import { decide } from './pass';
import { queueFrom } from './queue';
import { createRouter } from './router';

const NINE = Date.UTC(2026, 10, 23, 9);
const number = (id: string) => ({
  id,
  address: id,
  zone: 'UTC',
  hours: null,
  limits: NO_LIMITS,
  perQueue: new Map<string, { rank: number; weight: number }>(),
});
const desk = (id: string, change: Partial<PartnerFacts> = {}): PartnerFacts => ({
  id,
  zone: 'UTC',
  hours: null,
  limits: NO_LIMITS,
  way: 'one-by-one',
  ringSeconds: 20,
  countsFromSeconds: 10,
  numbers: [number(`${id}1`), number(`${id}2`)],
  ...change,
});

/** A floor with nobody on it and one queue whose calls are rung at desks from the start. */
function outside(...desks: PartnerFacts[]) {
  let ids = 0;
  const router = createRouter({ newId: (prefix) => `${prefix}${++ids}`, zone: 'UTC', trails: false, decide });
  let now = NINE;
  const rung: { callId: string; numberId: string; contact: string }[] = [];
  const onward: string[] = [];
  const timers = new Map<string, RouterEvent & { type: 'due' }>();
  const dues = new Map<string, number>();
  const happen = (event: RouterEvent): readonly Act[] => {
    const acts = advance(router, now, event);
    for (const act of acts) {
      if (act.do === 'dial') rung.push({ callId: act.callId, numberId: act.numberId, contact: act.visit.contactId });
      if (act.do === 'ended' && act.onward) onward.push(`${act.visit.contactId} ${act.onward.to}`);
      if (act.do === 'timer') {
        const key = `${act.timer.kind} ${act.timer.id}`;
        timers.set(key, { type: 'due', timer: act.timer });
        if (act.at === null) dues.delete(key);
        else dues.set(key, act.at);
      }
    }
    return acts;
  };
  const acts = desks.map((d) => ({ does: 'add-partner' as const, partnerId: d.id }));
  const settings = queueFrom({
    id: 'q',
    name: 'Q',
    channels: ['voice'],
    clocks: { voice: [{ atSeconds: 0, early: false, acts }] },
  });
  happen({ type: 'queues', queues: [{ settings, version: 1, hours: null }] });
  happen({ type: 'partners', partners: desks });
  return {
    router,
    rung,
    happen,
    desk: (id: string) => router.floor.partners.get(id),
    numbers: () => rung.map((r) => r.numberId),
    call: (contactId: string) =>
      happen({
        type: 'enter',
        visit: {
          ...{ id: `v ${contactId}`, contactId, queueId: 'q', channel: 'voice', placedAt: now, handOver: [] },
          ...{ priority: 0, familiarId: null, kind: 'live', because: '', passed: [] },
        },
      }),
    comes: (how: 'answered' | 'no-answer', place = rung.length - 1) =>
      happen({ type: 'dial-ended', callId: rung[place]?.callId ?? '', how }),
    hangsUp: (place = rung.length - 1) => happen({ type: 'partner-done', callId: rung[place]?.callId ?? '' }),
    pass: (seconds: number) => {
      now += seconds * 1000;
      for (const [key, at] of [...dues])
        if (at <= now) {
          dues.delete(key);
          const due = timers.get(key);
          if (due) happen(due);
        }
    },
  };
}

describe('a partner desk as a whole', () => {
  it('counts a contact once, however many of its numbers ring at once', () => {
    const floor = outside(desk('a', { way: 'all-at-once', limits: { ...NO_LIMITS, atOnce: 1 } }));
    floor.call('first');
    expect(floor.numbers()).toEqual(['a1', 'a2']);
    expect(floor.desk('a')).toMatchObject({ uses: { open: 1 }, reached: ['atOnce'] });
    floor.comes('answered', 0);
    expect(floor.desk('a')?.uses.open).toBe(1);
    floor.pass(60);
    floor.hangsUp(0);
    expect(floor.desk('a')?.uses).toMatchObject({ open: 0, day: { count: 1 } });
  });
  it('is not rung beyond its own limit though its numbers have room, and is again once a call is over', () => {
    const floor = outside(desk('a', { limits: { ...NO_LIMITS, atOnce: 1 } }));
    floor.call('first');
    floor.comes('answered');
    floor.call('second');
    expect(floor.numbers()).toEqual(['a1']);
    floor.pass(60);
    floor.hangsUp();
    expect(floor.rung.map((r) => r.contact)).toEqual(['first', 'second']);
  });
  it('gives back what it reserved when nobody answers, once for all numbers', () => {
    const floor = outside(desk('a', { way: 'all-at-once', limits: { ...NO_LIMITS, perDay: 1 } }));
    floor.call('first');
    floor.comes('no-answer', 0);
    expect(floor.desk('a')?.uses.day.count).toBe(1);
    floor.comes('no-answer', 1);
    expect(floor.desk('a')).toMatchObject({ uses: { open: 0, day: { count: 0 } }, reached: [] });
  });
  it('does not count a call shorter than its seconds', () => {
    const floor = outside(desk('a', { limits: { ...NO_LIMITS, perDay: 1 } }));
    floor.call('first');
    floor.comes('answered');
    floor.pass(5);
    floor.hangsUp();
    expect(floor.desk('a')?.reached).toEqual([]);
  });
  it('that is full or closed leaves the call to the next desk; opening rings it', () => {
    const shut = outside(desk('a', { hours: { zone: 'UTC', weekly: [], exceptions: [] } }), desk('b'));
    shut.call('first');
    expect(shut.numbers()).toEqual(['b1']);
    const early = outside(desk('a', { hours: { zone: 'UTC', weekly: [{ day: 1, from: '10:00', to: '11:00' }] } }));
    early.call('first');
    expect(early.numbers()).toEqual([]);
    early.pass(3600);
    expect(early.numbers()).toEqual(['a1']);
  });
});
