'use client';

import { clsx } from 'clsx';
import { cueWords } from '@/core/bots/edit';
import { allSteps, type Cue, lineNumber } from '@/core/bots/model';
import { Select } from '../../kit/select';
import { useAround } from './around';

const cueValue = (cue: Cue | null): string =>
  cue === null
    ? ''
    : cue.to === 'line'
      ? `line:${cue.lineId}`
      : cue.to === 'scene'
        ? `scene:${cue.sceneId}`
        : cue.to === 'shared'
          ? `shared:${cue.sharedId}`
          : cue.to;

function cueFrom(text: string): Cue | null {
  const [to = '', ...rest] = text.split(':');
  const id = rest.join(':');
  return to === 'line'
    ? { to, lineId: id }
    : to === 'scene'
      ? { to, sceneId: id }
      : to === 'shared'
        ? { to, sharedId: id }
        : to === 'next' || to === 'end'
          ? { to }
          : null;
}

export const useCueWords = (): ((cue: Cue) => string | null) => {
  const { script, view } = useAround();
  return (cue) => cueWords(script, cue, (id) => view.shared.find((s) => s.id === id)?.name ?? null);
};

/** Where a way goes, chosen among lines, scenes and shared scenes. */
export function CueSelect({
  label,
  cue,
  none,
  onChange,
}: {
  label: string;
  cue: Cue | null;
  none?: string;
  onChange: (cue: Cue | null) => void;
}) {
  const { script, view } = useAround();
  const words = useCueWords();
  return (
    <Select
      aria-label={label}
      className={clsx('!w-44 !py-1 text-small', cue !== null && words(cue) === null && '!border-clay')}
      value={cueValue(cue)}
      onChange={(chosen) => onChange(cueFrom(chosen))}
    >
      {cue !== null && words(cue) === null && <option value={cueValue(cue)}>gone</option>}
      {(none !== undefined || cue === null) && <option value="">{none ?? 'nowhere yet'}</option>}
      <option value="next">→ next line</option>
      <option value="end">→ end</option>
      <optgroup label="Scenes">
        {script.scenes.map((s, i) => (
          <option key={s.id} value={`scene:${s.id}`}>
            → {i + 1} {s.name}
          </option>
        ))}
      </optgroup>
      {view.shared.length > 0 && (
        <optgroup label="Shared scenes, and back">
          {view.shared.map((s) => (
            <option key={s.id} value={`shared:${s.id}`}>
              → {s.name}
            </option>
          ))}
        </optgroup>
      )}
      <optgroup label="Lines">
        {allSteps(script).map((s) => (
          <option key={s.id} value={`line:${s.id}`}>
            → {lineNumber(script, s.id)}
          </option>
        ))}
      </optgroup>
    </Select>
  );
}
