'use client';

import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import type { Difference } from '@/core/bots/difference';
import type { BotScript } from '@/core/bots/model';
import type { BotView } from '@/services/bots/botviews';
import { Button } from '../../kit/button';
import { call, sentence, setting } from '../../kit/call';
import { asDayTime } from '../../kit/figures';
import { Empty, Pill } from '../../kit/panel';
import { Select } from '../../kit/select';

type Read = { readonly script: BotScript; readonly against: readonly Difference[] };

/** What was published, by whom and why; what differs between any two, in sentences; and the way back. */
export function VersionsView({
  view,
  zone,
  onTake,
  onChanged,
  onLine,
}: {
  view: BotView;
  zone: string;
  onTake: (script: BotScript) => void;
  onChanged: () => void;
  onLine: (lineId: string) => void;
}) {
  const live = view.bot.liveVersion ?? view.versions[0]?.version ?? 0;
  const [of, setOf] = useState(live);
  const [against, setAgainst] = useState('draft');
  const [read, setRead] = useState<Read | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  useEffect(() => {
    if (of === 0) return undefined;
    let here = true;
    setRead(null);
    call<Read>(`/api/read/bot-version?id=${view.bot.id}&version=${of}&against=${against}`).then(
      (r) => {
        if (here) {
          setRead(r);
          setFault(null);
        }
      },
      (e: unknown) => {
        if (here) setFault(sentence(e));
      },
    );
    return () => {
      here = false;
    };
  }, [of, against, view.bot.id, view.bot.revision]);
  const attempt = async (act: string, body: object, done: string) => {
    try {
      await setting(act, body);
      toast.success(done);
      onChanged();
    } catch (error) {
      toast.error(sentence(error));
    }
  };
  if (view.versions.length === 0)
    return <Empty title="Never published yet">Publishing keeps the draft as a version that never changes.</Empty>;
  const { planned } = view.bot;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1.1fr)] gap-4 p-4">
      <section aria-label="Versions">
        {planned && (
          <p className="mb-2 flex items-center gap-2 rounded-control bg-brass-wash px-3 py-2 text-small text-brass-ink">
            Version {planned.version} goes live on {asDayTime(planned.at, zone)}.
            {view.mayPublish && (
              <Button
                small
                className="ml-auto"
                onClick={() => void attempt('bot-call-off', { id: view.bot.id }, 'Called off.')}
              >
                Call it off
              </Button>
            )}
          </p>
        )}
        <ul>
          {view.versions.map((v) => (
            <li
              key={v.version}
              className={`flex items-center gap-2 border-t border-rule px-1 py-2 ${v.version === of ? 'bg-chosen' : ''}`}
            >
              <b className="w-6 text-right">{v.version}</b>
              <span className="min-w-0 flex-1">
                <span className="block text-small">{v.note || 'without a note'}</span>
                <span className="text-tiny text-ink-2">
                  {v.by}, {asDayTime(v.realAt, zone)}
                </span>
              </span>
              {v.version === view.bot.liveVersion ? (
                <Pill tone="good">live</Pill>
              ) : (
                view.mayPublish && (
                  <Button
                    small
                    onClick={() =>
                      void attempt(
                        'bot-version-live',
                        { id: view.bot.id, version: v.version },
                        `Version ${v.version} is live again, for the next contact.`,
                      )
                    }
                  >
                    Make live
                  </Button>
                )
              )}
              <Button small kind="quiet" aria-label={`Compare version ${v.version}`} onClick={() => setOf(v.version)}>
                Compare
              </Button>
            </li>
          ))}
        </ul>
      </section>
      <section aria-label="What differs">
        <div className="mb-2 flex items-center gap-2 text-small">
          <span className="whitespace-nowrap">From version {of} to</span>
          <Select
            aria-label="Compared with"
            className="!w-28 !py-1 text-small"
            value={against}
            onChange={(chosen) => setAgainst(chosen)}
          >
            <option value="draft">the draft</option>
            {view.versions
              .filter((v) => v.version !== of)
              .map((v) => (
                <option key={v.version} value={v.version}>
                  version {v.version}
                </option>
              ))}
          </Select>
          {view.mayChange && read && (
            <Button
              small
              className="ml-auto"
              onClick={() => {
                onTake(read.script);
                toast.success(`The draft says again what version ${of} says. Undo takes it back.`);
              }}
            >
              Put {of} into the draft
            </Button>
          )}
        </div>
        {fault && (
          <p role="alert" className="text-small text-clay">
            {fault}
          </p>
        )}
        {!read && !fault && <p className="text-small text-ink-3">Comparing…</p>}
        {read && read.against.length === 0 && <p className="text-small text-ink-2">They say the same.</p>}
        {read && (
          <ul>
            {read.against.map((d, i) => (
              <li key={i} className="border-t border-rule py-1.5 text-small">
                {d.lineId && against === 'draft' ? (
                  <button type="button" className="text-left hover:underline" onClick={() => onLine(d.lineId ?? '')}>
                    {d.sentence}
                  </button>
                ) : (
                  d.sentence
                )}
              </li>
            ))}
          </ul>
        )}
      </section>
    </div>
  );
}
