import { type Channel, CHANNELS } from '../channels';
import { readTable, UnreadableTable, writeTable } from '../formats/csv';
import { sentencesOf, withSentence } from './linesentences';
import type { BotScript, Scene, Wording } from './model';

/**
 * One sentence of a script with where it stands; `channel` is null for the text that counts on all channels without
 * their own.
 */
export type WordingRow = {
  readonly id: string;
  readonly lineId: string | null;
  readonly place: string;
  readonly part: string;
  readonly channel: Channel | null;
  readonly texts: Readonly<Record<string, string>>;
  readonly needed: boolean;
};
type Part = { readonly key: string; readonly part: string; readonly wording: Wording; readonly needed: boolean };

const wholeParts = (script: BotScript): Part[] => [
  { key: 'fallback', part: 'when something fails', wording: script.fallbackWording, needed: false },
  { key: 'quiet', part: 'reminder when they go quiet', wording: script.quiet.wording, needed: false },
];
const rowsFor = (lineId: string | null, place: string, { key, part, wording, needed }: Part): WordingRow[] =>
  [null, ...CHANNELS.filter((c) => wording.on?.[c])].map((channel) => ({
    id: [lineId ?? '', key, channel ?? ''].join('|'),
    lineId,
    place,
    part: channel === null ? part : `${part}, own`,
    channel,
    texts: (channel === null ? wording.text : wording.on?.[channel]) ?? {},
    needed: needed && channel === null,
  }));

/**
 * Every sentence of a script, in the order of its lines; those of the whole come last. Parts that are optional and
 * empty are left out.
 */
export function wordingRows(script: BotScript): WordingRow[] {
  const said = (row: WordingRow): boolean =>
    row.needed || row.channel !== null || Object.values(row.texts).some(Boolean);
  const lines = script.scenes.flatMap((scene: Scene, s) =>
    scene.steps.flatMap((step, i) => sentencesOf(step).flatMap((part) => rowsFor(step.id, `${s + 1}.${i + 1}`, part))),
  );
  return [...lines, ...wholeParts(script).flatMap((part) => rowsFor(null, '', part))].filter(said);
}

/** Puts a text into one sentence. */
export function withText(script: BotScript, id: string, language: string, text: string): BotScript {
  const [lineId = '', key = '', on = ''] = id.split('|');
  const channel = CHANNELS.find((c) => c === on) ?? null;
  const put = (w: Wording): Wording =>
    channel === null
      ? { ...w, text: { ...w.text, [language]: text } }
      : { ...w, on: { ...w.on, [channel]: { ...w.on?.[channel], [language]: text } } };
  if (lineId === '')
    return key === 'fallback'
      ? { ...script, fallbackWording: put(script.fallbackWording) }
      : { ...script, quiet: { ...script.quiet, wording: put(script.quiet.wording) } };
  return {
    ...script,
    scenes: script.scenes.map((scene) => ({
      ...scene,
      steps: scene.steps.map((step) => {
        const part = step.id === lineId ? sentencesOf(step).find((s) => s.key === key) : undefined;
        return part ? withSentence(step, key, put(part.wording)) : step;
      }),
    })),
  };
}

const HEADER = ['id', 'line', 'part', 'channel', 'original', 'text'] as const;

/** The wording of one language as CSV, beside the language the script is written in. */
export const wordingCsv = (script: BotScript, language: string): string =>
  writeTable(
    HEADER,
    wordingRows(script).map((r) => [
      r.id,
      r.place,
      r.part,
      r.channel ?? '',
      r.texts[script.languages[0] ?? 'en'] ?? '',
      r.texts[language] ?? '',
    ]),
  );

export type WordingChange = {
  readonly id: string;
  readonly place: string;
  readonly part: string;
  readonly from: string;
  readonly to: string;
};
export type WordingRead = {
  readonly changes: readonly WordingChange[];
  readonly faults: readonly { readonly row: number; readonly what: string }[];
};

/**
 * Reads a wording file of a language against a script: what would change, and what is wrong by row. Rows that are
 * missing change nothing. A file with a fault is not to be taken in at all.
 */
export function readWordingCsv(script: BotScript, language: string, text: string): WordingRead {
  const faults: { row: number; what: string }[] = [];
  const changes: WordingChange[] = [];
  try {
    const { header, rows } = readTable(text);
    const at = (name: string): number => header.findIndex((h) => h.trim().toLowerCase() === name);
    if (at('id') < 0 || at('text') < 0)
      return { changes: [], faults: [{ row: 1, what: 'The columns id and text are missing.' }] };
    const known = new Map(wordingRows(script).map((r) => [r.id, r]));
    const seen = new Set<string>();
    for (const { row, cells } of rows) {
      const id = cells[at('id')] ?? '';
      const to = cells[at('text')] ?? '';
      const there = known.get(id);
      if (!there)
        faults.push({ row, what: `There is no sentence with the id ${id.slice(0, 60) || '(empty)'} in this script.` });
      else if (seen.has(id))
        faults.push({ row, what: `The sentence of line ${there.place || 'the whole'} stands here twice.` });
      else if (to.length > 2000) faults.push({ row, what: 'The text is longer than 2000 characters.' });
      else if (to !== (there.texts[language] ?? '').trim())
        changes.push({ id, place: there.place, part: there.part, from: there.texts[language] ?? '', to });
      seen.add(id);
    }
  } catch (error) {
    if (!(error instanceof UnreadableTable)) throw error;
    return { changes: [], faults: [{ row: error.row, what: error.message }] };
  }
  return { changes, faults };
}
export const withChanges = (script: BotScript, language: string, changes: readonly WordingChange[]): BotScript =>
  changes.reduce((s, c) => withText(s, c.id, language, c.to), script);

/** How many sentences of a script lack a language. */
export const missingIn = (script: BotScript, language: string): number =>
  wordingRows(script).filter(
    (r) => r.channel === null && !r.texts[language]?.trim() && (r.needed || Object.values(r.texts).some(Boolean)),
  ).length;
