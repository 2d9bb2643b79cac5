'use client';

import { Slider } from 'radix-ui';
import { useMemo } from 'react';
import type { Wish } from '@/core/phrases/book';
import { type Fare, thresholdsFor, type Trade, tradeOf } from '@/core/phrases/judging';

const percent = (share: number | null): string => (share === null ? '–' : `${Math.round(share * 100)}%`);

/** What becomes of phrases, in a sentence. */
export const tradeSentence = (t: Trade): string =>
  [
    t.rightWhenActing === null
      ? 'Acts on nothing'
      : `Acts on ${percent(t.acts)}, right in ${percent(t.rightWhenActing)}`,
    t.offeredWhenAsking === null
      ? 'asks back about nothing'
      : `asks back on ${percent(t.asks)}, offers the right one in ${percent(t.offeredWhenAsking)}`,
    `leaves ${percent(t.leaves)}.`,
  ].join('; ') + (t.taken === null ? '' : ` Takes ${percent(t.taken)} of what is none of ours.`);

/** Phrases as one bar: acted on rightly and wrongly, asked about with and without the right one, left. */
function Bar({ trade }: { trade: Trade }) {
  const right = trade.acts * (trade.rightWhenActing ?? 0);
  const offered = trade.asks * (trade.offeredWhenAsking ?? 0);
  const parts = [
    ['acted on, right', right, 'bg-moss'],
    ['acted on, wrong', trade.acts - right, 'bg-clay'],
    ['asked back, right one offered', offered, 'bg-tide'],
    ['asked back, not offered', trade.asks - offered, 'bg-brass'],
    ['left as not understood', trade.leaves, 'bg-sunk'],
  ] as const;
  return (
    <div>
      <div aria-hidden className="flex h-4 overflow-hidden rounded-control border border-rule">
        {parts.map(([name, share, fill]) => (
          <span key={name} className={fill} style={{ width: `${share * 100}%` }} />
        ))}
      </div>
      <ul className="mt-1 flex flex-wrap gap-x-3 text-tiny text-ink-2">
        {parts.map(([name, share, fill]) => (
          <li key={name} className="flex items-center gap-1">
            <span aria-hidden className={`inline-block size-2 rounded-full border border-rule ${fill}`} />
            {name} {percent(share)}
          </li>
        ))}
      </ul>
    </div>
  );
}

function Share({
  label,
  value,
  least,
  most,
  disabled,
  onChange,
}: {
  label: string;
  value: number;
  least: number;
  most: number;
  disabled: boolean;
  onChange: (share: number) => void;
}) {
  return (
    <div className="grid grid-cols-[170px_minmax(0,1fr)_44px] items-center gap-3 text-small">
      <span className="text-ink-2">{label}</span>
      <Slider.Root
        min={least}
        max={most}
        step={1}
        disabled={disabled}
        value={[Math.round(value * 100)]}
        onValueChange={([next]) => onChange((next ?? least) / 100)}
        className="relative flex h-5 items-center"
      >
        <Slider.Track className="relative h-1 flex-1 rounded-full bg-sunk">
          <Slider.Range className="absolute h-1 rounded-full bg-plum" />
        </Slider.Track>
        <Slider.Thumb aria-label={label} className="block size-4 rounded-full border-2 border-plum bg-paper" />
      </Slider.Root>
      <span className="text-right tabular-nums">{percent(value)}</span>
    </div>
  );
}

/** What a lead wishes of a language, and what it comes to, by phrases judged without themselves. */
export function TradeOf({
  fares,
  wish,
  mayChange,
  onWish,
}: {
  fares: readonly Fare[];
  wish: Wish;
  mayChange: boolean;
  onWish: (wish: Wish) => void;
}) {
  const trade = useMemo(() => tradeOf(fares, thresholdsFor(fares, wish)), [fares, wish]);
  return (
    <div className="flex flex-col gap-2">
      <p className="text-small">{tradeSentence(trade)}</p>
      <Bar trade={trade} />
      <Share
        label="Right, of what it acts on"
        value={wish.right}
        least={60}
        most={98}
        disabled={!mayChange}
        onChange={(right) => onWish({ ...wish, right })}
      />
      <Share
        label="Kept, of what is ours"
        value={wish.keep}
        least={70}
        most={99}
        disabled={!mayChange}
        onChange={(keep) => onWish({ ...wish, keep })}
      />
    </div>
  );
}
