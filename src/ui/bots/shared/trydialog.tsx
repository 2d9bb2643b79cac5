'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import type { ConnectorTried } from '@/services/bots/connections';
import { Button } from '../../kit/button';
import { sentence, setting } from '../../kit/call';
import { Dialog } from '../../kit/dialog';
import { Field, Input } from '../../kit/field';
import type { Connector } from './connectordialog';

export function TryDialog({ connector, onClose }: { connector: Connector; onClose: () => void }) {
  const [inputs, setInputs] = useState<Readonly<Record<string, string>>>({});
  const [result, setResult] = useState<ConnectorTried | null>(null);
  const [busy, setBusy] = useState(false);
  const run = async () => {
    setBusy(true);
    try {
      setResult(
        await setting<ConnectorTried>('try-connector', {
          id: connector.id,
          inputs: connector.inputs.map((name) => ({ name, value: inputs[name] ?? '' })),
          really: connector.does === 'look-up',
        }),
      );
    } catch (error) {
      toast.error(sentence(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Try ${connector.name}`}
      description={connector.does === 'do' ? 'What changes something is only shown, not sent.' : 'It is really asked.'}
    >
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void run();
        }}
      >
        {connector.inputs.map((name) => (
          <Field key={name} label={name}>
            {(p) => (
              <Input
                {...p}
                value={inputs[name] ?? ''}
                maxLength={500}
                onChange={(e) => setInputs({ ...inputs, [name]: e.target.value })}
              />
            )}
          </Field>
        ))}
        <div>
          <Button kind="primary" type="submit" disabled={busy}>
            {busy ? 'Asking…' : 'Ask'}
          </Button>
        </div>
        {result && (
          <div role="status" className="rounded-control bg-sunk p-3 text-small">
            <code className="block break-all">{result.request}</code>
            <b>{result.outcome}</b>
            <ul>
              {Object.entries(result.outputs).map(([k, v]) => (
                <li key={k}>
                  {k} = {String(v)}
                </li>
              ))}
            </ul>
          </div>
        )}
      </form>
    </Dialog>
  );
}
