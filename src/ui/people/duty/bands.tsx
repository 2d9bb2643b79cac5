'use client';

import {
  DndContext,
  type DragEndEvent,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { clsx } from 'clsx';
import { type KeyboardEvent, useEffect, useState } from 'react';
import { type Channel, CHANNEL_NAMES } from '@/core/channels';
import { BANDS, type DutyRow, putInBand } from '@/core/people/duty';
import type { DutyView } from '@/services/people/dutyview';
import { ChannelMark } from '../../kit/channelmark';
import { KeyHints } from '../../kit/keys';

/**
 * Rows of one queue in one band that wait equally long stand together; moving them moves all, or only the channels
 * picked in it.
 */
export type Group = {
  readonly key: string;
  readonly queueId: string;
  readonly band: number;
  readonly delaySeconds: number;
  readonly channels: readonly Channel[];
};

export function groupsOf(view: DutyView, rows: readonly DutyRow[]): Group[] {
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

export function Bands({
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
          drag between bands, or <KeyHints hints={[['↑ ↓ 1–5', '; pick channel marks to move only those']]} />
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
}: {
  group: Group;
  name: string;
  off: boolean;
  picked: ReadonlySet<string>;
  onPress: (e: KeyboardEvent) => void;
  onPick: (c: Channel) => void;
}) {
  const { setNodeRef, listeners, transform, isDragging } = useDraggable({ id: group.key, disabled: off });
  return (
    <div
      ref={setNodeRef}
      {...listeners}
      data-chip={group.key}
      role="group"
      tabIndex={off ? -1 : 0}
      aria-label={
        `${name} by ${group.channels.map((c) => CHANNEL_NAMES[c].name).join(', ')}, ` +
        `${group.band === 0 ? 'not taken' : `band ${group.band}`}`
      }
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
      {group.band > 0 && group.delaySeconds > 0 && (
        <span className="text-tiny text-ink-2">after {group.delaySeconds} s</span>
      )}
    </div>
  );
}
