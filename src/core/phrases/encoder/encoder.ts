/**
 * What turns sentences into vectors whose directions say what they mean. Everything that learns or matches phrases
 * knows an encoder by this alone, so that a better one is one more file.
 */
export type Encoder = {
  /** Which one it is: what was learnt with one is never matched with another. */
  readonly name: string;
  /** The language (BCP 47) it reads; what is said in others is put into it word by word first. */
  readonly language: string;
  /** How many numbers a vector has. */
  readonly size: number;
  /** One vector for each text, in order. An empty text gives zeros. */
  readonly encode: (texts: readonly string[]) => Float32Array[];
};
