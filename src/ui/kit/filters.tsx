import { clsx } from 'clsx';
import type { ReactNode } from 'react';

/** What narrows the things on a page: a line of texts, lists and ranges, each of which counts at once. */
export const Filters = ({ label, className, children }: { label: string; className?: string; children: ReactNode }) => (
  <div role="search" aria-label={label} className={clsx('flex flex-wrap items-center gap-1.5', className)}>
    {children}
  </div>
);

/** Narrows by words. */
export const FilterText = ({
  label,
  hint = label,
  value,
  onChange,
  className = 'w-32',
}: {
  label: string;
  hint?: string;
  value: string;
  onChange: (text: string) => void;
  className?: string;
}) => (
  <input
    aria-label={label}
    placeholder={hint}
    value={value}
    onChange={(e) => onChange(e.target.value)}
    className={clsx('rounded-control border border-rule-strong bg-sheet px-2 py-1 text-small', className)}
  />
);
