'use client';

import { useEffect, useState } from 'react';
import type { DeskView } from '@/services/contacts/deskview';
import { ChannelMark } from '../kit/channelmark';
import { asTime } from '../kit/figures';
import { StatePill } from '../kit/statepill';

/** The lists that this Desk's profile shows while nothing is open. */
export function Lists({ view, zone }: { view: DeskView; zone: string }) {
  const show = view.layout.views;
  return (
    <div className="mx-auto grid max-w-3xl gap-6 px-6 pb-6 md:grid-cols-2">
      {show.includes('today') && (
        <section>
          <h3 className="text-small">My contacts today</h3>
          {view.today.length === 0 ? (
            <p className="text-small text-ink-2">None yet.</p>
          ) : (
            <ul>
              {view.today.map((t) => (
                <li
                  key={t.contactId + t.endedAt}
                  className="flex items-center gap-2 border-b border-rule py-1 text-small"
                >
                  <ChannelMark channel={t.channel} size={14} />
                  <span className="min-w-0 flex-1 truncate">{t.customer}</span>
                  <span className="text-ink-2">
                    {view.outcomes.find((o) => o.code === t.outcome)?.label ?? 'no outcome'}
                  </span>
                  <span className="text-ink-2">{asTime(t.endedAt, zone)}</span>
                </li>
              ))}
            </ul>
          )}
        </section>
      )}
      {show.includes('team') && (
        <section>
          <h3 className="text-small">My team on duty</h3>
          {view.team.length === 0 ? (
            <p className="text-small text-ink-2">Nobody else is on duty.</p>
          ) : (
            <ul>
              {view.team.map((t) => (
                <li key={t.id} className="flex items-center gap-2 border-b border-rule py-1 text-small">
                  <span className="min-w-0 flex-1 truncate">{t.name}</span>
                  <StatePill duty={t.duty} reason={t.reason} reachable open={t.open} />
                </li>
              ))}
            </ul>
          )}
        </section>
      )}
    </div>
  );
}

/** Counts an offer's real seconds down. */
export function Left({ seconds }: { seconds: number }) {
  const [left, setLeft] = useState(seconds);
  useEffect(() => {
    const timer = setInterval(() => setLeft((s) => Math.max(0, s - 1)), 1000);
    return () => clearInterval(timer);
  }, []);
  return <>{left} s</>;
}
