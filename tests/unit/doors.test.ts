import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { WhenClosed } from '../../src/core/doors/doorway';
import { callbackOf } from '../../src/data/callbacks';
import { readContact } from '../../src/data/contacts';
import { row } from '../../src/data/database';
import { readDoor } from '../../src/data/doors';
import { replayAll } from '../../src/data/events';
import { pageOf } from '../../src/data/pages';
import { decisionsOf } from '../../src/data/trails';
import { visitsOf } from '../../src/data/visits';
import { STAND_IN } from '../../src/services/contacts/speaker';
import { searchHistory } from '../../src/data/history';
import type { Services } from '../../src/services';
import { callBack, end, hear, scriptOf, toLine } from '../helpers/scripts';
import { handsIn } from '../helpers/hands';
import { botsIn } from '../helpers/livebots';
import { codeOf, makeWorld, type World } from '../helpers/world';

let w: World;
let s: Services;
beforeEach(() => {
  w = makeWorld();
  s = w.services;
});
afterEach(() => w.close());
const { lead, tamsin, odile, ready, take } = handsIn(() => w);
const { live, meet } = botsIn(() => w);

const HOUR = 3_600_000;
const WORDS = { en: 'Shut: {reason}. Back {opens}.' };
function door(id: string, whenClosed: WhenClosed, closedWording: Readonly<Record<string, string>> = WORDS): void {
  const { place: _p, byHand: _h, ...rest } = readDoor(w.db, id) as NonNullable<ReturnType<typeof readDoor>>;
  s.doors.save(lead(), { ...rest, whenClosed, closedWording });
}
const seen = (id: string) => readDoor(w.db, id)?.byHand?.at ?? null;
const shut = (id: string, hours = 2, reason: Readonly<Record<string, string>> = { en: 'a line is down' }) =>
  s.doors.setByHand(lead(), { id, to: 'shut', until: w.now() + hours * HOUR, reason, seen: seen(id) });
const caller = () => meet('door_repairs', '+353209140001');

describe('a door shut by hand', () => {
  it('says why and when it opens, is seen on the strip and the Floor, and opens by itself', () => {
    door('door_repairs', { does: 'end' });
    shut('door_repairs');
    const c = caller();
    expect([c.said(), c.side().state]).toEqual([['Shut: a line is down. Back 12:20.'], 'ended']);
    expect([s.strip(lead()).byHand, s.floorView.view(lead()).byHand.map((d) => d.name)]).toEqual([1, ['Repairs line']]);
    expect(s.channel.doors().find((d) => d.id === 'door_repairs')?.open).toBe(false);
    const before = row<{ n: number }>(w.db, 'SELECT max(seq) AS n FROM events')?.n;
    w.pass(2 * 3600);
    // Whoever looks at it is told.
    expect(row<{ n: number }>(w.db, 'SELECT max(seq) AS n FROM events')?.n).toBeGreaterThan(before ?? 0);
    expect([readDoor(w.db, 'door_repairs')?.byHand, s.strip(lead()).byHand]).toEqual([null, 0]);
    expect(caller().side().state).not.toBe('ended');
  });
  it('is undone in History, follows its hours again by one press, and stands through a stop', () => {
    shut('door_repairs');
    s = w.restart();
    expect(caller().side().state).toBe('ended');
    const line = searchHistory(w.db, { kind: 'door-by-hand' }, 1)[0];
    s.history.undo(lead(), { id: line?.id });
    expect(caller().side().state).not.toBe('ended');
    shut('door_repairs');
    s.doors.setByHand(lead(), { id: 'door_repairs', to: 'hours', until: null, reason: {}, seen: seen('door_repairs') });
    expect(caller().side().state).not.toBe('ended');
    // What was set by hand is not touched by saving the door, nor the door by it.
    shut('door_repairs');
    door('door_repairs', { does: 'end' });
    expect(readDoor(w.db, 'door_repairs')?.byHand).toMatchObject({ open: false });
  });
  it('is set by whoever saw how it stands: of two at once, the second is told', () => {
    const set = (to: string, asSeen: number | null) =>
      s.doors.setByHand(lead(), {
        id: 'door_repairs',
        to,
        until: to === 'hours' ? null : w.now() + HOUR,
        reason: {},
        seen: asSeen,
      });
    set('shut', null);
    expect(codeOf(() => set('open', null))).toBe('changed-meanwhile');
    expect(codeOf(() => set('hours', null))).toBe('changed-meanwhile');
    const first = seen('door_repairs');
    w.pass(3601);
    // What was seen is over: it is no longer changed, but set anew.
    expect(codeOf(() => set('open', first))).toBe('changed-meanwhile');
    expect(readDoor(w.db, 'door_repairs')?.byHand).toBeNull();
    set('open', null);
    expect(readDoor(w.db, 'door_repairs')?.byHand).toMatchObject({ open: true });
  });
  it('open by hand, it lets in whoever comes while its hours are over', () => {
    w.at(Date.parse('2026-11-17T23:00:00Z'));
    expect(caller().side().state).toBe('ended');
    s.doors.setByHand(lead(), { id: 'door_repairs', to: 'open', until: w.now() + HOUR, reason: {}, seen: null });
    expect(caller().side().state).not.toBe('ended');
    w.pass(3600);
    expect(caller().side().state).toBe('ended');
  });
});

