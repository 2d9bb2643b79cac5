'use client';

import { Link } from '../kit/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { toast } from 'sonner';
import { NO_WORDING, QUIET } from '@/core/bots/model';
import type { BotEndings } from '@/core/bots/traffic';
import type { BotLine } from '@/services/bots/botviews';
import { Button } from '../kit/button';
import { newKey, Refused, sentence, setting } from '../kit/call';
import { Dialog } from '../kit/dialog';
import { FilePick } from '../kit/filepick';
import { fileText } from '../kit/fileread';
import { Field, Input } from '../kit/field';
import { asCount, asShare } from '../kit/figures';
import { useLive } from '../kit/live';
import { Empty, Panel, PanelHead, Pill } from '../kit/panel';
import { options, Select } from '../kit/select';
import { Table } from '../kit/table';
import { StopNav } from '../lane/stopnav';
import { RetiredList } from '../removing/retiredlist';

type View = { bots: BotLine[]; mayChange: boolean; languages: readonly string[] };

/** How a bot's conversations end, with the head of each column. */
const ENDED = [
  ['person', 'To a person'],
  ['finished', 'Finished by it'],
  ['left', 'Left in it'],
] as const;
/** From this share on, customers leaving in the bot is marked. */
const MANY_LEFT = 0.15;
/** The share of a bot's conversations of the last seven days that went one way; null where there was none. */
const shareOf = (endings: BotEndings | undefined, way: (typeof ENDED)[number][0]): number | null =>
  endings && endings.of > 0 ? endings[way] / endings.of : null;

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
  const [broken, setBroken] = useState<readonly { readonly where: string; readonly what: string }[]>([]);
  const bring = async (picked: File) => {
    try {
      const { id } = await setting<{ id: string }>('bring-bot', { text: await fileText(picked) });
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
          <PanelHead title="What we say before a person is needed" marks={<Pill>{view.bots.length} bots</Pill>}>
            {view.mayChange && (
              <>
                <FilePick label="Bot file" accept=".json,application/json" onFile={(f) => void bring(f)}>
                  Bring in…
                </FilePick>
                <Button kind="primary" onClick={() => setAdding(true)}>
                  New bot
                </Button>
              </>
            )}
          </PanelHead>
          {view.bots.length === 0 ? (
            <Empty title="No bot yet">A bot greets a contact, asks what it is about and hands it to a queue.</Empty>
          ) : (
            <Table
              label="Bots"
              rows={view.bots}
              idOf={(b) => b.id}
              columns={[
                {
                  id: 'bot',
                  head: 'Bot',
                  by: (b) => b.name,
                  cell: (b) => (
                    <Link href={`/bots/${b.id}`} className="font-display text-[15px] font-semibold">
                      {b.name}
                    </Link>
                  ),
                },
                {
                  id: 'live',
                  head: 'Live',
                  cell: (b) =>
                    b.liveVersion === null ? (
                      <Pill tone="bad">never published</Pill>
                    ) : (
                      <Pill tone="good">version {b.liveVersion}</Pill>
                    ),
                },
                {
                  id: 'draft',
                  head: 'Draft',
                  cell: (b) =>
                    b.draftDiffers ? (
                      <Pill tone="warn">differs from live</Pill>
                    ) : (
                      <span className="text-small text-ink-3">as live</span>
                    ),
                },
                {
                  id: 'checks',
                  head: 'Checks',
                  by: (b) => b.stops * 1000 + b.advice,
                  cell: (b) =>
                    b.stops > 0 ? (
                      <Pill tone="bad">
                        {b.stops} {b.stops === 1 ? 'stops' : 'stop'} contacts
                      </Pill>
                    ) : b.advice > 0 ? (
                      <Pill tone="warn">{b.advice} advice</Pill>
                    ) : (
                      <span className="text-small text-ink-3">nothing found</span>
                    ),
                },
                {
                  id: 'languages',
                  head: 'Languages',
                  className: 'text-small text-ink-2',
                  cell: (b) => b.languages.join(', '),
                },
                { id: 'doors', head: 'Doors', figure: true, by: (b) => b.doors, cell: (b) => b.doors },
                { id: 'lines', head: 'Lines', figure: true, by: (b) => b.lines, cell: (b) => b.lines },
                { id: 'tests', head: 'Tests', figure: true, by: (b) => b.tests, cell: (b) => b.tests },
                {
                  id: 'week',
                  head: 'Last week',
                  figure: true,
                  by: (b) => endings[b.id]?.of ?? 0,
                  cell: (b) => asCount(endings[b.id]?.of ?? 0),
                },
                ...ENDED.map(([id, head]) => ({
                  id,
                  head,
                  figure: true,
                  by: (b: BotLine) => shareOf(endings[b.id], id),
                  cell: (b: BotLine) => asShare(shareOf(endings[b.id], id)),
                  ...(id === 'left'
                    ? {
                        className: (b: BotLine) =>
                          (shareOf(endings[b.id], id) ?? 0) >= MANY_LEFT ? 'font-semibold text-clay' : '',
                      }
                    : {}),
                })),
              ]}
            />
          )}
          <RetiredList kind="bot" onBack={(id) => router.push(`/bots/${id}`)} />
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
                  {options(queues)}
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
