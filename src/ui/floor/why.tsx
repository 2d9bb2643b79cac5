'use client';

import { Link } from '../kit/link';
import type { ContactView } from '@/services/floor/contactview';
import { ChannelMark } from '../kit/channelmark';
import { asClock } from '../kit/figures';
import { useLive } from '../kit/live';
import { ReasonLines } from '../review/reasonlines';

export function Why({
  contactId,
  now,
  title,
  onGone,
}: {
  contactId: string;
  now: number;
  title: string;
  onGone: () => void;
}) {
  const { data, error } = useLive<ContactView>(`/api/read/contact?id=${encodeURIComponent(contactId)}`, [
    'visit.ended',
    'visit.staged',
    'visit.opened',
    'partner.dialled',
    'partner.answered',
    'partner.ended',
    'offer.made',
    'offer.ended',
    'person.duty',
    'leg.ended',
    'leg.began',
    'contact.ended',
  ]);
  if (error)
    return (
      <p role="alert" className="text-small text-clay">
        This contact cannot be read just now.{' '}
        <button type="button" className="underline" onClick={onGone}>
          Back
        </button>
      </p>
    );
  if (!data) return <p className="text-small text-ink-3">Reading…</p>;
  const visit = data.visits.at(-1);
  const leg = data.legs.at(-1);
  const last = visit?.decisions.at(-1);
  return (
    <>
      <div className="flex items-center gap-2">
        <h2 className="text-panel">{title}</h2>
        <Link href={`/contacts/${data.id}`} className="ml-auto text-small font-medium text-plum underline">
          Open
        </Link>
      </div>
      <p className="mt-1 flex items-center gap-2">
        <ChannelMark channel={data.channel} />
        <span className="min-w-0 flex-1 truncate font-medium">{data.customer}</span>
        {visit && visit.endedAt === null && <b className="text-clay">{asClock((now - visit.placedAt) / 1000)}</b>}
      </p>
      <p className="text-small text-ink-2">
        {[visit?.queue, ...data.fields.map((f) => f.value)].filter(Boolean).join(' · ')}
      </p>
      {visit?.needs && <p className="text-small text-ink-2">needs {visit.needs} or better</p>}
      {visit?.stage && (
        <p className="text-small text-ink-2">
          {visit.stage}
          {visit.also.length > 0 ? `; ${visit.also.join(' and ')} asked as well` : ''}
        </p>
      )}
      {visit?.rung
        .filter((call) => call.came === 'rings now')
        .map((call) => (
          <p key={call.id} className="text-small text-ink-2">
            {call.desk} rings: {call.number}
          </p>
        ))}
      {visit?.nowWhy ? (
        <>
          <h3 className="mt-2 text-small text-brass-ink">Why nobody yet</h3>
          <ReasonLines reasons={visit.nowWhy} />
        </>
      ) : leg && visit?.endedAt ? (
        <>
          <h3 className="mt-2 text-small text-moss">With {leg.person}</h3>
          {last && <ReasonLines reasons={last} />}
        </>
      ) : last ? (
        <>
          <h3 className="mt-2 text-small text-moss">Being offered</h3>
          <ReasonLines reasons={last} />
        </>
      ) : null}
    </>
  );
}
