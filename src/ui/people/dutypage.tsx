'use client';

import {
  DndContext,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { clsx } from 'clsx';
import { useEffect, useState, type KeyboardEvent } from 'react';
import { toast } from 'sonner';
import { CHANNEL_NAMES, CHANNELS, type Channel } from '@/core/channels';
import { BANDS, DUTY_DEFAULTS, putInBand, type DutyRow } from '@/core/people/duty';
import { DEFAULT_LOAD, FULL, type LoadRules } from '@/core/people/load';
import { answersFrom, fullMixes, rulesFromAnswers } from '@/core/people/loadquestions';
import type { DutyView, ProfileLine } from '@/services/people/duty';
import { Button } from '../kit/button';
import { call, sentence, setting } from '../kit/call';
import { ChannelMark } from '../kit/channelmark';
import { Dialog } from '../kit/dialog';
import { Check, Field, Input, Select } from '../kit/field';
import { useLive } from '../kit/live';
import { Empty, Key, Panel, Pill } from '../kit/panel';
import { useSaving } from '../kit/saving';
import { AwayReasons } from './awayreasons';
import type { DutyDraft as Draft } from './dutydraft';
import { Situation } from './situation';
import { StopNav } from '../lane/stopnav';

const draftOf = (p: ProfileLine): Draft => ({
  id: p.id,
  revision: p.revision,
  name: p.name,
  rows: p.rows,
  load: p.load,
  acceptSeconds: p.acceptSeconds,
  autoAccept: p.autoAccept,
  restSeconds: p.restSeconds,
  outboundQueueId: p.outboundQueueId,
});
const EMPTY: Draft = { id: null, revision: 0, name: '', rows: [], load: DEFAULT_LOAD, ...DUTY_DEFAULTS };

/** Duty profiles: who takes what in which order, and how much at once; changed on a board and applied in one press. */
export function DutyPage({ initial, chosen, reasons }: { initial: DutyView; chosen: string | null; reasons: boolean }) {
  const { data, refetch } = useLive<DutyView>('/api/read/duty', ['settings.changed'], initial);
  const view = data ?? initial;
  const [draft, setDraft] = useState<Draft | null>(() => {
    const p = view.profiles.find((x) => x.id === chosen) ?? view.profiles[0];
    return p ? draftOf(p) : null;
  });
  const [listing, setListing] = useState(reasons);
  const kept = view.profiles.find((p) => p.id === draft?.id);
  const changed = draft !== null && (!kept || JSON.stringify(draftOf(kept)) !== JSON.stringify(draft));
  const leave = (next: Draft) => {
    if (!changed || window.confirm('The changes to this profile are not applied yet. Leave them?')) setDraft(next);
  };
  const reload = (id: string | null) =>
    void refetch().then((r) => {
      const p = r.data?.profiles.find((x) => x.id === id) ?? r.data?.profiles[0];
      setDraft(p ? draftOf(p) : null);
    });
  return (
    <main className="flex h-[calc(100vh-64px)] min-h-[560px] flex-col">
      <StopNav stop="People" />
      <div className="grid min-h-0 flex-1 grid-cols-[230px_minmax(0,1fr)] gap-3 px-4 pt-2 pb-4">
        <Panel className="flex min-h-0 flex-col p-3" label="Duty profiles">
          <h1 className="px-1 text-panel">Duty profiles</h1>
          <ul className="mt-2 min-h-0 flex-1 overflow-y-auto">
            {view.profiles.map((p) => (
              <li key={p.id}>
                <button
                  type="button"
                  aria-current={p.id === draft?.id ? 'true' : undefined}
                  onClick={() => leave(draftOf(p))}
                  className={clsx(
                    'w-full rounded-control px-2.5 py-1.5 text-left',
                    p.id === draft?.id ? 'bg-chosen' : 'hover:bg-sunk',
                  )}
                >
                  <span className="block truncate font-medium">{p.name}</span>
                  <span className="block text-tiny text-ink-2">
                    {p.people} {p.people === 1 ? 'person' : 'people'} · {p.onDuty} on duty
                    {p.forNow > 0 && ` · ${p.forNow} for now`}
                  </span>
                </button>
              </li>
            ))}
          </ul>
          <div className="mt-2 flex flex-col gap-1.5">
            {view.mayChange && <Button onClick={() => leave(EMPTY)}>New profile</Button>}
            <Button kind="quiet" onClick={() => setListing(true)}>
              Away reasons
            </Button>
          </div>
        </Panel>
        {draft ? (
          <Board
            key={draft.id ?? 'new'}
            view={view}
            kept={kept}
            draft={draft}
            changed={changed}
            onDraft={setDraft}
            onSaved={reload}
          />
        ) : (
          <Panel>
            <Empty title="No duty profile yet">
              A duty profile says which queues its people take, and how much at once.
            </Empty>
          </Panel>
        )}
      </div>
      {listing && (
        <AwayReasons
          view={view}
          onClose={() => setListing(false)}
          onSaved={() => {
            setListing(false);
            void refetch();
          }}
        />
      )}
    </main>
  );
}

function Board({
  view,
  kept,
  draft,
  changed,
  onDraft,
  onSaved,
}: {
  view: DutyView;
  kept: ProfileLine | undefined;
  draft: Draft;
  changed: boolean;
  onDraft: (d: Draft) => void;
  onSaved: (id: string | null) => void;
}) {
  const queueNames = new Map(view.queues.map((q) => [q.id, q.name]));
  const { busy, faults, save, conflict } = useSaving<{ id: string; people: number }>('save-profile', {
    latest: async () => {
      const p = (await call<DutyView>('/api/read/duty')).profiles.find((x) => x.id === draft.id);
      return p && draftOf(p);
    },
    nameOf: (id) => queueNames.get(id) ?? id,
    onTheirs: () => onSaved(draft.id),
    onSaved: ({ id }) => onSaved(id),
  });
  const [removing, setRemoving] = useState(false);
  const set = (change: Partial<Draft>) => onDraft({ ...draft, ...change });
  const off = !view.mayChange;
  const apply = async () => {
    const done = await save(
      draft,
      ({ people }) =>
        `${draft.name} applied to ${people} ${people === 1 ? 'person' : 'people'}; it counts from the next contact on.`,
    );
    if (done) onSaved(done.id);
  };
  const remove = () =>
    setting('remove-profile', { id: draft.id }).then(
      () => {
        toast.success(`${draft.name} removed. History can bring it back.`);
        setRemoving(false);
        onSaved(null);
      },
      (error: unknown) => {
        toast.error(sentence(error));
        setRemoving(false);
      },
    );
  return (
    <Panel className="flex min-h-0 flex-col" label={draft.name || 'New duty profile'}>
      {conflict}
      <div className="flex flex-wrap items-center gap-2 border-b border-rule px-4 py-2.5">
        <input
          aria-label="Name of the profile"
          aria-invalid={faults.name !== undefined}
          disabled={off}
          placeholder="Name of the profile"
          value={draft.name}
          onChange={(e) => set({ name: e.target.value })}
          className="w-56 rounded-control border border-rule-strong bg-sheet px-2 py-1 font-display text-panel font-semibold disabled:border-transparent"
        />
        {kept && (
          <Pill>
            {kept.people} on it · {kept.onDuty} on duty
          </Pill>
        )}
        <span className="ml-auto flex items-center gap-2">
          {!off && kept && (
            <Button
              kind="quiet"
              onClick={() => onDraft({ ...draft, id: null, revision: 0, name: `${draft.name} copy` })}
            >
              Copy
            </Button>
          )}
          {!off && kept && (
            <Button kind="quiet" onClick={() => setRemoving(true)}>
              Remove
            </Button>
          )}
          {changed && kept && <Button onClick={() => onDraft(draftOf(kept))}>Discard</Button>}
          {!off && (
            <Button kind="primary" disabled={busy || !changed || draft.name.trim() === ''} onClick={() => void apply()}>
              {kept ? `Apply to ${kept.people} people` : 'Add the profile'}
            </Button>
          )}
        </span>
      </div>
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_330px] overflow-y-auto">
        <div className="px-4 py-3">
          <Bands view={view} rows={draft.rows} off={off} onRows={(rows) => set({ rows })} />
          <Situation view={view} draft={draft} />
        </div>
        <div className="border-l border-rule px-4 py-3">
          <AtOnce load={draft.load} off={off} onLoad={(load) => set({ load })} />
          <div className="mt-4 grid grid-cols-2 gap-2">
            <Field label="Seconds to accept" fault={faults.acceptSeconds}>
              {(p) => (
                <Input
                  {...p}
                  type="number"
                  min={5}
                  max={120}
                  disabled={off || draft.autoAccept}
                  value={Number.isNaN(draft.acceptSeconds) ? '' : draft.acceptSeconds}
                  onChange={(e) => set({ acceptSeconds: e.target.valueAsNumber })}
                />
              )}
            </Field>
            <Field label="Texts rest after (min)" hint="empty: never" fault={faults.restSeconds}>
              {(p) => (
                <Input
                  {...p}
                  type="number"
                  min={1}
                  max={1440}
                  disabled={off}
                  value={draft.restSeconds === null ? '' : draft.restSeconds / 60}
                  onChange={(e) =>
                    set({
                      restSeconds: Number.isNaN(e.target.valueAsNumber)
                        ? null
                        : Math.round(e.target.valueAsNumber * 60),
                    })
                  }
                />
              )}
            </Field>
          </div>
          <div className="mt-2">
            <Check
              label="Takes offers without asking"
              disabled={off}
              checked={draft.autoAccept}
              onChange={(e) => set({ autoAccept: e.target.checked })}
            />
          </div>
          <div className="mt-2">
            <Field label="When they call or text out, it counts for">
              {(p) => (
                <Select
                  {...p}
                  disabled={off}
                  value={draft.outboundQueueId ?? ''}
                  onChange={(e) => set({ outboundQueueId: e.target.value === '' ? null : e.target.value })}
                >
                  <option value="">no queue</option>
                  {view.queues.map((q) => (
                    <option key={q.id} value={q.id}>
                      {q.name}
                    </option>
                  ))}
                </Select>
              )}
            </Field>
          </div>
        </div>
      </div>
      {removing && (
        <Dialog
          open
          onClose={() => setRemoving(false)}
          title={`Remove ${draft.name}`}
          description="A profile with people on it stays until they have another."
        >
          <div className="flex gap-2">
            <Button kind="danger" onClick={() => void remove()}>
              Remove
            </Button>
            <Button onClick={() => setRemoving(false)}>Cancel</Button>
          </div>
        </Dialog>
      )}
    </Panel>
  );
}

