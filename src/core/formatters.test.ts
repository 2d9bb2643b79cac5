import { describe, expect, it } from 'vitest';
import { dateFormat, numberFormat } from './formatters';

describe('formatters', () => {
  const minutes = { style: 'unit', unit: 'minute', unitDisplay: 'long' } as const;
  it('are made once for a language and what is asked of them', () => {
    expect(numberFormat('fr', minutes)).toBe(numberFormat('fr', { ...minutes }));
    expect(numberFormat('fr', minutes).format(2)).toBe('2 minutes');
    expect(numberFormat('es', minutes).format(2)).toBe('2 minutos');
    const at = Date.UTC(2026, 0, 5, 23, 30);
    const day = (timeZone: string) => dateFormat('en', { weekday: 'long', timeZone }).format(at);
    expect([day('UTC'), day('Europe/Warsaw')]).toEqual(['Monday', 'Tuesday']);
  });
  it('are not kept without end for languages that strangers make up', () => {
    const first = numberFormat('en-x-first', minutes);
    for (let i = 0; i < 200; i++) numberFormat(`en-x-n${i}`, minutes);
    expect(numberFormat('en-x-first', minutes)).not.toBe(first);
  });
  it('a tag that is none is refused each time', () => {
    for (let i = 0; i < 2; i++) expect(() => numberFormat('no tag', minutes)).toThrow(RangeError);
  });
});
