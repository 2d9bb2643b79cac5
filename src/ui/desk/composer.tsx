'use client';

import { clsx } from 'clsx';
import { useEffect, useId, useRef, useState } from 'react';
import { unfilled } from '@/core/messages/stockreplies';
import type { DeskContact } from '@/services/contacts/deskcontact';
import type { DeskView } from '@/services/contacts/deskview';
import { Button } from '../kit/button';
import { Area } from '../kit/field';
import { useHere } from './kepthere';
import { OwnReplies } from './ownreplies';
import { useOutgoing } from './outgoing';

type Reply = DeskContact['replies'][number];
/** Where a stock reply is looked for: what follows a `/` that begins a word, at the end of what is typed. */
const LOOKING = /(?:^|\s)\/([^/\n]{0,40})$/;
const MOST_REPLIES = 8;

/** Replies whose title or text has every word that was typed, titles first. */
function repliesLike(replies: readonly Reply[], typed: string): readonly Reply[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const has = (text: string) => words.every((w) => text.toLowerCase().includes(w));
  return [
    ...replies.filter((r) => has(r.title)),
    ...replies.filter((r) => !has(r.title) && has(`${r.title} ${r.set} ${r.text}`)),
  ].slice(0, MOST_REPLIES);
}

/** What is written to a customer: kept while it is not sent, sent once, with stock replies behind `/`. */
export function Composer({
  contact,
  own,
  onAct,
  onArrived,
}: {
  contact: DeskContact;
  own: DeskView['ownReplies'];
  onAct: (body: Record<string, unknown>) => Promise<unknown>;
  onArrived: () => void;
}) {
  const [keeping, setKeeping] = useState(false);
  const voice = contact.channel === 'voice';
  const [kept, keep] = useHere('unsent', contact.legId, '');
  const [text, setText] = useState('');
  const [replyId, setReplyId] = useState<string | null>(null);
  const [at, setAt] = useState(0);
  const box = useRef<HTMLTextAreaElement>(null);
  const list = useId();
  const { outgoing, late, send, again, takeBack } = useOutgoing(contact.legId, onArrived);
  // What another window typed, or this one before it was left, stands here too.
  useEffect(() => setText(kept), [kept]);
  const type = (next: string) => {
    setText(next);
    keep(next === '' ? null : next);
    setAt(0);
  };
  const looking = LOOKING.exec(text)?.[1];
  const found = looking === undefined ? [] : repliesLike(contact.replies, looking);
  const put = (reply: Reply) => {
    const before = text.replace(LOOKING, (whole) => (whole.startsWith('/') ? '' : (whole[0] ?? '')));
    type(before.trim() === '' ? reply.text : `${before.trimEnd()} ${reply.text}`);
    setReplyId(reply.id);
    box.current?.focus();
  };
  const lacking = unfilled(text, contact.placeholders);
  // While a reply is looked for, nothing is said.
  const ready = text.trim() !== '' && lacking.length === 0 && found.length === 0;
  const sends = () => {
    if (!ready) return;
    send(text.trim(), replyId);
    type('');
    setReplyId(null);
  };
  const fitting = contact.replies.filter((r) => r.fits);
  return (
    <form
      className="border-t border-rule p-3"
      onSubmit={(e) => {
        e.preventDefault();
        sends();
      }}
    >
      {outgoing.length > 0 && (
        <ul className="mb-2 flex flex-col gap-1" aria-label="Not sent yet">
          {outgoing.map((o) => (
            <li
              key={o.key}
              role={o.why === null ? 'status' : 'alert'}
              className={clsx(
                'flex items-center gap-2 rounded-control px-2 py-1 text-small',
                o.why === null ? 'bg-sunk text-ink-2' : 'bg-clay-wash text-clay',
              )}
            >
              <span className="min-w-0 flex-1">
                <span className="block truncate">{o.text}</span>
                {o.why !== null ? `Not sent: ${o.why}` : late ? 'Not sent yet; it goes as soon as it can.' : 'Sending…'}
              </span>
              {o.why !== null && (
                <>
                  <Button small onClick={() => again(o.key)}>
                    Send it again
                  </Button>
                  <Button
                    small
                    kind="quiet"
                    onClick={() => {
                      takeBack(o.key);
                      type(text.trim() === '' ? o.text : `${o.text}\n${text}`);
                    }}
                  >
                    Take it back
                  </Button>
                </>
              )}
            </li>
          ))}
        </ul>
      )}
      {fitting.length > 0 && text === '' && (
        <div className="mb-2 flex flex-wrap items-center gap-1.5 text-small">
          <span className="text-ink-2">May fit</span>
          {fitting.map((r) => (
            <Button key={r.id} small title={r.text} onClick={() => put(r)}>
              {r.title}
            </Button>
          ))}
        </div>
      )}
      <div className="relative">
        {found.length > 0 && (
          <ul
            id={list}
            role="listbox"
            aria-label="Stock replies"
            className="absolute bottom-full left-0 z-10 mb-1 max-h-64 w-full overflow-y-auto rounded-panel border border-rule bg-sheet p-1 shadow-xl"
          >
            {found.map((r, i) => (
              <li
                key={r.id}
                id={`${list}-${i}`}
                role="option"
                aria-selected={i === at}
                onMouseDown={(e) => {
                  e.preventDefault();
                  put(r);
                }}
                className={clsx('cursor-pointer rounded-control px-2 py-1', i === at && 'bg-chosen')}
              >
                <span className="font-medium">{r.title}</span> <span className="text-tiny text-ink-3">{r.set}</span>
                <span className="block truncate text-small text-ink-2">{r.text}</span>
              </li>
            ))}
          </ul>
        )}
        <Area
          ref={box}
          aria-label={voice ? 'What you say' : `Write to ${contact.customer}`}
          aria-autocomplete="list"
          aria-controls={found.length > 0 ? list : undefined}
          aria-activedescendant={found.length > 0 ? `${list}-${at}` : undefined}
          rows={2}
          autoFocus
          maxLength={4000}
          value={text}
          placeholder={
            voice
              ? 'Type what you say; it reaches the caller as speech · Ctrl Enter says it'
              : `Write to ${contact.customer}… Ctrl Enter sends${contact.replies.length > 0 ? ' · / for stock replies' : ''}`
          }
          onChange={(e) => type(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === 'Enter' && (e.ctrlKey || e.metaKey)) {
              e.preventDefault();
              sends();
            } else if (found.length > 0 && (e.key === 'ArrowDown' || e.key === 'ArrowUp')) {
              e.preventDefault();
              setAt((at + (e.key === 'ArrowDown' ? 1 : found.length - 1)) % found.length);
            } else if (found.length > 0 && (e.key === 'Enter' || e.key === 'Tab')) {
              e.preventDefault();
              const chosen = found[at];
              if (chosen) put(chosen);
            } else if (found.length > 0 && e.key === 'Escape') {
              e.preventDefault();
              e.stopPropagation();
              type(`${text} `);
            }
          }}
        />
      </div>
      <div className="mt-1 flex items-center justify-between gap-2">
        <span className="min-w-0 flex-1 text-small" aria-live="polite">
          {lacking.length > 0 && (
            <span className="text-clay">Fill in {lacking.map((name) => `{${name}}`).join(', ')} before it goes.</span>
          )}
        </span>
        {contact.keepsReplies && (
          <Button small kind="quiet" onClick={() => setKeeping(true)}>
            {text.trim() === '' || found.length > 0 ? 'Your replies…' : 'Keep as your reply…'}
          </Button>
        )}
        <Button kind="primary" type="submit" disabled={!ready}>
          {voice ? 'Say' : 'Send'}
        </Button>
      </div>
      {keeping && (
        <OwnReplies
          own={own}
          typed={found.length > 0 ? '' : text.trim()}
          onAct={onAct}
          onClose={() => setKeeping(false)}
        />
      )}
    </form>
  );
}
