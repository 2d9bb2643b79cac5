'use client';

import { clsx } from 'clsx';
import { type KeyboardEvent, type PointerEvent, type ReactNode, useLayoutEffect, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import type { Channel } from '@/core/channels';
import { localised } from '@/core/localised';
import type { Stage, StageAct } from '@/core/routing/clock';
import type { ClockCount } from '@/core/routing/clockcounts';
import { actAt, type ActPlace, addAct, moveAct, removeAct } from '@/core/routing/clockedit';
import {
  alsoHappens,
  clockEnd,
  hears,
  loosenedOnly,
  mayChoose,
  mustKnow,
  type Segment,
  whoIsAdded,
} from '@/core/routing/clocksegments';
import type { Need } from '@/core/routing/needs';
import { onwardWords } from '@/core/routing/queuesentence';
import { loopName, LOOPS } from '@/core/sound/loops';
import type { QueuesView } from '@/services/queues/queuesview';
import { namesIn } from '../draft';
import { ActEditor } from './acteditor';
import { Row } from './row';

const LEVEL_INK = [
  '',
  'bg-level-1 text-on-level',
  'bg-level-2 text-on-level',
  'bg-level-3 text-on-level',
  'bg-level-4 text-on-level-deep',
  'bg-level-5 text-on-level-deep',
];

const CHOICES = { keep: 'keep waiting', callback: 'call me back', message: 'leave a message' } as const;

/** Round distances between marks of the time axis, seconds. */
const STEPS = [5, 10, 15, 30, 60, 120, 300, 600, 1800, 3600, 14_400];

const secondsWords = (s: number): string =>
  s < 60 ? `${s} s` : s < 3600 ? `${+(s / 60).toFixed(1)} min` : `${+(s / 3600).toFixed(1)} h`;

type Props = {
  readonly queueId: string;
  readonly channel: Channel;
  readonly stages: readonly Stage[];
  readonly needs: readonly Need[];
  readonly goalSeconds: number;
  readonly counts: readonly ClockCount[] | null;
  readonly busiest: string | null;
  readonly view: QueuesView;
  readonly disabled: boolean;
  readonly onChange: (stages: readonly Stage[]) => void;
};

/**
 * Everything that happens to somebody who waits, on one time axis. An act is moved by dragging it, by the arrow keys (5 s, with
 * Shift 1 s) or by typing its seconds below, where Enter leads; Delete takes it out.
 */
export function WaitClock({ channel, stages, needs, goalSeconds, counts, busiest, view, disabled, onChange }: Props) {
  const [chosen, setChosen] = useState<ActPlace | null>(null);
  const track = useRef<HTMLDivElement>(null);
  const root = useRef<HTMLDivElement>(null);
  const [moved, setMoved] = useState<ActPlace | null>(null);
  const added = useRef<ActPlace | null>(null);
  const dragging = useRef<{ place: ActPlace; from: number; moved: boolean } | null>(null);
  const names = namesIn(view);
  const [dragEnd, setDragEnd] = useState<number | null>(null);
  const end = dragEnd ?? clockEnd(stages, goalSeconds);
  const at = (s: number) => `${(Math.min(s, end) / end) * 100}%`;
  const width = (s: Segment) => `${(Math.max(0, Math.min(s.to, end) - s.from) / end) * 100}%`;
  const step = STEPS.find((s) => end / s <= 6) ?? end;
  const marks = Array.from({ length: Math.floor(end / step) + 1 }, (_, i) => i * step);
  const act = actAt(stages, chosen);
  const handed = loosenedOnly(needs, stages, end);

  const focusOn = (place: ActPlace) =>
    root.current?.querySelector<HTMLElement>(`[data-act="${place.stage}.${place.act}"]`)?.focus();
  // The block that moved is another element now: the focus goes with it, before another key can be pressed.
  useLayoutEffect(() => {
    if (moved) focusOn(moved);
  }, [moved]);
  const follow = (place: ActPlace | null) => setMoved(place && { ...place });

  const move = (place: ActPlace, to: number): ActPlace | null => {
    const after = moveAct(stages, place, to);
    onChange(after.stages);
    setChosen(after.place);
    return after.place;
  };
  const add = (fresh: StageAct, atSeconds: number) => {
    const after = addAct(stages, atSeconds, fresh);
    onChange(after.stages);
    setChosen(after.place);
    added.current = after.place;
  };
  /** What was added has the focus when its menu has closed, not the button that opened it. */
  const onMenuClosed = (event: Event) => {
    if (!added.current) return;
    event.preventDefault();
    focusOn(added.current);
    added.current = null;
  };
  const remove = (place: ActPlace) => {
    onChange(removeAct(stages, place));
    setChosen(null);
  };
  const onKey = (event: KeyboardEvent, place: ActPlace) => {
    const second = stages[place.stage]?.atSeconds ?? 0;
    const by = event.shiftKey ? 1 : 5;
    if (disabled) return;
    if (event.key === 'ArrowRight' || event.key === 'ArrowLeft') {
      event.preventDefault();
      follow(move(place, second + (event.key === 'ArrowRight' ? by : -by)));
    } else if (event.key === 'Enter') {
      event.preventDefault();
      flushSync(() => setChosen(place));
      root.current?.querySelector<HTMLElement>('[aria-label="At second"]')?.focus();
    } else if (event.key === 'Delete' || event.key === 'Backspace') {
      event.preventDefault();
      remove(place);
    }
  };
  const onDown = (event: PointerEvent, place: ActPlace) => {
    setChosen(place);
    if (disabled || event.button !== 0) return;
    dragging.current = {
      place,
      from: event.clientX - ((stages[place.stage]?.atSeconds ?? 0) / end) * (track.current?.clientWidth ?? 1),
      moved: false,
    };
    setDragEnd(end);
    track.current?.setPointerCapture(event.pointerId);
  };
  const onMove = (event: PointerEvent) => {
    const drag = dragging.current;
    if (!drag) return;
    const seconds = ((event.clientX - drag.from) / (track.current?.clientWidth ?? 1)) * end;
    const snapped = Math.max(0, Math.round(seconds / 5) * 5);
    if (snapped === stages[drag.place.stage]?.atSeconds) return;
    drag.moved = true;
    const place = move(drag.place, snapped);
    if (place) drag.place = place;
  };
  const onUp = () => {
    dragging.current = null;
    setDragEnd(null);
  };

  const block = (s: Segment & { readonly key: string }, look: string, words: ReactNode, label: string) => {
    const { place } = s;
    const style = { left: at(s.from), width: `calc(${width(s)} - 3px)` };
    const base = clsx(
      'absolute top-0 h-7 overflow-hidden rounded-[7px] px-2 text-left text-small leading-7 text-ellipsis whitespace-nowrap',
      look,
    );
    if (!place)
      return (
        <span key={s.key} className={base} style={style} title={label}>
          {words}
        </span>
      );
    const on = chosen?.stage === place.stage && chosen.act === place.act;
    return (
      <button
        key={s.key}
        type="button"
        data-act={`${place.stage}.${place.act}`}
        aria-pressed={on}
        aria-label={`${label}, at ${s.from} s`}
        title={`${label}, at ${s.from} s`}
        style={style}
        className={clsx(base, !disabled && 'cursor-ew-resize touch-none', on && 'ring-2 ring-ink')}
        onFocus={() => setChosen(place)}
        onClick={() => setChosen(place)}
        onPointerDown={(e) => onDown(e, place)}
        onKeyDown={(e) => onKey(e, place)}
      >
        {words}
      </button>
    );
  };
  const tallest = Math.max(1, ...(counts ?? []).map((c) => Math.max(c.able, c.onDuty)));
  const cutCounts = (counts ?? []).filter((c) => c.atSeconds < end);
  const later = Math.min(86_400, (stages.at(-1)?.atSeconds ?? 0) + 30);
  const unasked = (does: 'add-group' | 'add-partner') =>
    (does === 'add-group' ? view.groups : view.partners).filter(
      (g) =>
        !stages.some((s) =>
          s.acts.some(
            (a) => (a.does === 'add-group' && a.groupId === g.id) || (a.does === 'add-partner' && a.partnerId === g.id),
          ),
        ),
    );

  return (
    <div ref={root}>
      <div className="grid grid-cols-[132px_minmax(0,1fr)]">
        <span />
        <div className="relative mr-6 h-6 text-tiny text-ink-2" aria-hidden>
          {marks
            .filter((m) => Math.abs(m - goalSeconds) > end / 18)
            .map((m) => (
              <span key={m} className="absolute -translate-x-1/2 whitespace-nowrap" style={{ left: at(m) }}>
                {secondsWords(m)}
              </span>
            ))}
          <span
            className="absolute -translate-x-1/2 font-semibold whitespace-nowrap text-clay"
            style={{ left: at(goalSeconds) }}
          >
            {secondsWords(goalSeconds)} goal
          </span>
        </div>
      </div>
      <div className="relative" onPointerMove={onMove} onPointerUp={onUp} onPointerCancel={onUp}>
        <div className="pointer-events-none absolute inset-y-0 right-6 left-[132px]" ref={track} aria-hidden>
          {marks.map((m) => (
            <span key={m} className="absolute inset-y-0 w-px bg-rule" style={{ left: at(m) }} />
          ))}
          <span className="absolute inset-y-0 z-10 w-[2px] -translate-x-px bg-clay" style={{ left: at(goalSeconds) }} />
        </div>
        <Row
          name="Hears"
          says="messages and music"
          disabled={disabled}
          onMenuClosed={onMenuClosed}
          adds={[
            ['A message', () => add({ does: 'say', wording: {}, everySeconds: null }, stages.length === 0 ? 0 : later)],
            ...LOOPS.map((l): [string, () => void] => [
              `Music: ${l.name}`,
              () => add({ does: 'play', music: l.id }, stages.length === 0 ? 0 : later),
            ]),
          ]}
        >
          {[
            hears(stages, end, view.languages[0] ?? 'en').map((s, i) =>
              s.kind === 'say'
                ? block(
                    { ...s, key: `say${i}` },
                    'bg-plum text-on-plum',
                    localised(s.wording, view.languages[0] ?? 'en', view.languages) || 'no words yet',
                    `Message “${localised(s.wording, view.languages[0] ?? 'en', view.languages)}”`,
                  )
                : block(
                    { ...s, key: `music${i}` },
                    'bg-plum-wash text-ink',
                    `♪ ${loopName(s.music)}`,
                    loopName(s.music),
                  ),
            ),
          ]}
        </Row>
        <Row
          name="May choose"
          says={channel === 'voice' ? 'keys offered' : 'buttons offered'}
          disabled={disabled}
          onMenuClosed={onMenuClosed}
          adds={[
            [
              'A question',
              () =>
                add(
                  {
                    does: 'ask',
                    wording: {},
                    choices: [
                      { key: '1', what: 'keep' },
                      { key: '2', what: 'callback' },
                    ],
                    everySeconds: null,
                  },
                  Math.max(30, later),
                ),
            ],
          ]}
        >
          {[
            mayChoose(stages, end).map((s, i) => {
              const words = s.act.choices.map((c) => `${c.key} ${CHOICES[c.what]}`).join(' · ');
              return block({ ...s, key: `ask${i}` }, 'bg-brass-wash text-brass-ink', words, `Question: ${words}`);
            }),
          ]}
        </Row>
        <Row
          name="Must know"
          says="level at least"
          disabled={disabled}
          onMenuClosed={onMenuClosed}
          adds={[
            ...needs.filter((n) => !n.firm).map((n) => n.skillId),
            ...view.skills
              .filter((s) => s.kind === 'language' && !needs.some((n) => n.skillId === s.id))
              .map((s) => s.id),
          ].map((skillId): [string, () => void] => [
            `Loosen ${names.skill(skillId)}`,
            () => add({ does: 'lower', skillId, by: 1 }, Math.max(15, later)),
          ])}
        >
          {needs.length === 0 && handed.length === 0
            ? [
                [
                  <span key="none" className="absolute top-0 h-7 text-small leading-7 text-ink-3">
                    no skill is needed
                  </span>,
                ],
              ]
            : mustKnow(needs, stages, end)
                .map(({ skillId, segments }) =>
                  segments.map((s, i) =>
                    block(
                      { ...s, key: `${skillId}${i}` },
                      s.atLeast < 1
                        ? 'border border-dashed border-level-team text-ink-2'
                        : (LEVEL_INK[s.atLeast] ?? ''),
                      s.atLeast < 1
                        ? `${names.skill(skillId)} not needed`
                        : `${names.skill(skillId)} ${s.atLeast}${s.atMost === null ? '' : ` to ${s.atMost}`}`,
                      `${names.skill(skillId)} ${s.atLeast < 1 ? 'not needed' : `at least ${s.atLeast}`}`,
                    ),
                  ),
                )
                .concat(
                  handed.map(({ skillId, segments }) =>
                    segments.map((s, i) =>
                      block(
                        { ...s, key: `handed${skillId}${i}` },
                        'border border-dashed border-level-team text-ink-2',
                        `${names.skill(skillId)} ${s.by} lower, if a bot asks for it`,
                        `${names.skill(skillId)} ${s.by} lower if handed over`,
                      ),
                    ),
                  ),
                )}
        </Row>
        <Row
          name="Who is asked"
          says="added over time"
          disabled={disabled}
          onMenuClosed={onMenuClosed}
          adds={[
            ...unasked('add-group').map((g): [string, () => void] => [
              `Group ${g.name}`,
              () => add({ does: 'add-group', groupId: g.id }, Math.max(30, later)),
            ]),
            ...(channel === 'voice'
              ? unasked('add-partner').map((p): [string, () => void] => [
                  `Partner desk ${p.name}`,
                  () => add({ does: 'add-partner', partnerId: p.id }, Math.max(30, later)),
                ])
              : []),
          ]}
        >
          {[
            [
              <span
                key="duty"
                className="absolute top-0 h-7 overflow-hidden rounded-[7px] bg-moss-wash px-2 text-small leading-7 text-ellipsis whitespace-nowrap text-moss"
                style={{ left: 0, width: 'calc(100% - 3px)' }}
              >
                by duty profile
                {counts?.[0] ? ` · ${counts[0].asked} people, ${counts[0].onDuty} skilled and on duty` : ''}
              </span>,
            ],
            ...(cutCounts.length > 1
              ? cutCounts
                  .slice(1)
                  .filter(
                    (c, i) =>
                      c.asked > (cutCounts[i]?.asked ?? 0) &&
                      !stages.some((s) => s.atSeconds === c.atSeconds && s.acts.some((a) => a.does === 'add-group')),
                  )
                  .map((c) => [
                    <span
                      key={`delay${c.atSeconds}`}
                      className="absolute top-0 h-7 overflow-hidden rounded-[7px] bg-moss-wash px-2 text-small leading-7 text-ellipsis whitespace-nowrap text-moss"
                      style={{ left: at(c.atSeconds), right: 3 }}
                    >
                      + {c.asked - (counts?.filter((x) => x.atSeconds < c.atSeconds).at(-1)?.asked ?? 0)} whose delay is
                      over
                    </span>,
                  ])
              : []),
            ...whoIsAdded(stages, end).map((s, i) => [
              block(
                { ...s, key: `who${i}` },
                s.act.does === 'add-group' ? 'bg-moss-wash text-moss' : 'bg-tide-wash text-tide',
                s.act.does === 'add-group' ? `+ ${names.group(s.act.groupId)}` : `+ ${names.partner(s.act.partnerId)}`,
                s.act.does === 'add-group'
                  ? `Group ${names.group(s.act.groupId)}`
                  : `Partner desk ${names.partner(s.act.partnerId)}`,
              ),
            ]),
          ]}
        </Row>
        {(alsoHappens(stages, end).length > 0 || !disabled) && (
          <Row
            name="And then"
            says="urgency, moving on"
            disabled={disabled}
            onMenuClosed={onMenuClosed}
            adds={[
              ['More urgent', () => add({ does: 'raise', by: 1 }, Math.max(30, later))],
              ['Move on', () => add({ does: 'move', onward: { to: 'message', wording: {} } }, Math.max(60, later))],
            ]}
          >
            {alsoHappens(stages, end).map((s, i) => [
              block(
                { ...s, key: `also${i}` },
                s.act.does === 'raise' ? 'bg-chosen text-ink' : 'bg-clay-wash text-clay',
                s.act.does === 'raise' ? `+${s.act.by} urgency` : `→ ${onwardWords(s.act.onward, names)}`,
                s.act.does === 'raise'
                  ? `Urgency rises by ${s.act.by}`
                  : `Moves on: ${onwardWords(s.act.onward, names)}`,
              ),
            ])}
          </Row>
        )}
        <div className="grid grid-cols-[132px_minmax(0,1fr)] pt-1">
          <div>
            <p className="text-small font-semibold">Able right now</p>
            <p className="text-small text-ink-2">of people on duty</p>
            {busiest && <p className="pr-2 text-tiny text-ink-3">dashed: {busiest}</p>}
          </div>
          <div
            className="relative mr-6 h-[74px] border-b border-rule"
            role="img"
            aria-label={
              counts
                ? cutCounts
                    .map(
                      (c) =>
                        `from ${c.atSeconds} s ${c.able} able of ${c.onDuty} on duty, ${c.busiest} in the busiest hour`,
                    )
                    .join('; ')
                : 'counting'
            }
          >
            {cutCounts.map((c, i) => {
              const to = cutCounts[i + 1]?.atSeconds ?? end;
              const high = Math.max(tallest, ...cutCounts.map((x) => x.busiest));
              return (
                <span
                  key={c.atSeconds}
                  className="absolute bottom-0"
                  style={{
                    left: at(c.atSeconds),
                    width: `calc(${((to - c.atSeconds) / end) * 100}% - 2px)`,
                    height: '100%',
                  }}
                >
                  <span
                    className={clsx('absolute bottom-0 w-full rounded-t-[4px]', c.able === 0 ? 'bg-clay' : 'bg-moss')}
                    style={{ height: `${Math.max(5, (c.able / high) * 54)}px` }}
                  />
                  {c.busiest > 0 && (
                    <span
                      className="absolute w-full border-t border-dashed border-ink-2"
                      style={{ bottom: `${(c.busiest / high) * 54}px` }}
                    />
                  )}
                  <span
                    className="absolute left-1.5 text-small font-bold"
                    style={{ bottom: `${Math.max(5, (c.able / high) * 54) + 1}px` }}
                  >
                    {c.able}
                    <span className="ml-1 text-tiny font-normal text-ink-2">of {c.onDuty}</span>
                  </span>
                </span>
              );
            })}
          </div>
        </div>
      </div>
      {chosen && act && (
        <ActEditor
          key={`${chosen.stage}.${chosen.act}.${act.does}`}
          act={act}
          place={chosen}
          stages={stages}
          channel={channel}
          view={view}
          disabled={disabled}
          onChange={onChange}
          onMove={(to) => follow(move(chosen, to))}
          onRemove={() => remove(chosen)}
          onClose={() => setChosen(null)}
        />
      )}
    </div>
  );
}
