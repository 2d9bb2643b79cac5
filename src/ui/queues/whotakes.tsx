'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import { type Channel, CHANNEL_NAMES } from '@/core/channels';
import type { QueueSide } from '@/services/people/queueside';
import { Button } from '../kit/button';
import { call, sentence, setting } from '../kit/call';
import { ChannelMark } from '../kit/channelmark';
import { Link } from '../kit/link';
import { useLive } from '../kit/live';
import { Looking } from '../kit/looking';
import { Panel } from '../kit/panel';
import { options, Select } from '../kit/select';
import { type SideCell, SideRow, type SideValue } from './siderow';

type Side = 'profile' | 'person';
type Edits = Readonly<Record<string, SideValue>>;
const NOT: SideCell = { band: 0, delaySeconds: 0 };
const keyOf = (side: Side, id: string, c: Channel) => `${side}|${id}|${c}`;
const readSide = (queueId: string) => `/api/read/queue-side?id=${encodeURIComponent(queueId)}`;

/** What would have to change here so that the same people take this queue as take another, on the channels of both. */
function copied(from: QueueSide, to: QueueSide): Edits {
  const edits: Record<string, SideValue> = {};
  for (const c of to.channels.filter((one) => from.channels.includes(one))) {
    for (const row of to.rows) {
      const other = from.rows.find((r) => r.profileId === row.profileId)?.channels[c] ?? NOT;
      if (JSON.stringify(other) !== JSON.stringify(row.channels[c] ?? NOT))
        edits[keyOf('profile', row.profileId, c)] = other;
    }
    for (const person of to.people) {
      const other = from.people.find((p) => p.personId === person.personId)?.channels[c];
      if (JSON.stringify(other) !== JSON.stringify(person.channels[c]))
        edits[keyOf('person', person.personId, c)] = other ?? 'as-profile';
    }
  }
  return edits;
}

/**
 * Who takes this queue: each duty profile's band and delay per channel, and exceptions of single people, changed here
 * from the queue's side and applied in one press.
 */
