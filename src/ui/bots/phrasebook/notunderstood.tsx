'use client';

import { Link } from '../../kit/link';
import { useState } from 'react';
import { toast } from 'sonner';
import type { Phrasebook } from '@/core/phrases/book';
import type { PhrasebookView } from '@/services/bots/phrasebook';
import { Button } from '../../kit/button';
import { sentence, setting } from '../../kit/call';
import { asDayTime } from '../../kit/figures';
import { Empty } from '../../kit/panel';
import { Select } from '../../kit/select';

/**
 * Phrases that bots did not understand, with how often: dropped onto an intent, taught from the list beside each, or
 * let go.
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
  const teach = (unheardId: number, intentId: string | null) =>
    setting('teach-phrase', { unheardId, intentId, revision }).then(
      () => {
        if (intentId)
          toast.success(
            `${book.intents.find((i) => i.id === intentId)?.label ?? ''} has learnt it. Bots use it from when they are published next.`,
          );
        onTaught();
      },
      (error: unknown) => {
        toast.error(sentence(error));
        onTaught();
      },
    );
  if (view.unheard.length === 0)
    return (
      <Empty title="Nothing was left un-understood">What bots do not understand is collected here, to be taught.</Empty>
    );
  const may = view.mayChange && !touched;
  return (
    <div className={may ? 'grid grid-cols-[minmax(0,1fr)_190px]' : ''}>
      <ul>
        {view.unheard.map((u) => (
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
            <span className="w-8 text-right text-small text-ink-2">{u.times}×</span>
            <Link href={`/contacts/${u.contactId}`} className="text-tiny whitespace-nowrap text-plum hover:underline">
              {asDayTime(u.at, zone)}
            </Link>
            <span className="w-36 truncate text-tiny text-ink-2">
              {u.guess ? `${u.guess.label} ${u.guess.confidence.toFixed(2)}` : ''}
            </span>
            {view.mayChange && (
              <>
                <Select
                  aria-label={`Teach “${u.text}” to`}
                  className="!w-24 !py-0.5 text-small"
                  value=""
                  disabled={touched}
                  onChange={(chosen) => {
                    if (chosen) void teach(u.id, chosen);
                  }}
                >
                  <option value="">teach…</option>
                  {book.intents.map((i) => (
                    <option key={i.id} value={i.id}>
                      {i.label}
                    </option>
                  ))}
                </Select>
                <Button small kind="quiet" aria-label={`Drop “${u.text}”`} onClick={() => void teach(u.id, null)}>
                  Let go
                </Button>
              </>
            )}
          </li>
        ))}
      </ul>
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
                  const id = Number(e.dataTransfer.getData('text/plain'));
                  if (id > 0) void teach(id, i.id);
                }}
                className={`border-b border-rule px-3 py-1.5 text-small ${over === i.id ? 'bg-chosen' : ''}`}
              >
                {i.label}
              </li>
            ))}
          </ul>
        </div>
      )}
    </div>
  );
}