/** Rows of one queue in one band that wait equally long stand together; moving them moves all, or only the channels picked in it. */
type Group = {
  readonly key: string;
  readonly queueId: string;
  readonly band: number;
  readonly delaySeconds: number;
  readonly channels: readonly Channel[];
};
function groupsOf(view: DutyView, rows: readonly DutyRow[]): Group[] {
  const found = new Map<string, Group>();
  const add = (queueId: string, channel: Channel, band: number, delaySeconds: number) => {
    const key = `${band}|${queueId}|${delaySeconds}`;
    const there = found.get(key);
    found.set(key, { key, queueId, band, delaySeconds, channels: [...(there?.channels ?? []), channel] });
  };
  for (const q of view.queues)
    for (const c of q.channels) {
      const row = rows.find((r) => r.queueId === q.id && r.channel === c);
      add(q.id, c, row?.band ?? 0, row?.delaySeconds ?? 0);
    }
  return [...found.values()];
}

function Bands({
  view,
  rows,
  off,
  onRows,
}: {
  view: DutyView;
  rows: readonly DutyRow[];
  off: boolean;
  onRows: (rows: readonly DutyRow[]) => void;
}) {
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  const [focus, setFocus] = useState<string | null>(null);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const groups = groupsOf(view, rows);
  const chosenOf = (g: Group) => {
    const some = g.channels.filter((c) => picked.has(`${g.queueId}|${c}`));
    return some.length > 0 ? some : g.channels;
  };
  const move = (g: Group, band: number) => {
    if (off || band === g.band || band < 0 || band > BANDS.length) return;
    const channels = chosenOf(g);
    onRows(channels.reduce<readonly DutyRow[]>((list, c) => putInBand(list, g.queueId, c, band), rows));
    setPicked(new Set());
    setFocus(`${band}|${g.queueId}|${band === 0 ? 0 : g.delaySeconds}`);
  };
  useEffect(() => {
    if (focus) {
      document.querySelector<HTMLElement>(`[data-chip="${focus}"]`)?.focus();
      setFocus(null);
    }
  }, [focus]);
  const dropped = ({ active, over }: DragEndEvent) => {
    const g = groups.find((x) => x.key === active.id);
    if (g && over) move(g, Number(over.id));
  };
  const press = (event: KeyboardEvent, g: Group) => {
    if (event.target !== event.currentTarget) return;
    if (event.key === 'ArrowUp') {
      event.preventDefault();
      move(g, g.band === 0 ? BANDS.length : Math.max(1, g.band - 1));
    } else if (event.key === 'ArrowDown') {
      event.preventDefault();
      move(g, g.band === 0 ? 0 : g.band === BANDS.length ? 0 : g.band + 1);
    } else if (/^[0-5]$/.test(event.key)) {
      event.preventDefault();
      move(g, Number(event.key));
    } else if (event.key === 'Delete') {
      event.preventDefault();
      move(g, 0);
    }
  };
  const setDelay = (g: Group, seconds: number) =>
    onRows(
      rows.map((r) =>
        r.queueId === g.queueId && r.band === g.band && g.channels.includes(r.channel)
          ? { ...r, delaySeconds: seconds }
          : r,
      ),
    );
  const toggle = (g: Group, c: Channel) => {
    const key = `${g.queueId}|${c}`;
    setPicked((was) => {
      const next = new Set(was);
      if (next.has(key)) next.delete(key);
      else next.add(key);
      return next;
    });
  };
  const used = Math.max(3, ...rows.map((r) => r.band));
  return (
    <section aria-label="Bands">
      <h2 className="text-small font-semibold">
        Taken in this order{' '}
        <span className="font-body font-normal text-ink-2">
          drag between bands, or <Key>↑</Key> <Key>↓</Key> <Key>1–5</Key>; pick channel marks to move only those
        </span>
      </h2>
      <DndContext id="bands" sensors={sensors} onDragEnd={dropped}>
        {[...BANDS.filter((b) => b <= Math.min(BANDS.length, used + 1)), 0].map((band) => (
          <BandRow key={band} band={band}>
            {groups
              .filter((g) => g.band === band)
              .map((g) => (
                <Chip
                  key={g.key}
                  group={g}
                  name={view.queues.find((q) => q.id === g.queueId)?.name ?? ''}
                  off={off}
                  picked={picked}
                  onPress={(e) => press(e, g)}
                  onPick={(c) => toggle(g, c)}
                  onDelay={(s) => setDelay(g, s)}
                />
              ))}
            {groups.every((g) => g.band !== band) && (
              <span className="text-small text-ink-3">{band === 0 ? 'Everything is taken.' : 'nothing yet'}</span>
            )}
          </BandRow>
        ))}
      </DndContext>
    </section>
  );
}

