'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import type { ConnectionsView } from '@/services/bots/connections';
import { Button } from '../../kit/button';
import { sentence, setting } from '../../kit/call';
import { Dialog } from '../../kit/dialog';
import { Area } from '../../kit/field';
import { FilePick } from '../../kit/filepick';
import { fileText } from '../../kit/fileread';
import { useLive } from '../../kit/live';
import { Empty, Panel, PanelHead, Pill } from '../../kit/panel';
import { Select } from '../../kit/select';
import { Table } from '../../kit/table';
import { StopNav } from '../../lane/stopnav';
import { type Connector, ConnectorDialog, type Draft, NEW } from './connectordialog';
import { TableDialog } from './tabledialog';
import { TryDialog } from './trydialog';

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
  const bring = async (picked: File) => {
    try {
      const read = await setting<{ columns: string[]; rows: string[][] }>('read-table-file', {
        text: await fileText(picked),
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
            <PanelHead title="Connectors" marks={<Pill>{view.connectors.length}</Pill>}>
              {view.mayChange && (
                <Button small onClick={() => setConnector(NEW)}>
                  New connector
                </Button>
              )}
            </PanelHead>
            {view.connectors.length === 0 ? (
              <Empty title="No connector yet">A Look up or Do asks something outside by a connector.</Empty>
            ) : (
              <Table
                label="Connectors"
                rows={view.connectors}
                idOf={(c) => c.id}
                rowClass={() => 'align-top'}
                columns={[
                  {
                    id: 'name',
                    head: 'Connector',
                    by: (c) => c.name,
                    cell: (c) => (
                      <>
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
                      </>
                    ),
                  },
                  {
                    id: 'asks',
                    head: 'Asks',
                    className: 'font-mono text-small',
                    cell: (c) => (
                      <>
                        {c.method} {c.path}
                        <span className="block font-body text-tiny text-ink-2">
                          {c.host || (view.system?.name ?? 'no host')} · {c.timeoutSeconds} s
                        </span>
                      </>
                    ),
                  },
                  { id: 'takes', head: 'Takes', className: 'text-small', cell: (c) => c.inputs.join(', ') || '–' },
                  {
                    id: 'gives',
                    head: 'Gives',
                    className: 'text-small',
                    cell: (c) => c.outputs.map((o) => o.name).join(', ') || '–',
                  },
                  { id: 'users', head: 'Used by', cell: (c) => <Users of={c.usedBy} /> },
                  {
                    id: 'acts',
                    head: '',
                    className: 'text-right',
                    cell: (c) =>
                      view.mayChange && (
                        <Button small onClick={() => setTrying(c)}>
                          Try
                        </Button>
                      ),
                  },
                ]}
              />
            )}
          </Panel>
          <Panel label="Tables">
            <PanelHead as="h2" title="Tables" marks={<Pill>{view.tables.length}</Pill>}>
              {view.mayChange && (
                <FilePick small label="Table file" accept=".csv,text/csv" onFile={(f) => void bring(f)}>
                  Bring in a CSV file…
                </FilePick>
              )}
            </PanelHead>
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
          {view.system && (
            <Panel label={view.system.name} className="p-4">
              <h2 className="text-panel">{view.system.name}</h2>
              <p className="mb-2 text-small text-ink-2">{view.system.about}</p>
              <Select
                aria-label={`How ${view.system.name} behaves`}
                disabled={!view.mayChange}
                value={view.system.mood}
                onChange={(chosen) => void attempt('save-stand-in', { mood: chosen }, 'It behaves so from now on.')}
              >
                {Object.entries(MOODS).map(([k, v]) => (
                  <option key={k} value={k}>
                    {v}
                  </option>
                ))}
              </Select>
            </Panel>
          )}
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
          onBring={(picked) => void bring(picked)}
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
