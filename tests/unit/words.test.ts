import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { allSteps, type Step } from '../../src/core/bots/model';
import { readTable, writeTable } from '../../src/core/formats/csv';
import { ARTICLES } from '../../src/data/articles';
import { readBot, readVersion, SHARED_SCENES, versionsOf } from '../../src/data/bots';
import { readContact } from '../../src/data/contacts';
import { readDoor } from '../../src/data/doors';
import { eventsAfter, replayAll } from '../../src/data/events';
import { readPhrasebook } from '../../src/data/phrasebook';
import { readQueue, readQueues } from '../../src/data/queuesettings';
import { readWorkspace } from '../../src/data/workspace';
import type { Services } from '../../src/services';
import type { FoundWordsView } from '../../src/services/words/findwords';
import type { LanguageRead } from '../../src/services/words/languagefile';
import type { LanguagesView } from '../../src/services/words/languages';
import { handsIn, queueInput } from '../helpers/hands';
import { botsIn } from '../helpers/livebots';
import { end, hear, NEXT, say, scriptOf } from '../helpers/scripts';
import { codeOf, makeWorld, type World } from '../helpers/world';

let w: World;
let s: Services;
beforeEach(() => {
  w = makeWorld();
  s = w.services;
});
afterEach(() => w.close());
const { lead, owner } = handsIn(() => w);
const { live, meet } = botsIn(() => w);
const find = (words: string, who = lead()) => s.read('words', who, { find: words }) as Promise<FoundWordsView>;
const mend = (from: string, to: string, at: { kind: string; id: string; key: string }[], who = lead()) =>
  s.words.mend(who, { language: 'en', from, to, at });
const undoLast = () => {
  const [line] = s.history.view(lead(), {}).lines;
  if (!line) throw new Error('nothing happened');
  return s.history.undo(lead(), { id: line.id });
};

/** A bot that says a wrong word twice, with a question between. */
const typo = scriptOf([
  say('first', 'Welcom to us'),
  hear('q', { type: 'text' }, 'wish', { otherwise: NEXT }),
  say('second', 'Your wish is our comand'),
  hear('q2', { type: 'text' }, 'more', { otherwise: NEXT }),
  end('bye', 'Goodby'),
]);
const plays = (id: string, sharedId: string): Step => ({ id, verb: 'play', sharedId, inputs: [] });
const place = (id: string, line: string) => ({ kind: 'bot', id, key: `${line}|wording|` });
const draftOf = (id: string) => readBot(w.db, id)?.draft ?? typo;
const said = (id: string, line: string) => {
  const step = allSteps(draftOf(id)).find((st) => st.id === line);
  return step && 'wording' in step ? step.wording.text.en : undefined;
};

describe('finding words wherever customers meet them', () => {
  it('looks through bots as written and as met, doors, clocks, calls back, replies and articles', async () => {
    const kinds = async (words: string) => (await find(words)).found.map((f) => f.kind);
    const queue = readQueue(w.db, 'queue_repairs');
    s.queues.save(
      lead(),
      queueInput(queue, {
        clocks: {
          chat: [
            {
              atSeconds: 40,
              early: false,
              acts: [{ does: 'say', wording: { en: 'Zebra waits' }, everySeconds: null }],
            },
          ],
        },
        connect: { toAgent: { en: 'zebra for agents' }, toCustomer: { en: 'Zebra joins' } },
        callback: { ...queue!.callback, wording: { confirm: { en: 'Zebra on {number}?' } } },
      }),
    );
    const door = readDoor(w.db, 'door_web')!;
    const { place: _p, byHand: _b, ...own } = door;
    s.doors.save(lead(), { ...own, closedWording: { ...door.closedWording, en: 'Zebra sleeps' } });
    s.botParts.saveArticle(lead(), { id: null, revision: 0, name: 'On zebras', language: 'en', text: 'They run.' });
    expect(new Set(await kinds('zebra'))).toEqual(new Set(['queue', 'door', 'article']));
    const { found } = await find('ZEBRA wáits');
    expect(found.map((f) => [f.name, f.place, f.text])).toEqual([
      [queue?.name, 'wait clock, chat, at 40 s', 'Zebra waits'],
    ]);
    // What only the agent reads is not met by customers.
    expect((await find('zebra agents')).total).toBe(0);
    expect((await find('')).total).toBe(0);
  });
  it('says of a bot what is met now, what is only written, and in how many conversations', async () => {
    const id = live(typo);
    meet();
    expect((await find('welcom us')).found).toMatchObject([
      { kind: 'bot', id, inDraft: true, live: [{ version: 1, talking: 1 }], mayMend: true },
    ]);
    const bot = readBot(w.db, id)!;
    s.bots.save(lead(), {
      id,
      revision: bot.revision,
      name: bot.name,
      draft: { ...bot.draft, shownName: 'Other', scenes: scriptOf([say('first', 'Hello')]).scenes },
    });
    expect((await find('welcom us')).found).toMatchObject([{ inDraft: false, live: [{ version: 1 }] }]);
    expect((await find('hello')).found.filter((f) => f.id === id)).toMatchObject([{ inDraft: true, live: [] }]);
  });
  it('whoever may not change something may not mend it', async () => {
    const { found } = await find('deposit', w.actor('Tamsin Orrel')).catch(() => ({ found: [] }));
    expect(found.every((f) => !f.mayMend)).toBe(true);
    const id = live(typo);
    expect(codeOf(() => mend('Welcom to us', 'Welcome', [place(id, 'first')], w.actor('Tamsin Orrel')))).toBe(
      'not-allowed',
    );
  });
});