function BandRow({ band, children }: { band: number; children: React.ReactNode }) {
  const { setNodeRef, isOver } = useDroppable({ id: band });
  return (
    <div
      ref={setNodeRef}
      role="group"
      aria-label={band === 0 ? 'Not taken' : `Band ${band}`}
      className={clsx(
        'mt-2 flex min-h-11 items-center gap-2 rounded-control border px-2.5 py-1.5',
        isOver ? 'border-plum bg-plum-wash' : band === 0 ? 'border-dashed border-rule-strong' : 'border-rule bg-paper',
      )}
    >
      <b className={clsx('w-16 shrink-0 text-small', band === 0 && 'font-medium text-ink-2')}>
        {band === 0 ? 'Not taken' : `Band ${band}`}
      </b>
      <div className="flex min-w-0 flex-1 flex-wrap items-center gap-1.5">{children}</div>
    </div>
  );
}

function Chip({
  group,
  name,
  off,
  picked,
  onPress,
  onPick,
  onDelay,
}: {
  group: Group;
  name: string;
  off: boolean;
  picked: ReadonlySet<string>;
  onPress: (e: KeyboardEvent) => void;
  onPick: (c: Channel) => void;
  onDelay: (s: number) => void;
}) {
  const { setNodeRef, listeners, transform, isDragging } = useDraggable({ id: group.key, disabled: off });
  return (
    <div
      ref={setNodeRef}
      {...listeners}
      data-chip={group.key}
      role="group"
      tabIndex={off ? -1 : 0}
      aria-label={`${name} by ${group.channels.map((c) => CHANNEL_NAMES[c].name).join(', ')}, ${group.band === 0 ? 'not taken' : `band ${group.band}`}`}
      onKeyDown={onPress}
      style={
        transform
          ? { transform: `translate(${transform.x}px, ${transform.y}px)`, zIndex: 10, position: 'relative' }
          : undefined
      }
      className={clsx(
        'flex items-center gap-1.5 rounded-control border border-rule-strong bg-sheet px-2 py-1 text-small',
        !off && 'cursor-grab',
        isDragging && 'shadow-xl',
      )}
    >
      <span className="font-medium">{name}</span>
      <span className="inline-flex gap-0.5">
        {group.channels.map((c) => (
          <button
            key={c}
            type="button"
            disabled={off}
            aria-pressed={picked.has(`${group.queueId}|${c}`)}
            aria-label={`Pick ${CHANNEL_NAMES[c].name} of ${name}`}
            onPointerDown={(e) => e.stopPropagation()}
            onClick={() => onPick(c)}
          >
            <ChannelMark channel={c} size={16} ring={picked.has(`${group.queueId}|${c}`)} />
          </button>
        ))}
      </span>
      {group.band > 0 && (
        <label
          className="inline-flex items-center gap-1 text-tiny text-ink-2"
          onPointerDown={(e) => e.stopPropagation()}
        >
          after{' '}
          <input
            key={group.delaySeconds}
            aria-label={`${name}, band ${group.band}: after seconds`}
            type="number"
            min={0}
            max={3600}
            disabled={off}
            defaultValue={group.delaySeconds}
            onBlur={(e) => {
              const n = e.target.valueAsNumber;
              if (Number.isInteger(n) && n >= 0 && n <= 3600 && n !== group.delaySeconds) onDelay(n);
              else e.target.value = String(group.delaySeconds);
            }}
            onKeyDown={(e) => {
              e.stopPropagation();
              if (e.key === 'Enter') e.currentTarget.blur();
            }}
            className="w-12 rounded border border-rule-strong bg-sheet px-1"
          />{' '}
          s
        </label>
      )}
    </div>
  );
}

