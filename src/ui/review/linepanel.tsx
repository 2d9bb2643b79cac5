'use client';

import dynamic from 'next/dynamic';
import type { ReactNode } from 'react';
import type { ShownGoal } from '@/services/review/figuregoals';
import type { Figure, Line } from '@/services/review/figures';
import { Button } from '../kit/button';
import { asFigure, asShortDay } from '../kit/figures';
import { Link } from '../kit/link';
import { Empty, Panel } from '../kit/panel';

/** The drawing comes when it is looked at: it is most of the page's script. */
const FigureLine = dynamic(() => import('./linechart'), {
  ssr: false,
  loading: () => <p className="pt-14 text-center text-small text-ink-2">Drawing…</p>,
});

const THROUGH = { hour: 'by hour', day: 'by day', week: 'by week' } as const;
const hourName = (hour: number) => `${String(hour).padStart(2, '0')}:00`;

/** One figure: what it is, its line through the range, and the way to its contacts. */
export function LinePanel({
  figure,
  line,
  goal,
  tools,
  onOpen,
}: {
  figure: Figure;
  line: Line;
  /** What is to be reached in it. */
  goal?: ShownGoal | undefined;
  tools?: ReactNode;
  onOpen: () => void;
}) {
  const points = line.points.map((p) => ({
    name: p.hour === null ? asShortDay(p.day) : hourName(p.hour),
    value: p.values[figure.id] ?? null,
    before: p.before[figure.id] ?? null,
  }));
  const known = points.some((p) => p.value !== null);
  return (
    <Panel className="p-4" label={`${figure.name}, ${THROUGH[line.unit]}`}>
      <div className="flex items-baseline gap-2">
        <h2 className="text-panel">{figure.name}</h2>
        <span className="text-small text-ink-2">
          {THROUGH[line.unit]} · dashed: the range before
          {goal && ` · ${goal.own ? 'goal' : 'the team’s goal'}: at ${goal.bound} ${asFigure(goal.value, figure.unit)}`}
        </span>
        <span className="ml-auto flex gap-2 print:hidden">
          {tools}
          <Button small onClick={onOpen}>
            See the contacts
          </Button>
        </span>
      </div>
      {known ? (
        <div
          className="h-[150px]"
          role="img"
          aria-label={points.map((p) => `${p.name} ${asFigure(p.value, figure.unit)}`).join(', ')}
        >
          <FigureLine points={points} unit={figure.unit} goal={goal?.value ?? null} />
        </div>
      ) : (
        <Empty title="Nothing to draw in this range" />
      )}
      <p className="mt-1 text-tiny text-ink-2">
        {figure.formula} {figure.note}{' '}
        <Link className="text-plum underline print:hidden" href={`/review/figures#${figure.id}`}>
          All figures explained
        </Link>
      </p>
    </Panel>
  );
}
