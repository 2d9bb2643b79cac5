import { clashesOf, merged } from './merging';

/**
 * A change that begins by itself at an instant: what was planned goes over whatever was changed in between, which stays
 * wherever the plan says nothing of it.
 */
export const begun = <T>(base: T, mine: T, now: T): T => merged(base, mine, now, () => 'mine');

/**
 * The same as it ends: all that the beginning made of `before` goes back, but for what somebody has changed since then.
 */
export const ended = <T>(before: T, after: T, now: T): T => merged(after, before, now, () => 'theirs');

/** How many places somebody has changed otherwise since it was planned: the plan will go over them. */
export const goesOver = (base: unknown, mine: unknown, now: unknown): number => clashesOf(base, mine, now).length;
/** How many places stay as somebody has set them since it began. */
export const stays = (before: unknown, after: unknown, now: unknown): number => clashesOf(after, before, now).length;
