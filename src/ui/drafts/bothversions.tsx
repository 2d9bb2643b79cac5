'use client';

import { useState } from 'react';
import { sayPath, sayValue } from '@/core/differences';
import type { Clash, Side } from '@/core/drafts/merging';
import { Button } from '../kit/button';
import { asDayTime } from '../kit/figures';
import { Panel } from '../kit/panel';

const keyOf = ({ path }: Clash): string => JSON.stringify(path);

/** Where two people set the same otherwise: each place in words, theirs and one's own side by side, and a choice for each. */
export function BothVersions({
  clashes,
  nameOf,
  onTake,
}: {
  clashes: readonly Clash[];
  nameOf: (id: string) => string;
  onTake: (chosen: (clash: Clash) => Side) => void;
}) {
  const [sides, setSides] = useState<Readonly<Record<string, Side>>>({});
  const say = { name: nameOf, time: (at: number) => asDayTime(at) };
  const left = clashes.filter((c) => sides[keyOf(c)] === undefined).length;
  return (
    <Panel className="!border-brass-2 !bg-brass-wash p-4" label="Both versions">
      <h2 className="text-panel">Somebody else set the same meanwhile</h2>
      <p className="mb-2 text-small">
        Choose for each which stands. All else that they changed is in here already, and all else of yours stays.
      </p>
      <ul className="flex flex-col gap-2">
        {clashes.map((clash) => {
          const what = sayPath(clash.path, say);
          const side = sides[keyOf(clash)];
          const choice = (of: Side, title: string, value: unknown) => (
            <label className="flex min-w-0 cursor-pointer items-start gap-1.5 rounded-control bg-sheet px-2 py-1.5 text-small">
              <input
                type="radio"
                className="mt-0.5 accent-plum"
                name={keyOf(clash)}
                checked={side === of}
                onChange={() => setSides({ ...sides, [keyOf(clash)]: of })}
              />
              <span className="min-w-0">
                <b className="block text-tiny text-ink-2">{title}</b>
                <span className="break-words">
                  {value === undefined ? 'taken away' : sayValue(value, say, clash.path.at(-1))}
                </span>
              </span>
            </label>
          );
          return (
            <li key={keyOf(clash)}>
              <fieldset className="grid grid-cols-[minmax(120px,1fr)_minmax(0,2fr)_minmax(0,2fr)] gap-2">
                <legend className="sr-only">{what}</legend>
                <span aria-hidden className="pt-1.5 text-small font-medium">
                  {what}
                </span>
                {choice('theirs', 'Theirs, as it is now', clash.theirs)}
                {choice('mine', 'Yours', clash.mine)}
              </fieldset>
            </li>
          );
        })}
      </ul>
      <div className="mt-3 flex flex-wrap items-center gap-2">
        <Button kind="primary" disabled={left > 0} onClick={() => onTake((clash) => sides[keyOf(clash)] ?? 'mine')}>
          Go on with this
        </Button>
        {clashes.length > 1 &&
          (['theirs', 'mine'] as const).map((of) => (
            <Button key={of} onClick={() => setSides(Object.fromEntries(clashes.map((clash) => [keyOf(clash), of])))}>
              {of === 'theirs' ? 'All theirs' : 'All mine'}
            </Button>
          ))}
        {left > 0 && <span className="text-small text-ink-2">{left} to choose</span>}
      </div>
    </Panel>
  );
}
