import { createHash } from 'node:crypto';
import { number, object, string } from 'yup';
import { LaneError } from '../../core/errors';
import { soundType } from '../../core/formats/soundtype';
import { type FindRecorded, sameWords } from '../../core/sound/recorded';
import { loopName, LOOPS } from '../../core/sound/loops';
import type { Db } from '../../data/database';
import { valueOf } from '../../data/documents';
import { readQueues } from '../../data/queuesettings';
import { type Recording, RECORDINGS, readSound, type Sound, writeSound } from '../../data/recordings';
import { readWorkspace } from '../../data/workspace';
import { holds } from '../../core/people/rights';
import { type Actor, mustHold, mustHoldEverywhere } from '../ground/actor';
import { bind } from '../ground/bind';
import { recordChange, removeUndoable, type Undoable } from '../ground/change';
import type { Host, Tx } from '../ground/host';
import { exactly, id, languageTag, requiredText } from '../ground/schemas';
import { orNull, shaped } from '../ground/shaped';
import { parse } from '../ground/validate';
import { type SaidOnCalls, saidOnCalls } from './saidoncalls';

/** The most a recording may be, bytes: a minute and a half of speech as MP3 or Ogg. */
export const MOST_SOUND_BYTES = 700 * 1024;

type Asked = { readonly data: string; readonly seconds: number } & (
  | { readonly kind: 'words'; readonly language: string; readonly text: string }
  | { readonly kind: 'music'; readonly id: string | null; readonly name: string }
);
const saveSchema = shaped<Asked, 'kind', 'data' | 'seconds'>(
  'kind',
  {
    words: { language: languageTag.required('The language is missing'), text: requiredText(2000, 'The words') },
    music: { id: orNull(id('The music')), name: requiredText(60, 'The name') },
  },
  'What is recorded',
  {
    data: string()
      .matches(/^[A-Za-z0-9+/]+={0,2}$/, 'A recording comes as base64')
      .max(Math.ceil((MOST_SOUND_BYTES * 4) / 3) + 4, 'A recording may have at most 700 KB')
      .required('The recording is missing'),
    seconds: number().min(0.1, 'A recording lasts').max(600, 'A recording lasts at most ten minutes').required(),
  },
);
const removeSchema = exactly(object({ id: id('The recording') }));

export type RecordedLine = { readonly id: string; readonly seconds: number; readonly url: string };
export type RecordingsView = {
  readonly languages: readonly string[];
  /** What calls are told, with its recording; what is recorded and said nowhere any more has nowhere it is said. */
  readonly words: readonly (SaidOnCalls & { readonly recording: RecordedLine | null })[];
  readonly music: readonly (RecordedLine & { readonly name: string; readonly usedBy: readonly string[] })[];
  readonly mayChange: boolean;
};

/** What the functions of this file are given first. */
export type RecordingsDeps = { readonly host: Host };

export const soundPath = (soundId: string): string => `/api/v1/sounds/${soundId}`;
/** Words in a language have one recording: it is known by them. */
const idOfWords = (language: string, text: string): string =>
  `recording_${createHash('sha256').update(`${language} ${text}`).digest('hex').slice(0, 24)}`;
const lineOf = (r: Recording & { readonly id: string }): RecordedLine => ({
  id: r.id,
  seconds: r.seconds,
  url: soundPath(r.soundId),
});

/** Recordings by their words, made once for as long as settings are as they are. */
export const recordedWords = (host: Host): FindRecorded =>
  host.remembered('recordings', (db): FindRecorded => {
    const found = new Map<string, { id: string; seconds: number }>();
    for (const r of RECORDINGS.all(db))
      if (r.kind === 'words') found.set(`${r.language} ${r.text}`, { id: r.soundId, seconds: r.seconds });
    // A menu tells whoever chooses a language in that language.
    const anywhere = new Map([...found].map(([key, r]) => [key.slice(key.indexOf(' ') + 1), r]));
    return (language, words) => found.get(`${language} ${words}`) ?? anywhere.get(words) ?? null;
  });

/** Music to wait by: what ships with the product, then what was recorded. */
export const musicThere = (db: Db): { readonly id: string; readonly name: string; readonly url: string | null }[] => [
  ...LOOPS.map((l) => ({ id: l.id, name: l.name, url: null })),
  ...RECORDINGS.all(db).flatMap((r) =>
    r.kind === 'music' ? [{ id: r.id, name: r.name, url: soundPath(r.soundId) }] : [],
  ),
];

/** How a caller's side is told of music: by the name of a loop, or where the file is. */
export function musicPath(host: Host, music: string | null): string | null {
  if (music === null || LOOPS.some((l) => l.id === music)) return music;
  return host.remembered('music', musicThere).find((m) => m.id === music)?.url ?? null;
}

const playedBy = (db: Db, musicId: string): string[] =>
  readQueues(db)
    .filter((q) =>
      Object.values(q.clocks).some((stages) =>
        stages.some((s) => s.acts.some((a) => a.does === 'play' && a.music === musicId)),
      ),
    )
    .map((q) => q.name);

