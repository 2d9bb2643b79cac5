import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { searchHistory } from '../../src/data/history';
import { readQueue } from '../../src/data/queuesettings';
import type { Services } from '../../src/services';
import { choice, choose, end, over, say, scriptOf } from '../helpers/scripts';
import { handsIn, queueInput } from '../helpers/hands';
import { botsIn } from '../helpers/livebots';
import { wave } from '../helpers/wave';
import { codeOf, makeWorld, type World } from '../helpers/world';

let w: World;
let s: Services;
beforeEach(() => {
  w = makeWorld();
  s = w.services;
});
afterEach(() => w.close());
const { lead } = handsIn(() => w);
const { live, meet } = botsIn(() => w);

const record = (text: string, seconds = 3, language = 'en', data = wave(0.1)) =>
  s.recordings.save(lead(), { kind: 'words', language, text, data, seconds });
const music = (name: string, id: string | null = null) =>
  s.recordings.save(lead(), { kind: 'music', id, name, data: wave(0.2), seconds: 30 });
const menu = () =>
  live(
    scriptOf([
      say('hello', 'Welcome.'),
      choose('Which one', [choice('a hire', '1'), choice('a repair', '2')]),
      end('bye', 'Bye.'),
    ]),
    'door_repairs',
  );
const caller = () => meet('door_repairs', '+353209140001');

describe('words that callers hear', () => {
  it('are listed as they are said, with what can be answered, and played where they are recorded', () => {
    const id = menu();
    const mine = () => s.recordings.view(lead()).words.filter((x) => x.where.some((at) => at.path === `/bots/${id}`));
    expect(mine().map((x) => x.text)).toEqual(
      expect.arrayContaining(['Welcome.', 'Which one?', 'For a hire, press 1.', 'For a repair, press 2.', 'Bye.']),
    );
    expect(
      caller()
        .side()
        .messages.map((m) => m.spoken),
    ).toEqual([null, null]);
    record('Which   one?');
    record('For a repair, press 2.');
    const [hello, question] = caller().side().messages;
    expect(hello?.spoken).toBeNull();
    const url = expect.stringMatching(/^\/api\/v1\/sounds\/sound_/) as unknown;
    expect(question?.spoken).toEqual([
      { text: 'Which one?', recording: url },
      { text: 'For a hire, press 1.', recording: null },
      { text: 'For a repair, press 2.', recording: url },
    ]);
    const soundId = question?.spoken?.[0]?.recording?.split('/').at(-1) ?? '';
    expect(s.recordings.sound(soundId)).toMatchObject({ type: 'audio/wav' });
    // In writing nothing is played.
    expect(
      meet('door_web')
        .side()
        .messages.every((m) => m.spoken === null),
    ).toBe(true);
    // Two voices are told, to whoever writes the bot.
    const told = s.bots.view(lead(), id).faults.find((f) => f.check === 'mixed-voices');
    expect(told?.sentence).toMatch(/^In English 2 of \d+ sentences are recorded/);
  });
  it('silence is counted from the end of a recording, however long it is', () => {
    menu();
    record('Which one?', 40);
    const c = caller();
    w.pass(44);
    expect(c.side().messages).toHaveLength(2);
    w.pass(10);
    expect(c.side().messages.length).toBeGreaterThan(2);
  });
  it('one sentence has one recording; when its words change it is spoken, and the recording stands by itself', () => {
    menu();
    const { id } = record('Welcome.');
    expect(record('Welcome.', 5).id).toBe(id);
    live(scriptOf([say('hello', 'Welcome back.'), end('bye', 'Bye.')]), 'door_repairs');
    expect(caller().side().messages[0]?.spoken).toBeNull();
    const line = s.recordings.view(lead()).words.find((x) => x.text === 'Welcome.' && x.language === 'en');
    expect(line?.recording?.seconds).toBe(5);
    s.recordings.remove(lead(), { id });
    expect(s.recordings.view(lead()).words.some((x) => x.recording)).toBe(false);
    s.history.undo(lead(), { id: searchHistory(w.db, { kind: 'recording' }, 1)[0]?.id });
    expect(
      s.recordings.view(lead()).words.find((x) => x.text === 'Welcome.' && x.language === 'en')?.recording,
    ).toBeTruthy();
    expect(codeOf(() => s.recordings.remove(lead(), { id: 'recording_none' }))).toBe('not-found');
  });
  it('what is no sound, too large, or endless is refused in a sentence', () => {
    const refused = (change: object) =>
      codeOf(() =>
        s.recordings.save(lead(), {
          kind: 'words',
          language: 'en',
          text: 'Hi.',
          data: wave(0.1),
          seconds: 1,
          ...change,
        }),
      );
    expect([
      refused({ data: Buffer.from('<html>').toString('base64') }),
      refused({ data: Buffer.concat([Buffer.from('OggS'), Buffer.alloc(700 * 1024)]).toString('base64') }),
      refused({ data: 'not base64!' }),
      refused({ seconds: 0 }),
      refused({ seconds: 601 }),
      refused({ text: ' ' }),
      refused({ kind: 'noise' }),
    ]).toEqual(Array(7).fill('not-valid'));
    expect(codeOf(() => s.recordings.sound('sound_none'))).toBe('not-found');
  });
});

describe('music of one’s own', () => {
  it('is chosen on a wait clock, played to whoever waits, and stays for as long as it is chosen', () => {
    const { id } = music('Slow waltz');
    expect(codeOf(() => music('slow waltz'))).toBe('not-valid');
    expect(codeOf(() => music('Other', 'recording_none'))).toBe('not-found');
    expect(s.queues.view(lead()).music.map((m) => m.name)).toContain('Slow waltz');
    const play = { atSeconds: 0, early: false, acts: [{ does: 'play' as const, music: id }] };
    s.queues.save(lead(), queueInput(readQueue(w.db, 'queue_newhire'), { clocks: { voice: [play] }, entryRules: [] }));
    live(scriptOf([over('h', 'queue_newhire')]), 'door_repairs');
    const c = caller();
    expect([c.side().state, c.side().music]).toEqual(['waiting', expect.stringMatching(/^\/api\/v1\/sounds\//)]);
    expect(codeOf(() => s.recordings.remove(lead(), { id }))).toBe('not-now');
    expect(s.recordings.view(lead()).music[0]?.usedBy).toEqual(['New hire']);
  });
});