describe('what a closed door does', () => {
  beforeEach(() => shut('door_repairs'));
  it('offers a call back, which is promised, rung and reached', () => {
    door('door_repairs', { does: 'callback', queueId: 'queue_repairs' });
    const c = caller();
    expect(c.said().at(-1)).toMatch(/Shall we call you back on \+353 20 914 0001\?.*press 1/);
    c.press('11');
    expect(c.said().at(-1)).toBe('We will call +353 20 914 0001 as soon as possible. Goodbye.');
    s.channel.leave(c.contact, c.token);
    ready(tamsin());
    w.pass(90);
    take(tamsin());
    expect(c.side()).toMatchObject({ call: 'ringing', callNumber: '+353 20 914 0001' });
    s.channel.answer(c.contact, c.token, { answer: true }, null);
    expect(callbackOf(w.db, c.contact)).toMatchObject({ state: 'talking', queueId: 'queue_repairs' });
  });
  it('offers one and takes silence for an answer: with a goodbye, never for ever', () => {
    door('door_repairs', { does: 'callback', queueId: 'queue_repairs' });
    const c = caller();
    for (let i = 0; i < 3; i++) w.pass(60);
    expect([c.said().at(-1), c.kept()?.endedHow]).toEqual(['Thank you, goodbye.', 'closed-by-us']);
  });
  it('takes a message, which is work for the queue', () => {
    door('door_repairs', { does: 'message', queueId: 'queue_newhire' });
    const c = caller();
    expect(c.said().at(-1)).toBe('Please leave your message now.');
    c.say('the case is broken');
    expect([c.said().at(-1), c.kept()?.endedHow]).toEqual(['Thank you, we have your message. Goodbye.', null]);
    expect(visitsOf(w.db, c.contact)).toMatchObject([{ kind: 'message', queueId: 'queue_newhire', endedAt: null }]);
  });
  it('has a bot answer, by its live version', () => {
    const botId = live(
      scriptOf([callBack({ queueId: 'queue_repairs', otherwise: toLine('z') }), end('z', 'As you like.')]),
      'door_account',
    );
    door('door_repairs', { does: 'bot', botId });
    expect(caller().said()).toEqual([
      'Shut: a line is down. Back 12:20.',
      'Shall we call you back on +353 20 914 0001? For yes, press 1. For another number, press 2.',
    ]);
  });
  it('leads on to another door, and where that is shut too to what it does', () => {
    door('door_repairs', { does: 'door', doorId: 'door_schools' }, { en: 'The repairs line is shut.' });
    door('door_schools', { does: 'message', queueId: 'queue_newhire' }, { en: 'The schools line is shut too.' });
    expect(caller().said()[0]).toBe('The repairs line is shut.');
    expect(caller().side().state).not.toBe('ended');
    shut('door_schools');
    expect(caller().said()).toEqual([
      'The repairs line is shut.',
      'The schools line is shut too.',
      'Please leave your message now.',
    ]);
  });
  it('takes messages and promises calls only where a queue can do that', () => {
    expect(codeOf(() => door('door_sms', { does: 'message', queueId: 'queue_espanol' }))).toBe('not-valid');
    expect(codeOf(() => door('door_sms', { does: 'message', queueId: 'queue_newhire' }))).toBe('none');
  });
  it('says so where it has no words of its own', () => {
    door('door_repairs', { does: 'end' }, {});
    expect(caller().said()).toEqual(['We are closed just now.']);
    expect(readContact(w.db, caller().contact)?.endedHow).toBe('closed-by-us');
  });
});

