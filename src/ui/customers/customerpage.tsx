'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import { languageName } from '@/core/localised';
import type { CustomerView } from '@/services/customers/customers';
import { Button } from '../kit/button';
import { call, sentence } from '../kit/call';
import { download } from '../kit/download';
import { Empty, Panel, PanelHead, Pill } from '../kit/panel';
import { Unproven } from '../kit/unproven';
import { Block } from './block';
import { EraseDialog } from './erasedialog';
import { KnownBy } from './knownby';
import { NameDialog } from './namedialog';
import { Notes } from './notes';
import { Timeline } from './timeline';
import { useCustomer } from './usecustomer';

/** Contacts read at first, and with each press of more. */
const SHOWN = 40;

/** One customer, however they come: their line of time, and what is known of them. */
export function CustomerPage({ initial, zone }: { initial: CustomerView; zone: string }) {
  const [shown, setShown] = useState(SHOWN);
  const [open, setOpen] = useState<'name' | 'erase' | null>(null);
  const { customer: read, change } = useCustomer(initial.id, shown, shown === SHOWN ? initial : undefined);
  const customer = read ?? initial;
  const takeOut = async () => {
    try {
      const { name, text } = await call<{ name: string; text: string }>(
        `/api/read/customer-file?id=${encodeURIComponent(customer.id)}`,
      );
      download(name, 'application/json', text);
    } catch (error) {
      toast.error(sentence(error));
    }
  };
  if (customer.erased)
    return (
      <main className="p-4">
        <Panel label="Customer">
          <Empty title="This customer was erased">
            {customer.contacts.length} contacts of theirs still count in figures. What was said in them is gone.
          </Empty>
        </Panel>
      </main>
    );
  const title = customer.name ?? customer.knownBy[0]?.address ?? 'Unknown';
  return (
    <main className="grid items-start gap-3 p-4 lg:grid-cols-[minmax(0,1fr)_340px]">
      <Panel label="Line of time">
        <PanelHead
          title={title}
          marks={
            <>
              <Unproven vouched={customer.vouched} />
              {customer.language !== null && <Pill>{languageName(customer.language)}</Pill>}
              {customer.block && customer.block.decidedAt !== null && <Pill tone="bad">blocked</Pill>}
            </>
          }
        >
          {customer.mayChange && (
            <Button small onClick={() => setOpen('name')}>
              Name and language…
            </Button>
          )}
          {customer.mayErase && (
            <>
              <Button small onClick={() => void takeOut()}>
                Take their data out
              </Button>
              <Button small kind="danger" onClick={() => setOpen('erase')}>
                Erase…
              </Button>
            </>
          )}
        </PanelHead>
        <div className="px-4 pt-1 pb-4">
          <Timeline customer={customer} zone={zone} onMore={() => setShown(shown + SHOWN)} />
        </div>
      </Panel>
      <div className="flex flex-col gap-3">
        <Panel className="p-4" label="Known by">
          <h2 className="mb-1 text-panel">Known by</h2>
          <KnownBy customer={customer} zone={zone} onChange={change} />
        </Panel>
        <Panel className="p-4" label="Notes">
          <h2 className="mb-1 text-panel">Notes</h2>
          <Notes customer={customer} zone={zone} onChange={change} />
        </Panel>
        <Panel className="p-4" label="Blocked or not">
          <h2 className="mb-1 text-panel">Blocked or not</h2>
          <Block customer={customer} zone={zone} onChange={change} />
        </Panel>
      </div>
      {open === 'name' && <NameDialog customer={customer} onChange={change} onClose={() => setOpen(null)} />}
      {open === 'erase' && <EraseDialog customer={customer} onChange={change} onClose={() => setOpen(null)} />}
    </main>
  );
}
