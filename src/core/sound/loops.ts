/**
 * A short piece of music that is played over and over while somebody waits: notes in beats, made into sound where it
 * is heard.
 */
export type Loop = {
  readonly id: string;
  readonly name: string;
  readonly beatsPerMinute: number;
  readonly beats: number;
  readonly voice: 'bowed' | 'plucked' | 'soft';
  /** [beat, midi note, length in beats]. */ readonly notes: readonly (readonly [number, number, number])[];
};

export const LOOPS: readonly Loop[] = [
  {
    id: 'cello',
    name: 'Cello loop',
    beatsPerMinute: 66,
    beats: 16,
    voice: 'bowed',
    notes: [
      [0, 43, 2],
      [2, 50, 2],
      [4, 47, 2],
      [6, 50, 2],
      [8, 40, 2],
      [10, 47, 2],
      [12, 42, 2],
      [14, 45, 2],
      [0, 59, 4],
      [4, 62, 4],
      [8, 59, 4],
      [12, 57, 4],
    ],
  },
  {
    id: 'marimba',
    name: 'Marimba loop',
    beatsPerMinute: 96,
    beats: 16,
    voice: 'plucked',
    notes: [
      [0, 60, 1],
      [1, 64, 1],
      [2, 67, 1],
      [3, 64, 1],
      [4, 57, 1],
      [5, 60, 1],
      [6, 64, 1],
      [7, 60, 1],
      [8, 65, 1],
      [9, 69, 1],
      [10, 72, 1],
      [11, 69, 1],
      [12, 67, 1],
      [13, 71, 1],
      [14, 74, 1],
      [15, 71, 1],
    ],
  },
  {
    id: 'evening',
    name: 'Evening loop',
    beatsPerMinute: 54,
    beats: 16,
    voice: 'soft',
    notes: [
      [0, 48, 8],
      [0, 55, 8],
      [0, 64, 4],
      [4, 62, 4],
      [8, 45, 8],
      [8, 52, 8],
      [8, 60, 4],
      [12, 59, 4],
    ],
  },
];
export const loopName = (id: string): string => LOOPS.find((l) => l.id === id)?.name ?? 'music that is gone';

export const loopSeconds = (loop: Loop): number => (loop.beats * 60) / loop.beatsPerMinute;
/** Frequency of a midi note, Hz: 440 · 2^((n − 69) ÷ 12), equal temperament. */
export const noteFrequency = (note: number): number => 440 * 2 ** ((note - 69) / 12);

/** Overtones of each voice, loudest first. */
const PARTIALS: Readonly<Record<Loop['voice'], readonly number[]>> = {
  bowed: [1, 0.55, 0.35, 0.2, 0.12],
  plucked: [1, 0.15, 0.3, 0.05],
  soft: [1, 0.2, 0.05],
};

/**
 * The loop as samples between −1 and 1, one channel. It begins and ends in silence, and what rings over its end
 * sounds at its beginning.
 */
export function renderLoop(loop: Loop, samplesPerSecond: number): Float32Array {
  const length = Math.round(loopSeconds(loop) * samplesPerSecond);
  const samples = new Float32Array(length);
  const beat = (60 / loop.beatsPerMinute) * samplesPerSecond;
  const partials = PARTIALS[loop.voice];
  for (const [at, note, beats] of loop.notes) {
    const from = Math.round(at * beat);
    const held = Math.round(beats * beat);
    const rise = loop.voice === 'plucked' ? 0.005 * samplesPerSecond : 0.12 * samplesPerSecond;
    for (let i = 0; i < held; i++) {
      const t = i / samplesPerSecond;
      const envelope =
        Math.min(1, i / rise) *
        (loop.voice === 'plucked' ? Math.exp(-t * 5) : 1) *
        Math.min(1, (held - i) / (0.1 * samplesPerSecond));
      let wave = 0;
      partials.forEach((loud, p) => {
        wave += loud * Math.sin(2 * Math.PI * noteFrequency(note) * (p + 1) * t);
      });
      const place = (from + i) % length;
      samples[place] = (samples[place] ?? 0) + 0.16 * envelope * wave;
    }
  }
  let loudest = 0;
  for (const s of samples) loudest = Math.max(loudest, Math.abs(s));
  const scale = loudest > 0 ? 0.6 / loudest : 1;
  for (let i = 0; i < length; i++) samples[i] = (samples[i] ?? 0) * scale;
  return samples;
}
