'use client';

import { useEffect } from 'react';
import type { DeskContact } from '@/services/contacts/deskcontact';
import { Button } from '../kit/button';

/** Holding and muting a call: a press, or Alt H and Alt M from wherever one types. */
export function LineButtons({
  contact: { legId, line },
  busy,
  onAct,
}: {
  contact: DeskContact;
  busy: boolean;
  onAct: (body: Record<string, unknown>) => Promise<unknown>;
}) {
  useEffect(() => {
    const keys = (event: KeyboardEvent) => {
      const wanted = event.altKey && !event.ctrlKey ? { KeyH: 'held', KeyM: 'muted' }[event.code] : undefined;
      if (wanted === undefined || busy) return;
      event.preventDefault();
      void onAct({ act: 'line', legId, line: line === wanted ? 'open' : wanted });
    };
    window.addEventListener('keydown', keys);
    return () => window.removeEventListener('keydown', keys);
  }, [legId, line, busy, onAct]);
  const to = (wanted: 'held' | 'muted') => ({
    disabled: busy,
    'aria-pressed': line === wanted,
    onClick: () => void onAct({ act: 'line', legId, line: line === wanted ? 'open' : wanted }),
  });
  return (
    <>
      <Button {...to('muted')} title="Alt M">
        {line === 'muted' ? 'Unmute' : 'Mute'}
      </Button>
      <Button {...to('held')} title="Alt H">
        {line === 'held' ? 'Take off hold' : 'Hold'}
      </Button>
    </>
  );
}