describe('mending a sentence of a live bot', () => {
  it('makes a version from the live one, carries it into the draft, and is met from the next line', async () => {
    const id = live(typo);
    const c = meet();
    // Something else that is being written does not go out with it.
    const bot = readBot(w.db, id)!;
    s.bots.save(lead(), { id, revision: bot.revision, name: bot.name, draft: { ...bot.draft, shownName: 'Not yet' } });
    const done = mend('Your wish is our comand', 'Your wish is our command', [place(id, 'second')]);
    expect(done).toMatchObject({
      places: 1,
      bots: [{ versions: [{ version: 2, mends: 1 }], talking: 1, draft: true }],
    });
    c.say('a trumpet');
    expect(c.said()).toEqual(['Welcom to us', 'q?', 'Your wish is our command', 'q2?']);
    expect(c.kept()).toMatchObject({ botVersion: 2 });
    expect(readBot(w.db, id)).toMatchObject({ liveVersion: 2, draft: { shownName: 'Not yet' } });
    expect(said(id, 'second')).toBe('Your wish is our command');
    expect(readVersion(w.db, id, 2)?.script.shownName).not.toBe('Not yet');
    expect(versionsOf(w.db, id)[0]).toMatchObject({ version: 2, personId: lead().personId });
    // A second mend of the same conversation, and one that had not heard of the first.
    mend('Goodby', 'Goodbye', [place(id, 'bye')]);
    c.say('that is all');
    expect(c.said().at(-1)).toBe('Goodbye');
    const before = readContact(w.db, c.contact);
    replayAll(w.db);
    expect(readContact(w.db, c.contact)).toEqual(before);
    expect(eventsAfter(w.db, 0, 1e6).filter((e) => e.type === 'bot.mended')).toHaveLength(2);
  });
  it('is one line of History, in the pages’ words, and taken back by it', async () => {
    const id = live(typo);
    const c = meet();
    mend('Goodby', 'Goodbye', [place(id, 'bye')]);
    const [line] = s.history.view(lead(), {}).lines;
    expect(line).toMatchObject({ kindName: 'words of a bot', canUndo: true });
    expect(line?.changes).toEqual([{ what: expect.stringMatching(/1\.5.*English/), from: 'Goodby', to: 'Goodbye' }]);
    undoLast();
    expect((await find('goodbye')).found.filter((f) => f.id === id)).toEqual([]);
    expect(said(id, 'bye')).toBe('Goodby');
    expect(readBot(w.db, id)?.liveVersion).toBe(3);
    c.say('x');
    c.say('y');
    expect(c.said().at(-1)).toBe('Goodby');
  });
  it('reaches what is to go live and what is on trial as well', () => {
    const id = live(typo);
    const bot = readBot(w.db, id)!;
    s.bots.publish(lead(), { id, revision: bot.revision, note: '', at: w.now() + 9_000_000, override: null });
    const { place: _p, byHand: _b, ...door } = readDoor(w.db, 'door_web')!;
    s.doors.save(lead(), { ...door, trial: { version: 2, percent: 20 } });
    expect(mend('Goodby', 'Goodbye', [place(id, 'bye')]).bots[0]?.versions).toEqual([
      { version: 3, mends: 1 },
      { version: 4, mends: 2 },
    ]);
    expect(readBot(w.db, id)).toMatchObject({ liveVersion: 3, planned: { version: 4 } });
    expect(readDoor(w.db, 'door_web')?.trial).toEqual({ version: 4, percent: 20 });
  });
  it('a shared scene is mended in each bot that plays it, and in what is written', async () => {
    const { id: shared } = s.botParts.saveShared(lead(), {
      id: null,
      revision: 0,
      name: 'Politeness',
      inputs: [],
      steps: [say('polite', 'Thnk you')],
    });
    const bots = [
      scriptOf([plays('p1', shared), end('e1', 'Bye')]),
      scriptOf([plays('p2', shared), end('e2', 'Bye')]),
    ].map((script) => live(script));
    const { found } = await find('thnk');
    expect(found).toMatchObject([{ kind: 'shared-scene', id: shared, live: [{ version: 1 }, { version: 1 }] }]);
    mend('Thnk you', 'Thank you', [{ kind: 'shared-scene', id: shared, key: 'polite|wording|' }]);
    for (const id of bots) expect(JSON.stringify(readVersion(w.db, id, 2)?.pinned.shared)).toContain('Thank you');
    expect(SHARED_SCENES.one(w.db, shared)?.steps).toMatchObject([{ wording: { text: { en: 'Thank you' } } }]);
    expect(meet().said()[0]).toBe('Thank you');
    undoLast();
    expect(meet('door_web', 'guest-2').said()[0]).toBe('Thnk you');
    expect(SHARED_SCENES.one(w.db, shared)?.steps).toMatchObject([{ wording: { text: { en: 'Thnk you' } } }]);
  });
  it('changes nothing where a place says something else by now, it does not fit, or would stop contacts', () => {
    const id = live(typo);
    const versions = () => versionsOf(w.db, id).length;
    expect(codeOf(() => mend('Goodby', 'x', [place(id, 'bye'), place(id, 'first')]))).toBe('changed-meanwhile');
    expect(codeOf(() => mend('Goodby', 'x'.repeat(2001), [place(id, 'bye')]))).toBe('not-valid');
    expect(codeOf(() => mend('Goodby', 'Go <emphasis>', [place(id, 'bye')]))).toBe('not-valid');
    expect(codeOf(() => mend('Goodby', ' ', [place(id, 'bye')]))).toBe('not-valid');
    expect([versions(), said(id, 'bye')]).toEqual([1, 'Goodby']);
  });
  it('the same words in a door, a queue and a bot are mended by one press and taken back by one', async () => {
    const id = live(scriptOf([say('x', 'Back soom'), end('e', 'Bye')]));
    const { place: _p, byHand: _b, ...door } = readDoor(w.db, 'door_web')!;
    s.doors.save(lead(), { ...door, closedWording: { ...door.closedWording, en: 'Back soom' } });
    const at = [place(id, 'x'), { kind: 'door', id: 'door_web', key: 'closed' }];
    mend('Back soom', 'Back soon', at);
    expect((await find('soom')).total).toBe(0);
    expect(readDoor(w.db, 'door_web')?.closedWording.en).toBe('Back soon');
    undoLast();
    // What was met for a moment is an old version, which nobody meets.
    expect((await find('soom')).found.map((f) => f.kind).sort()).toEqual(['bot', 'door']);
  });
});

