import { plainSpeech } from '../messages/ssml';
import type { Step } from './model';
import type { Lead, Run } from './run';
import { listen, say } from './saying';
import { anythingElse, goOn } from './sentences';

/** An article in parts of a few sentences, as can be taken in by ear. */
export function inParts(text: string): string[] {
  const parts: string[] = [];
  for (const sentence of text.split(/(?<=[.?!])\s+/)) {
    const last = parts.at(-1);
    if (last !== undefined && last.length + sentence.length < 220) parts[parts.length - 1] = `${last} ${sentence}`;
    else parts.push(sentence);
  }
  return parts;
}

/** Quotes an article with its title: a part at a time by voice, whole in text. */
export function read(run: Run, step: Extract<Step, { verb: 'articles' }>): Lead {
  const { reading, language } = run.state;
  if (!reading) return 'gone';
  if (run.world.channel === 'voice') {
    const last = reading.at >= reading.parts.length - 1;
    say(
      run,
      step.id,
      plainSpeech(
        [
          reading.at === 0 ? `${reading.title}.` : '',
          reading.parts[reading.at] ?? '',
          last ? anythingElse(language) : goOn(language),
        ]
          .filter(Boolean)
          .join(' '),
      ),
    );
  } else {
    say(run, step.id, plainSpeech(`${reading.title}\n${reading.parts.join(' ')}`));
    say(run, step.id, plainSpeech(anythingElse(language)));
  }
  return listen(run, step);
}