describe('a call back from a bot', () => {
  it('asks for what the conversation needs, at the chosen window, on the number that was typed', () => {
    live(
      scriptOf([callBack({ queueId: 'queue_repairs', attempts: 1, otherwise: toLine('z') }), end('z', 'As you like.')]),
      'door_repairs',
    );
    const c = caller();
    c.press('2');
    c.press('0209140002#');
    c.press('1');
    const code = /(\d ?){6}/
      .exec(row<{ body: string }>(w.db, 'SELECT body FROM outside_messages ORDER BY id DESC')?.body ?? '')?.[0]
      .replaceAll(' ', '');
    c.press(`${code}#`);
    c.press('2');
    expect(c.said().at(-1)).toMatch(/We will call \+353 20 914 0002 Tuesday \d\d:00–\d\d:00\. Goodbye\./);
    const promised = callbackOf(w.db, c.contact);
    expect(promised).toMatchObject({ number: '+353209140002', state: 'planned', most: 1 });
    ready(tamsin());
    w.pass(60);
    expect(s.desk.view(tamsin(), 0).offer).toBeNull();
    w.at((promised?.fromAt ?? 0) - 1000);
    s.timers.runDue();
    w.pass(1);
    w.pass(90);
    take(tamsin());
    expect(c.side()).toMatchObject({ call: 'ringing', callNumber: '+353 20 914 0002' });
    // One attempt is all that the line allows.
    w.pass(25);
    expect(callbackOf(w.db, c.contact)).toMatchObject({ state: 'given-up', attempts: 1 });
  });
});

const saved = (id: string, change: object) => {
  const { place: _p, byHand: _h, ...rest } = readDoor(w.db, id) as NonNullable<ReturnType<typeof readDoor>>;
  s.doors.save(lead(), { ...rest, ...change });
};
const straight = (personIds: readonly string[]) => ({
  by: 'people',
  personIds,
  queueId: 'queue_newhire',
  away: { wording: {}, then: { does: 'end' } },
});

describe('who meets whoever comes to an open door', () => {
  const speaks = (name: string) => scriptOf([hear(`ask ${name}`, { type: 'text' }, 'said'), end(`bye ${name}`)]);
  const words = (botId: string, en: string[], es: string[] = []) => ({ botId, words: { en, es } });

  it('is a bot that their first words ask for, in the language of these; the door’s own for all others', () => {
    const hire = live(speaks('hire'), 'door_none');
    const rest = live(speaks('rest'), 'door_web');
    saved('door_web', {
      languages: ['en', 'es'],
      meets: { by: 'first-words', rules: [words(hire, ['hire'], ['alquiler'])] },
    });
    const asks = meet();
    expect([asks.said(), asks.side().state]).toEqual([[], 'with-bot']);
    s = w.restart();
    asks.say('Un alquiler, por favor');
    expect(asks.kept()).toMatchObject({ botId: hire, botVersion: 1, language: 'es', endedHow: 'bot' });
    expect(asks.side().messages.map((m) => [m.from, m.text])).toEqual([
      ['customer', 'Un alquiler, por favor'],
      ['bot', 'ask hire?'],
    ]);
    const other = meet('door_web', 'guest-2');
    other.say('Good morning');
    expect(other.kept()).toMatchObject({ botId: rest, language: 'en' });
    // Replaying the log gives the same.
    const before = [asks.kept(), other.kept()];
    replayAll(w.db);
    expect([asks.kept(), other.kept()]).toEqual(before);
  });
  it('is the door’s own bot for whoever writes nothing in time, and for a bot that is not published', () => {
    const rest = live(speaks('rest'), 'door_web');
    const { id } = s.bots.save(lead(), { id: null, revision: 0, name: 'Draft', draft: scriptOf([end('e', 'Bye')]) });
    saved('door_web', { meets: { by: 'first-words', rules: [words(id, ['draft'])] } });
    const quiet = meet();
    w.pass(19);
    expect(quiet.kept()?.botId).toBeNull();
    w.pass(2);
    expect(quiet.kept()?.botId).toBe(rest);
    const drafty = meet('door_web', 'guest-2');
    drafty.say('draft');
    expect([drafty.kept()?.botId, drafty.side().state]).toEqual([null, 'waiting']);
    expect(drafty.side().messages.map((m) => m.text)).toContain('draft');
    const gone = meet('door_web', 'guest-3');
    s.channel.leave(gone.contact, gone.token);
    expect(gone.kept()?.endedHow).toBe('left-bot');
  });
  it('is the first of named people on duty, whoever else is free; when none is, they hear so and leave a message', () => {
    saved('door_web', {
      meets: {
        by: 'people',
        personIds: [odile().personId, tamsin().personId],
        queueId: 'queue_newhire',
        away: { wording: { en: 'Neither of us is in.' }, then: { does: 'message', queueId: 'queue_newhire' } },
      },
    });
    const away = meet();
    expect(away.said()[0]).toBe('Neither of us is in.');
    away.say('Please ring me about my cello.');
    expect(visitsOf(w.db, away.contact)[0]?.kind).toBe('message');
    ready(tamsin());
    take(tamsin());
    const direct = meet('door_web', 'guest-2');
    expect(s.desk.view(tamsin(), 0).offer?.customer).toBe('guest-2');
    expect(decisionsOf(w.db, visitsOf(w.db, direct.contact)[0]?.id ?? '')).not.toEqual([]);
    const found = () => s.toFix.view(lead()).findings.find((f) => f.id === 'door|door_web|people')?.weight;
    expect(found()).toBeUndefined();
    const { meets } = readDoor(w.db, 'door_web') as { meets: object };
    saved('door_web', { meets: { ...meets, personIds: [lead().personId] } });
    expect(found()).toBe('stops');
  });
  it('what leads nowhere is refused in a sentence', () => {
    const meets = (m: object) => codeOf(() => saved('door_web', { meets: m }));
    const people = straight([tamsin().personId]);
    expect([
      meets({ by: 'first-words', rules: [words('bot_gone', ['x'])] }),
      meets({ by: 'first-words', rules: [words('bot_front', [' '])] }),
      meets({ ...people, personIds: ['nobody'] }),
      meets({ ...people, queueId: 'queue_gone' }),
      meets({ ...people, away: { wording: {}, then: { does: 'callback', queueId: 'queue_gone' } } }),
      codeOf(() => saved('door_repairs', { meets: { by: 'first-words', rules: [words('bot_front', ['x'])] } })),
    ]).toEqual(Array(6).fill('not-valid'));
  });
});

