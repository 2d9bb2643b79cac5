'use client';

import { METHODS } from '@/core/bots/connectors';
import type { ConnectionsView } from '@/services/bots/connections';
import { Button } from '../../kit/button';
import { Dialog } from '../../kit/dialog';
import { Area, Field, Input } from '../../kit/field';
import { useSaving } from '../../kit/saving';
import { options, Select } from '../../kit/select';

export type Connector = ConnectionsView['connectors'][number];
export type Draft = Omit<Connector, 'id' | 'hasSecret' | 'usedBy'> & {
  readonly id: string | null;
  readonly secret?: string;
};

export const NEW: Draft = {
  id: null,
  revision: 0,
  name: '',
  does: 'look-up',
  host: '',
  method: 'GET',
  path: '/',
  inputs: [],
  outputs: [],
  timeoutSeconds: 5,
};

export function ConnectorDialog({
  draft,
  view,
  onDraft,
  onDone,
  onRemove,
}: {
  draft: Draft | null;
  view: ConnectionsView;
  onDraft: (draft: Draft | null) => void;
  onDone: () => void;
  onRemove: (id: string) => void;
}) {
  const saving = useSaving<{ id: string }>('save-connector');
  const save = async () => {
    if (draft && (await saving.save(draft, `${draft.name} is kept. Bots use it from when they are published next.`)))
      onDone();
  };
  const kept = view.connectors.find((c) => c.id === draft?.id);
  const list = (text: string) => [
    ...new Set(
      text
        .split(',')
        .map((x) => x.trim())
        .filter(Boolean),
    ),
  ];
  return (
    <Dialog
      open={draft !== null}
      onClose={() => onDraft(null)}
      title={draft?.id ? draft.name : 'New connector'}
      description="Bots name it; what it asks and how long it may take stands here once."
      wide
    >
      {draft && (
        <form
          className="flex flex-col gap-3"
          onSubmit={(e) => {
            e.preventDefault();
            void save();
          }}
        >
          <div className="grid grid-cols-[minmax(0,1fr)_200px] gap-3">
            <Field label="Name" fault={saving.faults.name}>
              {(p) => (
                <Input
                  {...p}
                  required
                  maxLength={60}
                  value={draft.name}
                  onChange={(e) => onDraft({ ...draft, name: e.target.value })}
                />
              )}
            </Field>
            <Field label="What it does">
              {(p) => (
                <Select
                  {...p}
                  value={draft.does}
                  onChange={(chosen) => {
                    const does = chosen === 'do' ? 'do' : 'look-up';
                    onDraft({ ...draft, does, method: does === 'do' ? 'POST' : 'GET' });
                  }}
                >
                  <option value="look-up">looks something up</option>
                  <option value="do">changes something</option>
                </Select>
              )}
            </Field>
          </div>
          <div className="grid grid-cols-[200px_110px_minmax(0,1fr)_90px] gap-3">
            <Field label="Host" fault={saving.faults.host}>
              {(p) => (
                <Select {...p} value={draft.host} onChange={(chosen) => onDraft({ ...draft, host: chosen })}>
                  <option value="">{view.system?.name ?? 'choose a host'}</option>
                  {options(view.hosts)}
                </Select>
              )}
            </Field>
            <Field label="Method">
              {(p) => (
                <Select
                  {...p}
                  value={draft.method}
                  onChange={(chosen) => {
                    const method = METHODS.find((m) => m === chosen);
                    if (method) onDraft({ ...draft, method });
                  }}
                >
                  {options(METHODS)}
                </Select>
              )}
            </Field>
            <Field label="Path" hint="Inputs in it as {name}" fault={saving.faults.path}>
              {(p) => (
                <Input
                  {...p}
                  className="font-mono"
                  required
                  value={draft.path}
                  onChange={(e) => onDraft({ ...draft, path: e.target.value })}
                />
              )}
            </Field>
            <Field label="Time-out, s">
              {(p) => (
                <Input
                  {...p}
                  type="number"
                  min={1}
                  max={30}
                  value={draft.timeoutSeconds}
                  onChange={(e) => {
                    if (!Number.isNaN(e.target.valueAsNumber))
                      onDraft({ ...draft, timeoutSeconds: e.target.valueAsNumber });
                  }}
                />
              )}
            </Field>
          </div>
          <Field label="Inputs" hint="With commas. Those not in the path go as a query (GET, DELETE) or as JSON.">
            {(p) => (
              <Input
                {...p}
                key={draft.id}
                defaultValue={draft.inputs.join(', ')}
                onBlur={(e) => onDraft({ ...draft, inputs: list(e.target.value) })}
              />
            )}
          </Field>
          <Field
            label="Outputs"
            hint="One a line: name = place in the answer, as: day = hire.delivery.date"
            fault={saving.faults.outputs}
          >
            {(p) => (
              <Area
                {...p}
                key={draft.id}
                rows={4}
                className="font-mono text-small"
                defaultValue={draft.outputs.map((o) => `${o.name} = ${o.from}`).join('\n')}
                onBlur={(e) =>
                  onDraft({
                    ...draft,
                    outputs: e.target.value
                      .split('\n')
                      .map((l) => l.split('=').map((x) => x.trim()))
                      .filter(([name]) => name)
                      .map(([name = '', from = '']) => ({ name, from: from || name })),
                  })
                }
              />
            )}
          </Field>
          <Field
            label="Secret"
            hint={
              kept?.hasSecret
                ? 'One is kept and is never shown. Typing replaces it.'
                : 'Sent as a bearer token; kept on the server, never shown again.'
            }
          >
            {(p) => (
              <Input
                {...p}
                type="password"
                autoComplete="new-password"
                value={draft.secret ?? ''}
                onChange={(e) => onDraft({ ...draft, secret: e.target.value })}
              />
            )}
          </Field>
          <div className="flex gap-2">
            <Button kind="primary" type="submit" disabled={saving.busy}>
              Keep the connector
            </Button>
            {kept?.hasSecret && <Button onClick={() => onDraft({ ...draft, secret: '' })}>Forget the secret</Button>}
            {draft.id !== null && (
              <Button kind="danger" className="ml-auto" onClick={() => onRemove(draft.id ?? '')}>
                Remove
              </Button>
            )}
          </div>
        </form>
      )}
    </Dialog>
  );
}
