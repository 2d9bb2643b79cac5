'use client';

import { type FormEvent, useEffect, useState } from 'react';
import type { MailingView } from '@/services/review/mailedviews';
import { Button } from '../kit/button';
import { call, sentence } from '../kit/call';
import { Dialog } from '../kit/dialog';
import { doing } from '../kit/doing';
import { Field } from '../kit/field';
import { Picks } from '../kit/picks';
import { Select } from '../kit/select';

/** Has a kept view mailed in the morning, to people who may open Review; each finds what they may see. */
export function MailView({ id, name, onClose }: { id: string; name: string; onClose: () => void }) {
  const [view, setView] = useState<MailingView | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [days, setDays] = useState<'daily' | 'monday' | ''>('');
  const [people, setPeople] = useState<readonly string[]>([]);
  useEffect(() => {
    call<MailingView>(`/api/read/view-mailing?id=${encodeURIComponent(id)}`).then(
      (read) => {
        setView(read);
        setDays(read.days ?? '');
        setPeople(read.personIds);
      },
      (error: unknown) => setFault(sentence(error)),
    );
  }, [id]);
  const mailed = days !== '' && people.length > 0;
  const keep = (event: FormEvent) => {
    event.preventDefault();
    onClose();
    void doing(
      'mail-view',
      { id, days: mailed ? days : null, personIds: mailed ? people : [] },
      mailed ? `${name} is mailed at seven in the morning.` : `${name} is not mailed.`,
    );
  };
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Mail ${name}`}
      description="At seven in the morning, by the workspace’s clock. Each reads what they may see, and finds the page behind it."
    >
      {fault && (
        <p role="alert" className="text-small text-clay">
          {fault}
        </p>
      )}
      {!view && !fault && <p className="text-small text-ink-2">Reading…</p>}
      {view && (
        <form onSubmit={keep} className="flex flex-col gap-3">
          <Field label="When">
            {(p) => (
              <Select {...p} value={days} onChange={(value) => setDays(value as typeof days)}>
                <option value="">not mailed</option>
                <option value="daily">each morning</option>
                <option value="monday">on Mondays</option>
              </Select>
            )}
          </Field>
          <div>
            <p className="mb-1 text-small font-medium text-ink-2">To</p>
            <Picks
              label="Add somebody"
              of={view.people}
              picked={people}
              onPicked={setPeople}
              takeOut={(one) => `Do not mail ${one}`}
              none="nobody yet"
            />
          </div>
          <div className="flex gap-2">
            <Button kind="primary" type="submit" disabled={days !== '' && people.length === 0}>
              Keep
            </Button>
            <Button onClick={onClose}>Cancel</Button>
          </div>
        </form>
      )}
    </Dialog>
  );
}
