'use client';

import type { ReviewView } from '@/services/review/review';
import { Empty, Panel } from '../kit/panel';

const DAYS = ['M', 'T', 'W', 'T', 'F', 'S', 'S'];

/** Contacts started per hour and weekday, depth of plum by count. */
export function Busy({ view }: { view: ReviewView }) {
  const most = Math.max(1, ...view.busy.map((b) => b.count));
  const hours = [...new Set(view.busy.map((b) => b.hour))].sort((a, b) => a - b);
  const span =
    hours.length === 0
      ? []
      : Array.from({ length: (hours.at(-1) ?? 0) - (hours[0] ?? 0) + 1 }, (_, i) => (hours[0] ?? 0) + i);
  return (
    <Panel className="p-4" label="When it was busy">
      <h2 className="text-panel">When it was busy</h2>
      <p className="text-small text-ink-2">contacts started per hour, all queues</p>
      {span.length === 0 ? (
        <Empty title="No contact came in this range" />
      ) : (
        <table className="mt-1 w-full table-fixed border-separate border-spacing-[3px] text-tiny">
          <thead>
            <tr>
              <th className="w-4" />
              {span.map((h) => (
                <th key={h} className="font-normal text-ink-2">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {DAYS.map((name, d) => (
              <tr key={d}>
                <th className="font-normal text-ink-2">{name}</th>
                {span.map((h) => {
                  const count = view.busy.find((b) => b.day === d + 1 && b.hour === h)?.count ?? 0;
                  return (
                    <td key={h} title={`${count} contacts`} className="h-4 rounded-[4px] bg-sunk p-0">
                      <span
                        className="block h-4 rounded-[4px] bg-plum"
                        style={{ opacity: count === 0 ? 0 : 0.12 + (count / most) * 0.88 }}
                      >
                        <span className="sr-only">{count}</span>
                      </span>
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Panel>
  );
}
