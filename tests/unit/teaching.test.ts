import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { heavyHere } from '../../src/core/heavy';
import { BOT_TESTS } from '../../src/data/bots';
import { UNDERSTANDING } from '../../src/data/meaning';
import { takenFromAlone } from '../../src/data/takenfrom';
import { eventsAfter } from '../../src/data/events';
import type { Services } from '../../src/services';
import { createLearner } from '../../src/services/bots/learner';
import { readingHost } from '../../src/services/ground/host';
import { handsIn } from '../helpers/hands';
import { botsIn } from '../helpers/livebots';
import { end, hear, over, scriptOf } from '../helpers/scripts';
import { codeIn, makeWorld, type World } from '../helpers/world';

let w: World;
let s: Services;
beforeEach(() => {
  w = makeWorld();
  s = w.services;
});
afterEach(() => w.close());
const { lead, owner, tamsin } = handsIn(() => w);
const { live, meet } = botsIn(() => w);

const NONSENSE = 'gobbledygook parkour trampoline';
/** Says something at a door that its bot does not understand; gives the contact, and the phrase as it is collected. */
async function missed(text: string, from: string) {
  const { contact, say } = meet('door_web', from);
  say(text);
  const { unheard, revision } = await s.phrasebook.view(lead());
  const phrase = unheard.find((u) => u.text === text);
  if (!phrase) throw new Error(`${text} was understood`);
  return { contact, phrase, revision };
}
const teaching = (unheardId: number, revision: number) => ({
  unheardId,
  to: 'intent',
  intentId: null,
  word: null,
  also: null,
  look: false,
  revision,
});
const examples = async (intentId: string): Promise<readonly string[]> =>
  (await s.phrasebook.view(lead())).book.intents.find((i) => i.id === intentId)?.examples.en ?? [];

describe('teaching', () => {
  it('what was not understood is collected with how often, and taught to an intent', async () => {
    await missed(NONSENSE, 'g1');
    const { phrase, revision } = await missed(NONSENSE, 'g2');
    expect(phrase).toMatchObject({ times: 2, language: 'en' });
    await s.teaching.teach(lead(), { ...teaching(phrase.id, revision), intentId: 'school_account' });
    expect((await s.phrasebook.view(lead())).unheard).toEqual([]);
    const { ranked, verdict } = await s.phrasebook.rank(lead(), { text: 'a gobbledygook trampoline', language: 'en' });
    expect([ranked[0]?.intentId, verdict]).toEqual(['school_account', 'act']);
    // Those who are live keep the book they were published with.
    const c = meet('door_web', 'g3');
    c.say(NONSENSE);
    expect(eventsAfter(w.db, 0, 1e6).filter((e) => e.type === 'bot.heard' && e.contactId === c.contact)).toMatchObject([
      { understood: false },
    ]);
  });

  it('what one customer said is linked to their contact, what several said to each of theirs', async () => {
    const first = await missed(NONSENSE, 'g1');
    await s.teaching.teach(lead(), {
      ...teaching(first.phrase.id, first.revision),
      intentId: 'school_account',
    });
    const taken = { kind: 'phrase', language: 'en', text: NONSENSE };
    expect(takenFromAlone(w.db, [first.contact])).toEqual([taken]);
    expect(await examples('school_account')).toContain(NONSENSE);
    const again = await missed(NONSENSE, 'g2');
    await s.teaching.teach(lead(), { ...teaching(again.phrase.id, again.revision), to: 'aside' });
    // Somebody else has said it as well: it stays when either is erased.
    expect([takenFromAlone(w.db, [first.contact]), takenFromAlone(w.db, [again.contact])]).toEqual([[], []]);
  });

  it('other words are taught with up to three words each, are nobody’s own, and make others like it understood', async () => {
    const { contact, phrase, revision } = await missed('zorblax my blivet', 'g1');
    const asked = { ...teaching(phrase.id, revision), to: 'other-words' };
    for (const [word, also, says] of [
      ['', 'zorblax', 'Say which words'],
      ['swap', ' ', 'Say which words'],
      ['swap', 'one two three four', 'at most 3 words'],
      ['one two three four', 'zorblax', 'at most 3 words'],
    ])
      await expect(s.teaching.teach(lead(), { ...asked, word, also })).rejects.toThrow(says);
    await s.teaching.teach(lead(), { ...asked, word: 'swap', also: 'zorblax' });
    const { book, unheard } = await s.phrasebook.view(lead());
    expect(book.otherWords.find((o) => o.word === 'swap')).toEqual({ word: 'swap', language: 'en', also: ['zorblax'] });
    expect([unheard, takenFromAlone(w.db, [contact])]).toEqual([[], []]);
    const rank = async (text: string) => (await s.phrasebook.rank(lead(), { text, language: 'en' })).ranked;
    expect(await rank('zorblax for a bigger size')).toEqual(await rank('swap for a bigger size'));
  });

  it('aside keeps it out of what is learnt, once, with whose it is', async () => {
    for (const intentId of [null, 'school_account']) {
      const { phrase, revision } = await missed(NONSENSE, `g${intentId}`);
      await s.teaching.teach(lead(), { ...teaching(phrase.id, revision), to: 'aside', intentId });
    }
    const { book } = await s.phrasebook.view(lead());
    expect(book.aside.filter((a) => a.text === NONSENSE)).toEqual([
      { text: NONSENSE, language: 'en', intentId: 'school_account' },
    ]);
    expect(await examples('school_account')).not.toContain(NONSENSE);
  });

  it('is refused for what others have dealt with, for an intent that is gone and a book that others changed', async () => {
    const { phrase, revision } = await missed(NONSENSE, 'g1');
    const asked = { ...teaching(phrase.id, revision), intentId: 'school_account' };
    expect(await codeIn(() => s.teaching.teach(lead(), { ...asked, unheardId: 1e6 }))).toBe('not-found');
    expect(await codeIn(() => s.teaching.teach(lead(), { ...asked, intentId: 'gone' }))).toBe('not-found');
    expect(await codeIn(() => s.teaching.teach(lead(), { ...asked, intentId: null }))).toBe('not-valid');
    expect(await codeIn(() => s.teaching.teach(lead(), { ...asked, revision: revision - 1 }))).toBe(
      'changed-meanwhile',
    );
    expect(await codeIn(() => s.teaching.teach(tamsin(), asked))).toBe('not-allowed');
    expect((await s.phrasebook.view(lead())).unheard).toHaveLength(1);
    await s.teaching.teach(lead(), { ...asked, to: 'nowhere', intentId: null });
    expect((await s.phrasebook.view(lead())).unheard).toEqual([]);
  });
});

