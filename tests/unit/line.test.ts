import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { replayAll } from '../../src/data/events';
import { readLeg } from '../../src/data/legs';
import type { ContactView } from '../../src/services/floor/contactview';
import { handsIn } from '../helpers/hands';
import { botsIn } from '../helpers/livebots';
import { over, scriptOf } from '../helpers/scripts';
import { codeIn, makeWorld, type World } from '../helpers/world';

/** A call on hold, or with its person muted, as the customer's telephone, the Desk and the log have it. */
let w: World;
beforeEach(() => {
  w = makeWorld();
});
afterEach(() => w.close());
const { lead, tamsin, odile, ready, take } = handsIn(() => w);
const { live, meet } = botsIn(() => w);
const act = (body: object, who = tamsin()) => w.services.desk.act(who, body, null);
function call() {
  live(scriptOf([over('o', 'queue_newhire')]), 'door_main');
  ready(tamsin());
  const caller = meet('door_main', '+353209130001');
  const legId = take(tamsin());
  const atDesk = () => w.services.desk.view(tamsin(), 0).contacts.find((c) => c.legId === legId);
  return { ...caller, legId, atDesk };
}

describe('a call', () => {
  it('is held: music plays, neither hears the other, and how long it was is known', async () => {
    const { legId, side, say, atDesk, contact } = call();
    expect(side()).toMatchObject({ held: false, music: null });
    act({ act: 'line', legId, line: 'held' });
    const held = side();
    expect(held.held).toBe(true);
    expect(held.music).not.toBeNull();
    expect(atDesk()).toMatchObject({ line: 'held', lineSince: w.now() });
    expect(await codeIn(() => say('hello?'))).toBe('not-now');
    expect(await codeIn(() => act({ act: 'say', legId, text: 'hello?' }))).toBe('not-now');
    w.pass(40);
    act({ act: 'line', legId, line: 'open' });
    expect(side()).toMatchObject({ held: false, music: null });
    say('there you are');
    w.pass(20);
    act({ act: 'line', legId, line: 'held' });
    w.pass(5);
    // What is held when it ends was held until then.
    act({ act: 'end', legId });
    expect((w.services.read('contact', lead(), { id: contact }) as ContactView).legs[0]?.heldSeconds).toBe(45);
    const before = readLeg(w.db, legId);
    expect(before).toMatchObject({ line: 'open', heldMs: 45_000 });
    replayAll(w.db);
    expect(readLeg(w.db, legId)).toEqual(before);
  });
  it('is muted: the customer is heard and does not hear', async () => {
    const { legId, side, say, atDesk } = call();
    act({ act: 'line', legId, line: 'muted' });
    expect(side()).toMatchObject({ held: false, music: null });
    say('are you there?');
    expect(atDesk()?.lastFrom).toBe('customer');
    expect(await codeIn(() => act({ act: 'say', legId, text: 'yes' }))).toBe('not-now');
    act({ act: 'line', legId, line: 'open' });
    act({ act: 'say', legId, text: 'yes' });
    expect(side().messages.at(-1)?.text).toBe('yes');
  });
  it('is held by whoever has it, while somebody is on it', async () => {
    const { legId, contact, token } = call();
    expect(await codeIn(() => act({ act: 'line', legId, line: 'held' }, odile()))).toBe('not-found');
    expect(await codeIn(() => act({ act: 'line', legId, line: 'upside down' }))).toBe('not-valid');
    act({ act: 'line', legId, line: 'held' });
    w.services.channel.leave(contact, token);
    expect(await codeIn(() => act({ act: 'line', legId, line: 'open' }))).toBe('not-now');
    expect(readLeg(w.db, legId)?.line).toBe('open');
  });
  it('goes on held after a stop', () => {
    const { legId, side } = call();
    act({ act: 'line', legId, line: 'held' });
    w.restart();
    expect(side().held).toBe(true);
    expect(readLeg(w.db, legId)?.line).toBe('held');
  });
});
