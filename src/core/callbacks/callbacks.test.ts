import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { USUAL_CALLBACK } from '../routing/queue';
import {
  ALL_OFFERED,
  beginCallback,
  continueCallback,
  type CallbackTalk,
  type TalkAct,
  type TalkInput,
  type TalkWords,
} from './dialogue';
import { daysFrom } from '../hours/dates';
import { localDate, openAt } from '../hours/weekly';
import { callWindows } from './windows';

const OWN = '+353209140001';
const words = (language = 'en'): TalkWords => ({
  language,
  languages: ['en'],
  wording: USUAL_CALLBACK.wording,
  zone: 'Europe/Dublin',
  country: 'IE',
  channel: 'voice',
  offered: ALL_OFFERED,
  inLine: true,
  isProven: (number) => number === OWN,
  isCode: (_number, code) => code === '123456',
});
const shop = { zone: 'Europe/Dublin', weekly: [1, 2, 3, 4, 5].map((day) => ({ day, from: '09:00', to: '18:00' })) };
const MONDAY_15 = Date.parse('2026-11-23T15:10:00Z');
const windows = callWindows(shop, MONDAY_15, 3);
const key = (k: string): TalkInput => ({ type: 'key', key: k });
function talkThrough(
  own: string | null,
  inputs: readonly TalkInput[],
  language = 'en',
): { acts: TalkAct[]; talk: CallbackTalk | null } {
  let { talk, acts } = beginCallback(own, windows, words(language)) as {
    talk: CallbackTalk | null;
    acts: readonly TalkAct[];
  };
  const all = [...acts];
  for (const input of inputs) {
    if (!talk) break;
    ({ talk, acts } = continueCallback(talk, input, words(language)));
    all.push(...acts);
  }
  return { acts: all, talk };
}

describe('windows for a callback', () => {
  it('lie within opening hours, never sooner than in an hour', () => {
    expect(
      windows.map((w) => [new Date(w.from).toISOString().slice(5, 16), new Date(w.to).toISOString().slice(11, 16)]),
    ).toEqual([
      ['11-23T17:00', '18:00'],
      ['11-24T09:00', '11:00'],
      ['11-24T11:00', '13:00'],
    ]);
  });
  it('closed all week gives none; without hours they follow one another', () => {
    expect(callWindows({ zone: 'UTC', weekly: [] }, MONDAY_15, 3)).toEqual([]);
    // After weeks off they are of the day on which it opens again.
    const off = {
      ...shop,
      exceptions: daysFrom('2026-01-01', '2027-03-31').map((date) => ({ date, intervals: [], note: '' })),
    };
    const [first] = callWindows(off, MONDAY_15, 1);
    expect(localDate(first?.from ?? 0, shop.zone) > '2027-03-31').toBe(true);
    expect(openAt(off, first?.from ?? 0).open).toBe(true);
    expect(callWindows(null, MONDAY_15, 2).map((w) => w.to - w.from)).toEqual([7_200_000, 7_200_000]);
  });
});

describe('asking for a callback', () => {
  it('confirms the caller’s own number and promises as soon as possible', () => {
    const { acts } = talkThrough('+353209140001', [key('1'), key('1')]);
    expect(acts.at(-1)).toEqual({ do: 'promise', number: '+353209140001', window: null });
    expect(acts[0]).toMatchObject({
      do: 'say',
      text: 'Shall we call you back on +353 20 914 0001? For yes, press 1. For another number, press 2.',
    });
    expect(acts.at(-2)).toMatchObject({
      text: 'We will call +353 20 914 0001 as soon as possible. Your place is kept. Goodbye.',
    });
  });
  it('takes another number by keys, reads it back, lets it be typed again, and takes a window', () => {
    const typed = (digits: string) => [...digits, '#'].map(key);
    const { acts } = talkThrough('+353209140001', [
      key('2'),
      ...typed('0209140002'),
      key('2'),
      ...typed('0209140003'),
      key('1'),
      ...typed('111111'),
      ...typed('123456'),
      key('3'),
    ]);
    expect(acts.filter((a) => a.do === 'send-code' || a.do === 'code-tried')).toEqual([
      { do: 'send-code', number: '+353209140003' },
      { do: 'code-tried', number: '+353209140003', right: false },
      { do: 'code-tried', number: '+353209140003', right: true },
    ]);
    expect(acts.at(-1)).toEqual({ do: 'promise', number: '+353209140003', window: windows[1] });
  });
  it('by text a number is written and options are chosen by their words, in the customer’s language', () => {
    const { acts } = talkThrough(
      null,
      [
        { type: 'text', text: '+353 20 914 0009' },
        { type: 'text', text: 'Correcto' },
        { type: 'text', text: 'es 123-456' },
        { type: 'text', text: 'lo antes posible' },
      ],
      'es',
    );
    expect(acts.at(-1)).toEqual({ do: 'promise', number: '+353209140009', window: null });
  });
  it('says when it is no number, and lets them wait on after three answers that fit nowhere', () => {
    const { acts, talk } = talkThrough(
      null,
      ['12', 'hello', '99'].map((text): TalkInput => ({ type: 'text', text })),
    );
    expect(acts.filter((a) => a.do === 'say' && a.text.startsWith('That is not a telephone number')).length).toBe(2);
    expect([acts.at(-1), talk]).toEqual([{ do: 'back' }, null]);
  });
  it('whatever is answered, it ends or asks again, and promises only numbers that can be called', () => {
    const input = fc.oneof(
      fc.constantFrom('0', '1', '2', '3', '*', '#').map(key),
      fc.string().map((text): TalkInput => ({ type: 'text', text })),
      fc.constantFrom('123456', '123456#').map((text): TalkInput => ({ type: 'text', text })),
      fc.stringMatching(/^\+3532091\d{5}$/).map((text): TalkInput => ({ type: 'text', text })),
    );
    fc.assert(
      fc.property(
        fc.option(fc.oneof(fc.string(), fc.constant(OWN))),
        fc.array(input, { maxLength: 30 }),
        (own, inputs) => {
          const { acts, talk } = talkThrough(own, inputs);
          const ends = acts.filter((a) => a.do === 'promise' || a.do === 'back');
          const proven = acts.flatMap((a) => (a.do === 'code-tried' && a.right ? [a.number] : []));
          expect(ends.length).toBe(talk === null ? 1 : 0);
          for (const a of ends) if (a.do === 'promise') expect(a.number).toMatch(/^\+\d{5,15}$/);
          for (const a of ends) if (a.do === 'promise') expect([OWN, own, ...proven]).toContain(a.number);
        },
      ),
    );
  });
});
