import { LOOPS, renderLoop } from '@/core/sound/loops';

let context: AudioContext | null = null;
type Playing = { readonly id: string; readonly louder: (loud: number) => void; readonly stop: () => void };
let playing: Playing | null = null;
const buffers = new Map<string, AudioBuffer>();

/** A recorded file, over and over. */
function file(address: string, loud: number): Playing {
  const sound = new Audio(address);
  sound.loop = true;
  sound.volume = loud;
  // Where the browser will not play it nothing is heard.
  sound.play().catch(() => undefined);
  return {
    id: address,
    louder: (next) => {
      sound.volume = next;
    },
    stop: () => sound.pause(),
  };
}

/**
 * Plays a loop by its name, or a recorded file by its address, until another, or `stopMusic`; where the browser has no
 * sound nothing happens. `loud` is 0 to 1.
 */
export function playMusic(id: string, loud = 0.5): void {
  if (typeof AudioContext === 'undefined') return;
  if (playing?.id === id) return playing.louder(loud);
  stopMusic();
  if (id.startsWith('/')) {
    playing = file(id, loud);
    return;
  }
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
  playing = {
    id,
    louder: (next) => {
      level.gain.value = next;
    },
    stop: () => node.stop(),
  };
}
export function stopMusic(): void {
  playing?.stop();
  playing = null;
}
