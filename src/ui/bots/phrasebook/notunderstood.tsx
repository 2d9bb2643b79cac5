'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import type { Phrasebook } from '@/core/phrases/book';
import type { PhrasebookView, UnheardLine } from '@/services/bots/phrasebook';
import { Button } from '../../kit/button';
import { sentence, setting } from '../../kit/call';
import { asDayTime } from '../../kit/figures';
import { Link } from '../../kit/link';
import { Empty } from '../../kit/panel';
import { Select } from '../../kit/select';
import { TeachDialog, type Teaching } from './teachdialog';

/** What the list beside a phrase offers besides intents. */
const WAYS = { 'other-words': 'other words…', aside: 'keep aside…' } as const;
const NOWHERE = { to: 'nowhere', intentId: null, word: null, also: null, look: false } as const;

/** Phrases by what they come nearest to, the largest groups first. */
function grouped(lines: readonly UnheardLine[]): { readonly label: string; readonly lines: readonly UnheardLine[] }[] {
  const groups = new Map<string, UnheardLine[]>();
  for (const line of lines) {
    const label = line.guess ? `nearest to ${line.guess.label}` : 'near nothing';
    groups.set(label, [...(groups.get(label) ?? []), line]);
  }
  return [...groups]
    .map(([label, all]) => ({ label, lines: all }))
    .sort((a, b) => b.lines.length - a.lines.length || a.label.localeCompare(b.label));
}

/**
 * Phrases that bots did not understand, with how often: dropped onto an intent, taught from the list beside each, or
 * let go. What teaching one does to the phrases kept aside is shown before it is kept.
 */
export function NotUnderstood({
  view,
  book,
  revision,
  touched,
  zone,
  onTaught,
}: {
  view: PhrasebookView;
  book: Phrasebook;
  revision: number;
  touched: boolean;
  zone: string;
  onTaught: () => void;
}) {
  const [over, setOver] = useState<string | null>(null);
  const [open, setOpen] = useState<{ readonly phrase: UnheardLine; readonly first: Teaching } | null>(null);
  const letGo = (unheardId: number) =>
    setting('teach-phrase', { unheardId, ...NOWHERE, revision })
      .catch((error: unknown) => void toast.error(sentence(error)))
      .then(onTaught);
  const teach = (phrase: UnheardLine, chosen: string) =>
    setOpen({
      phrase,
      first: {
        to: chosen === 'other-words' || chosen === 'aside' ? chosen : 'intent',
        intentId: chosen in WAYS ? null : chosen,
        word: null,
        also: null,
      },
    });
  if (view.unheard.length === 0)
    return (
      <Empty title="Nothing was left un-understood">What bots do not understand is collected here, to be taught.</Empty>
    );
  const may = view.mayChange && !touched;
  return (
    <div className={may ? 'grid grid-cols-[minmax(0,1fr)_190px]' : ''}>
      <div>
        {grouped(view.unheard).map((group) => (
          <section key={group.label} aria-label={group.label}>
            <h2 className="border-b border-rule bg-sunk px-4 py-1 text-tiny text-ink-2">
              {group.label} · {group.lines.length}
            </h2>
            <ul>
              {group.lines.map((u) => (
                <li
                  key={u.id}
                  draggable={may}
                  onDragStart={(e) => {
                    e.dataTransfer.setData('text/plain', String(u.id));
                    e.dataTransfer.effectAllowed = 'move';
                  }}
                  className={`flex items-center gap-2 border-b border-rule px-4 py-1.5 ${may ? 'cursor-grab' : ''}`}
                >
                  <span className="min-w-0 flex-1 truncate" lang={u.language}>
                    {u.text}
                  </span>
                  <span className="text-tiny text-ink-3">{u.language}</span>
                  <span className="w-10 text-right text-small text-ink-2 tabular-nums">{u.times}×</span>
                  <Link
                    href={`/contacts/${u.contactId}`}
                    className="w-28 text-right text-tiny whitespace-nowrap text-plum hover:underline"
                  >
                    {asDayTime(u.at, zone)}
                  </Link>
                  <span className="w-10 text-right text-tiny text-ink-2">
                    {u.guess ? u.guess.confidence.toFixed(2) : ''}
                  </span>
                  {view.mayChange && (
                    <>
                      <Select
                        aria-label={`Teach “${u.text}” to`}
                        className="!w-24 !py-0.5 text-small"
                        value=""
                        disabled={touched}
                        onChange={(chosen) => {
                          if (chosen) teach(u, chosen);
                        }}
                      >
                        <option value="">teach…</option>
                        {book.intents.map((i) => (
                          <option key={i.id} value={i.id}>
                            {i.label}
                          </option>
                        ))}
                        {Object.entries(WAYS).map(([id, name]) => (
                          <option key={id} value={id}>
                            {name}
                          </option>
                        ))}
                      </Select>
                      <Button small kind="quiet" aria-label={`Drop “${u.text}”`} onClick={() => void letGo(u.id)}>
                        Let go
                      </Button>
                    </>
                  )}
                </li>
              ))}
            </ul>
          </section>
        ))}
      </div>
      {may && (
        <div className="border-l border-rule">
          <p className="px-3 py-1.5 text-tiny text-ink-3">drop a phrase onto its intent</p>
          <ul>
            {book.intents.map((i) => (
              <li
                key={i.id}
                onDragOver={(e) => {
                  e.preventDefault();
                  setOver(i.id);
                }}
                onDragLeave={() => setOver(null)}
                onDrop={(e) => {
                  e.preventDefault();
                  setOver(null);
                  const phrase = view.unheard.find((u) => u.id === Number(e.dataTransfer.getData('text/plain')));
                  if (phrase) teach(phrase, i.id);
                }}
                className={`border-b border-rule px-3 py-1.5 text-small ${over === i.id ? 'bg-chosen' : ''}`}
              >
                {i.label}
              </li>
            ))}
          </ul>
        </div>
      )}
      {open && (
        <TeachDialog
          phrase={open.phrase}
          first={open.first}
          book={book}
          revision={revision}
          onClose={(taught) => {
            setOpen(null);
            if (taught) toast.success(`${taught} Bots use it from when they are published next.`);
            onTaught();
          }}
        />
      )}
    </div>
  );
}
