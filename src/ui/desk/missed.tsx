'use client';

import { useEffect, useState } from 'react';
import type { DeskView } from '@/services/contacts/deskview';
import { Button } from '../kit/button';
import { asTime } from '../kit/figures';

/** What was missed is said when somebody is back, until they have seen it. */
export function Missed({ view, zone }: { view: DeskView; zone: string }) {
  const [seen, setSeen] = useState<number | null>(null);
  useEffect(() => {
    try {
      setSeen(Number(localStorage.getItem('lane.missed-seen') ?? 0));
    } catch {
      setSeen(0);
    }
  }, []);
  const news = seen === null ? [] : view.missed.filter((m) => m.at > seen);
  if (news.length === 0) return null;
  return (
    <p
      role="status"
      className="mb-1 flex items-center gap-3 rounded-control bg-brass-wash px-3 py-1 text-small text-brass-ink"
    >
      <span className="min-w-0 flex-1">
        You missed {news.length === 1 ? 'an offer' : `${news.length} offers`}:{' '}
        {news
          .slice(0, 3)
          .map((m) => `${m.customer} for ${m.queue} at ${asTime(m.at, zone)}`)
          .join(', ')}
        {news.length > 3 && ` and ${news.length - 3} more`}. Others were asked at once.
      </span>
      <Button
        small
        kind="quiet"
        onClick={() => {
          const last = Math.max(...news.map((m) => m.at));
          setSeen(last);
          try {
            localStorage.setItem('lane.missed-seen', String(last));
          } catch {
            // It is told again after the next reload.
          }
        }}
      >
        Seen
      </Button>
    </p>
  );
}
