import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Stage, StageAct } from '../routing/clock';
import { heardWaiting } from './waitwords';

const AHEAD = { place: 3, seconds: 90 };
const say = (text: string, everySeconds: number | null = null): StageAct => ({
  does: 'say',
  wording: { en: text },
  everySeconds,
});
const ask = (text: string, everySeconds: number | null = null): StageAct => ({
  does: 'ask',
  wording: { en: text, es: 'Elija.' },
  choices: [
    { key: '1', what: 'message' },
    { key: '2', what: 'callback' },
  ],
  everySeconds,
});
const stage = (atSeconds: number, ...acts: StageAct[]): Stage => ({ atSeconds, early: false, acts });
const heard = (stages: readonly Stage[], end: number, language = 'en', channel: 'voice' | 'sms' = 'voice') =>
  heardWaiting(stages, end, { channel, language, languages: ['en'], ahead: AHEAD });
const words = (...args: Parameters<typeof heard>) =>
  heard(...args).flatMap((h) => (h.kind === 'words' ? [`${h.from} ${h.text}`] : []));

describe('what somebody hears who waits', () => {
  it('values, answers with their keys, and what is said again until something else is', () => {
    const stages = [
      stage(0, { does: 'play', music: 'cello' }, say('About {wait}, place {place}.', 20)),
      stage(30, ask('Busy.', 25)),
      stage(50, say('Still busy.')),
    ];
    expect(words(stages, 90)).toEqual([
      '0 About 1.5 minutes, place 3.',
      '20 About 1.5 minutes, place 3.',
      '30 Busy. Press 1 to leave a message, press 2 to be called back.',
      // A question does not end what is said again; another sentence does.
      '40 About 1.5 minutes, place 3.',
      '50 Still busy.',
      '55 Busy. Press 1 to leave a message, press 2 to be called back.',
      '80 Busy. Press 1 to leave a message, press 2 to be called back.',
    ]);
  });
  it('in another language and in writing as it is said there', () => {
    expect(words([stage(0, ask('Busy.'))], 30, 'es')).toEqual([
      '0 Elija. Pulse 1 para dejar un mensaje, pulse 2 para que me llamen.',
    ]);
    expect(words([stage(0, ask('Busy.'))], 30, 'en', 'sms')).toEqual(['0 Busy. 1 leave a message, 2 be called back.']);
  });
  it('one thing after another, without a gap once there is music, and never beyond the end', () => {
    const every = fc.option(fc.integer({ min: 5, max: 40 }));
    const act = fc.oneof(
      fc.tuple(fc.constantFrom('Hello there.', ''), every).map(([text, n]) => say(text, n)),
      fc.tuple(fc.constantFrom('Which?', 'Well?'), every).map(([text, n]) => ask(text, n)),
      fc.constantFrom('cello', 'marimba').map((music): StageAct => ({ does: 'play', music })),
    );
    const clock = fc
      .array(fc.tuple(fc.integer({ min: 0, max: 100 }), fc.array(act, { maxLength: 3 })), { maxLength: 5 })
      .map((list) => list.sort(([a], [b]) => a - b).map(([at, acts]) => stage(at, ...acts)));
    fc.assert(
      fc.property(clock, fc.integer({ min: 1, max: 150 }), (stages, end) => {
        const all = heard(stages, end);
        let at = 0;
        for (const h of all) {
          expect(h.from).toBeGreaterThanOrEqual(at);
          expect(h.to).toBeGreaterThan(h.from);
          at = h.to;
        }
        expect(at).toBeLessThanOrEqual(end);
        const first = all.findIndex((h) => h.kind === 'music');
        if (first < 0) return;
        all.slice(first).forEach((h, i, rest) => expect(h.to).toBe(rest[i + 1]?.from ?? end));
      }),
    );
  });
});
