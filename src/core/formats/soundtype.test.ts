import { describe, expect, it } from 'vitest';
import { soundType } from './soundtype';

const bytes = (text: string) => Uint8Array.from(text, (c) => c.charCodeAt(0));
describe('what kind of sound a file is', () => {
  it.each([
    ['RIFF\x24\x00\x00\x00WAVEfmt ', 'audio/wav'],
    ['OggS\x00\x02', 'audio/ogg'],
    ['ID3\x04', 'audio/mpeg'],
    ['\xff\xfb\x90\x00', 'audio/mpeg'],
    ['\xff\xf3\x40', 'audio/mpeg'],
    // A reserved version, layer I, a picture, a page, another RIFF file, nothing.
    ['\xff\xea\x90', null],
    ['\xff\xff\x90', null],
    ['\xff\xd8\xff\xe0', null],
    ['<html><script>', null],
    ['RIFF\x24\x00\x00\x00WEBP', null],
    ['', null],
  ])('%j is %s', (text, type) => expect(soundType(bytes(text))).toBe(type));
});
