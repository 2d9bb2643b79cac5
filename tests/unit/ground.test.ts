import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { hash32, seeded } from '../../src/core/chance';
import { describeError, ERRORS, LaneError } from '../../src/core/errors';
import type { LaneEvent } from '../../src/core/events';
import { seededIds } from '../../src/core/ids';
import { localised, missingLanguages } from '../../src/core/localised';
import { mean } from '../../src/core/measures/quantile';
import { floorNow, realUntil } from '../../src/data/floortime';
import { clearTimer, dueTimers, nextTimer, setTimer } from '../../src/data/timers';
import { openNow } from '../../src/services/doors/opennow';
import { eventsAfterLimited, noticesFor, noticesForContact } from '../../src/services/floor/stream';
import { asClock, asFigure, asShare, initials } from '../../src/ui/kit/figures';
import { lightsOn } from '../../src/ui/lane/lights';
import { makeWorld, type World } from '../helpers/world';
import { STAND_IN } from '../../src/services/contacts/speaker';

describe('wording', () => {
  it('falls back from a region to its language, then along the chain, then to what there is', () => {
    const wording = { en: 'Hello', es: 'Hola', fr: '' };
    expect(localised(wording, 'es-MX')).toBe('Hola');
    expect(localised(wording, 'fr', ['es'])).toBe('Hola');
    expect(localised(wording, 'pl')).toBe('Hello');
    expect(localised({}, 'en')).toBe('');
    expect(missingLanguages({ ...wording, de: '  ' }, ['en', 'fr', 'de'])).toEqual(['fr', 'de']);
  });
});

describe('errors', () => {
  it('known ones keep their code, status and places', () => {
    const { status, body } = describeError(
      new LaneError('not-valid', 'The name is missing.', [{ where: 'name', what: 'is missing' }]),
    );
    expect(status).toBe(422);
    expect(body.error).toEqual({
      code: 'not-valid',
      message: 'The name is missing.',
      mend: ERRORS['not-valid'].mend,
      faults: [{ where: 'name', what: 'is missing' }],
    });
  });
  it('are told apart by code, since each bundle has its own class', () => {
    expect(describeError(Object.assign(new Error('Gone.'), { code: 'not-found' })).status).toBe(404);
  });
  it.each([new Error('SELECT * FROM secrets'), 'text', null, Object.assign(new Error('x'), { code: 'ENOENT' })])(
    'unknown ones show nothing of the inside',
    (thrown) => {
      expect(describeError(thrown)).toEqual({
        status: 500,
        body: {
          error: {
            code: 'broken-inside',
            message: 'Something went wrong here.',
            mend: ERRORS['broken-inside'].mend,
            faults: [],
          },
        },
      });
    },
  );
});

describe('chance', () => {
  it('is the same for the same seed, and ids do not clash', () => {
    const draw = (seed: number) => Array.from({ length: 5 }, seeded(seed).next);
    expect(draw(3)).toEqual(draw(3));
    expect(draw(3)).not.toEqual(draw(4));
    const ids = seededIds(seeded(1));
    expect(new Set(Array.from({ length: 20_000 }, () => ids('x'))).size).toBe(20_000);
    expect(hash32('a|b')).not.toBe(hash32('b|a'));
  });
  it('has the means it says (within 4 standard errors of 20,000 draws)', () => {
    const chance = seeded(9);
    const n = 20_000;
    const exponential = mean(Array.from({ length: n }, () => chance.exponential(60))) ?? 0;
    expect(Math.abs(exponential - 60)).toBeLessThan((4 * 60) / Math.sqrt(n));
    const lognormal = mean(Array.from({ length: n }, () => chance.lognormal(300, 0.5))) ?? 0;
    expect(Math.abs(lognormal - 300)).toBeLessThan((4 * 150) / Math.sqrt(n));
  });
});

describe('figures as they are written', () => {
  it.each([
    [0, '0:00'],
    [59.6, '1:00'],
    [605, '10:05'],
    [3661, '1:01:01'],
    [null, '–'],
  ])('%s seconds is %s', (seconds, words) => expect(asClock(seconds)).toBe(words));
  it('shares, counts and names', () => {
    expect([
      asShare(0.5),
      asShare(null),
      asFigure(0.049, 'share'),
      asFigure(0.84, 'share'),
      asFigure(12345, 'count'),
      asFigure(61, 'seconds'),
    ]).toEqual(['50%', '–', '4.9%', '84%', '12,345', '1:01']);
    expect(initials('Odile van Karrow')).toBe('OV');
  });
  it('the Floor is dark and all else light, unless somebody chose', () => {
    expect([
      lightsOn('/floor', null),
      lightsOn('/people', null),
      lightsOn('/floor', 'up'),
      lightsOn('/people', 'down'),
    ]).toEqual(['down', 'up', 'up', 'down']);
  });
});

