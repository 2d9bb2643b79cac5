'use client';

import type { DeskPanel } from '@/core/people/deskprofile';
import { cannotFile } from '@/core/outcomes';
import type { DeskContact } from '@/services/contacts/deskcontact';
import type { DeskView } from '@/services/contacts/deskview';
import { Button } from '../kit/button';
import { Area } from '../kit/field';
import { FromPage } from '../kit/frompage';
import { SidePanel } from '../kit/panel';
import { CustomerAtDesk } from './customeratdesk';

/** What stands beside a conversation: what is known, why it came here, its customer, and how it is finished. */
export function AboutContact({
  contact,
  view,
  zone,
  now,
  busy,
  onAct,
  onChanged,
}: {
  contact: DeskContact;
  view: DeskView;
  zone: string;
  /** The floor’s instant. */ now: number;
  busy: boolean;
  onAct: (body: Record<string, unknown>) => Promise<unknown>;
  /** Something was changed that the Desk shows. */ onChanged: () => void;
}) {
  const file = (code: string) => void onAct({ act: 'file', legId: contact.legId, code });
  const shows = (panel: DeskPanel) => view.layout.panels[contact.talking ? 'talking' : 'finishing'].includes(panel);
  const seconds = ((contact.endedAt ?? now) - contact.acceptedAt) / 1000;
  return (
    <SidePanel label="About this contact">
      {shows('known') && (
        <>
          <h3>What we know</h3>
          {contact.page && <FromPage page={contact.page} />}
          {contact.fields.length === 0 && !contact.page ? (
            <p className="text-small text-ink-2">The bot learned nothing.</p>
          ) : (
            <dl className="mt-1">
              {contact.fields.map((f) => (
                <div key={f.label} className="flex border-b border-rule py-1.5 text-small">
                  <dt className="w-28 text-ink-2">{f.label}</dt>
                  <dd className="min-w-0 flex-1 break-words">{f.value}</dd>
                </div>
              ))}
            </dl>
          )}
        </>
      )}
      {shows('known') && contact.toFill.length > 0 && (
        <dl className="mt-1">
          {contact.toFill.map((f) => (
            <div key={f.name} className="flex items-center border-b border-rule py-1 text-small">
              <dt className="w-28 text-ink-2">
                <label htmlFor={`fill-${f.name}`}>{f.label}</label>
              </dt>
              <dd className="min-w-0 flex-1">
                <input
                  key={f.value}
                  id={`fill-${f.name}`}
                  defaultValue={f.value}
                  maxLength={500}
                  className="w-full rounded-control border border-rule-strong bg-sheet px-1.5 py-0.5"
                  onKeyDown={(e) => {
                    if (e.key === 'Enter') e.currentTarget.blur();
                  }}
                  onBlur={(e) => {
                    const value = e.currentTarget.value.trim();
                    if (value !== f.value) void onAct({ act: 'note', legId: contact.legId, name: f.name, value });
                  }}
                />
              </dd>
            </div>
          ))}
        </dl>
      )}
      {shows('why') && (
        <>
          <h3 className="mt-4">Why you</h3>
          <p className="text-small text-ink-2">{contact.why}</p>
        </>
      )}
      {shows('before') && (
        <>
          <CustomerAtDesk contact={contact} zone={zone} onChanged={onChanged} />
        </>
      )}
      {!contact.talking && contact.summary !== null && (
        <>
          <h3 className="mt-4">What it came to</h3>
          <Area
            aria-label="What it came to"
            key={contact.summary}
            rows={4}
            maxLength={2000}
            defaultValue={contact.summary}
            onBlur={(e) => {
              const words = e.currentTarget.value.trim();
              if (words !== '' && words !== contact.summary)
                void onAct({ act: 'summarise', legId: contact.legId, words });
            }}
          />
        </>
      )}
      <h3 className="mt-4">{contact.talking ? 'When you finish' : 'File the outcome'}</h3>
      <div className="mt-1 flex flex-wrap gap-1.5">
        {contact.outcomes
          .map((o) => ({ ...o, whyNot: cannotFile(o, seconds) }))
          .map((o) => (
            <Button
              key={o.code}
              small
              disabled={busy || o.whyNot !== null}
              title={o.whyNot === null ? o.label : `${o.label} cannot be filed: ${o.whyNot}`}
              kind={
                contact.filed === o.code ? 'primary' : contact.talking ? 'plain' : contact.filed ? 'plain' : 'primary'
              }
              onClick={() => file(o.code)}
            >
              {o.label}
              {o.whyNot !== null && <span className="sr-only">, {o.whyNot}</span>}
            </Button>
          ))}
      </div>
      {contact.talking && <p className="mt-1 text-tiny text-ink-3">Filing ends the conversation at once.</p>}
    </SidePanel>
  );
}
