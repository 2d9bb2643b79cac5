import { afterEach, describe, expect, it } from 'vitest';
import type { Meaning } from '../../src/core/bots/program';
import { run, rows } from '../../src/data/database';
import { learntOf, NOT_LEARNT, readPhrasebook } from '../../src/data/phrasebook';
import type { Hearing } from '../../src/services/bots/understanding';
import { STAND_IN } from '../../src/services/contacts/speaker';
import { makeWorld, type World } from '../helpers/world';

/** Understanding takes a thread of its own: what if that is late, broken, or gone with the server? */
let w: World;
afterEach(() => w.close());
const NONE: Meaning = { ranked: [], verdict: 'none' };
const repair: Meaning = { ranked: [{ intentId: 'report_damage', confidence: 0.9 }], verdict: 'act' };
function chat(hearing: Hearing) {
  w = makeWorld({ hearing });
  const begun = w.services.channel.start(STAND_IN, { door: 'door_web', from: 'g1', name: 'Wren' }, null);
  const said = () => w.services.channel.read(begun.contact, begun.token, 0).messages.map((m) => m.text);
  const say = (text: string) => w.services.channel.say(begun.contact, begun.token, { text }, null);
  return { said, say };
}
const never = new Promise<Meaning>(() => undefined);

describe('what words mean', () => {
  it('comes when it does; what is said meanwhile is kept, and heard after it', async () => {
    let tell: (meaning: Meaning) => void = () => undefined;
    const c = chat({ now: () => null, ask: () => new Promise((resolve) => (tell = resolve)) });
    c.say('something gave way on it');
    const before = c.said().length;
    c.say('204816');
    expect(c.said()).toHaveLength(before + 1);
    tell(repair);
    await expect.poll(() => c.said().some((t) => /Sorry to hear that/.test(t))).toBe(true);
    // The number was heard as the answer to what it then asked.
    await expect.poll(() => c.said().some((t) => /happened/i.test(t))).toBe(true);
  });
  it('is decided by words and pieces alone after two seconds, and a late answer changes nothing', async () => {
    const asked: boolean[] = [];
    const c = chat({
      now: () => null,
      ask: (_heard, quick = false) => {
        asked.push(quick);
        return quick ? Promise.resolve(repair) : never;
      },
    });
    c.say('something gave way on it');
    await expect.poll(() => c.said().some((t) => /Sorry to hear that/.test(t)), { timeout: 20_000 }).toBe(true);
    expect(asked).toEqual([false, true]);
  });
  it('that nobody can tell is not understood, and said where it broke; the next words are asked again', async () => {
    const c = chat({ now: () => null, ask: () => Promise.reject(new Error('the thread is gone')) });
    for (const times of [1, 2]) {
      c.say('something gave way on it');
      await expect.poll(() => c.said().filter((t) => /Sorry/.test(t)).length).toBe(times);
    }
    expect(w.faults.splice(0).length).toBe(4);
  });
  it('is asked again after a stop', async () => {
    const c = chat({ now: () => null, ask: () => never });
    c.say('something gave way on it');
    const s = w.restart({ hearing: { now: () => null, ask: () => Promise.resolve(repair) } });
    s.resumeHearing();
    await expect.poll(() => c.said().some((t) => /Sorry to hear that/.test(t))).toBe(true);
  });
});

describe('a phrasebook that is not learnt', () => {
  it('understands nothing, and is learnt at the next start, as one of an earlier version of the product is', async () => {
    w = makeWorld();
    const version = readPhrasebook(w.db)?.version ?? 0;
    const before = learntOf(w.db, version);
    for (const kept of [NOT_LEARNT, '{"features":["w a"],"weights":""}']) {
      run(w.db, 'UPDATE phrasebook_versions SET learnt = ? WHERE version = ?', kept, version);
      const s = w.restart();
      const noor = w.actor('Noor Amsel');
      expect(await s.phrasebook.rank(noor, { text: 'a snapped string', language: 'en' })).toMatchObject(NONE);
      expect(await s.reading('phrasebook-quality', noor, {})).toMatchObject({ quality: null });
      s.learner.anew();
      await expect.poll(() => learntOf(w.db, version)?.length ?? 0, { timeout: 120_000 }).toBe(before?.length);
    }
    expect(rows(w.db, 'SELECT version FROM phrasebook_versions')).toHaveLength(1);
  });
});
