'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import type { RolesView } from '@/services/people/roles';
import { Button } from '../../kit/button';
import { sentence, setting } from '../../kit/call';
import { Dialog } from '../../kit/dialog';
import { Field } from '../../kit/field';
import { options, Select } from '../../kit/select';

export function HandOn({ view, onClose }: { view: RolesView; onClose: () => void }) {
  const [heir, setHeir] = useState('');
  const go = () => {
    setting('hand-on-ownership', { personId: heir }).then(
      () => {
        toast.success('Ownership is handed on. You are a lead now.');
        window.location.reload();
      },
      (error: unknown) => toast.error(sentence(error)),
    );
  };
  return (
    <Dialog
      open
      onClose={onClose}
      title="Hand ownership on"
      description="There is one owner. You become a lead; only the new owner can hand it back."
    >
      <Field label="New owner">
        {(p) => (
          <Select {...p} value={heir} onChange={(chosen) => setHeir(chosen)}>
            <option value="">Choose…</option>
            {options(view.heirs)}
          </Select>
        )}
      </Field>
      <div className="mt-3 flex gap-2">
        <Button kind="danger" disabled={heir === ''} onClick={go}>
          Hand it on
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </div>
    </Dialog>
  );
}
