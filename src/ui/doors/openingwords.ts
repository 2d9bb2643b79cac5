'use client';

import type { DoorLine } from '@/services/doors/doors';
import { asDayTime } from '../kit/figures';

export const openingWords = (opening: DoorLine['opening'], zone: string) =>
  opening.open
    ? opening.until === null
      ? 'open'
      : `open until ${asDayTime(opening.until, zone)}`
    : opening.opensAt === null
      ? 'closed'
      : `closed until ${asDayTime(opening.opensAt, zone)}`;
