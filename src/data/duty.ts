import type { Shift } from '../core/people/coverage';
import type { DeskProfile, DeskRule, Helper } from '../core/people/deskprofile';
import type { Localised } from '../core/localised';
import { documents } from './documents';

/** Shifts, kept under the id of the person or team they are of. */
export const SHIFTS = documents<Shift>('shift');
/** Why somebody is away: paid or not, and how long it usually takes (minutes). */
export const AWAY_REASONS = documents<{ readonly paid: boolean; readonly minutes: number | null }>('away-reason');
export const DESK_PROFILES = documents<Omit<DeskProfile, 'id' | 'name'>>('desk-profile');
/** The one ordered list of who gets which desk profile, and the helpers that are on for the workspace. */
export const DESK_RULES = documents<{ readonly rules: readonly DeskRule[]; readonly helpers: readonly Helper[] }>(
  'desk-rules',
);
export const THE_RULES = 'rules';
/** Prepared texts with placeholders, in named sets. */
export const STOCK_SETS = documents<{
  readonly replies: readonly { readonly id: string; readonly title: string; readonly text: Localised }[];
}>('stock-set');
/** A filter of the people pages, kept by name by one person. */
export const KEPT_FILTERS = documents<{ readonly ownerId: string; readonly filter: Readonly<Record<string, string>> }>(
  'people-filter',
);
