'use client';

import { Button } from '../../kit/button';
import { Dialog } from '../../kit/dialog';
import { After } from './after';
import { Order } from './order';
import type { Part } from './part';
import { Rules } from './rules';
import { Takes } from './takes';

export type QueueDialog = 'takes' | 'order' | 'after' | 'rules';

const TITLES: Readonly<Record<QueueDialog, readonly [string, string]>> = {
  takes: ['What it takes', 'Channels with their goals, hours, and what whoever is asked must know'],
  order: ['Picks the person by', 'Whom a waiting contact prefers among those who are able'],
  after: ['After the contact', 'Wrap-up, outcomes, fields, callbacks'],
  rules: ['If it goes wrong', 'Looked at in this order when a contact enters; the first that holds decides'],
};

/** The parts of a queue that are not its clock, each in a dialog. What is changed here is gathered with the rest. */
export function QueueDialogs({ which, onClose, ...part }: Part & { which: QueueDialog; onClose: () => void }) {
  const [title, description] = TITLES[which];
  return (
    <Dialog open onClose={onClose} title={title} description={description} wide>
      {which === 'takes' && <Takes {...part} />}
      {which === 'order' && <Order {...part} />}
      {which === 'after' && <After {...part} />}
      {which === 'rules' && <Rules {...part} />}
      <div className="mt-4 flex">
        <Button
          kind="primary"
          className="ml-auto"
          disabled={which === 'takes' && part.nameFault !== undefined}
          onClick={onClose}
        >
          Done
        </Button>
      </div>
    </Dialog>
  );
}
