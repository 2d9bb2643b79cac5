'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import { type Channel, CHANNEL_NAMES } from '@/core/channels';
import type { QueueSide } from '@/services/people/dutyview';
import { Button } from '../kit/button';
import { sentence, setting } from '../kit/call';
import { ChannelMark } from '../kit/channelmark';
import { useLive } from '../kit/live';
import { Looking } from '../kit/looking';
import { Panel } from '../kit/panel';
import { options, Select } from '../kit/select';

type Row = { readonly band: number; readonly delaySeconds: number };
const CONTROL = 'rounded-control border border-rule-strong bg-sheet px-1 py-0.5 text-small';

/**
 * Who takes this queue: each duty profile's band and delay per channel, changed here from the queue's side and
 * applied in one press.
 */
export function WhoTakes({ queueId }: { queueId: string }) {
  const { data, error, refetch } = useLive<QueueSide>(`/api/read/queue-side?id=${queueId}`, [
    'settings.changed',
    'person.duty',
  ]);
  const [edits, setEdits] = useState<Readonly<Record<string, Row>>>({});
  if (!data)
    return (
      <Panel className="p-4" label="Who takes it">
        <Looking error={error} onAgain={refetch} what="Looking who takes it…" />
      </Panel>
    );
  const rowOf = (profileId: string, c: Channel): Row =>
    edits[`${profileId}|${c}`] ??
    data.rows.find((r) => r.profileId === profileId)?.channels[c] ?? { band: 0, delaySeconds: 0 };
  const put = (profileId: string, c: Channel, change: Partial<Row>) =>
    setEdits({ ...edits, [`${profileId}|${c}`]: { ...rowOf(profileId, c), ...change } });
  const touched = data.rows.filter((r) => data.channels.some((c) => edits[`${r.profileId}|${c}`]));
  const people = touched.reduce((n, r) => n + r.people, 0);
  const apply = () => {
    const rows = touched.flatMap((r) =>
      data.channels.flatMap((c) => {
        const e = edits[`${r.profileId}|${c}`];
        return e ? [{ profileId: r.profileId, revision: r.revision, channel: c, ...e }] : [];
      }),
    );
    setting<{ people: number }>('save-queue-side', { queueId, rows }).then(
      (done) => {
        toast.success(`Applied to ${done.people} people; it counts from the next contact on.`);
        setEdits({});
        void refetch();
      },
      (error: unknown) => {
        toast.error(sentence(error));
        void refetch();
      },
    );
  };
  return (
    <Panel className="p-4" label="Who takes it">
      <div className="flex items-center gap-2">
        <h2 className="text-panel">Who takes it</h2>
        {touched.length > 0 && (
          <span className="ml-auto flex gap-2">
            <Button small onClick={() => setEdits({})}>
              Discard
            </Button>
            <Button small kind="primary" onClick={apply}>
              Apply to {people} people
            </Button>
          </span>
        )}
      </div>
      <table className="mt-1 w-full text-small">
        <thead>
          <tr className="text-left text-tiny text-ink-2">
            <th className="py-1 font-medium">Duty profile</th>
            <th className="font-medium">People</th>
            {data.channels.map((c) => (
              <th key={c} className="font-medium">
                <span className="inline-flex items-center gap-1">
                  <ChannelMark channel={c} size={13} />
                  {CHANNEL_NAMES[c].name}
                </span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {data.rows.map((r) => (
            <tr key={r.profileId} className="border-t border-rule">
              <th scope="row" className="py-1 pr-2 text-left font-medium">
                <a className="hover:underline" href={`/people/duty?profile=${r.profileId}`}>
                  {r.name}
                </a>
              </th>
              <td className="pr-2 text-ink-2">
                {r.onDuty} of {r.people}
              </td>
              {data.channels.map((c) => {
                const row = rowOf(r.profileId, c);
                return (
                  <td key={c} className="pr-2">
                    <span className="flex items-center gap-1">
                      <Select
                        aria-label={`${r.name} by ${CHANNEL_NAMES[c].name}: band`}
                        disabled={!data.mayChange}
                        value={row.band}
                        onChange={(chosen) => put(r.profileId, c, { band: Number(chosen) })}
                        compact
                      >
                        <option value={0}>–</option>
                        {options([1, 2, 3, 4, 5])}
                      </Select>
                      {row.band > 0 && (
                        <input
                          aria-label={`${r.name} by ${CHANNEL_NAMES[c].name}: after seconds`}
                          type="number"
                          min={0}
                          max={3600}
                          disabled={!data.mayChange}
                          value={row.delaySeconds}
                          onChange={(e) =>
                            put(r.profileId, c, {
                              delaySeconds: Number.isInteger(e.target.valueAsNumber)
                                ? Math.min(3600, Math.max(0, e.target.valueAsNumber))
                                : 0,
                            })
                          }
                          className={`${CONTROL} w-14`}
                        />
                      )}
                    </span>
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-tiny text-ink-2">
        Band 1 is taken before 2; the number beside it is the seconds after which it counts. People: on duty of all.
      </p>
    </Panel>
  );
}
