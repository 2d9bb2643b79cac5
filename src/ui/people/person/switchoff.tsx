'use client';

import { toast } from 'sonner';
import type { PersonLine } from '@/services/people/peopleview';
import { Button } from '../../kit/button';
import { sentence, setting } from '../../kit/call';
import { Dialog } from '../../kit/dialog';

export async function switchPerson(person: PersonLine, active: boolean, open?: string): Promise<boolean> {
  try {
    await setting('switch-person', { personId: person.id, active, ...(open ? { open } : {}) });
    toast.success(
      active
        ? `${person.name} is switched on.`
        : open === 'finish'
          ? `${person.name} finishes what is open, then is switched off.`
          : `${person.name} is switched off.`,
    );
    return true;
  } catch (error) {
    toast.error(sentence(error));
    return false;
  }
}

export function SwitchOff({ person, open, onClose }: { person: PersonLine; open: number; onClose: () => void }) {
  const off = async (how?: string) => {
    if (await switchPerson(person, false, how)) onClose();
  };
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Switch off ${person.name}`}
      description="Nobody can sign in with the account, and no contact is offered. It can be switched on again."
    >
      {open === 0 ? (
        <div className="flex gap-2">
          <Button kind="danger" onClick={() => void off()}>
            Switch off
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      ) : (
        <div className="flex flex-col items-start gap-2">
          <p className="text-small">
            {person.name} has {open} {open === 1 ? 'contact' : 'contacts'} open. What happens to{' '}
            {open === 1 ? 'it' : 'them'}?
          </p>
          <Button onClick={() => void off('finish')}>Let them finish first</Button>
          <Button onClick={() => void off('return')}>
            Back to the queue, at the place {open === 1 ? 'it' : 'they'} had
          </Button>
          <Button kind="danger" onClick={() => void off('end')}>
            End {open === 1 ? 'it' : 'them'} now
          </Button>
          <Button kind="quiet" onClick={onClose}>
            Cancel
          </Button>
        </div>
      )}
    </Dialog>
  );
}
