'use client';

import Bowser from 'bowser';
import { useCallback, useEffect, useState } from 'react';
import { toast } from 'sonner';
import type { SessionLine } from '@/services/workspace/sessions';
import { Button } from '../kit/button';
import { call, sentence } from '../kit/call';
import { Dialog } from '../kit/dialog';
import { asDayTime } from '../kit/figures';
import { Pill } from '../kit/panel';

/** A browser's own words as people say it: “Firefox on Windows”. */
function deviceName(device: string): string {
  if (device === '') return 'An unknown device';
  const { browser, os } = Bowser.parse(device);
  return [browser.name ?? 'A browser', os.name].filter(Boolean).join(' on ');
}

/** Where somebody is signed in; each can be ended by itself. */
export function SessionsDialog({ onClose, onGone }: { onClose: () => void; onGone: () => void }) {
  const [sessions, setSessions] = useState<readonly SessionLine[] | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const load = useCallback(() => {
    call<{ sessions: readonly SessionLine[] }>('/api/session').then(
      (found) => {
        setSessions(found.sessions);
        setFault(null);
      },
      (error: unknown) => setFault(sentence(error)),
    );
  }, []);
  useEffect(load, [load]);
  const end = (session: SessionLine) =>
    call('/api/session/one', { method: 'DELETE', body: { id: session.id } }).then(
      () => (session.here ? onGone() : load()),
      (error: unknown) => {
        toast.error(sentence(error));
        load();
      },
    );
  return (
    <Dialog
      open
      onClose={onClose}
      title="Where you are signed in"
      description="A session ends by itself after twelve hours without use, and after fourteen days."
    >
      {fault && (
        <p role="alert" className="text-small text-clay">
          {fault}{' '}
          <button type="button" className="underline" onClick={load}>
            Try again
          </button>
        </p>
      )}
      {sessions === null && !fault && <p className="text-ink-2">Looking…</p>}
      <ul className="divide-y divide-rule">
        {sessions?.map((session) => (
          <li key={session.id} className="flex items-center gap-3 py-2">
            <span className="min-w-0 flex-1">
              <span className="flex items-center gap-2 font-medium">
                {deviceName(session.device)}
                {session.here && <Pill tone="good">this one</Pill>}
              </span>
              <span className="block text-small text-ink-2">
                {session.network} · since {asDayTime(session.beganAt)} · last used {asDayTime(session.seenAt)}
              </span>
            </span>
            <Button
              small
              kind="danger"
              aria-label={session.here ? 'End this session' : `End the session on ${deviceName(session.device)}`}
              onClick={() => void end(session)}
            >
              End
            </Button>
          </li>
        ))}
      </ul>
    </Dialog>
  );
}
