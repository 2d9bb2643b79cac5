import { CHANNELS } from '../channels';
import { sentencesOf, withSentence } from '../bots/linesentences';
import type { BotScript, Scene, Wording } from '../bots/model';
import type { Reword, Said } from './said';

type Part = Pick<Said, 'place' | 'part' | 'needed' | 'most'> & { readonly line: string; readonly within: string };

/** A sentence's common words, then those that channels have of their own, each put through `reword`. */
function rewordWording(wording: Wording, { line, within, ...said }: Part, reword: Reword): Wording {
  const key = (channel: string): string => [line, within, channel].join('|');
  const text = reword({ ...said, key: key(''), channel: null, texts: wording.text });
  const own = CHANNELS.flatMap((channel) => {
    const texts = wording.on?.[channel];
    return texts
      ? [[channel, reword({ ...said, part: `${said.part}, own`, needed: false, key: key(channel), channel, texts })]]
      : [];
  });
  return own.length > 0
    ? { ...wording, text, on: { ...wording.on, ...Object.fromEntries(own) } }
    : { ...wording, text };
}

/** Most characters of a part of a line, as its schema has it. */
const mostOf = (within: string): number =>
  within.startsWith('choice:') ? 80 : within === 'link' ? 120 : within === 'alt' ? 200 : 2000;

/** Scenes with each sentence put through `reword`, by the number of its line. */
export const rewordScenes = <S extends Scene>(scenes: readonly S[], reword: Reword): S[] =>
  scenes.map((scene, s) => ({
    ...scene,
    steps: scene.steps.map((step, i) =>
      sentencesOf(step).reduce((worded, { key, part, wording, needed }) => {
        const said = { line: step.id, within: key, place: `${s + 1}.${i + 1}`, part, needed, most: mostOf(key) };
        return withSentence(worded, key, rewordWording(wording, said, reword));
      }, step),
    ),
  }));

/** A script with each sentence put through `reword`: in the order of its lines, those of the whole last. */
export function rewordScript(script: BotScript, reword: Reword): BotScript {
  const whole = { line: '', place: '', needed: false, most: 2000 };
  return {
    ...script,
    scenes: rewordScenes(script.scenes, reword),
    fallbackWording: rewordWording(
      script.fallbackWording,
      { ...whole, within: 'fallback', part: 'when something fails' },
      reword,
    ),
    quiet: {
      ...script.quiet,
      wording: rewordWording(
        script.quiet.wording,
        { ...whole, within: 'quiet', part: 'reminder when they go quiet' },
        reword,
      ),
    },
  };
}

/** The line in which a bot's sentence stands; null for the whole. */
export const lineOfSaid = ({ key }: Pick<Said, 'key'>): string | null => key.split('|')[0] || null;
