import { textOf } from '@/core/formats/bytes';

/** What stands in a file that was chosen, in whatever way its text is kept. */
export const fileText = async (file: Blob): Promise<string> => textOf(new Uint8Array(await file.arrayBuffer()));

/** A file's bytes as base64. */
export const base64Of = (file: File): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result).replace(/^data:[^,]*,/, ''));
    reader.onerror = () => reject(new Error('The file cannot be read.'));
    reader.readAsDataURL(file);
  });

/** How long a file of sound plays, seconds, as this browser finds by decoding it. Throws what to tell whoever chose it. */
export async function secondsOf(file: File): Promise<number> {
  try {
    const sound = await new OfflineAudioContext(1, 1, 8000).decodeAudioData(await file.arrayBuffer());
    return Math.round(sound.duration * 10) / 10;
  } catch {
    throw new Error('This browser cannot play the file. Use WAV, MP3 or Ogg.');
  }
}
