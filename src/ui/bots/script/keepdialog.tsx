'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import type { Setting } from '@/core/bots/trial';
import type { Tried } from '@/services/bots/trials';
import { Button } from '../../kit/button';
import { setting as act, sentence } from '../../kit/call';
import { Dialog } from '../../kit/dialog';
import { Check, Field, Input } from '../../kit/field';

export function KeepDialog({
  botId,
  tried,
  setting,
  queueName,
  contactId,
  onClose,
  onDone,
}: {
  botId: string;
  tried: Tried;
  setting: Setting;
  queueName: (id: string) => string;
  /** Whose words were said, where they are a customer's. */ contactId: string | null;
  onClose: () => void;
  onDone: () => void;
}) {
  const { ending } = tried;
  const [name, setName] = useState('');
  const [expects, setExpects] = useState<ReadonlySet<string>>(new Set());
  const [fault, setFault] = useState<string | null>(null);
  const keep = async () => {
    try {
      await act('keep-bot-test', {
        botId,
        id: null,
        contactId,
        name,
        setting,
        turns: tried.turns.map(({ input, replies, says }) => ({ input, replies, says })),
        ending: {
          ...ending,
          values: Object.fromEntries(Object.entries(ending.values).filter(([n]) => expects.has(n))),
        },
      });
      toast.success(`The test ${name} is kept. It runs whenever the bot is published.`);
      onDone();
    } catch (error) {
      setFault(sentence(error));
    }
  };
  const needing = ending.needs.length > 0 ? `, needing ${ending.needs.join(', ')}` : '';
  const withWhom = `with a person of ${ending.queueId ? queueName(ending.queueId) : ''}${needing}`;
  return (
    <Dialog
      open
      onClose={onClose}
      title="Keep as test"
      description={
        `It says these words again and expects the same answers, and that it ends ` +
        `${ending.where === 'person' ? withWhom : ending.where === 'promise' ? `with a call promised, made ${withWhom.slice(7)}` : ending.where === 'end' ? 'by itself' : 'still listening'}.`
      }
    >
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void keep();
        }}
      >
        <Field label="Name of the test">
          {(p) => (
            <Input {...p} required autoFocus maxLength={80} value={name} onChange={(e) => setName(e.target.value)} />
          )}
        </Field>
        {Object.keys(ending.values).length > 0 && (
          <fieldset>
            <legend className="mb-1 text-small font-medium text-ink-2">Values it expects as well</legend>
            <div className="flex max-h-40 flex-col gap-1 overflow-y-auto">
              {Object.entries(ending.values).map(([n, v]) => (
                <Check
                  key={n}
                  label={`${n} = ${String(v)}`}
                  checked={expects.has(n)}
                  onChange={(e) => {
                    const next = new Set(expects);
                    if (e.target.checked) next.add(n);
                    else next.delete(n);
                    setExpects(next);
                  }}
                />
              ))}
            </div>
          </fieldset>
        )}
        {fault && (
          <p role="alert" className="text-small text-clay">
            {fault}
          </p>
        )}
        <div className="flex gap-2">
          <Button kind="primary" type="submit">
            Keep the test
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      </form>
    </Dialog>
  );
}
