const FILLS: Readonly<Record<string, string>> = {
  calls: 'bg-plum-2',
  texts: 'bg-tide',
  ready: 'bg-moss/40',
  unreachable: 'bg-clay/60',
};
/** Reasons for being away, in turn. */
const AWAY = ['bg-brass-2/60', 'bg-brass-2/35', 'bg-ink-3/40', 'bg-ink-3/25', 'bg-ink-3/15'] as const;

/** The colour of each use of time; reasons for being away in the order in which they are given. */
export function fillsOf(uses: readonly string[]): (use: string) => string {
  const away = uses.filter((use) => use.startsWith('away'));
  return (use) => FILLS[use] ?? AWAY[Math.max(0, away.indexOf(use)) % AWAY.length] ?? AWAY[0];
}
