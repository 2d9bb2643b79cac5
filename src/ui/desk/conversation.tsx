'use client';

import { clsx } from 'clsx';
import { useEffect, useRef, useState } from 'react';
import { languageName } from '@/core/localised';
import { cannotFile } from '@/core/outcomes';
import type { DeskPanel } from '@/core/people/deskprofile';
import type { DeskContact } from '@/services/contacts/deskcontact';
import type { DeskView } from '@/services/contacts/deskview';
import { Button } from '../kit/button';
import { ChannelMark } from '../kit/channelmark';
import { FromPage } from '../kit/frompage';
import { Area } from '../kit/field';
import { Panel, Pill, SidePanel } from '../kit/panel';
import { Unproven } from '../kit/unproven';
import { Transcript } from '../review/transcript';
import { Composer } from './composer';
import { CustomerAtDesk } from './customeratdesk';
import { PassDialog, type PassedTo } from './passdialog';
import { Passing } from './passing';

export function Conversation({
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
  const [choosing, setChoosing] = useState(false);
  const [passing, setPassing] = useState<{ readonly to: PassedTo; readonly note: string } | null>(null);
  const end = useRef<HTMLDivElement>(null);
  const firstOurs = contact.messages.findIndex((m) => m.from === 'person');
  const bot = contact.messages.filter(
    (m, i) =>
      m.from === 'bot' ||
      (firstOurs === -1
        ? contact.messages.slice(i).some((x) => x.from === 'bot')
        : i < firstOurs && contact.messages.slice(i).some((x) => x.from === 'bot')),
  );
  const since = contact.messages.filter((m) => !bot.includes(m));
  useEffect(() => {
    void end.current?.scrollIntoView({ block: 'end' });
  }, [contact.messages.length]);
  const file = (code: string) => void onAct({ act: 'file', legId: contact.legId, code });
  const voice = contact.channel === 'voice';
  const shows = (panel: DeskPanel) => view.layout.panels[contact.talking ? 'talking' : 'finishing'].includes(panel);
  const pass = () => {
    if (!passing) return;
    const { to, note } = passing;
    setPassing(null);
    void onAct({
      act: 'pass-on',
      legId: contact.legId,
      queueId: to.queueId,
      ...(to.personId === undefined ? {} : { personId: to.personId }),
      ...(to.groupId === undefined ? {} : { groupId: to.groupId }),
      ...(note === '' ? {} : { note }),
    });
  };
  const seconds = ((contact.endedAt ?? now) - contact.acceptedAt) / 1000;
  return (
    <div className="grid min-h-0 flex-1 gap-3 md:grid-cols-[minmax(0,1fr)_320px]">
      <Panel className="flex min-h-0 flex-col max-md:h-[74vh]" label={`Conversation with ${contact.customer}`}>
        <div className="flex flex-wrap items-center gap-2 border-b border-rule px-4 py-2">
          <ChannelMark channel={contact.channel} />
          <h2 className="text-panel">{contact.customer}</h2>
          <Unproven vouched={contact.vouched} />
          <Pill tone="plum">{contact.queue}</Pill>
          <span className="text-small text-ink-2">
            in {languageName(contact.language)} · came by {contact.door}
          </span>
          {contact.talking && (
            <span className="ml-auto flex gap-2">
              <Button disabled={busy || passing !== null} onClick={() => setChoosing(true)}>
                Pass on…
              </Button>
              <Button kind="primary" disabled={busy} onClick={() => void onAct({ act: 'end', legId: contact.legId })}>
                {voice && !(contact.left && !contact.calling) ? 'Hang up' : 'Finish'}
              </Button>
            </span>
          )}
        </div>
        {passing && contact.talking && <Passing to={passing.to} onDone={pass} onUndo={() => setPassing(null)} />}
        {contact.passNote && (
          <p className="border-b border-rule bg-plum-wash px-4 py-2 text-plum">
            <b>{contact.passNote.from}</b>: {contact.passNote.words}
          </p>
        )}
        {contact.calling && (
          <p
            role="status"
            className={clsx(
              'border-b border-rule px-4 py-2',
              contact.calling.state === 'dialling' ? 'bg-brass-wash text-brass-ink' : 'bg-moss-wash text-moss',
            )}
          >
            {contact.calling.state === 'dialling'
              ? `Calling ${contact.calling.number}, attempt ${contact.calling.attempt} of ${contact.calling.of}: ringing…`
              : `${contact.calling.number} answered.`}
          </p>
        )}
        {contact.left && !contact.calling && contact.talking && (
          <p
            role="status"
            className="flex items-center gap-3 border-b border-rule bg-brass-wash px-4 py-2 text-brass-ink"
          >
            <span className="flex-1">
              {voice
                ? contact.ringNumber === null
                  ? 'A message left by telephone, from a number that is not known to be theirs.'
                  : 'A message left by telephone. The customer is not on the line.'
                : 'A message was left. What you write is the answer to it.'}
            </span>
            {contact.ringNumber !== null && (
              <Button
                kind={voice ? 'primary' : 'plain'}
                disabled={busy}
                onClick={() => void onAct({ act: 'ring-back', legId: contact.legId })}
              >
                Ring back {contact.ringNumber}
              </Button>
            )}
          </p>
        )}
        {contact.opening !== '' && contact.talking && (
          <p className="border-b border-rule bg-plum-wash px-4 py-1.5 text-small text-plum">{contact.opening}</p>
        )}
        <div className="min-h-0 flex-1 overflow-y-auto px-4 py-3" tabIndex={0} role="region" aria-label="What was said">
          {bot.length > 0 && (
            <details className="mb-2" open={since.length === 0}>
              <summary className="text-small text-ink-2">
                With the bot:{' '}
                {bot
                  .filter((m) => m.from === 'customer')
                  .map((m) => m.text)
                  .join(' → ') || 'nothing answered'}
              </summary>
              <div className="mt-2">
                <Transcript messages={bot} zone={zone} />
              </div>
            </details>
          )}
          <div aria-live="polite">
            <Transcript messages={since} zone={zone} />
          </div>
          <div ref={end} />
        </div>
        {contact.talking && voice && contact.left && !contact.calling ? (
          <p className="border-t border-rule p-3 text-small text-ink-2">
            Ring the customer back, or file what became of the message.
          </p>
        ) : contact.talking ? (
          <Composer contact={contact} onArrived={onChanged} />
        ) : (
          <p className="flex items-center gap-3 border-t border-rule p-3 text-small text-ink-2">
            The conversation has ended.{' '}
            {contact.filed
              ? `${contact.outcomes.find((o) => o.code === contact.filed)?.label ?? contact.filed} is filed; wrap-up lasts its ${contact.wrapUp.seconds ?? 0} s.`
              : contact.wrapUp.needsOutcome
                ? 'This queue asks for an outcome.'
                : 'File its outcome to be free for the next.'}
            {!contact.wrapUp.needsOutcome && (contact.wrapUp.mayFinishEarly || contact.wrapUp.seconds === null) && (
              <Button
                small
                className="ml-auto"
                disabled={busy}
                onClick={() => void onAct({ act: 'finish', legId: contact.legId })}
              >
                Finish without one
              </Button>
            )}
          </p>
        )}
      </Panel>
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
      {choosing && (
        <PassDialog
          legId={contact.legId}
          queueId={contact.queueId}
          customer={contact.customer}
          onClose={() => setChoosing(false)}
          onPass={(to, note) => {
            setChoosing(false);
            setPassing({ to, note });
          }}
        />
      )}
    </div>
  );
}
