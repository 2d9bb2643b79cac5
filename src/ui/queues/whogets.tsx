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
import { Select } from '../kit/select';
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
                {draft.settings.channels.map((c) => (
                  <option key={c} value={c}>
                    {CHANNEL_NAMES[c].name}
                  </option>
                ))}
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
              {[1, 2, 3, 4, 5].map((l) => (
                <option key={l} value={l}>
                  {l}
                </option>
              ))}
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
                {unused.map((s) => (
                  <option key={s.id} value={s.id}>
                    {s.name}
                  </option>
                ))}
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
            <table className="w-full text-small">
              <thead className="sticky top-0 bg-sheet text-tiny text-ink-2">
                <tr>
                  <th className="w-12 py-1 text-left font-medium">Place</th>
                  <th className="text-left font-medium">Person</th>
                  <th className="text-left font-medium">Why</th>
                  <th className="text-right font-medium">Levels</th>
                  <th className="pr-2 text-right font-medium">Load</th>
                </tr>
              </thead>
              <tbody>
                {result.people.map((p) => (
                  <tr
                    key={p.personId}
                    className={p.rank === 1 ? 'border-t border-rule bg-moss-wash' : 'border-t border-rule'}
                  >
                    <td className="py-1 font-semibold">{p.rank ?? ''}</td>
                    <td>{p.name}</td>
                    <td className={p.rank ? 'text-moss' : 'text-ink-2'}>{p.why}</td>
                    <td className="text-right">{p.levelSum ?? ''}</td>
                    <td className="pr-2 text-right">{p.load}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </>
      )}
    </Dialog>
  );
}