describe('the page that somebody writes from', () => {
  const from = (page: unknown) =>
    s.channel.start(STAND_IN, { door: 'door_web', from: `guest-${String(page)}`, page }, null);
  it('is asked about by bots and shown at the Desk, without what stands after #', () => {
    const cases = [
      { when: { in: ['/hire', { var: 'page.address' }] }, cue: toLine('hire') },
      { when: { '==': [{ var: 'page.place' }, 'Europe/Madrid'] }, cue: toLine('madrid') },
    ];
    live(
      scriptOf([
        { id: 'b', verb: 'branch', ways: cases, otherwise: toLine('other') },
        end('hire', 'You look at hires.'),
        end('madrid', 'You are in Madrid.'),
        end('other', 'Hello.'),
      ] as Parameters<typeof scriptOf>[0]),
    );
    const said = (page?: object) => {
      const begun = s.channel.start(
        STAND_IN,
        { door: 'door_web', from: JSON.stringify(page ?? 'none').slice(0, 100), ...(page ? { page } : {}) },
        null,
      );
      return [begun.messages[0]?.text, pageOf(w.db, begun.contact)?.address];
    };
    expect(said({ address: 'https://u:p@shop.example/hire?size=4#top' })).toEqual([
      'You look at hires.',
      'https://shop.example/hire?size=4',
    ]);
    expect(said({ address: 'https://shop.example/', place: 'Europe/Madrid' })[0]).toBe('You are in Madrid.');
    expect(said()).toEqual(['Hello.', undefined]);
    live(scriptOf([end('bye', 'Bye')]));
    saved('door_web', { meets: straight([tamsin().personId]) });
    ready(tamsin());
    const begun = s.channel.start(
      STAND_IN,
      { door: 'door_web', from: 'guest-9', page: { address: 'https://shop.example/', place: 'Europe/Madrid' } },
      null,
    );
    take(tamsin());
    const page = { address: 'https://shop.example/', place: 'Europe/Madrid' };
    expect(s.desk.view(tamsin(), 0).contacts[0]?.page).toEqual(page);
    expect(s.floorView.contact(lead(), begun.contact).page).toEqual(page);
  });
  it.each([
    [{ address: 'javascript:alert(1)' }],
    [{ address: 'https://' }],
    [{ address: '' }],
    [{ place: 'Madrid' }],
    ['https://shop.example'],
  ])('%j is refused', (page) => expect(codeOf(() => from(page))).toBe('not-valid'));
});
