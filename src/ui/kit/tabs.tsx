'use client';

import { clsx } from 'clsx';

/** Parts of one page of which one is shown: a row of tabs; `count` stands beside a tab's name where it says something. */
export const Tabs = <Name extends string>({
  label,
  of,
  shown,
  onShow,
  count,
  className,
}: {
  label: string;
  of: readonly Name[];
  shown: Name;
  onShow: (name: Name) => void;
  count?: (name: Name) => number;
  className?: string;
}) => (
  <div role="tablist" aria-label={label} className={clsx('flex gap-1 px-4', className)}>
    {of.map((name) => {
      const n = count?.(name) ?? 0;
      return (
        <button
          key={name}
          type="button"
          role="tab"
          aria-selected={name === shown}
          onClick={() => onShow(name)}
          className={clsx(
            'rounded-control px-2 py-0.5 text-small',
            name === shown ? 'bg-plum-wash font-semibold text-plum' : 'hover:bg-sunk',
          )}
        >
          {name}
          {n > 0 ? ` ${n}` : ''}
        </button>
      );
    })}
  </div>
);
