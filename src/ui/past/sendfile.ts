import { inChunks } from '@/core/past/chunks';
import { call, setting } from '../kit/call';

/** Bytes as text, part by part. */
async function* textsOf(file: Blob): AsyncGenerator<string> {
  const reader = file.stream().pipeThrough(new TextDecoderStream()).getReader();
  for (let part = await reader.read(); !part.done; part = await reader.read()) yield part.value;
}

/** CSV by its name; all else is read as NDJSON. */
export const isTableFile = (name: string): boolean => /\.(csv|tsv|txt)$/i.test(name);

/** Sends a file in chunks; `told` hears how many characters have been sent. Gives its id and how many chunks there were. Stops when the signal is aborted. */
export async function sendFile(
  file: File,
  signal: AbortSignal,
  told: (sent: number) => void,
): Promise<{ readonly id: string; readonly chunks: number }> {
  const isTable = isTableFile(file.name);
  const { id } = await setting<{ id: string }>('past-begin', { name: file.name.slice(0, 120), isTable });
  let [place, sent] = [0, 0];
  try {
    for await (const { text, line } of inChunks(textsOf(file), isTable)) {
      signal.throwIfAborted();
      await call(`/api/past?${new URLSearchParams({ id, place: String(place), line: String(line) }).toString()}`, {
        body: { text },
      });
      place++;
      told((sent += text.length));
    }
    if (place === 0) throw new Error('The file is empty.');
  } catch (error) {
    // What came of it is of no use.
    await setting('past-take-out', { id }).catch(() => undefined);
    throw error;
  }
  return { id, chunks: place };
}
