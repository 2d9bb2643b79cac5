/**
 * Makes `words/<language>.signs.txt`: words of other languages by what they are in English, found by which words both
 * languages give the same signs in CLDR's annotations (npm `cldr-annotations-full`, Unicode licence). What
 * `words/<language>.txt` says goes first. Run by hand when that package has a new version: node scripts/words.mjs
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const PACKAGE = 'cldr-annotations-full@48.2.0';
const LANGUAGES = ['es', 'fr', 'pl'];
/** How alike the signs of two words must be (Dice), and how many they share at least. */
const ALIKE = 0.5;
const SHARED = 2;
/** Signs whose names say nothing of what a customer may want. */
const LEFT_OUT = new Set(['🎯']);

const folder = mkdtempSync(join(tmpdir(), 'words-'));
try {
  execFileSync('npm', ['install', '--prefix', folder, '--no-save', '--ignore-scripts', PACKAGE], { stdio: 'inherit' });
  const annotations = (language) =>
    JSON.parse(
      readFileSync(
        join(folder, 'node_modules/cldr-annotations-full/annotations', language, 'annotations.json'),
        'utf8',
      ),
    ).annotations.annotations;
  const english = annotations('en');
  for (const language of LANGUAGES) writeFileSync(`words/${language}.signs.txt`, made(english, annotations(language)));
} finally {
  rmSync(folder, { recursive: true, force: true });
}

/** The words of a sign: one word each, in small letters. */
function wordsOf(sign) {
  return new Set(
    [...(sign?.default ?? []), ...(sign?.tts ?? [])]
      .map((w) => w.toLowerCase())
      .filter((w) => /^[\p{L}]{3,}$/u.test(w)),
  );
}
function nameOf(sign) {
  return sign?.tts?.[0]?.toLowerCase() ?? '';
}

function made(english, other) {
  const [ofEnglish, ofOther, both, names] = [new Map(), new Map(), new Map(), new Map()];
  const count = (map, key) => map.set(key, (map.get(key) ?? 0) + 1);
  for (const [sign, theirs] of Object.entries(other)) {
    if (LEFT_OUT.has(sign)) continue;
    const [mine, foreign] = [wordsOf(english[sign]), wordsOf(theirs)];
    for (const e of mine) count(ofEnglish, e);
    for (const w of foreign) {
      count(ofOther, w);
      for (const e of mine) count(both, `${w} ${e}`);
    }
    const [name, theirName] = [nameOf(english[sign]), nameOf(theirs)];
    if (mine.has(name) && foreign.has(theirName) && !names.has(theirName)) names.set(theirName, name);
  }
  const best = new Map();
  for (const [pair, shared] of both) {
    const [w, e] = pair.split(' ');
    const alike = (2 * shared) / (ofOther.get(w) + ofEnglish.get(e));
    if (shared >= SHARED && alike >= ALIKE && alike > (best.get(w)?.alike ?? 0)) best.set(w, { e, alike });
  }
  const byEnglish = new Map();
  for (const w of new Set([...names.keys(), ...best.keys()])) {
    const e = names.get(w) ?? best.get(w).e;
    byEnglish.set(e, [...(byEnglish.get(e) ?? []), w].sort());
  }
  const lines = [...byEnglish].sort(([a], [b]) => (a < b ? -1 : 1)).map(([e, ws]) => `${e}: ${ws.join(' ')}`);
  return `# Made by scripts/words.mjs from CLDR annotations (Unicode-3.0).\n${lines.join('\n')}\n`;
}
