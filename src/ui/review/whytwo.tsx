'use client';

import { clsx } from 'clsx';
import { useState } from 'react';
import type { DifferenceLine, TwoView } from '@/services/review/two';
import { Link } from '../kit/link';
import { Panel } from '../kit/panel';

type Unit = 'contacts' | 'minutes';
const amountIn = (unit: Unit) => (of: DifferenceLine['mine']) => (unit === 'contacts' ? of.contacts : of.seconds / 60);

/** How a number is written that may be the mean of several: whole where it is. */
const asNumber = (n: number): string =>
  Math.abs(n - Math.round(n)) < 0.005 ? Math.round(n).toLocaleString('en-GB') : n.toFixed(1);
const asDifference = (n: number): string => (n > 0 ? `+${asNumber(n)}` : n < 0 ? `−${asNumber(-n)}` : '0');

/**
 * Why the one had more than the other: a line for each reason, what either took because of it, and the steps that lead from
 * the other's sum to the one's.
 */
export function WhyTwo({
  one,
  other,
  why,
  chosen,
  onChoose,
}: {
  one: TwoView['one'];
  other: TwoView['other'];
  why: NonNullable<TwoView['why']>;
  chosen: string | null;
  /** Shows the contacts of a reason, where the reader may see them. */
  onChoose?: (key: string) => void;
}) {
  const [unit, setUnit] = useState<Unit>('contacts');
  const [whole, setWhole] = useState(false);
  const amount = amountIn(unit);
  const [mine, theirs] = [amount(why.mine), amount(why.theirs)];
  const lines = whole ? [...why.lines, ...why.rest] : why.lines;
  const most = Math.max(1, ...lines.flatMap((l) => [amount(l.mine), amount(l.theirs)]));
  // The steps from the other's sum to the one's, and how far they lead either way.
  const steps = lines.reduce<{ readonly from: number; readonly to: number }[]>((all, l) => {
    const from = all.at(-1)?.to ?? theirs;
    return [...all, { from, to: from + amount(l.mine) - amount(l.theirs) }];
  }, []);
  const ends = [theirs, mine, ...steps.map((s) => s.to)];
  const [low, high] = [Math.min(...ends), Math.max(...ends)];
  const place = (n: number) => (high === low ? 0 : ((n - low) / (high - low)) * 100);
  const difference = mine - theirs;
  return (
    <Panel className="p-4" label="Why they differ">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h2 className="text-panel">
          {difference === 0
            ? `Both took ${asNumber(mine)} ${unit}`
            : `Why ${one.name} took ${asNumber(Math.abs(difference))} ${difference > 0 ? 'more' : 'fewer'} ${unit}`}
        </h2>
        <span role="group" aria-label="Counted in" className="ml-auto flex gap-1 text-small">
          {(['contacts', 'minutes'] as const).map((each) => (
            <button
              key={each}
              type="button"
              aria-pressed={unit === each}
              onClick={() => setUnit(each)}
              className={clsx('rounded-full px-2.5', unit === each ? 'bg-plum-wash text-plum' : 'hover:bg-sunk')}
            >
              {each}
            </button>
          ))}
        </span>
      </div>
      <table className="mt-2 w-full table-fixed text-small">
        <thead className="text-tiny text-ink-2">
          <tr>
            <th scope="col" className="w-[38%] text-left font-normal">
              Because the other…
            </th>
            <th scope="col" className="truncate text-right font-normal" title={one.name}>
              {one.name}
            </th>
            <th aria-hidden className="w-[18%]" />
            <th scope="col" className="truncate text-left font-normal" title={other.name}>
              {other.name}
            </th>
            <th scope="col" className="text-right font-normal">
              difference
            </th>
            <th scope="col" className="w-[20%] pl-4 text-left font-normal">
              from {asNumber(theirs)} to {asNumber(mine)}
            </th>
          </tr>
        </thead>
        <tbody>
          {lines.map((l, i) => {
            const [a, b] = [amount(l.mine), amount(l.theirs)];
            const step = steps[i] ?? { from: 0, to: 0 };
            const [left, right] = [Math.min(step.from, step.to), Math.max(step.from, step.to)];
            return (
              <tr
                key={l.key}
                className={clsx('border-t border-rule', l.key === chosen ? 'bg-chosen' : 'hover:bg-sunk')}
              >
                <td className="py-1 pr-2">
                  {onChoose ? (
                    <button
                      type="button"
                      aria-pressed={l.key === chosen}
                      className="text-left font-semibold hover:underline"
                      onClick={() => onChoose(l.key)}
                    >
                      {l.words}
                    </button>
                  ) : (
                    <span className="font-semibold">{l.words}</span>
                  )}
                  {l.setting && (
                    <Link href={l.setting.href} className="ml-2 text-tiny text-plum underline">
                      {l.setting.words}
                    </Link>
                  )}
                </td>
                <td className="text-right tabular-nums">{asNumber(a)}</td>
                <td aria-hidden className="px-2">
                  <span className="flex h-3">
                    <span className="flex flex-1 justify-end border-r border-ink-3">
                      <span className="rounded-l bg-plum-2" style={{ width: `${(a / most) * 100}%` }} />
                    </span>
                    <span className="flex flex-1">
                      <span className="rounded-r bg-brass-2" style={{ width: `${(b / most) * 100}%` }} />
                    </span>
                  </span>
                </td>
                <td className="text-left tabular-nums">{asNumber(b)}</td>
                <td className="text-right text-base font-semibold tabular-nums">{asDifference(a - b)}</td>
                <td className="pl-4">
                  <span aria-hidden className="relative block h-3">
                    <span
                      className={clsx('absolute inset-y-0 rounded-sm', a >= b ? 'bg-plum-2' : 'bg-brass-2')}
                      style={{ left: `${place(left)}%`, width: `max(2px, ${place(right) - place(left)}%)` }}
                    />
                  </span>
                </td>
              </tr>
            );
          })}
          {!whole && why.rest.length > 0 && (
            <RestLine lines={why.rest} amount={amount} onWhole={() => setWhole(true)} />
          )}
        </tbody>
        <tfoot>
          <tr className="border-t border-ink font-semibold">
            <td className="py-1.5">Together</td>
            <td className="text-right tabular-nums">{asNumber(mine)}</td>
            <td />
            <td className="tabular-nums">{asNumber(theirs)}</td>
            <td className="text-right text-base tabular-nums">{asDifference(difference)}</td>
            <td />
          </tr>
        </tfoot>
      </table>
      <p className="mt-2 text-tiny text-ink-2">
        Each contact that either took has one reason why the other did not have it, from the decision that gave it away:
        the first check the other did not pass.{' '}
        {other.id === 'team' && 'Against the team it is the mean of the differences from each who took any.'}
      </p>
    </Panel>
  );
}

/** Reasons for next to nothing, in one line. */
function RestLine({
  lines,
  amount,
  onWhole,
}: {
  lines: readonly DifferenceLine[];
  amount: (of: DifferenceLine['mine']) => number;
  onWhole: () => void;
}) {
  const sum = (of: 'mine' | 'theirs') => lines.reduce((n, l) => n + amount(l[of]), 0);
  const [a, b] = [sum('mine'), sum('theirs')];
  return (
    <tr className="border-t border-rule text-ink-2">
      <td className="py-1">
        <button type="button" className="underline" onClick={onWhole}>
          {lines.length} other reasons
        </button>
      </td>
      <td className="text-right tabular-nums">{asNumber(a)}</td>
      <td />
      <td className="tabular-nums">{asNumber(b)}</td>
      <td className="text-right text-base font-semibold tabular-nums">{asDifference(a - b)}</td>
      <td />
    </tr>
  );
}