describe('the floor’s clock', () => {
  const clock = { realAt: 1000, floorAt: 50_000, rate: 10 };
  it('runs at its rate, and knows how long until an instant', () => {
    expect(floorNow(clock, 1500)).toBe(55_000);
    expect(realUntil(clock, 60_000, 1500)).toBe(500);
  });
});

describe('over a workspace', () => {
  let w: World;
  beforeEach(() => {
    w = makeWorld();
  });
  afterEach(() => w.close());

  it('timers come in the order they are due, one per kind and thing', () => {
    setTimer(w.db, 'visit-due', 'a', 'floor', 300);
    setTimer(w.db, 'offer-expires', 'b', 'real', 200);
    setTimer(w.db, 'visit-due', 'c', 'floor', 100);
    setTimer(w.db, 'visit-due', 'a', 'floor', 150);
    expect(dueTimers(w.db, 200, 200).map((t) => t.thingId)).toEqual(['c', 'a', 'b']);
    expect(dueTimers(w.db, 0, 120).map((t) => t.thingId)).toEqual(['c']);
    clearTimer(w.db, 'visit-due', 'c');
    expect([nextTimer(w.db, 'floor'), nextTimer(w.db, 'real')]).toEqual([150, 200]);
  });

  it('kept answers about hours change when the hours do, by time or by hand', () => {
    const { host, doors } = w.services;
    expect(openNow(host, 'hours_day').open).toBe(true);
    w.at(Date.parse('2026-11-17T18:00:00Z'));
    expect(openNow(host, 'hours_day')).toEqual({ open: false, opensAt: Date.parse('2026-11-18T08:00:00Z') });
    const hours = doors.view(w.actor('Noor Amsel')).hours.find((h) => h.id === 'hours_day');
    w.services.hours.save(w.actor('Noor Amsel'), {
      id: hours?.id,
      revision: hours?.revision,
      name: hours?.name,
      zone: hours?.zone,
      weekly: [{ day: 2, from: '17:00', to: '23:00' }],
      exceptions: [],
    });
    expect(openNow(host, 'hours_day').open).toBe(true);
  });

  it('work inside work is one change: it is told once, after it is kept, and undone as a whole', () => {
    const { host } = w.services;
    const told: number[] = [];
    host.listen((events) => told.push(events.length));
    const note = () => host.transact((tx) => void tx.emit({ type: 'person.reach', personId: 'p', reachable: true }));
    host.transact(() => {
      note();
      note();
      expect(told).toEqual([]);
    });
    expect(told).toEqual([2]);
    expect(() =>
      host.transact(() => {
        note();
        throw new Error('no');
      }),
    ).toThrow('no');
    expect(told).toEqual([2]);
    expect(eventsAfterLimited(host, 0, 100).missed).toHaveLength(2);
  });

  it('a reader gets what it missed, or is told to begin anew', () => {
    const { host } = w.services;
    for (let i = 0; i < 5; i++)
      host.transact((tx) => tx.emit({ type: 'person.reach', personId: 'p', reachable: true }));
    expect(eventsAfterLimited(host, 2, 100).missed?.map((e) => e.seq)).toEqual([3, 4, 5]);
    expect(eventsAfterLimited(host, null, 100)).toEqual({ newest: 5, missed: [] });
    for (const odd of [-1, 1.5, 6, Number.NaN]) expect(eventsAfterLimited(host, odd, 100).missed).toBeNull();
    expect(eventsAfterLimited(host, 0, 4).missed).toBeNull();
  });

  it('an agent hears of themselves and their contacts, a lead of all, a customer of their own contact', () => {
    const about = (body: Partial<LaneEvent>) =>
      ({
        type: 'message.written',
        contactId: 'c1',
        from: 'bot',
        personId: null,
        lineId: null,
        seq: 1,
        v: 1,
        floorAt: 0,
        realAt: 0,
        ...body,
      }) as LaneEvent;
    const tamsin = w.actor('Tamsin Orrel');
    const agent = noticesFor(w.services, tamsin);
    expect(agent(about({}))).toBeNull();
    expect(agent(about({ personId: tamsin.personId } as Partial<LaneEvent>))).not.toBeNull();
    expect(noticesFor(w.services, w.actor('Noor Amsel'))(about({}))).toEqual({
      seq: 1,
      type: 'message.written',
      contactId: 'c1',
      personId: null,
    });
    expect(noticesForContact('c1')(about({}))).toEqual({ seq: 1, type: 'message.written' });
    expect(noticesForContact('c2')(about({}))).toBeNull();
    w.services.desk.act(tamsin, { act: 'duty', duty: 'ready' }, null);
    const { contact, token } = w.services.channel.start(STAND_IN, { door: 'door_web', from: 'guest-9' }, null);
    for (const text of ['a new hire', 'trumpet']) w.services.channel.say(contact, token, { text }, null);
    expect(agent(about({ contactId: contact } as Partial<LaneEvent>))).not.toBeNull();
  });
});
