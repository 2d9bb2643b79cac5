import { describe, expect, it } from 'vitest';
import { readAnswer, type AnswerWorld } from './answers';
import { patternFrom } from './pattern';
import type { Asked } from './model';

/** A Tuesday. */
const WORLD: AnswerWorld = {
  language: 'en',
  country: 'IE',
  local: '2026-11-17T10:20',
  listed: (listId, text) => (listId === 'tools' && /cello/i.test(text) ? 'cello' : null),
};
const read = (asked: Asked, text: string, language = 'en') => readAnswer(asked, text, { ...WORLD, language });
const whole: Asked = { type: 'whole', least: null, most: null };

describe('reading an answer', () => {
  it.each<[Asked, string, unknown]>([
    [{ type: 'text' }, '  anything at all ', 'anything at all'],
    [{ type: 'text' }, '   ', null],
    [whole, '42', 42],
    [whole, 'about 7 of them', 7],
    [whole, 'seven', 7],
    [whole, '1,200', 1200],
    [whole, '1.200', 1200],
    [whole, 'none', null],
    [whole, '3.5', null],
    [{ type: 'whole', least: 1, most: 9 }, '12', null],
    [{ type: 'whole', least: 1, most: 9 }, '9', 9],
    [{ type: 'yes-no' }, 'yes please', true],
    [{ type: 'yes-no' }, 'No, that is wrong', false],
    [{ type: 'yes-no' }, 'no, that is not right', false],
    [{ type: 'yes-no' }, 'that’s not correct', false],
    [{ type: 'yes-no' }, 'yes, no problem', true],
    [{ type: 'yes-no' }, 'I am not sure', null],
    [{ type: 'yes-no' }, 'perhaps', null],
    [{ type: 'yes-no' }, '1', true],
    [{ type: 'yes-no' }, '2', false],
    [{ type: 'date' }, '24/12/2026', '2026-12-24'],
    [{ type: 'date' }, 'next Friday', '2026-11-27'],
    [{ type: 'date' }, 'tomorrow', '2026-11-18'],
    [{ type: 'date' }, '24122026', '2026-12-24'],
    [{ type: 'date' }, '31022026', null],
    [{ type: 'date' }, 'whenever', null],
    [{ type: 'time' }, 'half past nine', null],
    [{ type: 'time' }, '9:30', '09:30'],
    [{ type: 'time' }, 'at 4pm', '16:00'],
    [{ type: 'time' }, '1630', '16:30'],
    [{ type: 'time' }, '2575', null],
    [{ type: 'telephone' }, '020 914 0001', '+353209140001'],
    [{ type: 'telephone' }, '+44 20 7946 0018', '+442079460018'],
    [{ type: 'telephone' }, '12', null],
    [{ type: 'email' }, 'it is Ida.L@mail.example ok', 'ida.l@mail.example'],
    [{ type: 'email' }, 'ida at mail', null],
    [{ type: 'pattern', pattern: 'BH-?\\d{6}', example: '' }, 'number bh204816 please', 'BH204816'],
    [{ type: 'pattern', pattern: 'BH-?\\d{6}', example: '' }, '204816', null],
    [{ type: 'pattern', pattern: '([', example: '' }, 'x', null],
    [{ type: 'listed', listId: 'tools' }, 'my cello', 'cello'],
    [{ type: 'listed', listId: 'tools' }, 'my car', null],
  ])('%j “%s” is %j', (asked, text, value) => expect(read(asked, text)).toEqual(value));
  it.each([
    ['sí, claro', 'es', true],
    ['non merci', 'fr', false],
    ['no, no es correcto', 'es', false],
    ['no lo sé', 'es', null],
    ['tak', 'pl', true],
  ])('“%s” in %s', (text, language, value) => expect(read({ type: 'yes-no' }, text, language)).toBe(value));
  it('dates and numbers in other languages', () => {
    expect(read({ type: 'date' }, 'el 24 de diciembre', 'es')).toBe('2026-12-24');
    expect(read({ type: 'date' }, '24 décembre', 'fr')).toBe('2026-12-24');
    expect(read(whole, 'siete', 'es')).toBe(7);
  });
  it('a pattern takes time in proportion to the text, whatever it says', () => {
    const hostile = patternFrom('(a+)+$');
    const begun = performance.now();
    hostile?.matcher(`${'a'.repeat(5000)}b`).find();
    expect(performance.now() - begun).toBeLessThan(2000);
  });
});
