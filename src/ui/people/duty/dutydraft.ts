import type { DutyProfile } from '@/core/people/duty';
import { wholeShape } from '../../drafts/usegathered';

/** A duty profile as it is being changed: not kept yet, based on a revision; `id` null is a new one. */
export type DutyDraft = Omit<DutyProfile, 'id'> & { readonly id: string | null; readonly revision: number };
export const DUTY_SHAPE = wholeShape<DutyDraft>();