describe('a language as a whole', () => {
  const view = (language: string, who = lead()) => s.read('languages', who, { language }) as Promise<LanguagesView>;
  const out = async (language: string, what = 'lacking') =>
    readTable(((await s.read('language-file', lead(), { language, what })) as { text: string }).text);
  /** Every missing text put in: the original with a mark, so that values in it stay. */
  async function filled(language: string, mark: string): Promise<string> {
    const { header, rows } = await out(language);
    const at = (name: string) => header.indexOf(name);
    return writeTable(
      header,
      rows.map(({ cells }) =>
        header.map((_h, i) =>
          i === at('text') ? `${mark} ${cells[at('original')] || 'mots'}`.slice(0, 80) : (cells[i] ?? ''),
        ),
      ),
    );
  }
  const lacking = async (language: string) => (await view(language)).languages.find((l) => l.tag === language)?.lacking;

  it('counts what a language lacks everywhere, and what goes out comes in again unchanged', async () => {
    const fr = await view('fr');
    const line = fr.languages.find((l) => l.tag === 'fr');
    expect(fr.things.reduce((n, t) => n + t.lacking, 0)).toBe(line?.lacking);
    expect(line?.lacking).toBeGreaterThan(50);
    expect(new Set(fr.things.map((t) => t.kind))).toEqual(
      new Set(['door', 'bot', 'shared-scene', 'queue', 'stock-set', 'article', 'phrases']),
    );
    expect(fr.speakers).toMatchObject({ skills: ['French'] });
    expect(Math.max(...fr.speakers.planned)).toBeLessThanOrEqual(fr.speakers.people);
    for (const language of ['es', 'fr']) {
      const file = (await s.read('language-file', lead(), { language, what: 'all' })) as { text: string };
      const read = (await s.act('read-language', lead(), { language, text: file.text })) as LanguageRead;
      expect(read).toEqual({ changes: [], faults: [] });
    }
  });
  it('one file fills it; it is open at a door once nothing its customers meet is missing', async () => {
    const door = () => readDoor(w.db, 'door_repairs')!;
    const open = () => s.words.open(lead(), { id: 'door_repairs', revision: door().revision, language: 'fr' });
    expect(codeOf(open)).toBe('not-now');
    const { place: _p, byHand: _b, ...form } = door();
    const byForm = () =>
      s.doors.save(lead(), { ...form, revision: door().revision, languages: [...form.languages, 'fr'] });
    expect(codeOf(byForm)).toBe('not-now');
    const text = await filled('fr', 'En français :');
    const { changes, faults } = (await s.act('read-language', lead(), { language: 'fr', text })) as LanguageRead;
    expect(faults).toEqual([]);
    expect(await lacking('fr')).toBe(changes.length);
    expect(await s.words.takeIn(lead(), { language: 'fr', text })).toMatchObject({
      skipped: 0,
      sentences: changes.length,
    });
    expect(await lacking('fr')).toBe(0);
    // What is written is not met yet.
    expect(codeOf(open)).toBe('not-now');
    const botId = door().botId;
    const bot = readBot(w.db, botId)!;
    expect(bot.draft.languages).toContain('fr');
    await s.bots.publish(lead(), { id: botId, revision: bot.revision, note: '', at: null, override: 'in a test' });
    open();
    expect(door().languages).toContain('fr');
    expect((await view('fr')).doors.find((d) => d.id === 'door_repairs')).toMatchObject({ open: true, gaps: [] });
    // A gap that comes up afterwards is told.
    const { place: _q, byHand: _c, ...now } = door();
    s.doors.save(lead(), { ...now, closedWording: { en: 'Closed', es: 'Cerrado' } });
    expect((await s.toFix.whole(lead())).findings.map((f) => f.says).join('\n')).toMatch(/open in French/);
  });
  it('articles get one of their own that says the same, phrases are learnt, and History takes it back', async () => {
    const [articles, book] = [ARTICLES.all(w.db).length, readPhrasebook(w.db)!];
    const queues = JSON.stringify(readQueues(w.db).map(({ revision: _r, ...q }) => q));
    const lackingBots = async () =>
      (await view('fr')).things.filter((t) => t.kind === 'bot').map((t) => [t.id, t.lacking]);
    const bots = await lackingBots();
    await s.words.takeIn(lead(), { language: 'fr', text: await filled('fr', 'En français :') });
    const french = ARTICLES.all(w.db).filter((a) => a.language === 'fr');
    expect(french.length).toBe(ARTICLES.all(w.db).length - articles);
    expect(french.every((a) => ARTICLES.one(w.db, a.of ?? '')?.of === undefined)).toBe(true);
    expect(french.length).toBeGreaterThan(3);
    expect(readPhrasebook(w.db)?.version).toBe(book.version + 1);
    expect(readPhrasebook(w.db)?.book.intents.every((i) => (i.examples.fr ?? []).length > 0)).toBe(true);
    await s.history.undoPress(lead(), { id: s.history.view(lead(), {}).lines[0]?.id });
    expect(ARTICLES.all(w.db)).toHaveLength(articles);
    expect(JSON.stringify(readQueues(w.db).map(({ revision: _r, ...q }) => q))).toBe(queues);
    expect(await lackingBots()).toEqual(bots);
  });
  it('a file with a fault takes nothing in; words that changed while it was read are not gone over', async () => {
    const good = await filled('fr', 'Fr');
    const before = await lacking('fr');
    await expect(
      s.words.takeIn(lead(), { language: 'fr', text: `${good}\r\nbot nobody x,,,,,mots` }),
    ).rejects.toMatchObject({
      code: 'not-valid',
    });
    await expect(s.words.takeIn(lead(), { language: 'en', text: good })).rejects.toMatchObject({ code: 'not-valid' });
    expect(await lacking('fr')).toBe(before);
    const outdated = good.replace(/Fr /g, 'Fr ').replace('Zebra', 'Zebra');
    const { header, rows } = readTable(outdated);
    const [row] = rows;
    const other = writeTable(header, [
      row!.cells.map((cell, i) => (header[i] === 'original' ? 'as it was once' : cell)),
    ]);
    expect(await s.act('read-language', lead(), { language: 'fr', text: other })).toMatchObject({
      changes: [{ outdated: true }],
    });
  });
  it('a language that was begun is everywhere to be written, and open nowhere', async () => {
    s.words.begin(lead(), { language: 'de' });
    expect(readWorkspace(w.db)?.languages).toContain('de');
    const de = await view('de');
    expect(de.languages.find((l) => l.tag === 'de')).toMatchObject({ doors: 0, name: 'German' });
    expect(de.doors.every((d) => d.gaps.length > 0 && !d.open)).toBe(true);
    undoLast();
    expect(readWorkspace(w.db)?.languages).not.toContain('de');
    expect(codeOf(() => s.words.begin(w.actor('Tamsin Orrel'), { language: 'de' }))).toBe('not-allowed');
    expect(owner().rights).toContain('bots.change');
  });
});
