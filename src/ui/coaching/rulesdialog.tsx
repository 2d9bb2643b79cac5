'use client';

import { type FormEvent, useState } from 'react';
import { DRAW_RULES, DRAW_WORDS } from '@/core/people/coaching';
import type { CoachingView } from '@/services/coaching/coachingviews';
import { Button } from '../kit/button';
import { Dialog } from '../kit/dialog';
import { doing } from '../kit/doing';
import { Field, Input } from '../kit/field';

type Draft = { readonly id: string | null; readonly name: string; readonly words: string };

/** Words the points by which conversations are rated, and says how many are drawn. */
export function RulesDialog({
  rules,
  onClose,
  onChanged,
}: {
  rules: CoachingView['rules'];
  onClose: () => void;
  onChanged: () => void;
}) {
  const [points, setPoints] = useState<readonly Draft[]>(rules.points);
  const [byChance, setByChance] = useState(rules.byChance);
  const [byRule, setByRule] = useState(rules.byRule);
  const set = (i: number, change: Partial<Draft>) =>
    setPoints(points.map((point, at) => (at === i ? { ...point, ...change } : point)));
  const keep = (event: FormEvent) => {
    event.preventDefault();
    void doing(
      'save-coaching',
      {
        revision: rules.revision,
        points: points.map(({ id, name, words }) => ({ id, name: name.trim(), words: words.trim() })),
        byChance,
        byRule,
      },
      'What is rated is kept.',
    ).then((done) => {
      if (!done) return;
      onClose();
      onChanged();
    });
  };
  const number = (label: string, value: number, onChange: (n: number) => void) => (
    <Field key={label} label={label}>
      {(p) => (
        <Input
          {...p}
          type="number"
          min={0}
          max={20}
          required
          value={value}
          onChange={(e) => onChange(Number(e.target.value))}
        />
      )}
    </Field>
  );
  return (
    <Dialog
      open
      onClose={onClose}
      wide
      title="What is rated"
      description="Ratings given so far keep the words that they were given by. Changes can be undone in History."
    >
      <form onSubmit={keep} className="flex flex-col gap-3">
        <ul className="flex flex-col gap-1.5">
          {points.map((point, i) => (
            <li key={point.id ?? `new ${i}`} className="flex gap-2">
              <Input
                aria-label={`Name of point ${i + 1}`}
                className="w-36! shrink-0"
                required
                maxLength={40}
                value={point.name}
                onChange={(e) => set(i, { name: e.target.value })}
              />
              <Input
                aria-label={`What point ${i + 1} asks`}
                className="flex-1"
                maxLength={300}
                value={point.words}
                onChange={(e) => set(i, { words: e.target.value })}
              />
              <Button
                small
                kind="quiet"
                aria-label={`Remove ${point.name || `point ${i + 1}`}`}
                disabled={points.length === 1}
                onClick={() => setPoints(points.filter((_, at) => at !== i))}
              >
                ×
              </Button>
            </li>
          ))}
        </ul>
        <Button
          small
          className="self-start"
          disabled={points.length >= 20}
          onClick={() => setPoints([...points, { id: null, name: '', words: '' }])}
        >
          Add a point
        </Button>
        <fieldset>
          <legend className="mb-1 text-small font-medium">Drawn of each person a month</legend>
          <div className="grid grid-cols-4 gap-3">
            {number(DRAW_WORDS.chance, byChance, setByChance)}
            {DRAW_RULES.map((rule) =>
              number(DRAW_WORDS[rule], byRule[rule], (n) => setByRule({ ...byRule, [rule]: n })),
            )}
          </div>
        </fieldset>
        <div className="flex gap-2">
          <Button kind="primary" type="submit" disabled={points.some((point) => point.name.trim() === '')}>
            Keep
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      </form>
    </Dialog>
  );
}
