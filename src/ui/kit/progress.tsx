/** How far long work is, in a bar and in words; `total` 0 when that is not known yet. */
export function Progress({ says, done, total }: { says: string; done: number; total: number }) {
  return (
    <>
      <progress
        aria-label={says}
        className="h-2 w-64 accent-plum"
        max={Math.max(1, total)}
        {...(total > 0 ? { value: done } : {})}
      />
      <span className="text-small text-ink-2">{says}</span>
    </>
  );
}