describe('learning', () => {
  /** A learner whose thread says how far it is, and ends when it is let. */
  function slowly() {
    const ends: (() => void)[] = [];
    const learner = createLearner({
      host: readingHost(w.db, { real: () => 0, floor: () => 0 }),
      heavy: (task, given, more = {}) =>
        new Promise((resolve, reject) => {
          more.progress?.(0.4);
          more.signal?.addEventListener('abort', () => reject(new Error('stopped')));
          ends.push(() => resolve(heavyHere(UNDERSTANDING)(task, given)));
        }),
    });
    return { learner, ends };
  }
  it('says how far it is to whoever lets it learn, and to nobody else', async () => {
    const { learner, ends } = slowly();
    const { book } = await s.phrasebook.view(lead());
    const learnt = learner.learnt(lead(), { ...book, otherWords: [] });
    expect([learner.now(lead()), learner.now(owner())]).toEqual([{ share: 0.4, mine: true }, null]);
    ends[0]?.();
    await learnt;
    expect(learner.now(lead())).toBeNull();
  });
  it('stops when it is told to, and when something else is to be learnt instead', async () => {
    const { learner, ends } = slowly();
    const { book } = await s.phrasebook.view(lead());
    const first = learner.learnt(lead(), book);
    const second = learner.learnt(lead(), { ...book, otherWords: [] });
    await expect(first).rejects.toMatchObject({ code: 'not-now' });
    expect(learner.now(lead())).toEqual({ share: 0.4, mine: true });
    expect([learner.stop(lead()), learner.stop(lead())]).toEqual([{ stopped: true }, { stopped: true }]);
    await expect(second).rejects.toThrow('Nothing is kept');
    expect([learner.now(lead()), learner.stop(lead()), ends.length]).toEqual([null, { stopped: false }, 2]);
    expect(await codeIn(() => learner.stop(tamsin()))).toBe('not-allowed');
  });
});

describe('a bot tried with what a customer said', () => {
  const script = scriptOf([
    hear('q', { type: 'text' }, 'secret code'),
    hear('r', { type: 'text' }, 'anything'),
    over('h', 'queue_newhire'),
    end('e'),
  ]);
  it('gives their words until a person was asked for, private values masked, and links what is kept of it', () => {
    live(script);
    const { contact, say } = meet();
    say('12345');
    say('the long way round');
    w.pass(5);
    say('still there?');
    const given = s.saidToBot.view(lead(), contact);
    expect(given).toMatchObject({ contactId: contact, channel: 'chat', language: 'en' });
    expect(given.said).toEqual([
      { type: 'text', text: '12345' },
      { type: 'text', text: 'the long way round' },
    ]);
    const [one] = BOT_TESTS.all(w.db);
    if (!one) throw new Error('no test');
    const kept = { botId: one.botId, ...one.trial, id: null, name: 'As they said it', contactId: contact };
    const { id } = s.botTrials.keepTest(lead(), kept);
    expect(takenFromAlone(w.db, [contact])).toEqual([{ kind: 'bot-test', id }]);
    expect(() => s.botTrials.keepTest(lead(), { ...kept, contactId: 'contact_none' })).toThrow('no contact');
  });
});
