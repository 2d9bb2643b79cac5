import { clsx } from 'clsx';
import type { ReportFigures, ReportTable } from '@/services/review/reportviews';
import { monthName } from '../coaching/months';
import { asFigure } from '../kit/figures';
import { Link } from '../kit/link';
import { Panel } from '../kit/panel';
import { changeWords } from '../review/address';

/** With so many months two views fit beside each other. */
const BESIDE = 4;

/** The views of a report one after the other, each with what its writer says of it and its figures month by month. */
export const ReportTables = ({ figures, hrefs }: { figures: ReportFigures; hrefs?: readonly (string | null)[] }) => (
  <div
    className={clsx('grid items-start gap-3', figures.months.length <= BESIDE && 'lg:grid-cols-2 print:grid-cols-1')}
  >
    {figures.tables.map((table, i) => (
      <Table key={`${i} ${table.viewId}`} table={table} months={figures.months} href={hrefs?.[i] ?? null} />
    ))}
  </div>
);

function Table({ table, months, href }: { table: ReportTable; months: ReportFigures['months']; href: string | null }) {
  return (
    <Panel className="min-w-0 overflow-x-auto p-4 print:break-inside-avoid" label={table.name}>
      <h2 className="text-panel">
        {href ? (
          <Link href={href} className="hover:underline">
            {table.name}
          </Link>
        ) : (
          table.name
        )}
        {table.listOf && <span className="text-small font-normal text-ink-2"> · {table.listOf}</span>}
      </h2>
      {table.said !== '' && <p className="mt-1 max-w-prose whitespace-pre-line">{table.said}</p>}
      {table.missing !== null ? (
        <p className="mt-2 text-small text-ink-2">{table.missing}</p>
      ) : table.rows.length === 0 ? (
        <p className="mt-2 text-small text-ink-2">Nothing in these months.</p>
      ) : (
        <table className="mt-2 w-full text-small">
          <thead>
            <tr className="text-tiny text-ink-2">
              <th scope="col" className="pr-4 text-left font-medium">
                {table.listOf ?? 'Figure'}
              </th>
              {months.map((month) => (
                <th key={month.from} scope="col" className="px-2.5 text-right font-medium whitespace-nowrap">
                  {monthName(month.from.slice(0, 7))}
                </th>
              ))}
              {months.length > 1 && (
                <th scope="col" className="pl-2.5 text-right font-medium whitespace-nowrap">
                  change
                </th>
              )}
            </tr>
          </thead>
          <tbody>
            {table.rows.map((row) => (
              <tr key={row.id} className="border-t border-rule">
                <th scope="row" className="py-1 pr-4 text-left font-medium whitespace-nowrap" title={row.formula}>
                  {row.name}
                </th>
                {row.values.map((value, m) => (
                  <td key={months[m]?.from} className="px-2.5 py-1 text-right tabular-nums">
                    {asFigure(value, row.unit)}
                  </td>
                ))}
                {months.length > 1 && (
                  <td className="py-1 pl-2.5 text-right text-ink-2 tabular-nums">
                    {changeWords(row.unit, row.values.at(-1) ?? null, row.values.at(-2) ?? null)}
                  </td>
                )}
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Panel>
  );
}

/** How each figure is made, so that a report says it for good. */
export function Definitions({ figures }: { figures: ReportFigures }) {
  const words = new Map(
    figures.tables.flatMap((t) => t.rows.map((row) => [t.listOf ?? row.name, row.formula] as const)),
  );
  return (
    <Panel className="p-4" label="How the figures are made">
      <details>
        <summary className="cursor-pointer text-small font-medium">How the figures are made</summary>
        <dl className="mt-2 grid gap-x-4 gap-y-1 text-small md:grid-cols-[190px_minmax(0,1fr)]">
          {[...words].map(([name, formula]) => (
            <div key={name} className="contents">
              <dt className="font-medium">{name}</dt>
              <dd className="mb-1 text-ink-2">{formula}</dd>
            </div>
          ))}
        </dl>
      </details>
    </Panel>
  );
}
