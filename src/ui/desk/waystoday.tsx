'use client';

import { toast } from 'sonner';
import type { DeskView } from '@/services/contacts/deskview';
import { sentence, setting } from '../kit/call';
import { Select } from '../kit/select';

/** How calls come today: the Desk, or a way that was verified. */
export function Ways({ view, onChosen }: { view: DeskView; onChosen: () => void }) {
  if (view.ways.length === 0) return null;
  const choose = (wayId: string) => {
    setting('choose-way', { wayId: wayId === '' ? null : wayId }).then(
      () => {
        toast.success(
          wayId === ''
            ? 'Calls come to this Desk.'
            : `Calls come to ${view.ways.find((w) => w.id === wayId)?.address ?? ''} today.`,
        );
        onChosen();
      },
      (error: unknown) => toast.error(sentence(error)),
    );
  };
  return (
    <label className="flex items-center gap-1.5 text-small text-ink-2">
      Calls come to
      <Select value={view.wayId ?? ''} onChange={(chosen) => choose(chosen)} compact>
        <option value="">this Desk</option>
        {view.ways.map((w) => (
          <option key={w.id} value={w.id} disabled={!w.verified || !w.mayCall}>
            {w.address}
            {w.verified ? '' : ' (not verified)'}
          </option>
        ))}
      </Select>
    </label>
  );
}
