import { describe, expect, it } from 'vitest';
import { imageType } from './imagetype';

const bytes = (text: string) => Uint8Array.from(text, (c) => c.charCodeAt(0));

describe('the kind of a picture', () => {
  it.each([
    ['\x89PNG\r\n\x1a\nrest', 'image/png'],
    ['\xff\xd8\xff\xe0rest', 'image/jpeg'],
    ['GIF89arest', 'image/gif'],
    ['RIFF\x10\x00\x00\x00WEBPVP8 ', 'image/webp'],
  ])('%j is %s', (text, type) => expect(imageType(bytes(text))).toBe(type));
  it.each([
    '',
    '\x89PNG',
    '<svg xmlns="http://www.w3.org/2000/svg"/>',
    '<!doctype html>',
    'RIFF\x10\x00\x00\x00WAVE',
    'GIF90a',
  ])('%j is none', (text) => expect(imageType(bytes(text))).toBeNull());
});
