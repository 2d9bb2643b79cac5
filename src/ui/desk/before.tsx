'use client';

import type { Earlier } from '@/services/contacts/deskcontact';
import { ChannelMark } from '../kit/channelmark';
import { asDayTime } from '../kit/figures';

/** One earlier contact of the customer: how it came, when, and what became of it. */
export const Before = ({ before, zone }: { before: Earlier; zone: string }) => (
  <span className="inline-flex items-center gap-2">
    <ChannelMark channel={before.channel} size={14} />
    {asDayTime(before.startedAt, zone)}
    <span className="text-ink-2">
      {before.how === 'bot' ? 'bot' : before.how === 'resolved' ? 'handled' : (before.how ?? 'open')}
    </span>
  </span>
);
