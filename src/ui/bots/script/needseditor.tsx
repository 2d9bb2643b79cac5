'use client';

import { type Level, LEVELS } from '@/core/people/levels';
import type { Need } from '@/core/routing/needs';
import { Button } from '../../kit/button';
import { options, Select } from '../../kit/select';
import { useAround } from './around';

const without = ({ atMost: _gone, ...need }: Need): Need => need;
/** Another least level; a highest that would be below it is lifted to it. */
const raised = (need: Need, atLeast: Level): Need => ({
  ...need,
  atLeast,
  ...(need.atMost !== undefined && need.atMost < atLeast ? { atMost: atLeast } : {}),
});

export function NeedsEditor({
  label,
  needs,
  onChange,
}: {
  label: string;
  needs: readonly Need[];
  onChange: (needs: readonly Need[]) => void;
}) {
  const { view } = useAround();
  const unused = view.skills.filter((s) => !needs.some((n) => n.skillId === s.id));
  return (
    <>
      {needs.map((n) => {
        const name = view.skills.find((s) => s.id === n.skillId)?.name ?? 'a skill that is gone';
        return (
          <span
            key={n.skillId}
            className="inline-flex items-center gap-1 rounded-control border border-rule px-2 py-0.5 text-small"
          >
            {name}
            <Select
              aria-label={`Level of ${name}`}
              compact
              value={n.atLeast}
              onChange={(chosen) => onChange(needs.map((x) => (x === n ? raised(n, Number(chosen) as Level) : x)))}
            >
              {LEVELS.map((l) => (
                <option key={l} value={l}>
                  at least {l}
                </option>
              ))}
            </Select>
            <Select
              aria-label={`Highest level of ${name}`}
              compact
              value={n.atMost ?? ''}
              onChange={(chosen) =>
                onChange(
                  needs.map((x) =>
                    x === n ? { ...without(n), ...(chosen === '' ? {} : { atMost: Number(chosen) as Level }) } : x,
                  ),
                )
              }
            >
              <option value="">or higher</option>
              {LEVELS.filter((l) => l >= n.atLeast).map((l) => (
                <option key={l} value={l}>
                  at most {l}
                </option>
              ))}
            </Select>
            <Button
              small
              kind="quiet"
              aria-label={`Remove ${name}`}
              onClick={() => onChange(needs.filter((x) => x !== n))}
            >
              ×
            </Button>
          </span>
        );
      })}
      <Select
        aria-label={label}
        className="!w-24 !py-1 text-small"
        value=""
        onChange={(chosen) => {
          if (chosen) onChange([...needs, { skillId: chosen, atLeast: 3 }]);
        }}
      >
        <option value="">need…</option>
        {options(unused)}
      </Select>
    </>
  );
}
