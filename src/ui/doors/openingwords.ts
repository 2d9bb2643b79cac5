'use client';

import type { Opening } from '@/core/hours/weekly';
import { asDayTime } from '../kit/figures';

export const openingWords = (opening: Opening, zone: string) =>
  opening.open
    ? opening.until === null
      ? 'open'
      : `open until ${asDayTime(opening.until, zone)}`
    : opening.opensAt === null
      ? 'closed'
      : `closed until ${asDayTime(opening.opensAt, zone)}`;
