import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { randomScript } from '../../../tests/helpers/randomscripts';
import { choice, choose, en, end, say, scriptOf } from '../../../tests/helpers/scripts';
import { sized } from '../../../tests/helpers/size';
import { writeTable } from '../formats/csv';
import type { BotScript, Step } from '../bots/model';
import { readWordsCsv, wordsCsv, type WordsChange } from './file';
import { lacks } from './said';
import { saidIn, withSaid, withTexts } from './wordings';

/** A bot's words as rows of a file of its own. */
const rowsOf = (script: BotScript) => saidIn('bot', script).map((said) => ({ ...said, id: said.key }));
const readCsv = (script: BotScript, language: string, text: string) =>
  readWordsCsv(rowsOf(script), 'en', language, text);
const missingIn = (script: BotScript, language: string): number =>
  saidIn('bot', script).filter((said) => lacks(said, language)).length;
const withChanges = (script: BotScript, language: string, changes: readonly WordsChange[]): BotScript =>
  withTexts('bot', script, language, new Map(changes.map((c) => [c.id, c.to])));

const RUNS = { numRuns: sized({ quick: 40, usual: 150, long: 1500 }) };
const greeting: BotScript = scriptOf([
  say('hello', 'Good morning'),
  choose('which', [choice('hire', '1'), choice('repair', '2')]),
  end('bye', 'Goodbye'),
]);
const file = (rows: readonly (readonly string[])[]) => writeTable(['id', 'text'], rows);

describe('the wording of a script as a file', () => {
  it('what goes out and comes in again changes nothing', () => {
    fc.assert(
      fc.property(randomScript, fc.constantFrom('en', 'es'), (script, language) => {
        expect(readCsv(script, language, wordsCsv(rowsOf(script), 'en', language))).toEqual({
          changes: [],
          faults: [],
        });
      }),
      RUNS,
    );
  });
  it('each sentence can be worded anew by its row alone, and only that one changes', () => {
    fc.assert(
      fc.property(randomScript, fc.nat(), (script, pick) => {
        const rows = rowsOf(script);
        const row = rows[pick % Math.max(1, rows.length)];
        if (!row) return;
        const read = readCsv(script, 'es', file([[row.id, 'otra cosa']]));
        expect(read).toEqual({
          changes: [
            {
              id: row.id,
              place: row.place,
              part: row.part,
              from: row.texts.es ?? '',
              to: 'otra cosa',
              outdated: false,
            },
          ],
          faults: [],
        });
        const after = withChanges(script, 'es', read.changes);
        for (const now of rowsOf(after)) {
          const before = rows.find((r) => r.id === now.id);
          expect(now.texts).toEqual(now.id === row.id ? { ...before?.texts, es: 'otra cosa' } : (before?.texts ?? {}));
        }
        // Put back as it was, nothing is left of it.
        const back = withSaid('bot', after, row.id, 'es', row.texts.es ?? '');
        expect(readCsv(back, 'es', wordsCsv(rowsOf(script), 'en', 'es'))).toEqual({ changes: [], faults: [] });
      }),
      RUNS,
    );
  });
  it('a language that nobody has worded lacks every sentence; each that is worded is one less', () => {
    const needed = rowsOf(greeting).filter((r) => r.channel === null);
    expect(missingIn(greeting, 'fr')).toBe(needed.length);
    let script = greeting;
    needed.forEach((row, i) => {
      script = withSaid('bot', script, row.id, 'fr', 'quelque chose');
      expect(missingIn(script, 'fr')).toBe(needed.length - i - 1);
    });
    expect(missingIn(withSaid('bot', script, needed[0]?.id ?? '', 'fr', '  '), 'fr')).toBe(1);
  });
  it('the wording of one channel is a row of its own and does not count as missing', () => {
    const spoken: BotScript = {
      ...greeting,
      scenes: greeting.scenes.map((scene) => ({
        ...scene,
        steps: scene.steps.map((s) =>
          s.id === 'hello' && s.verb === 'say'
            ? { ...s, wording: { ...en('Hi'), on: { voice: { en: 'Hear me' } } } }
            : s,
        ),
      })),
    };
    const rows = rowsOf(spoken).filter((r) => r.id.startsWith('hello|'));
    expect(rows.map((r) => [r.channel, r.texts.en])).toEqual([
      [null, 'Hi'],
      ['voice', 'Hear me'],
    ]);
    expect(missingIn(spoken, 'es')).toBe(missingIn(greeting, 'es'));
  });
  it('rows that are wrong are named, and then nothing is to be taken in', () => {
    const [first, second] = rowsOf(greeting);
    const read = readCsv(
      greeting,
      'es',
      file([
        [first?.id ?? '', 'Buenos días'],
        ['nobody|knows|', 'x'],
        [first?.id ?? '', 'Buenas'],
        [second?.id ?? '', 'x'.repeat(2001)],
        ['', 'no id'],
      ]),
    );
    expect(read.faults.map((f) => f.row)).toEqual([3, 4, 5, 6]);
    expect(read.faults[0]?.what).toContain('nobody|knows|');
    expect(read.faults[1]?.what).toContain('stands here twice');
    expect(read.faults[2]?.what).toContain('longer than 2000');
    expect(read.faults[3]?.what).toContain('(empty)');
  });
  it.each([
    ['a,b\n1,2', 1],
    ['id,text\n"never closed', 2],
    ['', 1],
  ])('a file that is none is refused with its row: %j', (text, row) => {
    expect(readCsv(greeting, 'es', text)).toMatchObject({ changes: [], faults: [{ row }] });
  });
  it('columns may stand in any order, and others beside them', () => {
    const id = rowsOf(greeting)[0]?.id ?? '';
    const text = writeTable(['note', 'TEXT', 'Id '], [['by hand', 'Buenos días', id]]);
    expect(readCsv(greeting, 'es', text).changes).toMatchObject([{ id, to: 'Buenos días' }]);
  });
});

