'use client';

import { clsx } from 'clsx';
import { CATEGORY_NAMES, OUTCOME_CATEGORIES } from '@/core/outcomes';
import { asCount } from '../kit/figures';

/** An outcome as it is drawn; `key` tells it apart while it has no code yet. */
export type DrawnOutcome = {
  readonly key: string;
  readonly label: string;
  readonly category: (typeof OUTCOME_CATEGORIES)[number];
  readonly who: 'agents' | 'system';
  readonly shortest: number | null;
  readonly longest: number | null;
  readonly uses: number;
};

/** Lengths that are marked on the ruler, in seconds; what is longer than the last is at its end. */
const MARKS = [0, 10, 30, 60, 120, 300, 600, 1800, 3600] as const;
const HEIGHT = 440;
const markWords = (s: number): string => (s < 60 ? `${s} s` : s < 3600 ? `${s / 60} min` : `${s / 3600} h`);

/** How far down the ruler a length stands, px: marks are equally far apart, and lengths between them in proportion. */
function downTo(seconds: number | null): number {
  const step = HEIGHT / MARKS.length;
  if (seconds === null) return HEIGHT;
  const i = MARKS.findLastIndex((mark) => mark <= seconds);
  const [from, to] = [MARKS[i] ?? 0, MARKS[i + 1]];
  // Beyond the last mark an hour more is half of what is left.
  const share = to === undefined ? 1 - 1 / (1 + (seconds - from) / 3600) : (seconds - from) / (to - from);
  return step * (i + share);
}
export const lengthWords = ({ shortest, longest }: Pick<DrawnOutcome, 'shortest' | 'longest'>): string =>
  shortest === null && longest === null
    ? 'any length'
    : longest === null
      ? `from ${markWords(shortest ?? 0)}`
      : shortest === null
        ? `up to ${markWords(longest)}`
        : `${markWords(shortest)} to ${markWords(longest)}`;

/** Outcomes on a ruler of contact length, from short at the top to long, in columns by what they count as. */
export function OutcomeRuler({
  outcomes,
  openKey,
  onOpen,
}: {
  outcomes: readonly DrawnOutcome[];
  openKey: string | null;
  onOpen: (key: string) => void;
}) {
  const columns = OUTCOME_CATEGORIES.map((category) => ({
    category,
    mine: outcomes.filter((o) => o.category === category),
  }));
  return (
    <div className="overflow-x-auto px-4 pt-3 pb-4">
      <div
        className="grid gap-x-2"
        style={{
          gridTemplateColumns: `52px ${columns.map(({ mine }) => `minmax(${Math.max(60, mine.length * 60)}px, ${Math.max(1, mine.length)}fr)`).join(' ')}`,
        }}
      >
        <span className="text-tiny text-ink-2">lasting</span>
        {columns.map(({ category, mine }) => (
          <h2
            key={category}
            className="self-end border-b-2 border-rule-strong pb-1 text-small leading-tight font-semibold"
          >
            {CATEGORY_NAMES[category]}
            <span className="ml-1 font-normal text-ink-2">{mine.length === 0 ? '' : mine.length}</span>
          </h2>
        ))}
        <div className="relative" style={{ height: HEIGHT }} aria-hidden>
          {MARKS.map((mark) => (
            <span
              key={mark}
              className="absolute right-2 text-tiny text-ink-2 tabular-nums"
              style={{ top: downTo(mark) }}
            >
              {markWords(mark)}
            </span>
          ))}
        </div>
        {columns.map(({ category, mine }) => (
          <div key={category} className="relative" style={{ height: HEIGHT }}>
            {MARKS.map((mark) => (
              <span
                key={mark}
                aria-hidden
                className="pointer-events-none absolute inset-x-0 h-px bg-rule"
                style={{ top: downTo(mark) }}
              />
            ))}
            <ul aria-label={CATEGORY_NAMES[category]} className="relative flex h-full gap-1">
              {mine.map((o) => {
                const [top, bottom] = [downTo(o.shortest ?? 0), downTo(o.longest)];
                return (
                  <li key={o.key} className="relative min-w-0 flex-1">
                    <button
                      type="button"
                      aria-pressed={openKey === o.key}
                      aria-label={`${o.label}, ${lengthWords(o)}, ${o.who === 'system' ? 'filed by itself' : 'filed by agents'}, filed ${asCount(o.uses)} times`}
                      onClick={() => onOpen(o.key)}
                      style={{ top, height: Math.max(54, bottom - top) }}
                      className={clsx(
                        'absolute inset-x-0 flex flex-col justify-between overflow-hidden rounded-[7px] px-1.5 py-1.5 text-left',
                        o.who === 'system'
                          ? 'border border-dashed border-rule-strong bg-sheet text-ink-2'
                          : category === 'no-contact'
                            ? 'bg-sunk text-ink'
                            : 'bg-plum-wash text-ink',
                        openKey === o.key && 'ring-2 ring-ink',
                      )}
                    >
                      <span className="text-small leading-tight font-medium">{o.label || 'no words yet'}</span>
                      <span className="text-tiny text-ink-2 tabular-nums">{asCount(o.uses)}</span>
                    </button>
                  </li>
                );
              })}
            </ul>
          </div>
        ))}
      </div>
      <p className="mt-2 text-tiny text-ink-2">
        Below each is how often it was filed. Dashed ones are filed by the system.
      </p>
    </div>
  );
}
