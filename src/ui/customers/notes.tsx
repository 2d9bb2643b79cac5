'use client';

import { useState } from 'react';
import type { CustomerView } from '@/services/customers/customers';
import { Button } from '../kit/button';
import { Area } from '../kit/field';
import { asDayTime } from '../kit/figures';
import type { Change } from './usecustomer';

/** What people noted about a customer, for whoever deals with them next. */
export function Notes({ customer, zone, onChange }: { customer: CustomerView; zone: string; onChange: Change }) {
  const [words, setWords] = useState('');
  const [busy, setBusy] = useState(false);
  return (
    <>
      {customer.notes.length === 0 && !customer.mayChange && <p className="text-small text-ink-2">None.</p>}
      <ul>
        {customer.notes.map((n) => (
          <li key={n.id} className="border-b border-rule py-1 text-small">
            <p className="break-words whitespace-pre-wrap">{n.words}</p>
            <p className="flex items-center text-tiny text-ink-2">
              <span className="flex-1">
                {n.by}, {asDayTime(n.at, zone)}
              </span>
              {n.mayDrop && (
                <Button
                  small
                  kind="quiet"
                  aria-label={`Take away the note “${n.words.slice(0, 40)}”`}
                  onClick={() => void onChange('drop-customer-note', { id: n.id })}
                >
                  Take away
                </Button>
              )}
            </p>
          </li>
        ))}
      </ul>
      {customer.mayChange && !customer.erased && (
        <form
          className="mt-1.5"
          onSubmit={(e) => {
            e.preventDefault();
            setBusy(true);
            void onChange('note-on-customer', { customerId: customer.id, words: words.trim() }).then((done) => {
              setBusy(false);
              if (done) setWords('');
            });
          }}
        >
          <Area
            aria-label="A note about this customer"
            placeholder="A note for whoever deals with them next"
            rows={2}
            maxLength={2000}
            value={words}
            onChange={(e) => setWords(e.target.value)}
          />
          <Button small type="submit" className="mt-1" disabled={busy || words.trim() === ''}>
            Keep the note
          </Button>
        </form>
      )}
    </>
  );
}
