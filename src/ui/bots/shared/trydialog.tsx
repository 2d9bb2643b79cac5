'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import type { ConnectorTried } from '@/services/bots/connections';
import { Button } from '../../kit/button';
import { sentence, setting } from '../../kit/call';
import { Dialog } from '../../kit/dialog';
import { Field, Input } from '../../kit/field';
import type { Connector } from './connectordialog';

const pretty = (text: string): string => JSON.stringify(JSON.parse(text), null, 2);

const Json = ({ label, text }: { label: string; text: string }) => (
  <pre
    className="max-h-56 overflow-auto rounded-control border border-rule bg-sheet p-2 text-tiny"
    tabIndex={0}
    role="region"
    aria-label={label}
  >
    {text}
  </pre>
);

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
      wide
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
          <div role="status" className="flex flex-col gap-2 rounded-control bg-sunk p-3 text-small">
            <div>
              <code className="block break-all">{result.request.line}</code>
              {result.request.headers.map((h) => (
                <code key={h.name} className="block break-all text-ink-2">
                  {h.name}: {h.value}
                </code>
              ))}
              {result.request.body !== null && <Json label="What is sent" text={pretty(result.request.body)} />}
            </div>
            <b>
              {result.outcome}
              {result.answer && ` (${result.answer.status})`}
            </b>
            {result.answer && (
              <>
                <table className="w-full">
                  <thead className="text-left text-tiny text-ink-2">
                    <tr>
                      <th className="font-medium">Output</th>
                      <th className="font-medium">Place</th>
                      <th className="font-medium">Found</th>
                    </tr>
                  </thead>
                  <tbody>
                    {result.outputs.map((o) => (
                      <tr key={o.name}>
                        <td className="pr-3">{o.name}</td>
                        <td className="pr-3 font-mono">{o.from}</td>
                        <td className={o.value === null ? 'text-clay' : 'font-medium'}>
                          {o.value === null ? 'nothing there' : String(o.value)}
                        </td>
                      </tr>
                    ))}
                  </tbody>
                </table>
                <Json label="The answer" text={`${result.answer.text}${result.answer.cut ? '\n…' : ''}`} />
              </>
            )}
          </div>
        )}
      </form>
    </Dialog>
  );
}
