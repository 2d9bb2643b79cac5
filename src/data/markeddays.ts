import { documents } from './documents';

export const DAY_KINDS = ['campaign', 'outage', 'holiday', 'situation'] as const;
export type DayKind = (typeof DAY_KINDS)[number];

/**
 * Days that were not like others, by what was going on: left out when ranges are compared. `from` and `to` are local days;
 * `queueIds` are the queues that it touched, none for all that came.
 */
export const MARKED_DAYS = documents<{
  readonly from: string;
  readonly to: string;
  readonly what: DayKind;
  readonly queueIds: readonly string[];
}>('marked-days');
