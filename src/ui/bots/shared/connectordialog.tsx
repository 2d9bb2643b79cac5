'use client';

import { METHODS } from '@/core/bots/connectors';
import type { ConnectionsView } from '@/services/bots/connections';
import { Button } from '../../kit/button';
import { Dialog } from '../../kit/dialog';
import { Area, Field, Input } from '../../kit/field';
import { useSaving } from '../../kit/saving';
import { options, Select } from '../../kit/select';
import { BodyEditor } from './bodyeditor';
import { SECRET_NAMES, SignInFields } from './signinfields';

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
  headers: [],
  body: null,
  signIn: { by: 'bearer' },
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
  const setHeader = (i: number, header: Draft['headers'][number]) => {
    if (draft) onDraft({ ...draft, headers: draft.headers.map((h, j) => (j === i ? header : h)) });
  };
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
          <Field
            label="Inputs"
            hint="With commas. Those not in the path go as a query (GET, DELETE), else as JSON by their names, or where the body says."
            fault={saving.faults.inputs}
          >
            {(p) => (
              <Input
                {...p}
                key={draft.id}
                defaultValue={draft.inputs.join(', ')}
                onBlur={(e) => onDraft({ ...draft, inputs: list(e.target.value) })}
              />
            )}
          </Field>
          {draft.method !== 'GET' && draft.method !== 'DELETE' && (
            <fieldset className="rounded-control border border-rule p-3">
              <legend className="px-1 text-small font-medium">Body</legend>
              {draft.body === null ? (
                <p className="flex items-center gap-3 text-small text-ink-2">
                  The inputs, each by its name.
                  <Button
                    small
                    onClick={() =>
                      onDraft({
                        ...draft,
                        body: {
                          is: 'object',
                          fields: draft.inputs.map((name) => ({ name, value: { is: 'input', name } })),
                        },
                      })
                    }
                  >
                    Build it
                  </Button>
                </p>
              ) : (
                <>
                  <BodyEditor
                    part={draft.body}
                    inputs={draft.inputs}
                    onChange={(body) => onDraft({ ...draft, body })}
                  />
                  <Button small kind="quiet" className="mt-2" onClick={() => onDraft({ ...draft, body: null })}>
                    Send the inputs by their names instead
                  </Button>
                </>
              )}
              {saving.faults.body && <p className="text-small text-clay">{saving.faults.body}</p>}
            </fieldset>
          )}
          <fieldset className="rounded-control border border-rule p-3">
            <legend className="px-1 text-small font-medium">Headers</legend>
            <ul className="flex flex-col gap-1.5">
              {draft.headers.map((h, i) => (
                <li key={i} className="flex items-center gap-1.5">
                  <Input
                    aria-label={`Name of header ${i + 1}`}
                    className="!w-52 !py-0.5 font-mono text-small"
                    required
                    maxLength={60}
                    placeholder="name"
                    value={h.name}
                    onChange={(e) => setHeader(i, { ...h, name: e.target.value })}
                  />
                  <Input
                    aria-label={`Value of header ${i + 1}`}
                    className="!py-0.5 text-small"
                    maxLength={500}
                    placeholder="with {inputs}"
                    value={h.value}
                    onChange={(e) => setHeader(i, { ...h, value: e.target.value })}
                  />
                  <Button
                    small
                    kind="quiet"
                    aria-label={`Take header ${h.name || i + 1} out`}
                    onClick={() => onDraft({ ...draft, headers: draft.headers.filter((_, j) => j !== i) })}
                  >
                    ×
                  </Button>
                </li>
              ))}
            </ul>
            <Button
              small
              className="mt-1"
              onClick={() => onDraft({ ...draft, headers: [...draft.headers, { name: '', value: '' }] })}
            >
              Add a header
            </Button>
            {Object.entries(saving.faults).some(([where]) => where.startsWith('headers')) && (
              <p className="text-small text-clay">
                {Object.entries(saving.faults).find(([where]) => where.startsWith('headers'))?.[1]}
              </p>
            )}
          </fieldset>
          <SignInFields
            value={draft.signIn}
            hosts={view.hosts}
            faults={saving.faults}
            onChange={(signIn) => onDraft({ ...draft, signIn })}
          />
          <Field
            label="Outputs"
            hint="One a line: name = place in the answer, as: day = order.delivery.date"
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
            label={SECRET_NAMES[draft.signIn.by]}
            hint={
              kept?.hasSecret
                ? 'One is kept and is never shown. Typing replaces it.'
                : 'Kept on the server, never shown again.'
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
