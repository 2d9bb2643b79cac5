import { plainSpeech, type Speech, speechParts, type SpeechPart } from '@/core/messages/ssml';
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

type Part = (SpeechPart & { readonly language: string }) | { readonly recording: string };
/** What is being spoken or waits to be; a new one is begun by `hush`. */
let speech = { parts: [] as Part[], speaking: false, sound: null as HTMLAudioElement | null };

function next(mine: typeof speech): void {
  const part = mine.parts.shift();
  if (!part || mine !== speech) {
    mine.speaking = false;
    return;
  }
  mine.speaking = true;
  if ('recording' in part) {
    mine.sound = new Audio(part.recording);
    mine.sound.onended = mine.sound.onerror = () => next(mine);
    mine.sound.play().catch(() => next(mine));
    return;
  }
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
/** Words part by part after what is being spoken: recorded ones are played, the others spoken. */
export function speakParts(
  parts: readonly { readonly text: string; readonly recording: string | null }[],
  language: string,
): void {
  for (const { text, recording } of parts) {
    if (recording === null) speak(plainSpeech(text), language);
    else speech.parts.push({ recording });
    if (!speech.speaking) next(speech);
  }
}
export function hush(): void {
  speech.sound?.pause();
  speech = { parts: [], speaking: false, sound: null };
  if (typeof speechSynthesis !== 'undefined') speechSynthesis.cancel();
}
