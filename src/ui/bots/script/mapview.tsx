'use client';

import { clsx } from 'clsx';
import { type PointerEvent, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import { relink } from '@/core/bots/edit';
import type { BotFault } from '@/core/bots/faults';
import { waysOf } from '@/core/bots/lineways';
import {
  alongside,
  END_WIDTH,
  LINE_HEIGHT,
  LINE_WIDTH,
  type MapArrow,
  mapOf,
  mapSvg,
  middleOf,
  pathOf,
  shortened,
} from '@/core/bots/map';
import { allSteps, type BotScript, lineNumber } from '@/core/bots/model';
import { leftShare, type Traffic } from '@/core/bots/traffic';
import { Button } from '../../kit/button';
import { download, fileName } from '../../kit/download';
import { asCount } from '../../kit/figures';
import { useAround } from './around';
import { CueSelect } from './cueselect';

/** What is drawn is never smaller than can be read, however wide the map. */
const LEAST_FIT = 0.6;

/**
 * The same script drawn: scenes as regions, ways as arrows, with faults and how customers went. What is chosen here
 * is chosen in the script. A way's end is dragged to another line, or set below the toolbar once its line is chosen.
 */
export function MapView({
  faults,
  traffic,
  chosen,
  running,
  onChosen,
  onChange,
}: {
  faults: readonly BotFault[];
  traffic: Traffic | null;
  chosen: ReadonlySet<string>;
  running: string | null;
  onChosen: (lines: ReadonlySet<string>) => void;
  onChange: (script: BotScript) => void;
}) {
  const { script, view, mayChange } = useAround();
  const map = useMemo(() => mapOf(script), [script]);
  const [held, setHeld] = useState<{ arrow: MapArrow; x: number; y: number } | null>(null);
  const [zoom, setZoom] = useState(1);
  const svg = useRef<SVGSVGElement>(null);
  const frame = useRef<HTMLDivElement>(null);
  const fit = (): number =>
    Math.min(1, Math.max(LEAST_FIT, ((frame.current?.clientWidth ?? map.width) - 16) / map.width));
  // Everyone starts in the first scene: it is the first thing seen, wherever the layout puts it.
  useLayoutEffect(() => {
    const first = map.regions[0];
    const fitting = fit();
    setZoom(fitting);
    requestAnimationFrame(() => {
      if (first && frame.current)
        frame.current.scrollTop = Math.min(
          first.y * fitting - 12,
          (first.y + first.height / 2) * fitting - frame.current.clientHeight / 2,
        );
    });
  }, []); // eslint-disable-line react-hooks/exhaustive-deps -- only when the map is opened
  const step = chosen.size === 1 ? allSteps(script).find((s) => chosen.has(s.id)) : undefined;
  const queueName = (id: string) => view.queues.find((q) => q.id === id)?.name ?? 'gone';
  const at = (e: PointerEvent) => {
    const box = svg.current?.getBoundingClientRect();
    return { x: (e.clientX - (box?.left ?? 0)) / zoom, y: (e.clientY - (box?.top ?? 0)) / zoom };
  };
  const lineAt = (p: { x: number; y: number }) =>
    map.lines.find((l) => p.x >= l.x && p.x <= l.x + LINE_WIDTH && p.y >= l.y && p.y <= l.y + LINE_HEIGHT);
  const mayDrag = (a: MapArrow) => mayChange && a.way !== 'next' && a.way !== 'person' && a.way !== 'end';
  const put = (arrow: MapArrow, lineId: string) => {
    onChange(relink(script, arrow.from, arrow.way, { to: 'line', lineId }));
    toast.message(
      `${lineNumber(script, arrow.from) ?? ''}, ${arrow.label}: goes to ${lineNumber(script, lineId) ?? ''}. Undo takes it back.`,
    );
  };
  const drop = (e: PointerEvent) => {
    if (!held) return;
    const target = lineAt(at(e));
    if (target && target.id !== held.arrow.to) put(held.arrow, target.id);
    setHeld(null);
  };
  return (
    <div className="flex h-full flex-col">
      <div className="flex items-center gap-2 border-b border-rule px-4 py-1.5 text-small text-ink-2">
        <span>
          {traffic && traffic.of > 0
            ? `${asCount(traffic.of)} conversations of the last 7 days`
            : 'No conversation in the last 7 days'}
        </span>
        {mayChange && <span className="text-tiny text-ink-3">drag the tip of a way to another line</span>}
        <span className="ml-auto flex items-center gap-1">
          <Button small kind="quiet" aria-label="Smaller" onClick={() => setZoom(Math.max(0.4, zoom / 1.2))}>
            −
          </Button>
          <span className="w-10 text-center">{Math.round(zoom * 100)}%</span>
          <Button small kind="quiet" aria-label="Larger" onClick={() => setZoom(Math.min(2, zoom * 1.2))}>
            +
          </Button>
          <Button small kind="quiet" onClick={() => setZoom(fit())}>
            Fit
          </Button>
          <Button
            small
            onClick={() => download(`${fileName(script.shownName)}.svg`, 'image/svg+xml', mapSvg(script, queueName))}
          >
            Take out as SVG
          </Button>
        </span>
      </div>
      {mayChange && step && waysOf(step).length > 0 && (
        <div
          role="group"
          aria-label={`Ways of ${lineNumber(script, step.id) ?? ''}`}
          className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule px-4 py-1.5 text-small"
        >
          <b>{lineNumber(script, step.id)}</b>
          {waysOf(step).map((way) => (
            <span key={way.key} className="inline-flex items-center gap-1.5">
              {way.label}
              <CueSelect
                label={`${way.label} goes to`}
                cue={way.cue}
                onChange={(cue) => {
                  if (cue) onChange(relink(script, step.id, way.key, cue));
                }}
              />
            </span>
          ))}
        </div>
      )}
      <div
        ref={frame}
        className="min-h-0 flex-1 overflow-auto"
        tabIndex={0}
        role="region"
        aria-label="Map of the script"
      >
        <svg
          ref={svg}
          width={map.width * zoom}
          height={map.height * zoom}
          viewBox={`0 0 ${map.width} ${map.height}`}
          className="select-none"
          onPointerMove={(e) => {
            if (held) setHeld({ ...held, ...at(e) });
          }}
          onPointerUp={drop}
          onPointerLeave={() => setHeld(null)}
        >
          <defs>
            <marker
              id="way-tip"
              viewBox="0 0 8 8"
              refX="7"
              refY="4"
              markerUnits="userSpaceOnUse"
              markerWidth="9"
              markerHeight="9"
              orient="auto"
            >
              <path d="M0 0L8 4L0 8z" className="fill-ink-3" />
            </marker>
          </defs>
          {map.regions.map((r) => (
            <g key={r.id}>
              <rect x={r.x} y={r.y} width={r.width} height={r.height} rx={10} className="fill-sunk stroke-rule" />
              <text x={r.x + 10} y={r.y + 17} className="fill-ink font-display text-[13px] font-semibold">
                {r.number} {shortened(r.name, 24)}
              </text>
            </g>
          ))}
          {map.arrows.map((a) => {
            const went = traffic?.ways[a.id] ?? 0;
            const tip = a.points.at(-1);
            const on = chosen.has(a.from) || chosen.has(a.to);
            return (
              <g key={a.id}>
                <path
                  d={pathOf(a.points)}
                  fill="none"
                  strokeWidth={1 + Math.min(4, Math.log2(1 + went) / 2)}
                  markerEnd="url(#way-tip)"
                  className={on ? 'stroke-plum' : 'stroke-ink-3/60'}
                >
                  <title>{`${a.label || 'next line'}${went > 0 ? `: ${went} went this way` : ''}`}</title>
                </path>
                {tip && mayDrag(a) && (
                  <circle
                    cx={tip.x - 4}
                    cy={tip.y}
                    r={6}
                    className="cursor-grab fill-transparent hover:fill-plum-2/40"
                    onPointerDown={(e) => {
                      e.preventDefault();
                      setHeld({ arrow: a, ...at(e) });
                    }}
                  >
                    <title>{`Drag: ${a.label}`}</title>
                  </circle>
                )}
              </g>
            );
          })}
          {map.lines.map((l) => {
            const mine = faults.filter((f) => f.lineId === l.id);
            const stops = mine.some((f) => f.weight === 'stops');
            const left = traffic ? leftShare(traffic, l.id) : null;
            const leaves = left !== null && left >= 0.005;
            return (
              <g
                key={l.id}
                tabIndex={0}
                role="button"
                aria-pressed={chosen.has(l.id)}
                aria-label={`${l.number} ${l.verb} ${l.words}`}
                className="cursor-pointer outline-none [&:focus-visible>rect]:stroke-plum [&:focus-visible>rect]:stroke-[3]"
                onClick={() => onChosen(new Set([l.id]))}
                onKeyDown={(e) => {
                  if (e.key === 'Enter' || e.key === ' ') {
                    e.preventDefault();
                    onChosen(new Set([l.id]));
                  }
                }}
              >
                <rect
                  x={l.x}
                  y={l.y}
                  width={LINE_WIDTH}
                  height={LINE_HEIGHT}
                  rx={6}
                  strokeWidth={chosen.has(l.id) ? 2 : 1}
                  className={clsx(
                    running === l.id ? 'fill-chosen' : stops ? 'fill-clay-wash' : 'fill-sheet',
                    chosen.has(l.id)
                      ? 'stroke-plum'
                      : stops
                        ? 'stroke-clay'
                        : mine.length > 0
                          ? 'stroke-brass-2'
                          : 'stroke-rule-strong',
                  )}
                />
                <text x={l.x + 8} y={l.y + 14} className="fill-plum font-display text-[12px] font-semibold">
                  {l.number} {l.verb}
                </text>
                <text x={l.x + 8} y={l.y + 27} className="fill-ink-2 text-[10.5px]">
                  {shortened(l.words, leaves ? 19 : 32)}
                </text>
                {leaves && (
                  <text x={l.x + LINE_WIDTH - 8} y={l.y + 27} textAnchor="end" className="fill-clay text-[10px]">
                    {Math.round(left * 100)}% left here
                  </text>
                )}
                <title>{[l.words, ...mine.map((f) => f.sentence)].join('\n')}</title>
              </g>
            );
          })}
          {map.arrows.map((a) => {
            const group = alongside(map.arrows, a);
            const went = group.reduce((n, x) => n + (traffic?.ways[x.id] ?? 0), 0);
            if (a !== group[0] || went === 0 || !group.some((x) => x.label)) return null;
            // Above the ways that stand apart, on the side where they are low.
            const fan = group.length > 1 && a.points.length > 2;
            const aside = fan && (a.points[0]?.y ?? 0) > (a.points.at(-1)?.y ?? 0);
            return (
              <text
                key={a.id}
                x={middleOf((group.at(-1) ?? a).points).x + (aside ? -4 : 6)}
                y={middleOf(a.points).y + (fan ? -5 : 3)}
                textAnchor={aside ? 'end' : 'start'}
                className="pointer-events-none fill-ink-2 stroke-sheet stroke-[3] text-[10px] [paint-order:stroke]"
              >
                {asCount(went)}
              </text>
            );
          })}
          {map.ends.map((e) => (
            <g key={e.id}>
              <rect
                x={e.x}
                y={e.y}
                width={END_WIDTH}
                height={LINE_HEIGHT}
                rx={17}
                className="fill-plum-wash stroke-plum"
              />
              <text x={e.x + END_WIDTH / 2} y={e.y + 21} textAnchor="middle" className="fill-plum text-[12px]">
                {shortened(e.id === 'end' ? 'end' : queueName(e.label), 17)}
              </text>
            </g>
          ))}
          {held && (
            <path
              d={`M${held.arrow.points[0]?.x ?? 0} ${held.arrow.points[0]?.y ?? 0}L${held.x} ${held.y}`}
              className="stroke-plum"
              strokeWidth={2}
              strokeDasharray="4 3"
              fill="none"
            />
          )}
        </svg>
      </div>
    </div>
  );
}
