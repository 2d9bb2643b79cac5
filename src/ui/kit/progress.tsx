/** How far long work is, in a bar and in words; `total` 0 when that is not known yet. */
export function Progress({ says, done, total }: { says: string; done: number; total: number }) {
  const share = total > 0 ? Math.min(100, (100 * done) / total) : null;
  return (
    <>
      <div
        role="progressbar"
        aria-label={says}
        aria-valuemin={0}
        aria-valuemax={100}
        {...(share === null ? {} : { 'aria-valuenow': Math.floor(share) })}
        className="h-2 w-64 overflow-hidden rounded-full bg-rule"
      >
        <div
          className={share === null ? 'h-full w-1/4 animate-pulse bg-plum' : 'h-full bg-plum'}
          style={share === null ? undefined : { width: `${share}%` }}
        />
      </div>
      <span className="text-small text-ink-2 tabular-nums">{says}</span>
    </>
  );
}
