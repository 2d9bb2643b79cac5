import type { Channel } from '../channels';
import { numberFormat } from '../formatters';
import { localised } from '../localised';
import type { Option } from '../messages/options';
import type { Stage, StageAct } from '../routing/clock';
import { spokenSeconds } from '../routing/clockedit';
import { spokenWait } from '../routing/expectedwait';
import { builtIn, CHOICES, NOT_KNOWN, PRESS } from './words';

/** What the stages of a wait clock say, as customers get it. */

/** Where somebody stands, and how long it will still be, seconds; null when that is not known. */
export type Ahead = { readonly place: number; readonly seconds: number | null };

const inUnits = (amount: number, unit: 'minute' | 'second', language: string): string =>
  numberFormat(language, { style: 'unit', unit, unitDisplay: 'long', maximumFractionDigits: 1 }).format(amount);

/** Fills in the expected wait, spoken as minutes or seconds, and the place in line. */
export function withWait(text: string, { place, seconds }: Ahead, language: string): string {
  const spoken = seconds === null ? null : spokenWait(seconds);
  const wait =
    spoken === null
      ? builtIn(NOT_KNOWN, language)
      : spoken >= 60
        ? inUnits(spoken / 60, 'minute', language)
        : inUnits(spoken, 'second', language);
  return text.replaceAll('{wait}', wait).replaceAll('{place}', String(place));
}

type Ask = Extract<StageAct, { readonly does: 'ask' }>;

export const askOptions = (act: Ask, language: string): Option[] =>
  act.choices.map((c) => ({ key: c.key, label: builtIn(CHOICES[c.what], language) }));

/** A question's words with what can be answered and its keys. */
export function withAnswers(text: string, act: Ask, channel: Channel, language: string): string {
  const options = askOptions(act, language);
  const keys =
    channel === 'voice'
      ? options.map((o) => builtIn(PRESS, language).replace('{key}', o.key).replace('{what}', o.label)).join(', ')
      : options.map((o) => `${o.key} ${o.label}`).join(', ');
  return [text, keys === '' ? '' : `${keys.replace(/^./, (c) => c.toUpperCase())}.`].filter(Boolean).join(' ');
}

/** A stretch of a wait, in seconds: words, or music. */
export type Heard = { readonly from: number; readonly to: number } & (
  | { readonly kind: 'words'; readonly text: string; readonly asks: boolean }
  | { readonly kind: 'music'; readonly music: string }
);

/**
 * What somebody hears or reads who waits until `end`, one thing after another, with what is said and asked again: words
 * are as long as they take to speak, then the music goes on. The wait and the place are those of `ahead`.
 */
export function heardWaiting(
  stages: readonly Stage[],
  end: number,
  {
    channel,
    language,
    languages,
    ahead,
  }: {
    readonly channel: Channel;
    readonly language: string;
    readonly languages: readonly string[];
    readonly ahead: Ahead;
  },
): Heard[] {
  const wordsOf = (act: StageAct): string => {
    if (act.does !== 'say' && act.does !== 'ask') return '';
    const text = withWait(localised(act.wording, language, languages), ahead, language);
    return act.does === 'ask' ? withAnswers(text, act, channel, language) : text;
  };
  type Happens = { readonly at: number; readonly act: StageAct };
  const acts: Happens[] = stages.flatMap((s) => s.acts.map((act) => ({ at: s.atSeconds, act })));
  const happens = acts
    .flatMap(({ at, act }, i): Happens[] => {
      if (act.does === 'play') return [{ at, act }];
      if (act.does !== 'say' && act.does !== 'ask') return [];
      // A new sentence or question takes the place of the one before, which is not said again.
      const until = acts.slice(i + 1).find((later) => later.act.does === act.does)?.at ?? end;
      const times = act.everySeconds === null ? 1 : Math.max(1, Math.ceil((until - at) / act.everySeconds));
      return Array.from({ length: times }, (_, n) => ({ at: at + n * (act.everySeconds ?? 0), act }));
    })
    .filter(({ at }) => at < end)
    // Within a second words come before the music that follows them.
    .sort((a, b) => a.at - b.at || Number(a.act.does === 'play') - Number(b.act.does === 'play'));
  const out: Heard[] = [];
  let music: string | null = null;
  let free = 0;
  const play = (to: number) => {
    if (music !== null && to > free) out.push({ kind: 'music', from: free, to, music });
    free = Math.max(free, to);
  };
  for (const { at, act } of happens) {
    if (at > free) play(at);
    if (act.does === 'play') {
      music = act.music;
      continue;
    }
    const text = wordsOf(act);
    if (text === '') continue;
    const from = Math.max(free, at);
    const to = Math.min(end, from + spokenSeconds(text));
    if (to <= from) continue;
    out.push({ kind: 'words', from, to, text, asks: act.does === 'ask' });
    free = to;
  }
  play(end);
  return out;
}
