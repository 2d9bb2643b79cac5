import { LOOPS, renderLoop } from '@/core/sound/loops';

let context: AudioContext | null = null;
let playing: { readonly id: string; readonly node: AudioBufferSourceNode; readonly level: GainNode } | null = null;
const buffers = new Map<string, AudioBuffer>();

/** Plays a loop until another, or `stopMusic`; where the browser has no sound nothing happens. `loud` is 0 to 1. */
export function playMusic(id: string, loud = 0.5): void {
  if (typeof AudioContext === 'undefined') return;
  if (playing?.id === id) {
    playing.level.gain.value = loud;
    return;
  }
  stopMusic();
  const loop = LOOPS.find((l) => l.id === id);
  if (!loop) return;
  context ??= new AudioContext();
  let buffer = buffers.get(id);
  if (!buffer) {
    const samples = renderLoop(loop, 22_050);
    buffer = context.createBuffer(1, samples.length, 22_050);
    buffer.getChannelData(0).set(samples);
    buffers.set(id, buffer);
  }
  const node = new AudioBufferSourceNode(context, { buffer, loop: true });
  const level = new GainNode(context, { gain: loud });
  node.connect(level).connect(context.destination);
  node.start();
  playing = { id, node, level };
}
export function stopMusic(): void {
  playing?.node.stop();
  playing = null;
}
