'use client';

import { useState } from 'react';
import { languageName } from '@/core/localised';
import type { DeskView } from '@/services/contacts/deskview';
import { Button } from '../kit/button';
import { ChannelMark } from '../kit/channelmark';
import { asClock } from '../kit/figures';
import { Panel } from '../kit/panel';

/** Shown at a time: who waits longest first. */
const SHOWN = 4;

/** Contacts that are taken by hand: looked at before one takes one, who waits longest first. */
export function ToTake({
  view,
  now,
  busy,
  onTake,
}: {
  view: DeskView;
  now: number;
  busy: boolean;
  onTake: (visitId: string) => void;
}) {
  const [all, setAll] = useState(false);
  const [open, setOpen] = useState<string | null>(null);
  if (view.claimable.length === 0) return null;
  const shown = all ? view.claimable : view.claimable.slice(0, SHOWN);
  return (
    <Panel className="px-4 py-2" label="To be taken">
      <h2 className="text-small font-semibold">
        To be taken by whoever can
        <span className="ml-2 font-body font-normal text-ink-2">{view.claimableInAll}, who waits longest first</span>
      </h2>
      <ul className="mt-1 max-h-56 overflow-y-auto">
        {shown.map((v) => (
          <li key={v.visitId} className="border-b border-rule py-1 text-small last:border-0">
            <div className="flex items-center gap-2">
              <ChannelMark channel={v.channel} size={15} />
              <span className="w-40 truncate font-medium">{v.customer}</span>
              <span className="w-14 text-right text-ink-2 tabular-nums">{asClock((now - v.placedAt) / 1000)}</span>
              <span className="min-w-0 flex-1 truncate text-ink-2">
                {v.queue}
                {v.said !== null && ` · “${v.said}”`}
              </span>
              <Button
                small
                kind="quiet"
                aria-expanded={open === v.visitId}
                aria-label={`Look at ${v.customer}`}
                onClick={() => setOpen(open === v.visitId ? null : v.visitId)}
              >
                Look
              </Button>
              <Button
                small
                kind="primary"
                disabled={busy}
                aria-label={`Take ${v.customer}`}
                onClick={() => onTake(v.visitId)}
              >
                Take
              </Button>
            </div>
            {open === v.visitId && (
              <dl className="my-1 ml-6 grid grid-cols-[8rem_minmax(0,1fr)] gap-x-3">
                <dt className="text-ink-2">Language</dt>
                <dd>{languageName(v.language)}</dd>
                {v.fields.map((f) => (
                  <div key={f.label} className="contents">
                    <dt className="text-ink-2">{f.label}</dt>
                    <dd className="break-words">{f.value}</dd>
                  </div>
                ))}
                {v.said !== null && (
                  <>
                    <dt className="text-ink-2">Said last</dt>
                    <dd className="break-words whitespace-pre-wrap">{v.said}</dd>
                  </>
                )}
              </dl>
            )}
          </li>
        ))}
      </ul>
      {view.claimable.length > SHOWN && (
        <Button small kind="quiet" onClick={() => setAll(!all)}>
          {all ? 'Fewer' : `All ${view.claimable.length}`}
        </Button>
      )}
    </Panel>
  );
}
