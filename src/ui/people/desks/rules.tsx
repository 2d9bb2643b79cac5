'use client';

import { useState } from 'react';
import type { DeskRule } from '@/core/people/deskprofile';
import { isLevel } from '@/core/people/levels';
import type { DeskProfilesView } from '@/services/people/desklayout';
import { Button } from '../../kit/button';
import { call } from '../../kit/call';
import { Panel } from '../../kit/panel';
import { Picks } from '../../kit/picks';
import { useSaving } from '../../kit/saving';
import { options, Select } from '../../kit/select';
import { choiceOf, whoChoices, whoOf } from '../../kit/whochoice';

export function Rules({ view, onSaved }: { view: DeskProfilesView; onSaved: () => void }) {
  // What is changed here stays while helpers, which are kept with the rules, are turned on and off beside it.
  const [mine, setMine] = useState<{
    readonly base: readonly DeskRule[];
    readonly revision: number;
    readonly rules: readonly DeskRule[];
  } | null>(null);
  const rules = mine?.rules ?? view.rules;
  const setRules = (next: readonly DeskRule[]) =>
    setMine({ base: mine?.base ?? view.rules, revision: mine?.revision ?? view.rulesRevision, rules: next });
  const sameRules = mine === null || JSON.stringify(mine.base) === JSON.stringify(view.rules);
  const revision = sameRules ? view.rulesRevision : mine.revision;
  const names = new Map(
    [...view.teams, ...view.roles, ...view.skills, ...view.people, ...view.profiles].map((x) => [x.id, x.name]),
  );
  const { busy, save, conflict } = useSaving('save-desk-rules', {
    latest: async () => {
      const v = await call<DeskProfilesView>('/api/read/desks');
      return { revision: v.rulesRevision, rules: v.rules, helpers: v.helpers };
    },
    nameOf: (id) => names.get(id) ?? id,
    onTheirs: () => {
      setMine(null);
      onSaved();
    },
    onSaved,
  });
  const off = !view.mayChange;
  const changed = JSON.stringify(rules) !== JSON.stringify(view.rules);
  const put = (i: number, change: Partial<DeskRule>) =>
    setRules(rules.map((r, j) => (j === i ? { ...r, ...change } : r)));
  const swap = (i: number, by: number) => {
    const next = [...rules];
    const [a, b] = [next[i], next[i + by]];
    if (a && b) {
      next[i] = b;
      next[i + by] = a;
      setRules(next);
    }
  };
  return (
    <Panel className="p-4" label="Who gets which desk profile">
      {conflict}
      <div className="flex items-center gap-2">
        <h1 className="text-title">Who gets which Desk</h1>
        <span className="text-small text-ink-2">The first rule that fits wins.</span>
        {!off && (
          <span className="ml-auto flex gap-2">
            <Button
              small
              onClick={() =>
                setRules([...rules, { who: { by: 'everyone' }, exceptIds: [], profileId: view.profiles[0]?.id ?? '' }])
              }
              disabled={view.profiles.length === 0}
            >
              Add a rule
            </Button>
            <Button
              small
              kind="primary"
              disabled={busy || !changed}
              onClick={() =>
                void save({ revision, rules, helpers: view.helpers }, 'Rules saved; Desks follow at once.').then(
                  (ok) => {
                    if (!ok) return;
                    setMine(null);
                    onSaved();
                  },
                )
              }
            >
              Save the rules
            </Button>
          </span>
        )}
      </div>
      <ol className="mt-2">
        {rules.map((r, i) => (
          <li key={i} className="flex flex-wrap items-center gap-1.5 border-b border-rule py-1.5 text-small">
            <b className="w-5">{i + 1}</b>
            <Select
              aria-label={`Rule ${i + 1}: who`}
              disabled={off}
              value={choiceOf(r.who)}
              onChange={(chosen) => {
                const who = whoOf(chosen);
                if (who) put(i, { who });
              }}
              compact
            >
              {whoChoices(view)}
            </Select>
            {r.who.by === 'skill' && (
              <Select
                aria-label={`Rule ${i + 1}: at least`}
                disabled={off}
                value={r.who.atLeast}
                onChange={(chosen) => {
                  const n = Number(chosen);
                  if (r.who.by === 'skill' && isLevel(n)) put(i, { who: { ...r.who, atLeast: n } });
                }}
                compact
              >
                {[1, 2, 3, 4, 5].map((l) => (
                  <option key={l} value={l}>
                    {l} or more
                  </option>
                ))}
              </Select>
            )}
            <span className="text-ink-2">gets</span>
            <Select
              aria-label={`Rule ${i + 1}: profile`}
              disabled={off}
              value={r.profileId}
              onChange={(chosen) => put(i, { profileId: chosen })}
              compact
            >
              {options(view.profiles)}
            </Select>
            <span className="text-ink-2">but not</span>
            <Picks
              label={`Rule ${i + 1}: add an exception`}
              add={r.exceptIds.length === 0 ? 'nobody' : 'and…'}
              of={view.people}
              picked={r.exceptIds}
              onPicked={(exceptIds) => put(i, { exceptIds })}
              disabled={off}
              takeOut={(name) => `Take the exception ${name} out`}
            />
            <span className="ml-auto text-ink-2">{view.people.filter((p) => p.rule === i).length} people</span>
            {!off && (
              <span className="flex gap-1">
                <Button
                  small
                  kind="quiet"
                  aria-label={`Rule ${i + 1} up`}
                  disabled={i === 0}
                  onClick={() => swap(i, -1)}
                >
                  ↑
                </Button>
                <Button
                  small
                  kind="quiet"
                  aria-label={`Rule ${i + 1} down`}
                  disabled={i === rules.length - 1}
                  onClick={() => swap(i, 1)}
                >
                  ↓
                </Button>
                <Button
                  small
                  kind="quiet"
                  aria-label={`Remove rule ${i + 1}`}
                  onClick={() => setRules(rules.filter((_, j) => j !== i))}
                >
                  ×
                </Button>
              </span>
            )}
          </li>
        ))}
        {rules.length === 0 && <li className="py-2 text-small text-ink-2">No rule: everybody has the plain Desk.</li>}
      </ol>
    </Panel>
  );
}