export function WhoTakes({
  queueId,
  queues,
}: {
  queueId: string;
  queues: readonly { readonly id: string; readonly name: string }[];
}) {
  const { data, error, refetch } = useLive<QueueSide>(readSide(queueId), ['settings.changed', 'person.duty']);
  const [edits, setEdits] = useState<Edits>({});
  const [chosen, setChosen] = useState<readonly string[]>([]);
  if (!data)
    return (
      <Panel className="p-4" label="Who takes it">
        <Looking error={error} onAgain={refetch} what="Looking who takes it…" />
      </Panel>
    );
  const profileCell = (profileId: string, c: Channel): SideCell => {
    const edit = edits[keyOf('profile', profileId, c)];
    return edit && edit !== 'as-profile'
      ? edit
      : (data.rows.find((r) => r.profileId === profileId)?.channels[c] ?? NOT);
  };
  const put = (side: Side, id: string, c: Channel, value: SideValue) =>
    setEdits({ ...edits, [keyOf(side, id, c)]: value });
  const editsOf = (side: Side, id: string) =>
    data.channels.flatMap((channel) => {
      const value = edits[keyOf(side, id, channel)];
      return value === undefined ? [] : [{ channel, value }];
    });
  const profiles = data.rows.filter((r) => editsOf('profile', r.profileId).length > 0);
  const persons = data.people.filter((p) => editsOf('person', p.personId).length > 0);
  const shown = data.people.filter(
    (p) => Object.keys(p.channels).length > 0 || chosen.includes(p.personId) || persons.includes(p),
  );
  const people = new Set([
    ...persons.map((p) => p.personId),
    ...data.people.filter((p) => profiles.some((r) => r.profileId === p.profileId)).map((p) => p.personId),
  ]).size;
  const discard = () => {
    setEdits({});
    setChosen([]);
  };
  const apply = () => {
    const of = (side: Side, id: string) =>
      editsOf(side, id).map(({ channel, value }) => ({
        channel,
        ...(value === 'as-profile' ? NOT : value),
        ...(side === 'person' ? { asProfile: value === 'as-profile' } : {}),
      }));
    const rows = profiles.flatMap((r) =>
      of('profile', r.profileId).map((row) => ({ profileId: r.profileId, revision: r.revision, ...row })),
    );
    const own = persons.flatMap((p) =>
      of('person', p.personId).map((row) => ({ personId: p.personId, revision: p.revision, ...row })),
    );
    setting<{ people: number }>('save-queue-side', { queueId, rows, own }).then(
      (done) => {
        toast.success(
          `Applied to ${done.people} ${done.people === 1 ? 'person' : 'people'}; it counts from the next contact on.`,
        );
        discard();
        void refetch();
      },
      (error: unknown) => {
        toast.error(sentence(error));
        void refetch();
      },
    );
  };
  const copy = (from: string) =>
    call<QueueSide>(readSide(from)).then(
      (other) => setEdits(copied(other, data)),
      (error: unknown) => toast.error(sentence(error)),
    );
  const nameOf = (profileId: string) => data.rows.find((r) => r.profileId === profileId)?.name ?? 'no profile';
  return (
    <Panel className="p-4" label="Who takes it">
      <div className="flex min-h-7 flex-wrap items-center gap-2">
        <h2 className="text-panel">Who takes it</h2>
        {data.mayChange && (
          <span className="ml-auto flex items-center gap-2">
            {profiles.length + persons.length > 0 ? (
              <>
                <Button small onClick={discard}>
                  Discard
                </Button>
                <Button small kind="primary" onClick={apply}>
                  Apply to {people} {people === 1 ? 'person' : 'people'}
                </Button>
              </>
            ) : (
              queues.length > 0 && (
                <Select
                  compact
                  aria-label="Copy who takes it from another queue"
                  value=""
                  onChange={(from) => from !== '' && void copy(from)}
                >
                  <option value="">Copy from…</option>
                  {options(queues)}
                </Select>
              )
            )}
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
            <SideRow
              key={r.profileId}
              name={r.name}
              head={
                <Link className="hover:underline" href={`/people/duty?profile=${r.profileId}`}>
                  {r.name}
                </Link>
              }
              people={`${r.onDuty} of ${r.people}`}
              channels={data.channels}
              valueOf={(c) => profileCell(r.profileId, c)}
              profile={null}
              disabled={!data.mayChange}
              onChange={(c, value) => put('profile', r.profileId, c, value)}
            />
          ))}
        </tbody>
        {shown.length > 0 && (
          <tbody>
            <tr className="border-t border-rule-strong text-left text-tiny text-ink-2">
              <th scope="col" className="pt-2 pb-1 font-medium">
                Exceptions of single people
              </th>
              <th scope="col" className="pt-2 pb-1 font-medium">
                On profile
              </th>
              <td colSpan={data.channels.length} />
            </tr>
            {shown.map((p) => (
              <SideRow
                key={p.personId}
                name={p.name}
                head={
                  <Link className="hover:underline" href={`/people?person=${p.personId}`}>
                    {p.name}
                  </Link>
                }
                people={nameOf(p.profileId)}
                channels={data.channels}
                valueOf={(c) => edits[keyOf('person', p.personId, c)] ?? p.channels[c] ?? 'as-profile'}
                profile={(c) => profileCell(p.profileId, c)}
                disabled={!data.mayChange}
                onChange={(c, value) => put('person', p.personId, c, value)}
              />
            ))}
          </tbody>
        )}
      </table>
      <div className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1">
        {data.mayChange && (
          <Select
            compact
            aria-label="Put one person on it, or take them off"
            value=""
            onChange={(personId) => personId !== '' && setChosen([...chosen, personId])}
          >
            <option value="">Put on or take off one person…</option>
            {data.people
              .filter((p) => !shown.includes(p))
              .map((p) => (
                <option key={p.personId} value={p.personId}>
                  {p.name}, {nameOf(p.profileId)}
                </option>
              ))}
          </Select>
        )}
        <p className="text-tiny text-ink-2">
          Band 1 is taken before 2; the number beside it is the seconds after which it counts. People: on duty of all.
          An exception is of one person; their profile stays as it is.
        </p>
      </div>
    </Panel>
  );
}
