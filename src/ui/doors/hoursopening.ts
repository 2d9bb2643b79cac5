'use client';

import type { HoursLine } from '@/services/doors/hours';
import { asDayTime } from '../kit/figures';

export const openingWords = (h: HoursLine) =>
  h.opening.open
    ? h.opening.until === null
      ? 'open'
      : `open until ${asDayTime(h.opening.until, h.zone)}`
    : h.opening.opensAt === null
      ? 'closed'
      : `opens ${asDayTime(h.opening.opensAt, h.zone)}`;
