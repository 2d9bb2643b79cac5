'use client';

import { useState } from 'react';
import type { CustomerView } from '@/services/customers/customers';
import { Button } from '../kit/button';
import { Dialog } from '../kit/dialog';
import { Field, Input } from '../kit/field';
import { asDayTime } from '../kit/figures';
import type { Change } from './usecustomer';

/** Whether a customer is blocked: asked for with a reason by whoever deals with them, decided by whoever may. */
export function Block({ customer, zone, onChange }: { customer: CustomerView; zone: string; onChange: Change }) {
  const [asking, setAsking] = useState(false);
  const [why, setWhy] = useState('');
  const { block } = customer;
  const decide = (blocked: boolean) =>
    void onChange(
      'decide-block',
      { customerId: customer.id, blocked },
      blocked ? 'They are blocked: no contact begins from any of their addresses.' : 'They may come again.',
    );
  if (!block)
    return customer.mayChange && !customer.erased ? (
      <>
        <Button small onClick={() => setAsking(true)}>
          Ask that they be blocked…
        </Button>
        <Dialog
          open={asking}
          onClose={() => setAsking(false)}
          title="Ask that they be blocked"
          description="Somebody with the right decides. What is open stays open; whoever is blocked begins no contact from any of their addresses."
        >
          <form
            className="flex flex-col gap-3"
            onSubmit={(e) => {
              e.preventDefault();
              void onChange(
                'ask-to-block',
                { customerId: customer.id, why: why.trim() },
                'It has been asked for.',
              ).then((done) => done && setAsking(false));
            }}
          >
            <Field label="Why">
              {(p) => <Input {...p} autoFocus maxLength={300} value={why} onChange={(e) => setWhy(e.target.value)} />}
            </Field>
            <div className="flex gap-2">
              <Button kind="primary" type="submit" disabled={why.trim() === ''}>
                Ask for it
              </Button>
              <Button onClick={() => setAsking(false)}>Cancel</Button>
            </div>
          </form>
        </Dialog>
      </>
    ) : (
      <p className="text-small text-ink-2">Not blocked.</p>
    );
  return (
    <div className="text-small" role={block.decidedAt === null ? 'status' : 'alert'}>
      <p className={block.decidedAt === null ? '' : 'font-semibold text-clay'}>
        {block.decidedAt === null
          ? `${block.askedBy} asks that they be blocked`
          : `Blocked by ${block.decidedBy ?? 'somebody'}, ${asDayTime(block.decidedAt, zone)}`}
      </p>
      <p className="text-ink-2">
        “{block.why}”{block.decidedAt === null ? `, ${asDayTime(block.askedAt, zone)}` : ` (asked by ${block.askedBy})`}
        {block.decidedAt !== null &&
          (block.came === 0
            ? '. They have not come since.'
            : `. They came ${block.came}× since${block.cameAt === null ? '' : `, last ${asDayTime(block.cameAt, zone)}`}.`)}
      </p>
      {customer.mayDecide && (
        <div className="mt-1 flex gap-2">
          {block.decidedAt === null && (
            <Button small kind="danger" onClick={() => decide(true)}>
              Block them
            </Button>
          )}
          <Button small onClick={() => decide(false)}>
            {block.decidedAt === null ? 'Do not' : 'Let them come again'}
          </Button>
        </div>
      )}
    </div>
  );
}
