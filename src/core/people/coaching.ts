import type { Chance } from '../chance';

/** How a conversation stands to a point; `none` where the point did not come up. */
export const MARKS = ['met', 'partly', 'missed', 'none'] as const;
export type Mark = (typeof MARKS)[number];

/** What a conversation is rated by, as the workspace words it. */
export type RatingPoint = { readonly id: string; readonly name: string; readonly words: string };

/** Rules by which contacts are drawn to be rated, beside those drawn by chance. */
export const DRAW_RULES = ['longest', 'passed-on', 'came-back'] as const;
export type DrawRule = (typeof DRAW_RULES)[number];

/** Why a contact was drawn, in words. */
export const DRAW_WORDS: Readonly<Record<'chance' | DrawRule, string>> = {
  chance: 'by chance',
  longest: 'took longest',
  'passed-on': 'passed on',
  'came-back': 'the customer came back',
};

/** What is rated, and how many contacts of each person are drawn for it a month: by chance, and by each rule. */
export type CoachingRules = {
  readonly points: readonly RatingPoint[];
  readonly byChance: number;
  readonly byRule: Readonly<Record<DrawRule, number>>;
};

/** What a workspace begins with: a few points that hold for any conversation. */
export const FIRST_RULES: CoachingRules = {
  points: [
    { id: 'point_understood', name: 'Understood', words: 'They found out what the customer needed before answering.' },
    { id: 'point_right', name: 'Right', words: 'What they said and did was right and complete.' },
    { id: 'point_clear', name: 'Clear', words: 'The customer could follow, in plain and friendly words.' },
    { id: 'point_settled', name: 'Settled', words: 'It was settled, or the customer knows what comes next.' },
  ],
  byChance: 3,
  byRule: { longest: 1, 'passed-on': 0, 'came-back': 0 },
};

/** A point with its mark, as it was worded when it was given. */
export type Marked = { readonly pointId: string; readonly name: string; readonly mark: Mark };

const WORTH: Readonly<Record<Mark, number | null>> = { met: 1, partly: 0.5, missed: 0, none: null };

/** The mean of marks, met 1, partly ½, missed 0; those that did not come up are left out. Null without any. */
export function scoreOf(marks: readonly Pick<Marked, 'mark'>[]): number | null {
  const worth = marks.flatMap(({ mark }) => WORTH[mark] ?? []);
  return worth.length === 0 ? null : worth.reduce((n, one) => n + one, 0) / worth.length;
}

/** A person's turn with a contact, as it may be drawn. `handledMs` is what it took of them. */
export type Drawable = {
  readonly no: number;
  readonly handledMs: number;
  readonly passedOn: boolean;
  readonly cameBack: boolean;
};
export type Drawn = { readonly no: number; readonly why: 'chance' | DrawRule };

/**
 * Draws a person's contacts to be rated: by chance from all alike, then by each rule from the others. What is drawn already
 * counts, so that a later draw of the same month only adds what is missing.
 */
export function drawFor(
  turns: readonly Drawable[],
  rules: Pick<CoachingRules, 'byChance' | 'byRule'>,
  already: readonly Drawn[],
  chance: Chance,
): Drawn[] {
  const left = new Map<number, Drawable>();
  for (const turn of turns) if ((left.get(turn.no)?.handledMs ?? -1) < turn.handledMs) left.set(turn.no, turn);
  for (const { no } of already) left.delete(no);
  const drawn: Drawn[] = [];
  const draw = (why: Drawn['why'], many: number, fits: (turn: Drawable) => boolean, largest: boolean): void => {
    const missing = many - already.filter((one) => one.why === why).length;
    for (let i = 0; i < missing; i++) {
      const fitting = [...left.values()].filter(fits);
      if (fitting.length === 0) return;
      const one = largest
        ? fitting.reduce((most, turn) => (turn.handledMs > most.handledMs ? turn : most))
        : chance.pick(fitting);
      left.delete(one.no);
      drawn.push({ no: one.no, why });
    }
  };
  draw('chance', rules.byChance, () => true, false);
  draw('longest', rules.byRule.longest, () => true, true);
  draw('passed-on', rules.byRule['passed-on'], (turn) => turn.passedOn, false);
  draw('came-back', rules.byRule['came-back'], (turn) => turn.cameBack, false);
  return drawn;
}