const ASKS: Readonly<Record<Channel, string>> = {
  voice: 'Calls at once',
  chat: 'Chats at once',
  messaging: 'Messages at once',
  sms: 'SMS at once',
};
const BLOCK: Readonly<Record<Channel, string>> = {
  voice: 'bg-mark-voice',
  chat: 'bg-mark-chat',
  messaging: 'bg-mark-messaging',
  sms: 'bg-mark-sms',
};

/** Load in plain questions, and a picture of what then fits together. */
function AtOnce({ load, off, onLoad }: { load: LoadRules; off: boolean; onLoad: (load: LoadRules) => void }) {
  const answers = answersFrom(load);
  const set = (channel: Channel | 'during', n: number) => {
    if (!Number.isInteger(n) || n < 0 || n > 20) return;
    onLoad(
      rulesFromAnswers(
        channel === 'during'
          ? { ...answers, smsDuringCall: n }
          : { ...answers, atOnce: { ...answers.atOnce, [channel]: n } },
      ),
    );
  };
  const mixes = fullMixes(load);
  return (
    <section aria-label="How much at once">
      <h2 className="text-small font-semibold">How much at once</h2>
      <div className="mt-1 grid grid-cols-[1fr_64px_70px] items-center gap-x-2 gap-y-1 text-small">
        <span />
        <span className="text-tiny text-ink-2">how many</span>
        <span className="text-tiny text-ink-2">load of one</span>
        {CHANNELS.map((c) => (
          <div key={c} className="contents">
            <span className="flex items-center gap-1.5">
              <ChannelMark channel={c} size={15} />
              {ASKS[c]}
            </span>
            <Input
              aria-label={ASKS[c]}
              type="number"
              min={0}
              max={20}
              disabled={off}
              className="!px-1.5 !py-0.5"
              value={load[c].most}
              onChange={(e) => set(c, e.target.valueAsNumber)}
            />
            <Input
              aria-label={`Load of one by ${CHANNEL_NAMES[c].name}`}
              type="number"
              min={0}
              max={100}
              disabled={off || load[c].most === 0}
              className="!px-1.5 !py-0.5"
              value={load[c].cost}
              onChange={(e) => {
                const n = e.target.valueAsNumber;
                if (Number.isInteger(n) && n >= 0 && n <= 100) onLoad({ ...load, [c]: { ...load[c], cost: n } });
              }}
            />
          </div>
        ))}
        <span className="text-ink-2">SMS during a call</span>
        <Input
          aria-label="SMS during a call"
          type="number"
          min={0}
          max={20}
          disabled={off || load.voice.most === 0 || load.sms.most === 0}
          className="!px-1.5 !py-0.5"
          value={answers.smsDuringCall}
          onChange={(e) => set('during', e.target.valueAsNumber)}
        />
        <span />
      </div>
      <p className="mt-2 text-tiny text-ink-2">What fits together into {FULL}</p>
      <ul className="mt-1 flex flex-col gap-1">
        {mixes.slice(0, 7).map((m) => {
          const words = CHANNELS.filter((c) => m[c] > 0)
            .map((c) => `${m[c]} ${CHANNEL_NAMES[c].name}`)
            .join(' + ');
          return (
            <li key={words} className="flex items-center gap-2 text-tiny">
              <span className="flex h-3 w-32 gap-px overflow-hidden rounded bg-sunk">
                {CHANNELS.flatMap((c) =>
                  Array.from({ length: m[c] }, (_, i) => (
                    <span key={`${c}${i}`} className={BLOCK[c]} style={{ width: `${load[c].cost}%` }} />
                  )),
                )}
              </span>
              {words}
            </li>
          );
        })}
      </ul>
      {mixes.length === 0 && <p className="text-small text-clay">No channel is taken.</p>}
    </section>
  );
}
