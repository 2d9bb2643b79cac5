import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { randomScript } from '../../../tests/helpers/randomscripts';
import { choice, choose, en, end, say, scriptOf } from '../../../tests/helpers/scripts';
import { sized } from '../../../tests/helpers/size';
import { writeTable } from '../formats/csv';
import type { BotScript } from './model';
import { missingIn, readWordingCsv, withChanges, withText, wordingCsv, wordingRows } from './wordingfile';

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
        expect(readWordingCsv(script, language, wordingCsv(script, language))).toEqual({ changes: [], faults: [] });
      }),
      RUNS,
    );
  });
  it('each sentence can be worded anew by its row alone, and only that one changes', () => {
    fc.assert(
      fc.property(randomScript, fc.nat(), (script, pick) => {
        const rows = wordingRows(script);
        const row = rows[pick % Math.max(1, rows.length)];
        if (!row) return;
        const read = readWordingCsv(script, 'es', file([[row.id, 'otra cosa']]));
        expect(read).toEqual({
          changes: [{ id: row.id, place: row.place, part: row.part, from: row.texts.es ?? '', to: 'otra cosa' }],
          faults: [],
        });
        const after = withChanges(script, 'es', read.changes);
        for (const now of wordingRows(after)) {
          const before = rows.find((r) => r.id === now.id);
          expect(now.texts).toEqual(now.id === row.id ? { ...before?.texts, es: 'otra cosa' } : (before?.texts ?? {}));
        }
        // Put back as it was, nothing is left of it.
        const back = withText(after, row.id, 'es', row.texts.es ?? '');
        expect(readWordingCsv(back, 'es', wordingCsv(script, 'es'))).toEqual({ changes: [], faults: [] });
      }),
      RUNS,
    );
  });
  it('a language that nobody has worded lacks every sentence; each that is worded is one less', () => {
    const needed = wordingRows(greeting).filter((r) => r.channel === null);
    expect(missingIn(greeting, 'fr')).toBe(needed.length);
    let script = greeting;
    needed.forEach((row, i) => {
      script = withText(script, row.id, 'fr', 'quelque chose');
      expect(missingIn(script, 'fr')).toBe(needed.length - i - 1);
    });
    expect(missingIn(withText(script, needed[0]?.id ?? '', 'fr', '  '), 'fr')).toBe(1);
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
    const rows = wordingRows(spoken).filter((r) => r.lineId === 'hello');
    expect(rows.map((r) => [r.channel, r.texts.en])).toEqual([
      [null, 'Hi'],
      ['voice', 'Hear me'],
    ]);
    expect(missingIn(spoken, 'es')).toBe(missingIn(greeting, 'es'));
  });
  it('rows that are wrong are named, and then nothing is to be taken in', () => {
    const [first, second] = wordingRows(greeting);
    const read = readWordingCsv(
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
    expect(readWordingCsv(greeting, 'es', text)).toMatchObject({ changes: [], faults: [{ row }] });
  });
  it('columns may stand in any order, and others beside them', () => {
    const id = wordingRows(greeting)[0]?.id ?? '';
    const text = writeTable(['note', 'TEXT', 'Id '], [['by hand', 'Buenos días', id]]);
    expect(readWordingCsv(greeting, 'es', text).changes).toMatchObject([{ id, to: 'Buenos días' }]);
  });
});
