'use client';

import { useEffect, useMemo, useState } from 'react';
import { toast } from 'sonner';
import { type Channel, CHANNEL_NAMES } from '@/core/channels';
import { copiedTo } from '@/core/routing/clockedit';
import { goalOf, READY_ORDERS } from '@/core/routing/queue';
import {
  conditionWords,
  onwardWords,
  ORDER_NAMES,
  queueSentences,
  RULE_WORDS,
  wrapUpWords,
} from '@/core/routing/queuesentence';
import type { QueueCounts, QueuesView } from '@/services/queues/queuesview';
import type { HistoryView } from '@/services/workspace/history';
import { Button } from '../kit/button';
import { call, sentence, setting } from '../kit/call';
import { ChannelMarks } from '../kit/channelmark';
import { asDayTime } from '../kit/figures';
import { Panel, Pill } from '../kit/panel';
import { options, Select } from '../kit/select';
import { HearIt } from './clock/hearit';
import { WaitClock } from './clock/waitclock';
import { CopyFrom } from './dialogs/copyfrom';
import { type QueueDialog, QueueDialogs } from './dialogs/queuedialogs';
import { LaterButton } from '../drafts/laterbutton';
import type { GatheredThings } from '../drafts/usegathered';
import { asSettings, namesIn, QUEUE_SHAPE, type QueueDraft, type SetQueue } from './draft';
import { RemoveButton } from '../removing/removebutton';
import { WhoGetsDialog } from './whogets';
import { WhoTakes } from './whotakes';

