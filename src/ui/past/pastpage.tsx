'use client';

import { useRef, useState } from 'react';
import { toast } from 'sonner';
import type { PastFileView, PastView } from '@/services/past/past';
import { Button } from '../kit/button';
import { sentence, setting } from '../kit/call';
import { Dialog } from '../kit/dialog';
import { asCount, asDay, asDayTime } from '../kit/figures';
import { FilePick } from '../kit/filepick';
import { Link } from '../kit/link';
import { useLive } from '../kit/live';
import { Empty, Panel, PanelHead, Pill } from '../kit/panel';
import { Progress } from '../kit/progress';
import { StopNav } from '../lane/stopnav';
import { sendFile } from './sendfile';

/** How often it is looked how far a file is, ms. */
const LOOK_MS = 500;
const KIND_NAMES = { queue: 'Queues', person: 'People', door: 'Doors', bot: 'Bots', outcome: 'Outcomes' } as const;
const DOING = { checking: 'Reading', keeping: 'Keeping', leaving: 'Taking out' } as const;

/** Contacts and states from before or from elsewhere: read first, kept when it is pressed, taken out again as one. */
export function PastPage({ initial, zone }: { initial: PastView; zone: string }) {
  const [working, setWorking] = useState(initial.files.some((file) => file.doing !== null));
  const [sending, setSending] = useState<{ name: string; sent: number; size: number } | null>(null);
  const stop = useRef(new AbortController());
  const { data, error, refetch } = useLive<PastView>('/api/read/past', [], initial, working ? LOOK_MS : false);
  const files = (data ?? initial).files;
  const busy = files.some((file) => file.doing !== null);
  if (busy !== working) setWorking(busy);
  const act = (name: string, id: string, more: object = {}): Promise<void> =>
    setting(name, { id, ...more })
      .catch((fault: unknown) => void toast.error(sentence(fault)))
      .then(() => {
        setWorking(true);
        return refetch().then(() => undefined);
      });
  const send = (file: File) => {
    stop.current = new AbortController();
    setSending({ name: file.name, sent: 0, size: file.size });
    sendFile(file, stop.current.signal, (sent) => setSending({ name: file.name, sent, size: file.size }))
      .then(({ id, chunks }) => act('past-check', id, { chunks }))
      .catch((fault: unknown) => {
        if (!stop.current.signal.aborted) toast.error(sentence(fault));
        void refetch();
      })
      .finally(() => setSending(null));
  };
  return (
    <>
      <StopNav stop="Review" />
      <main className="flex flex-col gap-3 p-4 pt-2.5">
        <div className="flex flex-wrap items-center gap-3">
          <h1 className="text-title">Bring in the past</h1>
          <p className="text-small text-ink-2">
            Contacts, what was said in them, and how people were, from before or from elsewhere.
          </p>
          <span className="ml-auto flex items-center gap-2">
            {sending ? (
              <>
                <Progress says={`Sending ${sending.name}`} done={sending.sent} total={sending.size} />
                <Button small onClick={() => stop.current.abort()}>
                  Stop
                </Button>
              </>
            ) : (
              <FilePick
                label="A file of the past"
                accept=".ndjson,.jsonl,.json,.csv,.tsv,.txt"
                kind="primary"
                onFile={send}
              >
                Choose a file…
              </FilePick>
            )}
          </span>
        </div>
        {error && (
          <p role="alert" className="text-small text-clay">
            It cannot be read just now.
          </p>
        )}
        {files.length === 0 ? (
          <Panel>
            <Empty title="Nothing was brought in yet">
              <p>
                NDJSON with one contact or state a line, or CSV with the columns under which contacts are taken out.
                Nothing is kept before you have seen what it is.
              </p>
              <p className="mt-2">
                The format is written down in <code>docs/formats/past.schema.json</code>; contacts that were taken out
                of Review as NDJSON fit it.
              </p>
            </Empty>
          </Panel>
        ) : (
          files.map((file) => <PastFile key={file.id} file={file} zone={zone} busy={busy} act={act} />)
        )}
      </main>
    </>
  );
}

type Act = (name: string, id: string, more?: object) => Promise<void>;

