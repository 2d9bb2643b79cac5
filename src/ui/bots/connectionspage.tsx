'use client';

import { useRef, useState } from 'react';
import { toast } from 'sonner';
import { METHODS } from '@/core/bots/connectors';
import type { ConnectionsView, ConnectorTried } from '@/services/bots/botparts';
import { Button } from '../kit/button';
import { call, sentence, setting } from '../kit/call';
import { Dialog } from '../kit/dialog';
import { download } from '../kit/download';
import { Area, Field, Input, Select } from '../kit/field';
import { useLive } from '../kit/live';
import { Empty, Panel, Pill } from '../kit/panel';
import { useSaving } from '../kit/saving';
import { StopNav } from '../lane/stopnav';

type Connector = ConnectionsView['connectors'][number];
type Draft = Omit<Connector, 'id' | 'hasSecret' | 'usedBy'> & { readonly id: string | null; readonly secret?: string };
type Table = ConnectionsView['tables'][number];
const NEW: Draft = {
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
const MOODS = { usual: 'answers as usual', slow: 'is slow (6 to 8 s)', fails: 'fails' } as const;
const Users = ({ of }: { of: readonly string[] }) => (
  <span className="text-small text-ink-2">{of.length === 0 ? 'used by no bot' : of.join(', ')}</span>
);

/** What bots may ask outside, each defined once: connectors, small tables, and the hosts that the owner has allowed. */
export function ConnectionsPage({ initial }: { initial: ConnectionsView }) {
  const { data, refetch } = useLive<ConnectionsView>('/api/read/connections', ['settings.changed'], initial);
  const view = data ?? initial;
  const [connector, setConnector] = useState<Draft | null>(null);
  const [table, setTable] = useState<{
    id: string | null;
    revision: number;
    name: string;
    columns: readonly string[];
    rows: readonly (readonly string[])[];
  } | null>(null);
  const [hosts, setHosts] = useState<string | null>(null);
  const [trying, setTrying] = useState<Connector | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const attempt = async (act: string, body: object, done: string): Promise<boolean> => {
    try {
      await setting(act, body);
      toast.success(done);
      void refetch();
      return true;
    } catch (error) {
      toast.error(sentence(error));
      return false;
    }
  };
  const bring = async (picked: File | undefined) => {
    if (!picked) return;
    try {
      const read = await setting<{ columns: string[]; rows: string[][] }>('read-table-file', {
        text: await picked.text(),
      });
      setTable(
        table ? { ...table, ...read } : { id: null, revision: 0, name: picked.name.replace(/\.csv$/i, ''), ...read },
      );
    } catch (error) {
      toast.error(sentence(error));
    }
  };
  return (
    <>
      <StopNav stop="Bots" />
      <main className="grid grid-cols-[minmax(0,1fr)_360px] gap-3 p-4">
        <div className="flex flex-col gap-3">
          <Panel label="Connectors">
            <div className="flex items-center gap-2 border-b border-rule px-4 py-3">
              <h1 className="text-panel">Connectors</h1>
              <Pill>{view.connectors.length}</Pill>
              {view.mayChange && (
                <Button small className="ml-auto" onClick={() => setConnector(NEW)}>
                  New connector
                </Button>
              )}
            </div>
            {view.connectors.length === 0 ? (
              <Empty title="No connector yet">A Look up or Do asks something outside by a connector.</Empty>
            ) : (
              <table className="w-full text-left">
                <thead className="text-tiny text-ink-2">
                  <tr>
                    <th className="px-4 py-1.5 font-medium">Connector</th>
                    <th className="font-medium">Asks</th>
                    <th className="font-medium">Takes</th>
                    <th className="font-medium">Gives</th>
                    <th className="font-medium">Used by</th>
                    <th />
                  </tr>
                </thead>
                <tbody>
                  {view.connectors.map((c) => (
                    <tr key={c.id} className="border-t border-rule align-top">
                      <td className="px-4 py-2">
                        <button
                          type="button"
                          disabled={!view.mayChange}
                          className="text-left font-display text-[15px] font-semibold hover:underline"
                          onClick={() => {
                            const { hasSecret: _h, usedBy: _u, ...rest } = c;
                            setConnector(rest);
                          }}
                        >
                          {c.name}
                        </button>
                        <span className="block">
                          <Pill tone={c.does === 'do' ? 'plum' : 'plain'}>
                            {c.does === 'do' ? 'does something' : 'looks up'}
                          </Pill>
                          {c.hasSecret && <Pill className="ml-1">secret kept</Pill>}
                        </span>
                      </td>
                      <td className="py-2 font-mono text-small">
                        {c.method} {c.path}
                        <span className="block font-body text-tiny text-ink-2">
                          {c.host || 'hire desk'} · {c.timeoutSeconds} s
                        </span>
                      </td>
                      <td className="py-2 text-small">{c.inputs.join(', ') || '–'}</td>
                      <td className="py-2 text-small">{c.outputs.map((o) => o.name).join(', ') || '–'}</td>
                      <td className="py-2">
                        <Users of={c.usedBy} />
                      </td>
                      <td className="py-2 pr-4 text-right">
                        {view.mayChange && (
                          <Button small onClick={() => setTrying(c)}>
                            Try
                          </Button>
                        )}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            )}
          </Panel>
          <Panel label="Tables">
            <div className="flex items-center gap-2 border-b border-rule px-4 py-3">
              <h2 className="text-panel">Tables</h2>
              <Pill>{view.tables.length}</Pill>
              {view.mayChange && (
                <Button small className="ml-auto" onClick={() => file.current?.click()}>
                  Bring in a CSV file…
                </Button>
              )}
              <input
                ref={file}
                type="file"
                accept=".csv,text/csv"
                aria-label="Table file"
                className="hidden"
                onChange={(e) => {
                  void bring(e.target.files?.[0]);
                  e.target.value = '';
                }}
              />
            </div>
            {view.tables.length === 0 ? (
              <Empty title="No table yet">A Look up finds a row by its first column.</Empty>
            ) : (
              <ul>
                {view.tables.map((t) => (
                  <li key={t.id} className="flex items-center gap-3 border-b border-rule px-4 py-2 last:border-b-0">
                    <button
                      type="button"
                      className="font-display font-semibold hover:underline"
                      onClick={() =>
                        setTable({ id: t.id, revision: t.revision, name: t.name, columns: t.columns, rows: t.rows })
                      }
                    >
                      {t.name}
                    </button>
                    <span className="text-small text-ink-2">
                      {t.columns.join(', ')} · {t.rows.length} {t.rows.length === 1 ? 'row' : 'rows'}
                    </span>
                    <span className="ml-auto">
                      <Users of={t.usedBy} />
                    </span>
                  </li>
                ))}
              </ul>
            )}
          </Panel>
        </div>
        <div className="flex flex-col gap-3">
          <Panel label="Hire desk" className="p-4">
            <h2 className="text-panel">Hire desk</h2>
            <p className="mb-2 text-small text-ink-2">
              The company’s own system, simulated: it ships with the product and knows 400 hires, from BH-200000 on.
            </p>
            <Select
              aria-label="How the hire desk behaves"
              disabled={!view.mayChange}
              value={view.mood}
              onChange={(e) =>
                void attempt('save-hire-desk', { mood: e.target.value }, 'The hire desk behaves so from now on.')
              }
            >
              {Object.entries(MOODS).map(([k, v]) => (
                <option key={k} value={k}>
                  {v}
                </option>
              ))}
            </Select>
          </Panel>
          <Panel label="Hosts outside" className="p-4">
            <h2 className="text-panel">Hosts outside</h2>
            <p className="mb-2 text-small text-ink-2">
              Only hosts that the owner has allowed by name are asked; addresses within a private network never are.
            </p>
            {view.hosts.length === 0 ? (
              <p className="text-small">None is allowed.</p>
            ) : (
              <ul className="font-mono text-small">
                {view.hosts.map((h) => (
                  <li key={h}>{h}</li>
                ))}
              </ul>
            )}
            {view.mayAllow && (
              <Button small className="mt-2" onClick={() => setHosts(view.hosts.join('\n'))}>
                Change the list
              </Button>
            )}
          </Panel>
        </div>
        <ConnectorDialog
          draft={connector}
          view={view}
          onDraft={setConnector}
          onDone={() => {
            setConnector(null);
            void refetch();
          }}
          onRemove={(id) =>
            void attempt('remove-bot-part', { kind: 'connector', id }, 'The connector is gone.').then((ok) => {
              if (ok) setConnector(null);
            })
          }
        />
        {trying && <TryDialog connector={trying} onClose={() => setTrying(null)} />}
        <TableDialog
          table={table}
          mayChange={view.mayChange}
          onTable={setTable}
          onBring={() => file.current?.click()}
          onDone={() => {
            setTable(null);
            void refetch();
          }}
          onRemove={(id) =>
            void attempt('remove-bot-part', { kind: 'table', id }, 'The table is gone.').then((ok) => {
              if (ok) setTable(null);
            })
          }
        />
        <Dialog
          open={hosts !== null}
          onClose={() => setHosts(null)}
          title="Hosts outside"
          description="One a line, as https://api.name.example. Only the owner changes this list."
        >
          <form
            className="flex flex-col gap-3"
            onSubmit={(e) => {
              e.preventDefault();
              void attempt(
                'save-hosts',
                { revision: view.hostsRevision, hosts: (hosts ?? '').split(/\s+/).filter(Boolean) },
                'The list is kept.',
              ).then((ok) => {
                if (ok) setHosts(null);
              });
            }}
          >
            <Area
              aria-label="Allowed hosts"
              rows={5}
              className="font-mono"
              value={hosts ?? ''}
              onChange={(e) => setHosts(e.target.value)}
            />
            <div>
              <Button kind="primary" type="submit">
                Keep the list
              </Button>
            </div>
          </form>
        </Dialog>
      </main>
    </>
  );
}

function ConnectorDialog({
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
                  onChange={(e) => {
                    const does = e.target.value === 'do' ? 'do' : 'look-up';
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
                <Select {...p} value={draft.host} onChange={(e) => onDraft({ ...draft, host: e.target.value })}>
                  <option value="">hire desk</option>
                  {view.hosts.map((h) => (
                    <option key={h} value={h}>
                      {h}
                    </option>
                  ))}
                </Select>
              )}
            </Field>
            <Field label="Method">
              {(p) => (
                <Select
                  {...p}
                  value={draft.method}
                  onChange={(e) => {
                    const method = METHODS.find((m) => m === e.target.value);
                    if (method) onDraft({ ...draft, method });
                  }}
                >
                  {METHODS.map((m) => (
                    <option key={m}>{m}</option>
                  ))}
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

function TryDialog({ connector, onClose }: { connector: Connector; onClose: () => void }) {
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

function TableDialog({
  table,
  mayChange,
  onTable,
  onBring,
  onDone,
  onRemove,
}: {
  table: (Omit<Table, 'id' | 'usedBy'> & { id: string | null }) | null;
  mayChange: boolean;
  onTable: (table: (Omit<Table, 'id' | 'usedBy'> & { id: string | null }) | null) => void;
  onBring: () => void;
  onDone: () => void;
  onRemove: (id: string) => void;
}) {
  const saving = useSaving<{ id: string }>('save-table');
  const save = async () => {
    if (table && (await saving.save(table, `${table.name} is kept.`))) onDone();
  };
  const take = async () => {
    try {
      const file = await call<{ name: string; text: string }>(`/api/read/table-file?id=${table?.id ?? ''}`);
      download(file.name, 'text/csv;charset=utf-8', file.text);
    } catch (error) {
      toast.error(sentence(error));
    }
  };
  const cell = (r: number, c: number, value: string) => {
    if (table)
      onTable({
        ...table,
        rows: table.rows.map((row, i) => (i === r ? row.map((x, j) => (j === c ? value : x)) : row)),
      });
  };
  return (
    <Dialog
      open={table !== null}
      onClose={() => onTable(null)}
      title={table?.id ? table.name : 'New table'}
      description="A Look up finds a row by its first column, or by the column named like its input."
      wide
    >
      {table && (
        <form
          className="flex flex-col gap-3"
          onSubmit={(e) => {
            e.preventDefault();
            void save();
          }}
        >
          <fieldset disabled={!mayChange} className="flex flex-col gap-3">
            <Field label="Name" fault={saving.faults.name}>
              {(p) => (
                <Input
                  {...p}
                  required
                  maxLength={60}
                  value={table.name}
                  onChange={(e) => onTable({ ...table, name: e.target.value })}
                />
              )}
            </Field>
            <div className="max-h-80 overflow-auto">
              <table className="w-full text-small">
                <thead>
                  <tr>
                    {table.columns.map((c, i) => (
                      <th key={i} className="px-1 text-left font-medium">
                        {c}
                      </th>
                    ))}
                    <th />
                  </tr>
                </thead>
                <tbody>
                  {table.rows.slice(0, 200).map((r, i) => (
                    <tr key={i} className="border-t border-rule">
                      {r.map((value, j) => (
                        <td key={j} className="p-0.5">
                          <input
                            aria-label={`${table.columns[j] ?? ''}, row ${i + 1}`}
                            className="w-full rounded-control bg-transparent px-1 focus:bg-sheet"
                            value={value}
                            maxLength={500}
                            onChange={(e) => cell(i, j, e.target.value)}
                          />
                        </td>
                      ))}
                      <td>
                        <Button
                          small
                          kind="quiet"
                          aria-label={`Take row ${i + 1} out`}
                          onClick={() => onTable({ ...table, rows: table.rows.filter((_, k) => k !== i) })}
                        >
                          ×
                        </Button>
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
            <div className="flex gap-2">
              <Button small onClick={() => onTable({ ...table, rows: [...table.rows, table.columns.map(() => '')] })}>
                Add a row
              </Button>
              <Button small onClick={onBring}>
                Replace by a CSV file…
              </Button>
            </div>
          </fieldset>
          <div className="flex gap-2">
            {mayChange && (
              <Button kind="primary" type="submit" disabled={saving.busy}>
                Keep the table
              </Button>
            )}
            {table.id !== null && <Button onClick={() => void take()}>Take out as CSV</Button>}
            {mayChange && table.id !== null && (
              <Button kind="danger" className="ml-auto" onClick={() => onRemove(table.id ?? '')}>
                Remove
              </Button>
            )}
          </div>
        </form>
      )}
    </Dialog>
  );
}