describe('the wording of a small script', () => {
  const script = {
    ...scriptOf([
      {
        id: 'a',
        verb: 'say',
        wording: { text: { en: 'Hello, "you"', es: 'Hola' }, on: { sms: { en: 'Hi' } } },
        mayInterrupt: true,
        link: null,
      } satisfies Step,
      choose('q', [choice('red', '1')], { again: { text: { en: 'Again?' } } }),
      end('e', '=1+1'),
    ]),
    languages: ['en', 'es'],
  };
  it('goes out and comes in as the same thing', () => {
    for (const language of script.languages)
      expect(readCsv(script, language, wordsCsv(rowsOf(script), 'en', language))).toEqual({ changes: [], faults: [] });
  });
  it('what is missing is counted, and taken in from a file', () => {
    expect(missingIn(script, 'es')).toBe(4);
    const text = wordsCsv(rowsOf(script), 'en', 'es').replace('Again?,', 'Again?,¿Otra vez?');
    const { changes, faults } = readCsv(script, 'es', text);
    expect(faults).toEqual([]);
    expect(changes.map((c) => [c.place, c.part, c.to])).toEqual([['1.2', 'wording when not understood', '¿Otra vez?']]);
    expect(missingIn(withChanges(script, 'es', changes), 'es')).toBe(3);
  });
  it.each([
    ['nonsense', 1],
    ['id,text\r\nnowhere|wording|,x', 2],
    ['id,text\r\na|wording|,x\r\na|wording|,y', 3],
    ['', 1],
  ])('a broken file names the row: %j', (text, row) => expect(readCsv(script, 'es', text).faults[0]?.row).toBe(row));
  it('every sentence stands in it once', () => {
    const rows = rowsOf(script).map((r) => r.id);
    expect(new Set(rows).size).toBe(rows.length);
    expect(rows).toContain('a|wording|sms');
  });
});