export function QueueEditor({
  gathered,
  draft,
  view,
  onRead,
}: {
  gathered: GatheredThings<QueueDraft>;
  draft: QueueDraft;
  view: QueuesView;
  onRead: () => void;
}) {
  const { settings } = draft;
  const { kept, changed, busy, faults, notes } = gathered;
  const names = namesIn(view);
  const [picked, setPicked] = useState<Channel | null>(null);
  const channel = picked !== null && settings.channels.includes(picked) ? picked : (settings.channels[0] ?? 'voice');
  const others = settings.channels.filter((c) => c !== channel && (settings.clocks[c] ?? []).length > 0);
  const [dialog, setDialog] = useState<QueueDialog | 'copy' | 'hear' | 'who' | null>(
    draft.id === null ? 'takes' : null,
  );
  const set: SetQueue = (change) => gathered.set({ ...draft, settings: { ...settings, ...change } });
  const asked = JSON.stringify(draft);
  const [counts, setCounts] = useState<QueueCounts | null>(null);
  useEffect(() => {
    let live = true;
    const timer = setTimeout(() => {
      setting<QueueCounts>('preview-queue', { queue: JSON.parse(asked) as QueueDraft }).then(
        (c) => {
          if (live) setCounts(c);
        },
        () => {
          if (live) setCounts(null);
        },
      );
    }, 250);
    return () => {
      live = false;
      clearTimeout(timer);
    };
  }, [asked]);
  const mine = counts?.channels.find((c) => c.channel === channel)?.counts ?? null;
  const goal = goalOf(settings, channel);
  const undo = async (id: string) => {
    try {
      const history = await call<HistoryView>(`/api/read/history?kind=queue&thing=${encodeURIComponent(id)}`);
      const last = history.lines.find((l) => l.canUndo);
      if (!last) throw new Error('There is nothing to undo any more.');
      await setting('undo', { id: last.id });
      toast.success('Undone; the queue is as it was before.');
      onRead();
    } catch (error) {
      toast.error(sentence(error));
    }
  };
  const apply = async () => {
    const before = kept;
    const saved = await gathered.apply(`${settings.name} applied; it counts from the next visit on.`);
    if (saved && before)
      toast(`${settings.name} was changed.`, {
        action: { label: 'Undo', onClick: () => void undo(saved.id) },
        duration: 12_000,
      });
  };
  const off = !view.mayChange;
  const ready = Object.entries(READY_ORDERS).find(
    ([, rules]) => JSON.stringify(rules) === JSON.stringify(settings.order),
  )?.[0] as keyof typeof ORDER_NAMES | undefined;
  const sentences = useMemo(() => queueSentences(asSettings(draft), names), [draft, names]);
  return (
    <div className="flex min-w-0 flex-col gap-3" role="form" aria-label={kept?.settings.name ?? 'New queue'}>
      {notes}
      <div className="flex flex-wrap items-center gap-2">
        <h1 className="text-title">{settings.name || 'New queue'}</h1>
        <ChannelMarks channels={settings.channels} />
        <Pill>
          answer {goal.percent}% within {goal.seconds} s
        </Pill>
        {settings.offering.way === 'claim' && <Pill tone="tide">taken from a list</Pill>}
        {settings.offering.way === 'ring-all' && <Pill tone="tide">rings {settings.offering.most} at once</Pill>}
        <span className="ml-auto flex flex-wrap items-center gap-2">
          {!off && view.queues.length > 1 && (
            <Button small onClick={() => setDialog('copy')}>
              Copy from…
            </Button>
          )}
          <Button small onClick={() => setDialog('hear')}>
            What a {channel === 'voice' ? 'caller hears' : 'customer reads'}
          </Button>
          <Button small onClick={() => setDialog('who')}>
            Who would get it
          </Button>
          {changed && (
            <Button small onClick={gathered.undo}>
              {kept ? 'Undo changes' : 'Forget it'}
            </Button>
          )}
          {!off && kept && draft.id !== null && (
            <RemoveButton
              small
              kind="queue"
              id={draft.id}
              name={kept.settings.name}
              onRemoved={() => void gathered.settled(draft.id, view.queues.find((q) => q.id !== draft.id)?.id ?? null)}
            />
          )}
          <LaterButton small kind="queue" gathered={gathered} shape={QUEUE_SHAPE} />
          {!off && (
            <Button kind="primary" disabled={!changed || busy} onClick={() => void apply()}>
              {kept ? (changed ? 'Apply from the next visit' : 'Nothing changed') : 'Add the queue'}
            </Button>
          )}
        </span>
      </div>
      {Object.keys(faults).length > 0 && (
        <p role="alert" className="rounded-control bg-clay-wash px-3 py-1.5 text-small text-clay">
          {Object.values(faults).join('; ')}
        </p>
      )}
      <Panel className="px-4 py-3" label="While someone waits">
        <div className="mb-1 flex items-baseline gap-2">
          <h2 className="text-panel">While someone waits</h2>
          <p className="text-small text-ink-2">one clock for what they hear and who may take them</p>
          <span className="ml-auto flex items-center gap-2">
            {view.mayChange && others.length > 0 && (
              <Select
                compact
                aria-label={`Copy the clock of another channel to ${CHANNEL_NAMES[channel].name}`}
                value=""
                onChange={(chosen) => {
                  const from = others.find((c) => c === chosen);
                  if (!from) return;
                  const stages = copiedTo(channel, settings.clocks[from] ?? []);
                  set({ clocks: { ...settings.clocks, [channel]: stages } });
                  toast.success(
                    `The clock of ${CHANNEL_NAMES[from].name} joined your changes; look at it before you apply.`,
                  );
                }}
              >
                <option value="">Copy the clock of…</option>
                {options(others, (c) => CHANNEL_NAMES[c].name)}
              </Select>
            )}
            <Select
              aria-label="Channel of the clock"
              className="!w-32 !py-1 text-small"
              value={channel}
              onChange={(chosen) => {
                const c = settings.channels.find((x) => x === chosen);
                if (c) setPicked(c);
              }}
            >
              {options(settings.channels, (c) => CHANNEL_NAMES[c].name)}
            </Select>
          </span>
        </div>
        <WaitClock
          key={channel}
          queueId={draft.id ?? ''}
          channel={channel}
          stages={settings.clocks[channel] ?? []}
          needs={settings.needs}
          goalSeconds={goal.seconds}
          counts={mine}
          view={view}
          disabled={off}
          busiest={
            counts?.busiestAt
              ? `the busiest hour, ${asDayTime(counts.busiestAt, counts.zone).replace(/ \d+ \w+,?/, '')}`
              : null
          }
          onChange={(stages) => set({ clocks: { ...settings.clocks, [channel]: stages } })}
          joined={settings.connect}
          onJoined={(connect) => set({ connect })}
        />
      </Panel>
      <div className="grid gap-3 lg:grid-cols-3">
        <Card title="Picks the person by" onOpen={() => setDialog('order')} off={off}>
          {ready && <li className="font-medium">{ORDER_NAMES[ready].name}</li>}
          {settings.familiar && <li>whoever knows the customer first, held {settings.familiar.holdSeconds} s</li>}
          {settings.order.map((rule, i) => (
            <li key={rule}>
              <b>{i + 1}.</b> {i > 0 && 'then '}
              {RULE_WORDS[rule].name}
            </li>
          ))}
        </Card>
        <Card title="After the contact" onOpen={() => setDialog('after')} off={off}>
          <li>{wrapUpWords(settings.wrapUp)}</li>
          <li>
            {settings.outcomes === null
              ? `All outcomes (${view.outcomes.length})`
              : `${settings.outcomes.length} of ${view.outcomes.length} outcomes`}
          </li>
        </Card>
        <Card title="If it goes wrong" onOpen={() => setDialog('rules')} off={off}>
          {settings.entryRules.length === 0 ? (
            <li className="text-ink-2">Everybody who comes waits here.</li>
          ) : (
            settings.entryRules.slice(0, 4).map((rule, i) => (
              <li key={i}>
                <b>{conditionWords(rule).replace(/^./, (c) => c.toUpperCase())}</b> → {onwardWords(rule.then, names)}
              </li>
            ))
          )}
          {settings.entryRules.length > 4 && <li className="text-ink-2">and {settings.entryRules.length - 4} more</li>}
        </Card>
      </div>
      <div className="grid gap-3 lg:grid-cols-3">
        <Card title="What it takes" onOpen={() => setDialog('takes')} off={off}>
          <li>{settings.channels.map((c) => CHANNEL_NAMES[c].name).join(', ')}</li>
          <li>
            {settings.hoursId === null
              ? 'Open whenever a door is'
              : `Open in ${view.hours.find((h) => h.id === settings.hoursId)?.name ?? 'hours that are gone'}`}
          </li>
          <li>
            {settings.needs.length === 0
              ? 'No skill is needed'
              : settings.needs
                  .map(
                    (n) =>
                      `${names.skill(n.skillId)} ${n.atLeast}${n.atMost === undefined ? '' : `–${n.atMost}`}${n.firm ? ' firm' : ''}`,
                  )
                  .join(', ')}
          </li>
        </Card>
        <Panel className="p-4 lg:col-span-2" label="In sentences">
          <h2 className="mb-1 text-panel">In sentences</h2>
          <ul className="flex flex-col gap-0.5 text-small">
            {sentences.map((s) => (
              <li key={s}>{s}</li>
            ))}
          </ul>
        </Panel>
      </div>
      {draft.id !== null && (
        <WhoTakes key={draft.id} queueId={draft.id} queues={view.queues.filter((q) => q.id !== draft.id)} />
      )}
      {dialog === 'copy' && (
        <CopyFrom
          view={view}
          own={draft.id}
          onClose={() => setDialog(null)}
          onCopy={(part) => {
            set(part);
            setDialog(null);
            toast.success('Copied into your changes; look at them before you apply.');
          }}
        />
      )}
      {dialog === 'hear' && (
        <HearIt
          stages={settings.clocks[channel] ?? []}
          channel={channel}
          languages={view.languages}
          music={view.music}
          onClose={() => setDialog(null)}
        />
      )}
      {dialog === 'who' && (
        <WhoGetsDialog draft={draft} view={view} channel={channel} onClose={() => setDialog(null)} />
      )}
      {(dialog === 'takes' || dialog === 'order' || dialog === 'after' || dialog === 'rules') && (
        <QueueDialogs
          which={dialog}
          settings={settings}
          view={view}
          own={draft.id}
          disabled={off}
          nameFault={faults.name}
          onChange={set}
          onClose={() => setDialog(null)}
        />
      )}
    </div>
  );
}

function Card({
  title,
  onOpen,
  off,
  children,
}: {
  title: string;
  onOpen: () => void;
  off: boolean;
  children: React.ReactNode;
}) {
  return (
    <Panel className="p-4" label={title}>
      <div className="mb-1 flex items-center">
        <h2 className="text-panel">{title}</h2>
        <Button
          small
          className="ml-auto"
          aria-label={`${off ? 'Look at' : 'Change'} ${title.toLowerCase()}`}
          onClick={onOpen}
        >
          {off ? 'Look' : 'Change'}
        </Button>
      </div>
      <ul className="flex flex-col gap-0.5 text-small">{children}</ul>
    </Panel>
  );
}