/** One file: how far it is, what it would bring in or has brought in, and what can be done with it. */
function PastFile({ file, zone, busy, act }: { file: PastFileView; zone: string; busy: boolean; act: Act }) {
  const [leaving, setLeaving] = useState(false);
  const { checked, doing } = file;
  const press = (name: string) => () => void act(name, file.id);
  const some = file.contacts + file.states > 0;
  return (
    <Panel label={file.name}>
      <PanelHead
        as="h2"
        title={file.name}
        marks={
          <>
            <StatePill file={file} />
            <span className="text-small text-ink-2">
              {file.by}, {asDayTime(file.realAt, zone)}
            </span>
          </>
        }
      >
        {doing && doing !== 'leaving' && (
          <Button small onClick={press('past-stop')}>
            Stop
          </Button>
        )}
        {!doing && file.state === 'there' && !checked && (
          <Button small disabled={busy} onClick={() => void act('past-check', file.id, { chunks: null })}>
            Read it
          </Button>
        )}
        {!doing && file.state === 'there' && checked && checked.contacts + checked.states > 0 && (
          <Button small kind="primary" disabled={busy} onClick={press('past-keep')}>
            {some ? 'Go on' : 'Bring in'} {asCount(checked.contacts)} contacts
            {checked.states > 0 ? ` and ${asCount(checked.states)} states` : ''}
          </Button>
        )}
        {!doing && (
          <Button
            small
            kind={some ? 'danger' : 'plain'}
            disabled={busy}
            onClick={some ? () => setLeaving(true) : press('past-take-out')}
          >
            {some ? 'Take out again…' : 'Forget it'}
          </Button>
        )}
      </PanelHead>
      <div className="flex flex-col gap-2 px-4 py-3 text-small">
        {doing && (
          <span className="flex items-center gap-3">
            <Progress
              says={`${DOING[doing]}${doing === 'keeping' ? ` line ${asCount(file.done)}` : '…'}`}
              done={Math.round((file.progress ?? 0) * 1000)}
              total={file.progress === null ? 0 : 1000}
            />
          </span>
        )}
        {file.fault && (
          <p role="alert" className="text-clay">
            {file.fault}
          </p>
        )}
        {some && (
          <p>
            <b>{asCount(file.contacts)}</b> contacts and <b>{asCount(file.states)}</b> states{' '}
            {file.state === 'kept' ? 'were brought in' : 'are in so far'}
            {file.skipped > 0 ? `, ${asCount(file.skipped)} lines were left out` : ''}
            {file.firstAt !== null && file.lastAt !== null && (
              <>
                , from {dayOf(file.firstAt, zone)} to {dayOf(file.lastAt, zone)}:{' '}
                <Link className="text-plum underline" href={reviewOf(file.firstAt, file.lastAt, zone)}>
                  Review of these days
                </Link>
              </>
            )}
            .
          </p>
        )}
        {checked && <CheckedView checked={checked} zone={zone} />}
      </div>
      <Dialog
        open={leaving}
        onClose={() => setLeaving(false)}
        title={`Take ${file.name} out again?`}
        description={`${asCount(file.contacts)} contacts and ${asCount(file.states)} states go, with whatever was noted of them. It cannot be undone: bring the file in again instead.`}
      >
        <div className="flex gap-2">
          <Button
            kind="danger"
            onClick={() => {
              setLeaving(false);
              void act('past-take-out', file.id);
            }}
          >
            Take it out
          </Button>
          <Button onClick={() => setLeaving(false)}>Cancel</Button>
        </div>
      </Dialog>
    </Panel>
  );
}

function StatePill({ file }: { file: PastFileView }) {
  if (file.doing) return <Pill tone="warn">{DOING[file.doing].toLowerCase()}</Pill>;
  if (file.state === 'kept') return <Pill tone="good">brought in</Pill>;
  if (file.state === 'coming') return <Pill tone="bad">not all has come</Pill>;
  return <Pill tone="plum">{file.contacts + file.states > 0 ? 'stopped' : 'not kept yet'}</Pill>;
}

const CheckedView = ({ checked, zone }: { checked: NonNullable<PastFileView['checked']>; zone: string }) => (
  <>
    <p>
      It holds <b>{asCount(checked.contacts)}</b> contacts with <b>{asCount(checked.messages)}</b> messages and{' '}
      <b>{asCount(checked.states)}</b> states
      {checked.from !== null && checked.to !== null
        ? `, from ${dayOf(checked.from, zone)} to ${dayOf(checked.to, zone)}`
        : ''}
      .{' '}
      {checked.refused === 0
        ? 'Every line is taken.'
        : checked.refused === 1
          ? 'One line is refused.'
          : `${asCount(checked.refused)} lines are refused.`}
    </p>
    <div className="grid gap-x-6 gap-y-2 md:grid-cols-5">
      {checked.named.map((one) => (
        <div key={one.kind}>
          <h3 className="text-small font-semibold">{KIND_NAMES[one.kind]}</h3>
          <p className="text-tiny text-ink-2">
            {one.here} known here{one.strange.length > 0 && ', kept by name:'}
          </p>
          <ul className="max-h-32 overflow-y-auto">
            {one.strange.map((name) => (
              <li key={name.name} className="flex gap-2">
                <span className="min-w-0 flex-1 truncate" title={name.name}>
                  {name.name}
                </span>
                <span className="text-ink-2 tabular-nums">{asCount(name.count)}</span>
              </li>
            ))}
          </ul>
          {one.more > 0 && <p className="text-tiny text-ink-2">and {asCount(one.more)} more</p>}
        </div>
      ))}
    </div>
    {checked.reasons.length > 0 && (
      <details>
        <summary>Why lines are refused</summary>
        <ul className="mt-1 max-h-48 overflow-y-auto">
          {checked.reasons.map((reason, i) => (
            <li key={i}>
              <span className="inline-block w-24 text-ink-2 tabular-nums">line {asCount(reason.line)}</span>
              {reason.why}
            </li>
          ))}
        </ul>
        {checked.refused > checked.reasons.length && (
          <p className="text-tiny text-ink-2">and {asCount(checked.refused - checked.reasons.length)} more</p>
        )}
      </details>
    )}
  </>
);

const isoDay = (at: number, zone: string): string =>
  new Intl.DateTimeFormat('en-CA', { timeZone: zone, year: 'numeric', month: '2-digit', day: '2-digit' }).format(at);
const dayOf = (at: number, zone: string): string => asDay(isoDay(at, zone));

/** Review speaks of thirteen months at most: of a longer file its last year. */
const YEAR_MS = 365 * 86_400_000;
const reviewOf = (from: number, to: number, zone: string): string =>
  `/review?${new URLSearchParams({ from: isoDay(Math.max(from, to - YEAR_MS), zone), to: isoDay(to, zone) }).toString()}`;
