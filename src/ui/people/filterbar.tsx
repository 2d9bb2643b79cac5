'use client';

import { useState } from 'react';
import type { PeopleView } from '@/services/people/peopleview';
import { Button } from '../kit/button';
import { Dialog } from '../kit/dialog';
import { doing } from '../kit/doing';
import { Field, Input } from '../kit/field';
import { Filters, FilterText } from '../kit/filters';
import { options, Select } from '../kit/select';
import { NO_FILTER, type PeopleFilter, STATE_CHOICES } from './filter';

/** Narrows by text, team, skill, level and state; a filter can be kept by name. */
export function FilterBar({
  view,
  filter,
  onFilter,
  shown,
}: {
  view: PeopleView;
  filter: PeopleFilter;
  onFilter: (f: PeopleFilter) => void;
  shown: number;
}) {
  const [naming, setNaming] = useState<string | null>(null);
  const set = (change: Partial<PeopleFilter>) => onFilter({ ...filter, ...change });
  const plain = JSON.stringify(filter) === JSON.stringify(NO_FILTER);
  const kept = view.filters.find((f) => JSON.stringify({ ...NO_FILTER, ...f.filter }) === JSON.stringify(filter));
  return (
    <Filters label="Narrow people" className="px-4 pt-2">
      <FilterText label="Find a person" value={filter.text} onChange={(text) => set({ text })} />
      <Select aria-label="Team" value={filter.team} onChange={(chosen) => set({ team: chosen })} compact>
        <option value="">All teams</option>
        {options(view.teams)}
      </Select>
      <Select
        aria-label="Skill"
        value={filter.skill}
        onChange={(chosen) => set({ skill: chosen, level: chosen === '' ? '' : filter.level })}
        compact
      >
        <option value="">Any skill</option>
        {options(view.skills)}
      </Select>
      {filter.skill !== '' && (
        <Select aria-label="At least level" value={filter.level} onChange={(chosen) => set({ level: chosen })} compact>
          {[1, 2, 3, 4, 5].map((l) => (
            <option key={l} value={l === 1 ? '' : l}>
              {l} or more
            </option>
          ))}
        </Select>
      )}
      <Select aria-label="State" value={filter.state} onChange={(chosen) => set({ state: chosen })} compact>
        <option value="">Any state</option>
        {STATE_CHOICES.map(([id, name]) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </Select>
      {!plain && (
        <>
          <span className="text-small text-ink-2" role="status">
            {shown} shown
          </span>
          <Button small kind="quiet" onClick={() => onFilter(NO_FILTER)}>
            Clear
          </Button>
        </>
      )}
      {view.filters.length > 0 && (
        <Select
          aria-label="Kept filters"
          value={kept?.id ?? ''}
          onChange={(chosen) => {
            const f = view.filters.find((x) => x.id === chosen);
            if (f) onFilter({ ...NO_FILTER, ...f.filter });
          }}
          compact
        >
          <option value="">Kept filters…</option>
          {options(view.filters)}
        </Select>
      )}
      {!plain && !kept && (
        <Button small kind="quiet" onClick={() => setNaming('')}>
          Keep this filter
        </Button>
      )}
      {kept && (
        <Button small kind="quiet" onClick={() => void doing('drop-filter', { id: kept.id }, `${kept.name} is gone.`)}>
          Forget it
        </Button>
      )}
      {naming !== null && (
        <Dialog open onClose={() => setNaming(null)} title="Keep this filter">
          <form
            onSubmit={(e) => {
              e.preventDefault();
              void doing('keep-filter', { id: null, name: naming.trim(), filter }, `Kept as ${naming.trim()}.`);
              setNaming(null);
            }}
          >
            <Field label="Name">
              {(p) => (
                <Input
                  {...p}
                  autoFocus
                  required
                  maxLength={60}
                  value={naming}
                  onChange={(e) => setNaming(e.target.value)}
                />
              )}
            </Field>
            <div className="mt-3">
              <Button kind="primary" type="submit" disabled={naming.trim() === ''}>
                Keep
              </Button>
            </div>
          </form>
        </Dialog>
      )}
    </Filters>
  );
}
