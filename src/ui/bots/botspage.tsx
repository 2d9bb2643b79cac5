'use client';

import { clsx } from 'clsx';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import { toast } from 'sonner';
import { NO_WORDING, QUIET } from '@/core/bots/model';
import type { BotEndings } from '@/core/bots/traffic';
import type { BotLine } from '@/services/bots/botviews';
import { Button } from '../kit/button';
import { newKey, Refused, sentence, setting } from '../kit/call';
import { Dialog } from '../kit/dialog';
import { Field, Input } from '../kit/field';
import { asCount } from '../kit/figures';
import { useLive } from '../kit/live';
import { Empty, Panel, Pill } from '../kit/panel';
import { Select } from '../kit/select';
import { StopNav } from '../lane/stopnav';

type View = { bots: BotLine[]; mayChange: boolean; languages: readonly string[] };

/** All bots with what is live and what is being drafted. */
export function BotsPage({
  initial,
  endings,
  queues,
}: {
  initial: View;
  endings: Readonly<Record<string, BotEndings>>;
  queues: readonly { id: string; name: string }[];
}) {
  const { data } = useLive<View>('/api/read/bots', ['settings.changed'], initial);
  const view = data ?? initial;
  const router = useRouter();
  const [adding, setAdding] = useState(false);
  const [name, setName] = useState('');
  const [queueId, setQueueId] = useState(queues[0]?.id ?? '');
  const file = useRef<HTMLInputElement>(null);
  const [broken, setBroken] = useState<readonly { readonly where: string; readonly what: string }[]>([]);
  const bring = async (picked: File | undefined) => {
    if (!picked) return;
    try {
      const { id } = await setting<{ id: string }>('bring-bot', { text: await picked.text() });
      router.push(`/bots/${id}`);
    } catch (error) {
      if (error instanceof Refused && error.faults.length > 0) setBroken(error.faults);
      else toast.error(sentence(error));
    }
  };
  const add = async () => {
    try {
      const scene = newKey();
      const { id } = await setting<{ id: string }>('save-bot', {
        id: null,
        revision: 0,
        name,
        draft: {
          shownName: name,
          picture: '',
          languages: view.languages.slice(0, 1),
          fallbackQueueId: queueId,
          fallbackWording: NO_WORDING,
          scenes: [{ id: scene, name: 'Welcome', steps: [] }],
          afterSceneId: null,
          quiet: QUIET,
        },
      });
      router.push(`/bots/${id}`);
    } catch (error) {
      toast.error(sentence(error));
    }
  };
  return (
    <>
      <StopNav stop="Bots" />
      <main className="p-4">
        <Panel label="Bots">
          <div className="flex items-center gap-3 border-b border-rule px-4 py-3">
            <h1 className="text-title">What we say before a person is needed</h1>
            <Pill>{view.bots.length} bots</Pill>
            {view.mayChange && (
              <span className="ml-auto flex gap-2">
                <Button onClick={() => file.current?.click()}>Bring in…</Button>
                <input
                  ref={file}
                  type="file"
                  accept=".json,application/json"
                  aria-label="Bot file"
                  className="hidden"
                  onChange={(e) => {
                    void bring(e.target.files?.[0]);
                    e.target.value = '';
                  }}
                />
                <Button kind="primary" onClick={() => setAdding(true)}>
                  New bot
                </Button>
              </span>
            )}
          </div>
          {view.bots.length === 0 ? (
            <Empty title="No bot yet">A bot greets a contact, asks what it is about and hands it to a queue.</Empty>
          ) : (
            <table className="w-full text-left">
              <thead className="text-tiny text-ink-2">
                <tr>
                  <th className="px-4 py-2 font-medium">Bot</th>
                  <th className="font-medium">Live</th>
                  <th className="font-medium">Draft</th>
                  <th className="font-medium">Checks</th>
                  <th className="font-medium">Languages</th>
                  {['Doors', 'Lines', 'Tests', 'Last week', 'To a person', 'Finished by it'].map((t) => (
                    <th key={t} className="pr-6 text-right font-medium">
                      {t}
                    </th>
                  ))}
                  <th className="pr-4 text-right font-medium">Left in it</th>
                </tr>
              </thead>
              <tbody>
                {view.bots.map((b) => (
                  <tr key={b.id} className="border-t border-rule hover:bg-sunk/50">
                    <td className="px-4 py-2.5">
                      <Link href={`/bots/${b.id}`} className="font-display text-[15px] font-semibold">
                        {b.name}
                      </Link>
                    </td>
                    <td>
                      {b.liveVersion === null ? (
                        <Pill tone="bad">never published</Pill>
                      ) : (
                        <Pill tone="good">version {b.liveVersion}</Pill>
                      )}
                    </td>
                    <td>
                      {b.draftDiffers ? (
                        <Pill tone="warn">differs from live</Pill>
                      ) : (
                        <span className="text-small text-ink-3">as live</span>
                      )}
                    </td>
                    <td>
                      {b.stops > 0 ? (
                        <Pill tone="bad">
                          {b.stops} {b.stops === 1 ? 'stops' : 'stop'} contacts
                        </Pill>
                      ) : b.advice > 0 ? (
                        <Pill tone="warn">{b.advice} advice</Pill>
                      ) : (
                        <span className="text-small text-ink-3">nothing found</span>
                      )}
                    </td>
                    <td className="text-small text-ink-2">{b.languages.join(', ')}</td>
                    <td className="pr-6 text-right">{b.doors}</td>
                    <td className="pr-6 text-right">{b.lines}</td>
                    <td className="pr-6 text-right">{b.tests}</td>
                    <Ended endings={endings[b.id]} />
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </Panel>
        <Dialog
          open={broken.length > 0}
          onClose={() => setBroken([])}
          title="This file cannot be taken in"
          description="Nothing was changed."
        >
          <ul role="alert" className="max-h-72 overflow-y-auto text-small text-clay">
            {broken.map((f, i) => (
              <li key={i}>
                {f.where}: {f.what}
              </li>
            ))}
          </ul>
        </Dialog>
        <Dialog
          open={adding}
          onClose={() => setAdding(false)}
          title="New bot"
          description="It answers nobody until it is published and a door uses it."
        >
          <form
            className="flex flex-col gap-3"
            onSubmit={(e) => {
              e.preventDefault();
              void add();
            }}
          >
            <Field label="Name">
              {(p) => <Input {...p} required value={name} onChange={(e) => setName(e.target.value)} />}
            </Field>
            <Field label="Queue when something fails" hint="Nobody is dropped in silence.">
              {(p) => (
                <Select {...p} value={queueId} onChange={(chosen) => setQueueId(chosen)}>
                  {queues.map((q) => (
                    <option key={q.id} value={q.id}>
                      {q.name}
                    </option>
                  ))}
                </Select>
              )}
            </Field>
            <Button kind="primary" type="submit">
              Begin its script
            </Button>
          </form>
        </Dialog>
      </main>
    </>
  );
}

/** How a bot's conversations of the last seven days ended: how many, and the share that went each way. */
function Ended({
  endings: { of, person, finished, left } = { of: 0, person: 0, finished: 0, left: 0 },
}: {
  endings: BotEndings | undefined;
}) {
  const share = (n: number) => (of === 0 ? '–' : `${Math.round((100 * n) / of)}%`);
  return (
    <>
      <td className="pr-6 text-right">{of === 0 ? 'none' : asCount(of)}</td>
      <td className="pr-6 text-right">{share(person)}</td>
      <td className="pr-6 text-right">{share(finished)}</td>
      <td className={clsx('pr-4 text-right', of > 0 && left / of >= 0.15 && 'font-semibold text-clay')}>
        {share(left)}
      </td>
    </>
  );
}