export function viewRecordings({ host }: RecordingsDeps, actor: Actor): RecordingsView {
  mustHold(actor, 'settings.view');
  const all = RECORDINGS.all(host.db);
  const words = new Map(all.flatMap((r) => (r.kind === 'words' ? [[`${r.language} ${r.text}`, r] as const] : [])));
  const said = host.remembered('said-on-calls', saidOnCalls);
  const keys = new Set(said.map((s) => `${s.language} ${s.text}`));
  return {
    languages: readWorkspace(host.db)?.languages ?? [],
    words: [
      ...said.map((s) => {
        const recording = words.get(`${s.language} ${s.text}`);
        return { ...s, recording: recording ? lineOf(recording) : null };
      }),
      ...[...words].flatMap(([key, r]) =>
        keys.has(key) ? [] : [{ language: r.language, text: r.text, valued: false, where: [], recording: lineOf(r) }],
      ),
    ],
    music: all.flatMap((r) =>
      r.kind === 'music' ? [{ ...lineOf(r), name: r.name, usedBy: playedBy(host.db, r.id) }] : [],
    ),
    mayChange: holds(actor, 'bots.change') && actor.teams === 'all',
  };
}

/** Keeps a file of sound, once however often it comes. Throws `not-valid` for what is no sound, or too large. */
function keepSound(tx: Tx, data: string): string {
  const refuse = (sentence: string, what: string): never => {
    throw new LaneError('not-valid', sentence, [{ where: 'data', what }]);
  };
  const bytes = Buffer.from(data, 'base64');
  const type = soundType(bytes);
  if (bytes.length > MOST_SOUND_BYTES) refuse('A recording may have at most 700 KB.', 'is too large');
  if (type === null) return refuse('A recording is a WAV, MP3 or Ogg file.', 'is no sound');
  const soundId = `sound_${createHash('sha256').update(bytes).digest('hex').slice(0, 32)}`;
  writeSound(tx.db, { id: soundId, type, bytes });
  return soundId;
}

/** Keeps a recording of words, or of music; words that have one get this one instead. */
export function saveRecording({ host }: RecordingsDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'bots.change');
  const asked = parse(saveSchema, input);
  return host.transact((tx) => {
    const sound = { soundId: keepSound(tx, asked.data), seconds: asked.seconds };
    const made: { id: string; name: string; body: Recording } =
      asked.kind === 'words'
        ? {
            id: idOfWords(asked.language, sameWords(asked.text)),
            name: sameWords(asked.text).slice(0, 60),
            body: { ...sound, kind: 'words', language: asked.language, text: sameWords(asked.text) },
          }
        : { id: asked.id ?? tx.ids('recording'), name: asked.name, body: { ...sound, kind: 'music' } };
    const before = RECORDINGS.one(tx.db, made.id);
    if (asked.kind === 'music') {
      if (asked.id !== null && before?.kind !== 'music')
        throw new LaneError('not-found', 'This music is not there any more.');
      const twin = musicThere(tx.db).find((m) => m.id !== made.id && m.name.toLowerCase() === asked.name.toLowerCase());
      if (twin)
        throw new LaneError('not-valid', `There is already music called ${twin.name}.`, [
          { where: 'name', what: 'is taken' },
        ]);
    }
    RECORDINGS.write(tx.db, made.id, made.name, made.body);
    recordChange(tx, actor, 'recording', made.id, before ? valueOf(before) : null, { name: made.name, ...made.body });
    return { id: made.id };
  });
}

function drop(tx: Tx, recordingId: string): void {
  const used = playedBy(tx.db, recordingId);
  if (used.length > 0)
    throw new LaneError('not-now', `It is played by ${used.join(', ')}. Take it out of their clocks first.`);
  RECORDINGS.remove(tx.db, recordingId);
}

export const undoableRecordings: Readonly<Record<'recording', Undoable>> = {
  recording: {
    name: 'recording',
    path: () => '/bots/recordings',
    read: (db, recordingId) => {
      const there = RECORDINGS.one(db, recordingId);
      return there ? valueOf(there) : null;
    },
    restore: (tx, actor, recordingId, value) => {
      mustHoldEverywhere(actor, 'bots.change');
      if (value === null) drop(tx, recordingId);
      else RECORDINGS.restore(tx.db, recordingId, value);
    },
  },
};

/** Takes a recording away: what it said is spoken from then on. The file itself is kept, so that undo brings it back. */
export function removeRecording({ host }: RecordingsDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'bots.change');
  const asked = parse(removeSchema, input);
  return host.transact((tx) =>
    removeUndoable(tx, actor, undoableRecordings, 'recording', asked.id, () => drop(tx, asked.id)),
  );
}

/** A file of sound as callers hear it; whoever was sent its id may. Throws `not-found`. */
export function soundFor({ host }: RecordingsDeps, soundId: string): Sound {
  const sound = readSound(host.db, soundId);
  if (!sound) throw new LaneError('not-found', 'There is no such recording.');
  return sound;
}

/** The name of music, whether it ships with the product or was recorded. */
export const musicName = (db: Db, musicId: string): string =>
  musicThere(db).find((m) => m.id === musicId)?.name ?? loopName(musicId);

export const createRecordings = (deps: RecordingsDeps) => ({
  undoable: undoableRecordings,
  ...bind(deps, { view: viewRecordings, save: saveRecording, remove: removeRecording, sound: soundFor }),
});
