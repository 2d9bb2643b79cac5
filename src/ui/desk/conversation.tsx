'use client';

import { clsx } from 'clsx';
import { useEffect, useRef, useState } from 'react';
import { languageName } from '@/core/localised';
import type { DeskContact } from '@/services/contacts/deskcontact';
import type { DeskView } from '@/services/contacts/deskview';
import { Button } from '../kit/button';
import { asClock } from '../kit/figures';
import { ChannelMark } from '../kit/channelmark';
import { Panel, Pill } from '../kit/panel';
import { Unproven } from '../kit/unproven';
import { Transcript } from '../review/transcript';
import { AboutContact } from './aboutcontact';
import { Composer } from './composer';
import { LineButtons } from './linebuttons';
import { PassDialog, type PassedTo } from './passdialog';
import { Passing } from './passing';
import type { PassingOn } from './usepassing';

export function Conversation({
  contact,
  view,
  zone,
  now,
  busy,
  passing,
  onAct,
  onPass,
  onUndoPass,
  onPassNow,
  onChanged,
}: {
  contact: DeskContact;
  view: DeskView;
  zone: string;
  /** The floor’s instant. */ now: number;
  busy: boolean;
  onAct: (body: Record<string, unknown>) => Promise<unknown>;
  /** It is about to be passed on. */ passing: PassingOn | null;
  onPass: (to: PassedTo, note: string) => void;
  onUndoPass: () => void;
  onPassNow: () => void;
  /** Something was changed that the Desk shows. */ onChanged: () => void;
}) {
  const [choosing, setChoosing] = useState(false);
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
  const voice = contact.channel === 'voice';
  const mayHold = voice && contact.calling?.state !== 'dialling' && !(contact.left && !contact.calling);
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
              {mayHold && <LineButtons contact={contact} busy={busy} onAct={onAct} />}
              <Button disabled={busy || passing !== null} onClick={() => setChoosing(true)}>
                Pass on…
              </Button>
              <Button kind="primary" disabled={busy} onClick={() => void onAct({ act: 'end', legId: contact.legId })}>
                {voice && !(contact.left && !contact.calling) ? 'Hang up' : 'Finish'}
              </Button>
            </span>
          )}
        </div>
        {passing && contact.talking && <Passing passing={passing} onUndo={onUndoPass} onNow={onPassNow} />}
        {contact.line !== 'open' && contact.talking && (
          <p
            role="status"
            className={clsx(
              'border-b border-rule px-4 py-2 font-medium',
              contact.line === 'held' ? 'bg-brass-wash text-brass-ink' : 'bg-clay-wash text-clay',
            )}
          >
            {contact.line === 'held'
              ? `On hold for ${asClock((now - contact.lineSince) / 1000)}: music plays to ${contact.customer}; neither hears the other.`
              : `You are muted: ${contact.customer} does not hear you, you hear them.`}
          </p>
        )}
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
          <Composer contact={contact} own={view.ownReplies} onAct={onAct} onArrived={onChanged} />
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
      <AboutContact
        contact={contact}
        view={view}
        zone={zone}
        now={now}
        busy={busy}
        onAct={onAct}
        onChanged={onChanged}
      />
      {choosing && (
        <PassDialog
          legId={contact.legId}
          queueId={contact.queueId}
          customer={contact.customer}
          onClose={() => setChoosing(false)}
          onPass={(to, note) => {
            setChoosing(false);
            onPass(to, note);
          }}
        />
      )}
    </div>
  );
}
