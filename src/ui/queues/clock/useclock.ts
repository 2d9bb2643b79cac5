import { type KeyboardEvent, type PointerEvent, useLayoutEffect, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import type { Stage, StageAct } from '@/core/routing/clock';
import { type ActPlace, addAct, moveAct, removeAct } from '@/core/routing/clockedit';
import { marksUpTo } from './axis';
import { clockEnd, type Segment } from '@/core/routing/clocksegments';

export type Clock = ReturnType<typeof useClock>;

/**
 * The time axis of a wait clock and what is done on it: an act is moved by dragging, by the arrow keys (5 s, with
 * Shift 1 s) or by typing its seconds, where Enter leads; Delete takes it out. What moved or was added keeps the
 * focus.
 */
export function useClock(
  stages: readonly Stage[],
  goalSeconds: number,
  disabled: boolean,
  onChange: (stages: readonly Stage[]) => void,
) {
  const [chosen, setChosen] = useState<ActPlace | null>(null);
  const track = useRef<HTMLDivElement>(null);
  const root = useRef<HTMLDivElement>(null);
  const [moved, setMoved] = useState<ActPlace | null>(null);
  const added = useRef<ActPlace | null>(null);
  const dragging = useRef<{ place: ActPlace; from: number; moved: boolean } | null>(null);
  const [dragEnd, setDragEnd] = useState<number | null>(null);
  const end = dragEnd ?? clockEnd(stages, goalSeconds);
  const at = (s: number) => `${(Math.min(s, end) / end) * 100}%`;
  const width = (s: Segment) => `${(Math.max(0, Math.min(s.to, end) - s.from) / end) * 100}%`;
  const marks = marksUpTo(end);

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

  const later = Math.min(86_400, (stages.at(-1)?.atSeconds ?? 0) + 30);
  return {
    root,
    track,
    chosen,
    setChosen,
    end,
    at,
    width,
    marks,
    later,
    disabled,
    add,
    onMenuClosed,
    onKey,
    onDown,
    onMove,
    onUp,
    remove,
    moveTo: (place: ActPlace, to: number) => follow(move(place, to)),
  };
}
