'use client';

import { type FormEvent, useState } from 'react';
import type { DeskView } from '@/services/contacts/deskview';
import { Button } from '../kit/button';
import { Dialog } from '../kit/dialog';
import { Area, Field, Input } from '../kit/field';

type Own = DeskView['ownReplies'][number];
type Act = (body: Record<string, unknown>) => Promise<unknown>;

/** Replies that one keeps for oneself: a new one from what is typed, changed and dropped. */
export function OwnReplies({
  own,
  typed,
  onAct,
  onClose,
}: {
  own: DeskView['ownReplies'];
  /** What stands in the box, to begin a new one with. */ typed: string;
  onAct: Act;
  onClose: () => void;
}) {
  const [at, setAt] = useState<Own | null>(null);
  const [title, setTitle] = useState('');
  const [text, setText] = useState(typed);
  const [dropping, setDropping] = useState<string | null>(null);
  const open = (reply: Own | null) => {
    setAt(reply);
    setTitle(reply?.title ?? '');
    setText(reply?.text ?? '');
  };
  const keep = (event: FormEvent) => {
    event.preventDefault();
    void onAct({ act: 'keep-own-reply', id: at?.id ?? null, title: title.trim(), text: text.trim() }).then((done) => {
      if (done) open(null);
    });
  };
  return (
    <Dialog
      open
      onClose={onClose}
      title="Replies of your own"
      description="Only you see them, behind / with all others. {customer}, {agent}, {queue}, {company} and fields are filled."
    >
      <form onSubmit={keep} className="flex flex-col gap-3">
        <Field label={at === null ? 'A new one: its title' : 'Title'}>
          {(props) => (
            <Input
              {...props}
              autoFocus
              required
              maxLength={60}
              value={title}
              onChange={(e) => setTitle(e.target.value)}
            />
          )}
        </Field>
        <Field label="What it says">
          {(props) => (
            <Area
              {...props}
              rows={4}
              required
              maxLength={2000}
              value={text}
              onChange={(e) => setText(e.target.value)}
            />
          )}
        </Field>
        <div className="flex items-center gap-2">
          <Button kind="primary" type="submit" disabled={title.trim() === '' || text.trim() === ''}>
            {at === null ? 'Keep it' : 'Keep the change'}
          </Button>
          {at !== null && <Button onClick={() => open(null)}>A new one instead</Button>}
        </div>
      </form>
      {own.length > 0 && (
        <ul className="mt-4 border-t border-rule" aria-label="Your replies">
          {own.map((reply) => (
            <li key={reply.id} className="flex items-center gap-2 border-b border-rule py-1.5">
              <span className="min-w-0 flex-1">
                <span className="font-medium">{reply.title}</span>
                <span className="block truncate text-small text-ink-2">{reply.text}</span>
              </span>
              <Button small aria-label={`Change ${reply.title}`} onClick={() => open(reply)}>
                Change
              </Button>
              {dropping === reply.id ? (
                <Button
                  small
                  kind="danger"
                  aria-label={`Drop ${reply.title} for good`}
                  onClick={() =>
                    void onAct({ act: 'drop-own-reply', id: reply.id }).then(() => {
                      setDropping(null);
                      if (at?.id === reply.id) open(null);
                    })
                  }
                >
                  Drop it for good
                </Button>
              ) : (
                <Button small kind="quiet" aria-label={`Drop ${reply.title}`} onClick={() => setDropping(reply.id)}>
                  Drop
                </Button>
              )}
            </li>
          ))}
        </ul>
      )}
    </Dialog>
  );
}
