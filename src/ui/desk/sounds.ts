'use client';

/** Sounds by the notes they are of: Hz, and seconds from the first. */
export const SOUNDS = {
  none: { name: 'none', notes: [] },
  knock: {
    name: 'a knock',
    notes: [
      [190, 0],
      [190, 0.16],
    ],
  },
  chime: {
    name: 'a chime',
    notes: [
      [660, 0],
      [880, 0.18],
      [1320, 0.36],
    ],
  },
  ping: { name: 'a ping', notes: [[988, 0]] },
} as const;
export type Sound = keyof typeof SOUNDS;
export const isSound = (x: unknown): x is Sound => typeof x === 'string' && x in SOUNDS;

/** Plays a sound once. */
export function sound(which: Sound): void {
  const { notes } = SOUNDS[which];
  if (notes.length === 0) return;
  const audio = new AudioContext();
  for (const [hz, at] of notes) {
    const [tone, loud] = [audio.createOscillator(), audio.createGain()];
    tone.frequency.value = hz;
    tone.connect(loud).connect(audio.destination);
    const from = audio.currentTime + at;
    loud.gain.setValueAtTime(0.18, from);
    loud.gain.exponentialRampToValueAtTime(0.001, from + 0.5);
    tone.start(from);
    tone.stop(from + 0.5);
  }
  setTimeout(() => void audio.close(), 2000);
}
