'use client';

import { toast } from 'sonner';
import type { ConnectionsView } from '@/services/bots/connections';
import { Button } from '../../kit/button';
import { call, sentence } from '../../kit/call';
import { Dialog } from '../../kit/dialog';
import { download } from '../../kit/download';
import { Field, Input } from '../../kit/field';
import { FilePick } from '../../kit/filepick';
import { useSaving } from '../../kit/saving';

type Table = ConnectionsView['tables'][number];

export function TableDialog({
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
  onBring: (picked: File) => void;
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
              <FilePick small label="Table file to replace it" accept=".csv,text/csv" onFile={onBring}>
                Replace by a CSV file…
              </FilePick>
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
