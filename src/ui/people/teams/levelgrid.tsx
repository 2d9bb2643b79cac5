'use client';

import { isLevel, type Level, type Levels } from '@/core/people/levels';
import type { TeamsView } from '@/services/people/teamsview';
import { options, Select } from '../../kit/select';
import { CellInk } from '../matrix/cellink';

/** Levels by skill, each set or not. */
export function LevelGrid({
  view,
  levels,
  off,
  onLevels,
}: {
  view: TeamsView;
  levels: Levels;
  off: boolean;
  onLevels: (levels: Levels) => void;
}) {
  const set = (skillId: string, value: number) => {
    const rest = Object.fromEntries(Object.entries(levels).filter(([k]) => k !== skillId)) as Record<string, Level>;
    onLevels(isLevel(value) ? { ...rest, [skillId]: value } : rest);
  };
  return (
    <div className="mt-1 grid grid-cols-2 gap-x-6 xl:grid-cols-3">
      {view.skills.map((s) => (
        <label key={s.id} className="flex items-center gap-2 border-b border-rule py-1 text-small">
          <span className="w-9">
            <CellInk cell={levels[s.id] ? { level: levels[s.id] ?? 0, from: 'team' } : undefined} />
          </span>
          <span className="min-w-0 flex-1 truncate">{s.name}</span>
          <Select
            aria-label={`${s.name}: level`}
            disabled={off}
            value={levels[s.id] ?? 0}
            onChange={(chosen) => set(s.id, Number(chosen))}
            compact
          >
            <option value={0}>–</option>
            {options([1, 2, 3, 4, 5])}
          </Select>
        </label>
      ))}
    </div>
  );
}
