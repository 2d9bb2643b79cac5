import { describe, expect, it } from 'vitest';
import type { Choice, Listen } from './model';
import { ratingsBy } from './ratings';

const choice = (key: string, label: string): Choice => ({
  id: `choice ${label}`,
  key,
  label: { en: label },
  synonyms: {},
  cue: { to: 'end' },
});
const asks = (hears: Listen['hears'], name: string | null = 'stars'): Listen => ({
  id: 'a',
  verb: 'listen',
  wording: { text: { en: 'How was it?' } },
  hears,
  into: name === null ? null : { name, scope: 'conversation' },
  notices: [],
  tries: 1,
  silenceSeconds: 5,
  again: { text: {} },
  silent: { text: {} },
  otherwise: { to: 'end' },
});
const by = (step: Listen, afterSceneId: string | null = 'after') =>
  ratingsBy({ scenes: [{ id: 'after', name: 'After', steps: [step] }], afterSceneId });
const whole: Listen['hears'] = { kind: 'value', asked: { type: 'whole', least: 1, most: 5 } };

describe('how customers rate contacts', () => {
  it('is a whole number from 1 to 5 that the after-contact scene asks for', () => {
    const stars = by(asks(whole)).get('stars');
    expect(['1', '5', '0', '6', '3.5', 'good', ''].map((answer) => stars?.(answer))).toEqual([
      1,
      5,
      null,
      null,
      null,
      null,
      null,
    ]);
    expect(by(asks(whole), null).size).toBe(0);
    expect(by(asks(whole, null)).size).toBe(0);
    expect(by(asks({ kind: 'value', asked: { type: 'text' } })).size).toBe(0);
  });
  it('is the key of a choice, whatever it is called', () => {
    const stars = by(asks({ kind: 'choices', choices: [choice('5', 'Very good'), choice('1', 'Poor')] })).get('stars');
    expect(['Very good', 'Poor', '5', 'Fine'].map((answer) => stars?.(answer))).toEqual([5, 1, 5, null]);
    // Choices by other keys ask for something else.
    expect(by(asks({ kind: 'choices', choices: [choice('8', 'Yes'), choice('9', 'No')] })).size).toBe(0);
    expect(by(asks({ kind: 'choices', choices: [choice('', 'Yes'), choice('', 'No')] })).size).toBe(0);
  });
});
