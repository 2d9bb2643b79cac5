import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { linkParts } from './links';

describe('links in what was said', () => {
  it.each([
    ['see https://shop.example/a?b=1, please', 'https://shop.example/a?b=1'],
    ['(https://shop.example/a_(b))', 'https://shop.example/a_(b)'],
    ['https://shop.example/x.', 'https://shop.example/x'],
    ['HTTP://SHOP.example', 'HTTP://SHOP.example'],
  ])('%s', (text, href) => expect(linkParts(text).filter((p) => p.href !== null)).toEqual([{ text: href, href }]));
  it.each(['javascript:alert(1)', 'https://', 'a.b', 'ftp://x.example', ''])('none in %s', (text) =>
    expect(linkParts(text).every((p) => p.href === null)).toBe(true),
  );
  it('loses nothing, and makes links of web pages alone', () =>
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string(),
          fc.webUrl(),
          fc.array(fc.oneof(fc.string(), fc.webUrl())).map((a) => a.join(' ')),
        ),
        (text) => {
          const parts = linkParts(text);
          expect(parts.map((p) => p.text).join('')).toBe(text);
          for (const { href } of parts) if (href !== null) expect(new URL(href).protocol).toMatch(/^https?:$/);
        },
      ),
    ));
});
