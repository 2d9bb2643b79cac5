'use client';

import type { PromisesView } from '@/services/review/promises';
import { asDayTime, asFigure } from '../kit/figures';
import { Link } from '../kit/link';
import { Empty, Panel } from '../kit/panel';
import { StopNav } from '../lane/stopnav';
import { changeWords, reviewHref } from './address';
import { AskBar } from './askbar';
import { RangeNote } from './reviewpage';

/** Calls that customers asked for instead of waiting: how they were kept, queue by queue, and those that were not. */
export function PromisesPage({ view }: { view: PromisesView }) {
  const narrowed = Object.keys(view.address).some((key) => !['from', 'to', 'against', 'queue'].includes(key));
  return (
    <>
      <StopNav stop="Review" asked={reviewHref('', view.address)} />
      <main className="flex flex-col gap-3 p-4 pt-2.5">
        <AskBar
          view={view}
          path="/review/callbacks"
          title={<h1 className="text-title">Calls back</h1>}
          csv={{ kind: 'callbacks' }}
          keeps={false}
        />
        {narrowed && (
          <p className="text-small text-ink-2">
            Promised calls are narrowed by days and queues; nothing else here reaches them.
          </p>
        )}
        <div className="grid items-start gap-3 xl:grid-cols-[minmax(0,1fr)_440px]">
          <Panel className="min-w-0 overflow-x-auto p-4" label="How promises were kept">
            {view.rows[0]?.values.promised === 0 ? (
              <Empty title="No call was promised">Nobody asked to be called back in this range.</Empty>
            ) : (
              <table className="w-full text-small">
                <thead>
                  <tr className="text-tiny text-ink-2">
                    <th scope="col" className="text-left font-medium">
                      Queue
                    </th>
                    {view.columns.map((column) => (
                      <th key={column.id} scope="col" title={column.formula} className="pl-3 text-right font-medium">
                        {column.name}
                      </th>
                    ))}
                  </tr>
                </thead>
                <tbody>
                  {view.rows.map((row) => (
                    <tr key={row.id} className="border-t border-rule">
                      <th scope="row" className="py-1.5 text-left font-medium whitespace-nowrap">
                        {row.id === '' ? (
                          row.name
                        ) : (
                          <Link className="hover:underline" href={reviewHref(`/review/queues/${row.id}`, view.address)}>
                            {row.name}
                          </Link>
                        )}
                      </th>
                      {view.columns.map((column) => (
                        <td key={column.id} className="py-1.5 pl-3 text-right tabular-nums">
                          {asFigure(row.values[column.id], column.unit)}
                          <span className="block text-tiny text-ink-2">
                            {view.before.whole
                              ? changeWords(column.unit, row.values[column.id], row.before[column.id])
                              : ''}
                          </span>
                        </td>
                      ))}
                    </tr>
                  ))}
                </tbody>
              </table>
            )}
          </Panel>
          <Panel className="min-w-0" label="Not reached in time">
            <h2 className="px-4 pt-3.5 pb-1 text-panel">Not reached in time</h2>
            {view.broken.length === 0 ? (
              <Empty title="None">Every promise that is over was kept in its time.</Empty>
            ) : (
              <ul className="px-4 pb-3 text-small">
                {view.broken.map((one) => (
                  <li
                    key={`${one.contactId} ${one.askedAt}`}
                    className="flex gap-3 border-t border-rule py-1 first:border-0"
                  >
                    <Link href={`/contacts/${encodeURIComponent(one.contactId)}`} className="text-plum underline">
                      {asDayTime(one.askedAt, view.zone)}
                    </Link>
                    <span>{one.queue}</span>
                    <span className="ml-auto text-ink-2">
                      {one.attempts === 1 ? 'one attempt' : `${one.attempts} attempts`}
                      {one.reachedAt !== null && `, reached ${asDayTime(one.reachedAt, view.zone)}`}
                    </span>
                  </li>
                ))}
              </ul>
            )}
          </Panel>
        </div>
        <RangeNote view={view} />
      </main>
    </>
  );
}
