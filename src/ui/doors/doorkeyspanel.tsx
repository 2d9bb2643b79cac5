'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import type { DoorKeyLine } from '@/services/doors/doorkeys';
import type { DoorLine } from '@/services/doors/doors';
import { Button } from '../kit/button';
import { sentence, setting } from '../kit/call';
import { Dialog } from '../kit/dialog';
import { Field, Input } from '../kit/field';
import { asDayTime } from '../kit/figures';
import { Panel } from '../kit/panel';

/** Keys by which servers speak for the customers of one door. A key is shown once, when it is made. */
export function DoorKeysPanel({ door, keys }: { door: DoorLine; keys: readonly DoorKeyLine[] }) {
  const [name, setName] = useState('');
  const [made, setMade] = useState<{ name: string; key: string } | null>(null);
  const [ending, setEnding] = useState<DoorKeyLine | null>(null);
  const make = () =>
    setting<{ key: string }>('make-door-key', { doorId: door.id, name: name.trim() }).then(
      ({ key }) => {
        setMade({ name: name.trim(), key });
        setName('');
      },
      (error: unknown) => toast.error(sentence(error)),
    );
  const end = (key: DoorKeyLine) =>
    setting('end-door-key', { id: key.id }).then(
      () => {
        setEnding(null);
        toast.success(`${key.name} opens nothing any more; its conversations go on.`);
      },
      (error: unknown) => toast.error(sentence(error)),
    );
  return (
    <Panel className="self-start p-4" label={`Keys of ${door.name}`}>
      <h2 className="text-panel">Keys</h2>
      <p className="text-small text-ink-2">
        {door.channel === 'chat'
          ? 'Browsers may start chats here without one; what they say of themselves is marked unproven. A server with a key vouches for its customers.'
          : 'Only a server with a key may start contacts here: it vouches for the numbers and accounts it brings.'}
      </p>
      {keys.length > 0 && (
        <ul className="mt-2 divide-y divide-rule border-t border-rule">
          {keys.map((key) => (
            <li key={key.id} className="flex items-center gap-2 py-1.5">
              <span className="min-w-0 flex-1">
                <span className="block truncate font-medium">{key.name}</span>
                <span className="block text-tiny text-ink-2">
                  made {asDayTime(key.madeAt)}
                  {key.madeBy && ` by ${key.madeBy}`} ·{' '}
                  {key.usedAt === null ? 'never used' : `last used ${asDayTime(key.usedAt)}`}
                </span>
              </span>
              <Button small kind="danger" aria-label={`End ${key.name}`} onClick={() => setEnding(key)}>
                End
              </Button>
            </li>
          ))}
        </ul>
      )}
      <form
        className="mt-2 flex items-end gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          void make();
        }}
      >
        <div className="flex-1">
          <Field label="What a new key is for">
            {(p) => (
              <Input
                {...p}
                maxLength={60}
                placeholder="Telephone switch"
                value={name}
                onChange={(e) => setName(e.target.value)}
              />
            )}
          </Field>
        </div>
        <Button type="submit" disabled={name.trim() === ''}>
          Make a key
        </Button>
      </form>
      {made && (
        <Dialog
          open
          onClose={() => setMade(null)}
          title={`The key for ${made.name}`}
          description="It is shown this once and kept nowhere. Put it where that server keeps its secrets."
        >
          <Input readOnly aria-label="The key" value={made.key} onFocus={(e) => e.target.select()} />
          <div className="mt-3 flex gap-2">
            <Button
              kind="primary"
              onClick={() =>
                void navigator.clipboard.writeText(made.key).then(
                  () => toast.success('Copied.'),
                  () => toast.error('The browser did not let it be copied; select it and copy it by hand.'),
                )
              }
            >
              Copy
            </Button>
            <Button onClick={() => setMade(null)}>I have it</Button>
          </div>
        </Dialog>
      )}
      {ending && (
        <Dialog
          open
          onClose={() => setEnding(null)}
          title={`End the key ${ending.name}?`}
          description={`Whatever uses it cannot start contacts by ${door.name} any more. This cannot be undone; another key can be made.`}
        >
          <div className="flex gap-2">
            <Button kind="danger" onClick={() => void end(ending)}>
              End it
            </Button>
            <Button kind="quiet" onClick={() => setEnding(null)}>
              Keep it
            </Button>
          </div>
        </Dialog>
      )}
    </Panel>
  );
}
