'use client';

import { useEffect, useState } from 'react';
import { type Channel, CHANNEL_NAMES } from '@/core/channels';
import type { Level } from '@/core/people/levels';
import type { Need } from '@/core/routing/needs';
import type { QueuesView } from '@/services/queues/queuesview';
import type { WhoGets } from '@/services/queues/whogets';
import { Button } from '../kit/button';
import { sentence, setting } from '../kit/call';
import { Dialog } from '../kit/dialog';
import { Field, Input } from '../kit/field';
import { Looking } from '../kit/looking';
import { options, Select } from '../kit/select';
import { Table } from '../kit/table';
import type { QueueDraft } from './draft';

/**
 * "Who would get this contact?": any made-up contact under the settings on the page, everybody with their place or
 * the reason.
 */
export function WhoGetsDialog({
  draft,
  view,
  channel: first,
  onClose,
}: {
  draft: QueueDraft;
  view: QueuesView;
  channel: Channel;
  onClose: () => void;
}) {
  const [channel, setChannel] = useState(first);
  const [waited, setWaited] = useState(0);
  const [handOver, setHandOver] = useState<readonly Need[]>([]);
  const [result, setResult] = useState<WhoGets | null>(null);
  const [fault, setFault] = useState<Error | null>(null);
  const [again, setAgain] = useState(0);
  const asked = JSON.stringify({ queue: draft, contact: { channel, handOver, waitedSeconds: waited } });
  useEffect(() => {
    let live = true;
    const timer = setTimeout(() => {
      setting<WhoGets>('who-gets', JSON.parse(asked)).then(
        (r) => {
          if (live) {
            setResult(r);
            setFault(null);
          }
        },
        (e: unknown) => {
          if (live) setFault(new Error(sentence(e)));
        },
      );
    }, 200);
    return () => {
      live = false;
      clearTimeout(timer);
    };
  }, [asked, again]);
  const unused = view.skills.filter((s) => !handOver.some((n) => n.skillId === s.id));
  return (
    <Dialog
      open
      onClose={onClose}
      title="Who would get this contact?"
      description="A made-up contact, answered by the router itself for everybody, under the settings on this page."
      wide
    >
      <div className="mb-3 flex flex-wrap items-end gap-3">
        <div className="w-36">
          <Field label="Channel">
            {(p) => (
              <Select
                {...p}
                value={channel}
                onChange={(chosen) => {
                  const c = draft.settings.channels.find((x) => x === chosen);
                  if (c) setChannel(c);
                }}
              >
                {options(draft.settings.channels, (c) => CHANNEL_NAMES[c].name)}
              </Select>
            )}
          </Field>
        </div>
        <div className="w-36">
          <Field label="Has waited, s">
            {(p) => (
              <Input
                {...p}
                type="number"
                min={0}
                max={86_400}
                value={waited}
                onChange={(e) =>
                  setWaited(Number.isNaN(e.target.valueAsNumber) ? 0 : Math.max(0, Math.round(e.target.valueAsNumber)))
                }
              />
            )}
          </Field>
        </div>
        {handOver.map((n) => (
          <span key={n.skillId} className="flex items-center gap-1 text-small">
            {view.skills.find((s) => s.id === n.skillId)?.name}{' '}
            <Select
              aria-label="Level handed over"
              className="!w-16 !py-1"
              value={n.atLeast}
              onChange={(chosen) =>
                setHandOver(handOver.map((x) => (x === n ? { ...n, atLeast: Number(chosen) as Level } : x)))
              }
            >
              {options([1, 2, 3, 4, 5])}
            </Select>
            <Button
              small
              kind="quiet"
              aria-label="Remove this need"
              onClick={() => setHandOver(handOver.filter((x) => x !== n))}
            >
              ×
            </Button>
          </span>
        ))}
        <div className="w-52">
          <Field label="The hand-over also needs">
            {(p) => (
              <Select
                {...p}
                value=""
                onChange={(chosen) => {
                  if (chosen) setHandOver([...handOver, { skillId: chosen, atLeast: 3 }]);
                }}
              >
                <option value="">add a skill…</option>
                {options(unused)}
              </Select>
            )}
          </Field>
        </div>
      </div>
      {fault ? (
        <Looking error={fault} onAgain={() => setAgain((n) => n + 1)} />
      ) : !result ? (
        <Looking error={null} onAgain={() => undefined} what="Asking the router…" />
      ) : (
        <>
          <p role="status" className="mb-2 font-medium">
            {result.sentence}
          </p>
          {result.crossed.length > 0 && (
            <p className="mb-2 text-small text-brass-ink">
              The hand-over asks for more than the queue allows at most: {result.crossed.join(', ')}. The higher floor
              counts.
            </p>
          )}
          <div className="max-h-[46vh] overflow-y-auto" tabIndex={0} role="region" aria-label="Everybody">
            <Table
              compact
              label="Everybody, as the router places them"
              rows={result.people}
              idOf={(p) => p.personId}
              rowClass={(p) => p.rank === 1 && 'bg-moss-wash'}
              columns={[
                { id: 'rank', head: 'Place', cell: (p) => p.rank ?? '', className: 'w-12 font-semibold' },
                { id: 'name', head: 'Person', cell: (p) => p.name },
                { id: 'why', head: 'Why', cell: (p) => p.why, className: (p) => (p.rank ? 'text-moss' : 'text-ink-2') },
                { id: 'levels', head: 'Levels', figure: true, cell: (p) => p.levelSum ?? '' },
                { id: 'load', head: 'Load', figure: true, cell: (p) => p.load },
              ]}
            />
          </div>
        </>
      )}
    </Dialog>
  );
}
