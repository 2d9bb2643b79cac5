import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { smsSegments } from './segments';
import {
  escapeXml,
  plainSpeech,
  speechParts,
  speechSeconds,
  ssmlDocument,
  ssmlFault,
  withoutTags,
  wordingSpeech,
} from './ssml';

describe('SMS segments (3GPP TS 23.038)', () => {
  it.each([
    ['', 'GSM', 0, 0],
    ['a', 'GSM', 1, 1],
    ['a'.repeat(160), 'GSM', 160, 1],
    ['a'.repeat(161), 'GSM', 161, 2],
    ['a'.repeat(306), 'GSM', 306, 2],
    ['a'.repeat(307), 'GSM', 307, 3],
    ['€', 'GSM', 2, 1],
    ['€'.repeat(80), 'GSM', 160, 1],
    ['€'.repeat(81), 'GSM', 162, 2],
    [`${'a'.repeat(152)}€${'a'.repeat(152)}`, 'GSM', 306, 3],
    ['ą', 'UCS-2', 1, 1],
    ['ą'.repeat(70), 'UCS-2', 70, 1],
    ['ą'.repeat(71), 'UCS-2', 71, 2],
    ['ą'.repeat(134), 'UCS-2', 134, 2],
    ['ą'.repeat(135), 'UCS-2', 135, 3],
    ['🎻'.repeat(35), 'UCS-2', 70, 1],
    ['🎻'.repeat(36), 'UCS-2', 72, 2],
    ['¿Qué número?', 'UCS-2', 12, 1],
  ])('%#', (text, alphabet, units, segments) => expect(smsSegments(text)).toEqual({ alphabet, units, segments }));
  it('more text never takes fewer', () =>
    fc.assert(
      fc.property(
        fc.string({ maxLength: 400 }),
        fc.string({ maxLength: 20 }),
        (a, b) => smsSegments(a + b).segments >= smsSegments(a).segments,
      ),
    ));
});

describe('the part of SSML that wording may use', () => {
  it.each([
    ['plain text with < and &', null],
    ['<break time="300ms"/>', null],
    ['<say-as interpret-as="digits">204</say-as>', null],
    ['<emphasis level="strong">now</emphasis>', null],
    ['<lang xml:lang="es-MX">hola</lang>', null],
    ['<audio src="x"/>', '<audio> is not one of'],
    ['<break time="soon"/>', '<break> does not take time="soon"'],
    ['<b>bold', 'The tags do not fit together'],
    ['<prosody rate="slow" pitch="high">x</prosody>', '<prosody> does not take pitch'],
  ])('%s', (text, fault) =>
    fault === null ? expect(ssmlFault(text)).toBeNull() : expect(ssmlFault(text)).toContain(fault),
  );
  it('is read as stretches of speech and pauses', () => {
    expect(
      speechParts(
        wordingSpeech(
          'Your number is <say-as interpret-as="digits">2048</say-as>.<break time="1.5s"/><prosody rate="slow">Slowly</prosody>',
        ),
      ),
    ).toMatchObject([
      { say: 'Your number is ', digits: false },
      { say: '2 0 4 8', digits: true },
      { say: '.' },
      { pause: 1.5 },
      { say: 'Slowly', rate: 0.8 },
    ]);
    expect(withoutTags(wordingSpeech('Wait <break time="1s"/> now <emphasis>please</emphasis>.'))).toBe(
      'Wait now please.',
    );
  });
  it('what a customer said is never read as tags, and tags that no parser takes harm nobody', () => {
    const said = '<__proto__ a="1">x</__proto__>';
    expect(speechParts(plainSpeech(said))).toMatchObject([{ say: said }]);
    expect(withoutTags(plainSpeech(said))).toBe(said);
    expect(speechSeconds(wordingSpeech(said))).toBeGreaterThan(0);
    expect(ssmlFault(said)).not.toBeNull();
  });
  it('takes its time: words, full stops and pauses', () => {
    expect(speechSeconds(wordingSpeech('a'.repeat(30)))).toBeCloseTo(2);
    expect(speechSeconds(wordingSpeech('<break time="2s"/>x'))).toBeGreaterThan(2);
    expect(speechSeconds(wordingSpeech(''))).toBe(0);
  });
  it('broken tags are said without them, and values never become tags', () =>
    fc.assert(
      fc.property(fc.string(), (text) => {
        expect(ssmlFault(`<emphasis>${escapeXml(text)}</emphasis>`)).toBeNull();
        expect(() => speechParts(wordingSpeech(`<b>${text}`))).not.toThrow();
      }),
    ));
  it('a whole document names its language', () =>
    expect(ssmlDocument(wordingSpeech('Fish & chips'), 'en')).toMatch(
      /^<speak version="1\.1".* xml:lang="en">Fish &amp; chips<\/speak>$/,
    ));
});
