import type { DatedDay } from '@/core/hours/weekly';
import type { HoursLine } from '@/services/doors/hours';
import { wholeShape } from '../drafts/usegathered';

export type Draft = {
  readonly id: string | null;
  readonly revision: number;
  readonly name: string;
  readonly zone: string;
  readonly weekly: HoursLine['weekly'];
  readonly exceptions: readonly DatedDay[];
};

export const draftOf = ({ id, revision, name, zone, weekly, exceptions }: HoursLine): Draft => ({
  id,
  revision,
  name,
  zone,
  weekly,
  exceptions,
});
export const HOURS_SHAPE = wholeShape<Draft>();
