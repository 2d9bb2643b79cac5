import { type Speech, speechParts, type SpeechPart } from '@/core/messages/ssml';
/** Dual-tone frequencies of each key, Hz (ITU-T Q.23). */
const ROWS = [697, 770, 852, 941];
const COLUMNS = [1209, 1336, 1477];
export const KEYPAD = ['1', '2', '3', '4', '5', '6', '7', '8', '9', '*', '0', '#'] as const;

let context: AudioContext | null = null;

/** Sounds a telephone key for 140 ms, where the browser can. */
export function soundKey(key: string): void {
  const at = KEYPAD.findIndex((k) => k === key);
  if (at < 0 || typeof AudioContext === 'undefined') return;
  context ??= new AudioContext();
  const { currentTime, destination } = context;
  const level = context.createGain();
  level.gain.setValueAtTime(0.12, currentTime);
  level.gain.setTargetAtTime(0, currentTime + 0.12, 0.01);
  level.connect(destination);
  for (const frequency of [ROWS[Math.floor(at / 3)], COLUMNS[at % 3]]) {
    const tone = new OscillatorNode(context, { frequency: frequency ?? 0 });
    tone.connect(level);
    tone.start(currentTime);
    tone.stop(currentTime + 0.16);
  }
}

/** What is being spoken or waits to be; a new one is begun by `hush`. */
let speech = { parts: [] as (SpeechPart & { readonly language: string })[], speaking: false };

function next(mine: typeof speech): void {
  const part = mine.parts.shift();
  if (!part || mine !== speech) {
    mine.speaking = false;
    return;
  }
  mine.speaking = true;
  if ('pause' in part) return void setTimeout(() => next(mine), part.pause * 1000);
  const words = new SpeechSynthesisUtterance(part.say);
  words.lang = part.language;
  words.rate = part.rate;
  words.onend = () => next(mine);
  words.onerror = () => next(mine);
  speechSynthesis.speak(words);
}
/** Speaks wording, with its SSML tags if it has some, after what is being spoken; where the browser can. */
export function speak(wording: Speech, language: string): void {
  if (typeof speechSynthesis === 'undefined') return;
  speech.parts.push(
    ...speechParts(wording).map((p) => ({ ...p, language: ('say' in p ? p.language : null) ?? language })),
  );
  if (!speech.speaking) next(speech);
}
export function hush(): void {
  speech = { parts: [], speaking: false };
  if (typeof speechSynthesis !== 'undefined') speechSynthesis.cancel();
}
