import { CALLBACK_PARTS, CALLBACK_SENTENCES } from '../callbacks/sentences';
import { choiceName, type Step, type Wording } from './model';

/** One sentence of a line: its key within the line, what it is for, and whether the line is nothing without it. */
export type Sentence = {
  readonly key: string;
  readonly part: string;
  readonly wording: Wording;
  readonly needed: boolean;
};

export function sentencesOf(step: Step): Sentence[] {
  const one = (key: string, part: string, wording: Wording, needed = false): Sentence => ({
    key,
    part,
    wording,
    needed,
  });
  switch (step.verb) {
    case 'say':
      return [
        one('wording', 'wording', step.wording, true),
        ...(step.link ? [one('link', 'label of the link', { text: step.link.label })] : []),
        ...(step.image ? [one('alt', 'words for the picture', { text: step.image.alt }, true)] : []),
      ];
    case 'listen':
      return [
        one('wording', 'question', step.wording, true),
        ...(step.hears.kind === 'choices'
          ? step.hears.choices.map((c) =>
              one(`choice:${c.id}`, `choice ${c.key || choiceName(c)}`, { text: c.label }, true),
            )
          : []),
        one('again', 'wording when not understood', step.again),
        one('silent', 'wording after silence', step.silent),
      ];
    case 'look-up':
    case 'do':
      return [one('slow', 'wording if slow', step.slow)];
    case 'text-them':
      return [one('wording', 'text', step.wording, true)];
    case 'take-message':
    case 'articles':
      return [one('wording', 'question', step.wording, true)];
    case 'call-back':
      return CALLBACK_SENTENCES.flatMap((id) => {
        const wording = step.sentences[id];
        return wording ? [one(`call:${id}`, CALLBACK_PARTS[id].part, wording)] : [];
      });
    case 'hand-over':
    case 'end':
      return [one('wording', 'wording', step.wording)];
    default:
      return [];
  }
}

/** Puts other words into one of a line's sentences. */
export function withSentence(step: Step, key: string, wording: Wording): Step {
  if (key.startsWith('choice:'))
    return step.verb === 'listen' && step.hears.kind === 'choices'
      ? {
          ...step,
          hears: {
            ...step.hears,
            choices: step.hears.choices.map((c) => (`choice:${c.id}` === key ? { ...c, label: wording.text } : c)),
          },
        }
      : step;
  if (key.startsWith('call:'))
    return step.verb === 'call-back'
      ? { ...step, sentences: { ...step.sentences, [key.slice('call:'.length)]: wording } }
      : step;
  if (key === 'link')
    return step.verb === 'say' && step.link ? { ...step, link: { ...step.link, label: wording.text } } : step;
  if (key === 'alt')
    return step.verb === 'say' && step.image ? { ...step, image: { ...step.image, alt: wording.text } } : step;
  return key in step && ['wording', 'again', 'silent', 'slow'].includes(key) ? { ...step, [key]: wording } : step;
}
