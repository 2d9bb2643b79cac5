/** How everything looks that takes a value. */
export const CONTROL =
  'w-full rounded-control border border-rule-strong bg-sheet px-2.5 py-1.5 text-base text-ink disabled:opacity-60 aria-invalid:border-clay';
