'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import { languageName } from '@/core/localised';
import type { RecordedLine, RecordingsView } from '@/services/bots/recordings';
import { Button } from '../../kit/button';
import { sentence, setting } from '../../kit/call';
import { Check, Input } from '../../kit/field';
import { FilePick } from '../../kit/filepick';
import { base64Of, secondsOf } from '../../kit/fileread';
import { Link } from '../../kit/link';
import { useLive } from '../../kit/live';
import { Empty, Panel } from '../../kit/panel';
import { options, Select } from '../../kit/select';
import { Table } from '../../kit/table';
import { StopNav } from '../../lane/stopnav';

type Words = RecordingsView['words'][number];
const SOUNDS = 'audio/wav,audio/x-wav,audio/mpeg,audio/ogg';
const isRecordable = (w: Words) => !w.valued && w.where.length > 0;

/** What callers hear in a voice of somebody's own: each sentence that is said to them, and music to wait by. */
export function RecordingsPage({ initial }: { initial: RecordingsView }) {
  const { data, refetch } = useLive<RecordingsView>('/api/read/recordings', ['settings.changed'], initial);
  const view = data ?? initial;
  const [language, setLanguage] = useState(view.languages[0] ?? 'en');
  const [lacking, setLacking] = useState(false);
  const [sought, setSought] = useState('');
  const [busy, setBusy] = useState<string | null>(null);
  const run = async (key: string, work: () => Promise<unknown>, done: string) => {
    setBusy(key);
    try {
      await work();
      toast.success(done);
      await refetch();
    } catch (error) {
      toast.error(sentence(error));
    } finally {
      setBusy(null);
    }
  };
  const keep = async (file: File, asked: object) =>
    setting('save-recording', { ...asked, data: await base64Of(file), seconds: await secondsOf(file) });
  const keyOf = (w: Words) => `${w.language} ${w.text}`;
  const here = view.words.filter((w) => w.language === language);
  const shown = here.filter(
    (w) =>
      (!lacking || (w.recording === null && isRecordable(w))) &&
      `${w.text} ${w.where.map((x) => x.name).join(' ')}`.toLowerCase().includes(sought.trim().toLowerCase()),
  );
  const [recorded, all] = [here.filter((w) => w.recording && isRecordable(w)).length, here.filter(isRecordable).length];
  return (
    <>
      <StopNav stop="Bots" />
      <main className="grid items-start gap-3 p-4 lg:grid-cols-[minmax(0,1fr)_300px]">
        <Panel label="Words that callers hear">
          <div className="flex flex-wrap items-center gap-3 border-b border-rule px-4 py-2.5">
            <h1 className="text-panel">Words that callers hear</h1>
            <Select compact aria-label="Language" value={language} onChange={setLanguage}>
              {options(view.languages, languageName)}
            </Select>
            <span className="text-small text-ink-2" role="status">
              {recorded} of {all} recorded
            </span>
            <span className="ml-auto flex items-center gap-3">
              <Check label="not recorded yet" checked={lacking} onChange={(e) => setLacking(e.target.checked)} />
              <Input
                aria-label="Find words"
                placeholder="Find words…"
                className="!w-48 !py-1"
                value={sought}
                onChange={(e) => setSought(e.target.value)}
              />
            </span>
          </div>
          {shown.length === 0 ? (
            <Empty title={here.length === 0 ? 'Callers hear nothing in this language' : 'No words are left of these'}>
              {here.length === 0 && 'Words of bots and queues that take calls stand here, one line for each sentence.'}
            </Empty>
          ) : (
            <Table
              label="Words that callers hear"
              rows={shown}
              idOf={keyOf}
              columns={[
                {
                  id: 'words',
                  head: 'Words',
                  by: (w) => w.text,
                  cell: (w) => <span className="block max-w-[46ch]">{w.text}</span>,
                },
                {
                  id: 'where',
                  head: 'Said by',
                  cell: (w) =>
                    w.where.length === 0 ? (
                      <span className="text-ink-3">nobody any more</span>
                    ) : (
                      w.where.slice(0, 3).map((x, i) => (
                        <span key={x.path}>
                          {i > 0 && ', '}
                          <Link className="underline" href={x.path}>
                            {x.name}
                          </Link>
                        </span>
                      ))
                    ),
                },
                {
                  id: 'recording',
                  head: 'Recording',
                  by: (w) => w.recording?.seconds ?? null,
                  className: 'whitespace-nowrap',
                  cell: (w) => (
                    <span className="flex items-center gap-2">
                      {w.recording && <Play line={w.recording} label={w.text} />}
                      {view.mayChange && isRecordable(w) && (
                        <FilePick
                          small
                          label={`Recording of “${w.text}”`}
                          accept={SOUNDS}
                          onFile={(file) =>
                            void run(
                              keyOf(w),
                              () => keep(file, { kind: 'words', language: w.language, text: w.text }),
                              'It is heard from the next time on that this is said.',
                            )
                          }
                        >
                          {busy === keyOf(w) ? 'Keeping…' : w.recording ? 'Replace…' : 'Add a file…'}
                        </FilePick>
                      )}
                      {view.mayChange && w.recording && (
                        <Button
                          small
                          kind="quiet"
                          aria-label={`Remove the recording of “${w.text}”`}
                          onClick={() =>
                            void run(
                              keyOf(w),
                              () => setting('remove-recording', { id: w.recording?.id }),
                              'It is spoken again. History can bring the recording back.',
                            )
                          }
                        >
                          Remove
                        </Button>
                      )}
                      {w.valued && !w.recording && (
                        <span className="text-small text-ink-3">spoken: a value stands in it</span>
                      )}
                    </span>
                  ),
                },
              ]}
            />
          )}
        </Panel>
        <Panel className="p-4" label="Music to wait by">
          <h2 className="text-panel">Music to wait by</h2>
          <p className="mt-1 text-small text-ink-2">
            Your own, beside the loops that ship with it; chosen on the wait clock of a queue.
          </p>
          <ul className="my-2 divide-y divide-rule">
            {view.music.map((m) => (
              <li key={m.id} className="flex flex-wrap items-center gap-2 py-1.5">
                <span className="flex-1 font-medium">{m.name}</span>
                <Play line={m} label={m.name} />
                {view.mayChange && (
                  <Button
                    small
                    kind="quiet"
                    aria-label={`Remove ${m.name}`}
                    onClick={() =>
                      void run(m.id, () => setting('remove-recording', { id: m.id }), `${m.name} is gone.`)
                    }
                  >
                    Remove
                  </Button>
                )}
                <span className="w-full text-tiny text-ink-2">
                  {m.usedBy.length === 0 ? 'no queue plays it' : `played by ${m.usedBy.join(', ')}`}
                </span>
              </li>
            ))}
          </ul>
          {view.music.length === 0 && <p className="mb-2 text-small text-ink-3">None of your own yet.</p>}
          {view.mayChange && (
            <FilePick
              small
              label="Music file"
              accept={SOUNDS}
              onFile={(file) =>
                void run(
                  'music',
                  () => keep(file, { kind: 'music', id: null, name: file.name.replace(/\.[^.]*$/, '').slice(0, 60) }),
                  'It can be chosen on every wait clock.',
                )
              }
            >
              {busy === 'music' ? 'Keeping…' : 'Add music…'}
            </FilePick>
          )}
          <p className="mt-3 border-t border-rule pt-2 text-tiny text-ink-2">
            WAV, MP3 or Ogg, at most 700 KB. A recording is of the very words beside it: when the words are changed they
            are spoken until they are recorded again.
          </p>
        </Panel>
      </main>
    </>
  );
}

function Play({ line, label }: { line: RecordedLine; label: string }) {
  return (
    <Button
      small
      aria-label={`Play ${label}`}
      onClick={() => void new Audio(line.url).play().catch(() => toast.error('This browser cannot play it.'))}
    >
      ▶ {line.seconds.toFixed(1)} s
    </Button>
  );
}
