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

/** Speaks a sentence in a language, where the browser can. */
export function speak(text: string, language: string): void {
  if (typeof speechSynthesis === 'undefined') return;
  const words = new SpeechSynthesisUtterance(text);
  words.lang = language;
  speechSynthesis.speak(words);
}
export const hush = (): void => { if (typeof speechSynthesis !== 'undefined') speechSynthesis.cancel(); };
