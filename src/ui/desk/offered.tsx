'use client';

import { CHANNEL_NAMES } from '@/core/channels';
import type { DeskPanel } from '@/core/people/deskprofile';
import type { DeskView } from '@/services/contacts/deskview';
import { Panel } from '../kit/panel';
import { Before } from './before';

/** What this Desk's profile shows of a contact before it is taken. */
export function Offered({
  offer,
  panels,
  zone,
}: {
  offer: NonNullable<DeskView['offer']>;
  panels: readonly DeskPanel[];
  zone: string;
}) {
  const known = panels.includes('known') && offer.fields.length > 0;
  const why = panels.includes('why') && offer.why !== '';
  const before = panels.includes('before') && offer.before.length > 0;
  const { openToo } = offer;
  if (!known && !why && !before && openToo.length === 0 && !offer.passNote) return null;
  return (
    <Panel className="flex flex-wrap gap-x-6 gap-y-1 px-4 py-2 text-small" label="About the offer">
      {offer.passNote && (
        <span className="basis-full text-plum">
          <b>{offer.passNote.from}</b>: {offer.passNote.words}
        </span>
      )}
      {openToo.length > 0 && (
        <span className="basis-full font-semibold">
          You have them open by {openToo.map((c) => CHANNEL_NAMES[c].name).join(' and ')} already.
        </span>
      )}
      {known &&
        offer.fields.map((f) => (
          <span key={f.label}>
            <span className="text-ink-2">{f.label}</span> {f.value}
          </span>
        ))}
      {why && <span className="basis-full text-ink-2">{offer.why}</span>}
      {before && (
        <span className="flex basis-full flex-wrap items-center gap-x-4">
          <span className="text-ink-2">Before today</span>
          {offer.before.map((b) => (
            <Before key={b.contactId} before={b} zone={zone} />
          ))}
        </span>
      )}
    </Panel>
  );
}
