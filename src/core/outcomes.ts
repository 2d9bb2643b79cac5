/** What an outcome counts as in Review. */
export const OUTCOME_CATEGORIES = ['settled', 'follow-up', 'sale', 'complaint', 'not-ours', 'no-contact'] as const;
export type OutcomeCategory = (typeof OUTCOME_CATEGORIES)[number];
export const CATEGORY_NAMES: Readonly<Record<OutcomeCategory, string>> = {
  settled: 'settled',
  'follow-up': 'follow-up needed',
  sale: 'sale',
  complaint: 'complaint',
  'not-ours': 'not for us',
  'no-contact': 'nobody reached',
};

/**
 * What a contact came to, as a short phrase; `code` stands for it in files. `shortest` and `longest` are seconds of the contact between which it can be filed; null is
 * without limit.
 */
export type Outcome = {
  readonly code: string;
  readonly label: string;
  readonly who: 'agents' | 'system';
  readonly shortest: number | null;
  readonly longest: number | null;
  readonly category: OutcomeCategory;
  readonly retired: boolean;
};
export const OUTCOME_DEFAULTS: Omit<Outcome, 'code' | 'label'> = {
  who: 'agents',
  shortest: null,
  longest: null,
  category: 'settled',
  retired: false,
};
export const OUTCOME_CODE = /^[A-Z0-9]{2,8}$/;

/** A code for a phrase: its letters and digits, at most 8, another than those that are taken. */
export function codeFor(phrase: string, taken: ReadonlySet<string>): string {
  const words = phrase
    .normalize('NFD')
    .toUpperCase()
    .replace(/[^A-Z0-9 ]/g, '')
    .split(' ')
    .filter(Boolean);
  const plain = (
    words.length > 1 ? words.map((w) => w.slice(0, Math.max(2, Math.floor(8 / words.length)))) : words
  ).join('');
  const first = (plain.length < 2 ? `${plain}OUTCOME` : plain).slice(0, 8);
  for (let n = 1; ; n++) {
    const code = n === 1 ? first : `${first.slice(0, 8 - String(n).length)}${n}`;
    if (!taken.has(code)) return code;
  }
}

/** Why a code cannot be filed for a contact of this length (seconds), or null when it can. */
export function cannotFile(
  o: Pick<Outcome, 'who' | 'shortest' | 'longest' | 'retired'>,
  seconds: number,
): string | null {
  if (o.retired) return 'it is retired';
  if (o.who === 'system') return 'only the system files it';
  if (o.shortest !== null && seconds < o.shortest) return `the contact must last at least ${o.shortest} s`;
  if (o.longest !== null && seconds > o.longest) return `the contact must last at most ${o.longest} s`;
  return null;
}

/**
 * Lengths (whole seconds) for which no code of a set can be filed, as [from, to]; `to` null is without end. Every
 * length must leave one.
 */
export function gapsIn(
  outcomes: readonly Pick<Outcome, 'who' | 'shortest' | 'longest' | 'retired'>[],
): { from: number; to: number | null }[] {
  const spans = outcomes
    .filter((o) => !o.retired && o.who === 'agents')
    .map((o) => ({ from: o.shortest ?? 0, to: o.longest ?? Infinity }))
    .sort((a, b) => a.from - b.from);
  const gaps: { from: number; to: number | null }[] = [];
  let next = 0;
  for (const span of spans) {
    if (span.from > next) gaps.push({ from: next, to: span.from - 1 });
    next = Math.max(next, span.to + 1);
  }
  if (next !== Infinity) gaps.push({ from: next, to: null });
  return gaps;
}
