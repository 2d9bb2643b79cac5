import { belongs, type Candidate, type Who } from './membership';

/** Moments at a Desk at which something may be offered. */
export const MOMENTS = ['offered', 'talking', 'finishing'] as const;
export type Moment = (typeof MOMENTS)[number];
export const MOMENT_WORDS: Readonly<Record<Moment, string>> = {
  offered: 'when offered',
  talking: 'while talking',
  finishing: 'when finishing',
};

/** What a Desk can show, with the moments at which it makes sense. */
export const DESK_PANELS = {
  known: {
    name: 'What we know',
    says: 'fields the bot and earlier steps filled',
    at: ['offered', 'talking', 'finishing'],
  },
  why: { name: 'Why you', says: 'why the router chose this person', at: ['offered', 'talking'] },
  before: { name: 'Earlier conversations', says: 'the customer’s last five', at: ['offered', 'talking', 'finishing'] },
  replies: { name: 'Stock replies', says: 'prepared texts to send', at: ['talking'] },
} as const satisfies Record<string, { name: string; says: string; at: readonly Moment[] }>;
export type DeskPanel = keyof typeof DESK_PANELS;
export const DESK_PANEL_IDS = Object.keys(DESK_PANELS) as readonly DeskPanel[];

/** What helps while talking or finishing; `needs` is the panel it works through. */
export const HELPERS = {
  suggest: {
    name: 'Suggested replies',
    says: 'puts the stock replies that fit the customer’s last words first',
    needs: 'replies',
  },
  summary: {
    name: 'Summary',
    says: 'sums the conversation up from its own words and fields when finishing',
    needs: null,
  },
} as const satisfies Record<string, { name: string; says: string; needs: DeskPanel | null }>;
export type Helper = keyof typeof HELPERS;
export const HELPER_IDS = Object.keys(HELPERS) as readonly Helper[];

/** Lists a Desk can show beside the contacts. */
export const DESK_VIEWS = {
  today: { name: 'My contacts today', says: 'what this person handled since midnight' },
  team: { name: 'My team', says: 'who is on duty and what they hold' },
} as const;
export type DeskView = keyof typeof DESK_VIEWS;
export const DESK_VIEW_IDS = Object.keys(DESK_VIEWS) as readonly DeskView[];

export type DeskProfile = {
  readonly id: string;
  readonly name: string;
  readonly panels: Readonly<Record<Moment, readonly DeskPanel[]>>;
  readonly helpers: readonly Helper[];
  readonly stockSetIds: readonly string[];
  readonly views: readonly DeskView[];
};

/** Shown where no rule gives a profile. */
export const PLAIN_DESK: DeskProfile = {
  id: 'plain',
  name: 'Plain Desk',
  panels: {
    offered: ['known', 'why', 'before'],
    talking: ['known', 'why', 'before', 'replies'],
    finishing: ['known', 'before'],
  },
  helpers: [],
  stockSetIds: [],
  views: [],
};

/**
 * Why a helper cannot work in a profile, or null: off for the workspace, or the panel it works through is not shown
 * while talking.
 */
export function helperBar(
  helper: Helper,
  profile: Pick<DeskProfile, 'panels'>,
  workspace: ReadonlySet<Helper>,
): string | null {
  if (!workspace.has(helper)) return 'is off for the whole workspace';
  const { needs } = HELPERS[helper];
  return needs && !profile.panels.talking.includes(needs)
    ? `needs the panel ${DESK_PANELS[needs].name} while talking`
    : null;
}

/** Who gets a desk profile, but for the exceptions. */
export type DeskRule = { readonly who: Who; readonly exceptIds: readonly string[]; readonly profileId: string };

/** The number of the first rule that fits and does not except this person, or null. */
export function deskRuleFor(person: Candidate, rules: readonly DeskRule[]): number | null {
  const found = rules.findIndex((rule) => belongs(rule.who, person) && !rule.exceptIds.includes(person.id));
  return found < 0 ? null : found;
}
