'use client';

import { useState } from 'react';
import { languageName } from '@/core/localised';
import type { CustomerView } from '@/services/customers/customers';
import { Button } from '../kit/button';
import { Dialog } from '../kit/dialog';
import { Field, Input } from '../kit/field';
import { Select } from '../kit/select';
import type { Change } from './usecustomer';

const NOT_KNOWN = '–';

/** What a customer is called, and the language they like to be spoken to in. */
export function NameDialog({
  customer,
  onChange,
  onClose,
}: {
  customer: CustomerView;
  onChange: Change;
  onClose: () => void;
}) {
  const [name, setName] = useState(customer.name ?? '');
  const [language, setLanguage] = useState(customer.language);
  return (
    <Dialog
      open
      onClose={onClose}
      title="Who they are"
      description="What is said here goes before any name that comes from outside. Their next contact begins in this language where its door speaks it."
    >
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void onChange('set-customer', { customerId: customer.id, name: name.trim() || null, language }).then(
            (done) => done && onClose(),
          );
        }}
      >
        <Field label="Name">
          {(p) => <Input {...p} autoFocus maxLength={80} value={name} onChange={(e) => setName(e.target.value)} />}
        </Field>
        <Field label="Language they like">
          {(p) => (
            <Select
              {...p}
              value={language ?? NOT_KNOWN}
              onChange={(chosen) => setLanguage(chosen === NOT_KNOWN ? null : chosen)}
            >
              <option value={NOT_KNOWN}>not known</option>
              {customer.languages.map((l) => (
                <option key={l} value={l}>
                  {languageName(l)}
                </option>
              ))}
            </Select>
          )}
        </Field>
        <div className="flex gap-2">
          <Button kind="primary" type="submit">
            Keep it
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      </form>
    </Dialog>
  );
}
