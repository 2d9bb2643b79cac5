'use client';

import { useRouter } from 'next/navigation';
import { type FormEvent, useState } from 'react';
import type { ShownGoal } from '@/services/review/figuregoals';
import type { FigureWords } from '@/services/review/figures';
import { Button } from '../kit/button';
import { Dialog } from '../kit/dialog';
import { doing } from '../kit/doing';
import { Field, Input } from '../kit/field';
import { Select } from '../kit/select';

const UNITS = { share: '%', seconds: 'seconds', count: '', stars: '1 to 5' } as const;

/** Sets what somebody or a team is to reach in a figure; its chart has a line there. */
export function GoalButton({
  kind,
  of,
  figure,
  goal,
}: {
  kind: 'people' | 'teams';
  of: string;
  figure: FigureWords;
  goal: ShownGoal | undefined;
}) {
  const router = useRouter();
  const [open, setOpen] = useState(false);
  const shown = (value: number) => (figure.unit === 'share' ? Math.round(value * 1000) / 10 : value);
  const [bound, setBound] = useState(
    goal?.bound ?? (figure.moreIsBetter === false || figure.unit === 'seconds' ? 'most' : 'least'),
  );
  const [value, setValue] = useState(goal ? String(shown(goal.value)) : '');
  const set = (to: number | null, said: string) =>
    void doing('set-figure-goal', { kind, of, measure: figure.id, bound, value: to }, said).then((done) => {
      if (!done) return;
      setOpen(false);
      router.refresh();
    });
  const keep = (event: FormEvent) => {
    event.preventDefault();
    set(figure.unit === 'share' ? Number(value) / 100 : Number(value), 'The goal is set.');
  };
  return (
    <>
      <Button small onClick={() => setOpen(true)}>
        {goal ? 'Goal…' : 'Set a goal…'}
      </Button>
      <Dialog
        open={open}
        onClose={() => setOpen(false)}
        title={`A goal for ${figure.name.toLowerCase()}`}
        description={
          kind === 'people'
            ? 'For this person; without one of their own, their team’s holds. Its line stands in the chart.'
            : 'For the team, and for each of its people who has none of their own. Its line stands in the chart.'
        }
      >
        <form onSubmit={keep} className="flex flex-col gap-3">
          <div className="grid grid-cols-2 gap-3">
            <Field label="Reached with">
              {(p) => (
                <Select {...p} value={bound} onChange={(v) => setBound(v as ShownGoal['bound'])}>
                  <option value="least">at least</option>
                  <option value="most">at most</option>
                </Select>
              )}
            </Field>
            <Field label={`Value${UNITS[figure.unit] ? ` (${UNITS[figure.unit]})` : ''}`}>
              {(p) => (
                <Input
                  {...p}
                  type="number"
                  required
                  min={0}
                  max={figure.unit === 'share' ? 100 : figure.unit === 'stars' ? 5 : 1_000_000}
                  step="any"
                  value={value}
                  onChange={(e) => setValue(e.target.value)}
                />
              )}
            </Field>
          </div>
          <div className="flex gap-2">
            <Button kind="primary" type="submit" disabled={value === ''}>
              Set it
            </Button>
            {goal?.own && <Button onClick={() => set(null, 'The goal is gone.')}>Take it away</Button>}
            <Button onClick={() => setOpen(false)}>Cancel</Button>
          </div>
        </form>
      </Dialog>
    </>
  );
}
