'use client';

import { IMPORT_FIELD_IDS, IMPORT_FIELDS, type Target } from '@/core/people/importplan';
import type { ImportView } from '@/services/people/peopleimport';
import { Select } from '../../kit/select';

const keyOf = (t: Target): string => (t === null ? 'none' : 'field' in t ? `field ${t.field}` : `skill ${t.skillId}`);

const targetOf = (key: string): Target => {
  const [kind, id = ''] = key.split(' ');
  const field = IMPORT_FIELD_IDS.find((f) => f === id);
  return kind === 'field' && field ? { field } : kind === 'skill' ? { skillId: id } : null;
};

/** Which column of the file holds what; nothing is meant by two of them. */
export function ImportColumns({
  view,
  skills,
  disabled,
  onTargets,
}: {
  view: ImportView;
  skills: readonly { id: string; name: string }[];
  disabled: boolean;
  onTargets: (targets: readonly Target[]) => void;
}) {
  return (
    <details className="mt-2" open={view.targets.every((t) => t === null)}>
      <summary className="text-small font-medium text-ink-2">
        Columns: {view.targets.filter((t) => t !== null).length} of {view.header.length} are read
      </summary>
      <div className="mt-1 grid max-h-40 grid-cols-3 gap-x-4 gap-y-1 overflow-y-auto xl:grid-cols-5">
        {view.header.map((h, i) => (
          <label key={i} className="flex items-center gap-1.5 text-small">
            <span className="w-24 truncate" title={h}>
              {h || `column ${i + 1}`}
            </span>
            <Select
              aria-label={`${h || `column ${i + 1}`} is`}
              disabled={disabled}
              value={keyOf(view.targets[i] ?? null)}
              onChange={(chosen) =>
                onTargets(view.targets.map((t, j) => (j === i ? targetOf(chosen) : keyOf(t) === chosen ? null : t)))
              }
              compact
              className="min-w-0 flex-1"
            >
              <option value="none">not read</option>
              {IMPORT_FIELD_IDS.map((f) => (
                <option key={f} value={`field ${f}`}>
                  {IMPORT_FIELDS[f].label}
                </option>
              ))}
              {skills.map((s) => (
                <option key={s.id} value={`skill ${s.id}`}>
                  {s.name}
                </option>
              ))}
            </Select>
          </label>
        ))}
      </div>
    </details>
  );
}
