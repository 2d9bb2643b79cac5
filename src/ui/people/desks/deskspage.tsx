'use client';

import { useState } from 'react';
import { DESK_PANELS, helperBar, HELPERS } from '@/core/people/deskprofile';
import type { DeskProfilesView } from '@/services/people/desklayout';
import { Button } from '../../kit/button';
import { useLive } from '../../kit/live';
import { Panel, Pill } from '../../kit/panel';
import { StopNav } from '../../lane/stopnav';
import { Helpers } from './helpers';
import { ProfileDialog } from './profiledialog';
import { Rules } from './rules';
import { StockDialog } from './stockdialog';

/** Desk profiles: what a Desk shows at each moment, and the ordered rules by which people get them. */
export function DesksPage({
  initial,
  profile,
  set,
  languages,
}: {
  initial: DeskProfilesView;
  profile: string | null;
  set: string | null;
  languages: readonly string[];
}) {
  const { data, refetch } = useLive<DeskProfilesView>('/api/read/desks', ['settings.changed'], initial);
  const view = data ?? initial;
  const [open, setOpen] = useState<string | 'new' | null>(profile);
  const [stock, setStock] = useState<string | 'new' | null>(set);
  const again = () => void refetch();
  return (
    <main className="flex h-[calc(100vh-64px)] min-h-[560px] flex-col">
      <StopNav stop="People" />
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_340px] gap-3 overflow-y-auto px-4 pt-2 pb-4">
        <div className="flex min-w-0 flex-col gap-3">
          <Rules view={view} onSaved={again} />
          <Panel className="p-4" label="Desk profiles">
            <div className="flex items-center gap-2">
              <h2 className="text-panel">Desk profiles</h2>
              <span className="text-small text-ink-2">
                Hiding is not forbidding: what somebody may do is set by their role.
              </span>
              {view.mayChange && (
                <Button small className="ml-auto" onClick={() => setOpen('new')}>
                  New profile
                </Button>
              )}
            </div>
            <div className="mt-2 grid gap-2 xl:grid-cols-3">
              {view.profiles.map((p) => (
                <button
                  key={p.id}
                  type="button"
                  onClick={() => setOpen(p.id)}
                  className="flex flex-col justify-start rounded-control border border-rule px-3 py-2 text-left hover:bg-sunk"
                >
                  <span className="flex items-center gap-2">
                    <b className="font-display">{p.name}</b>
                    <Pill>{p.people.length} people</Pill>
                  </span>
                  <span className="mt-1 block text-small text-ink-2">
                    While talking:{' '}
                    {p.panels.talking.map((x) => DESK_PANELS[x].name.toLowerCase()).join(', ') ||
                      'nothing beside the conversation'}
                    .
                  </span>
                  <span className="block text-small text-ink-2">
                    {p.helpers.length === 0
                      ? 'No helpers.'
                      : `Helpers: ${p.helpers
                          .map(
                            (h) =>
                              HELPERS[h].name.toLowerCase() + (helperBar(h, p, new Set(view.helpers)) ? ' (off)' : ''),
                          )
                          .join(', ')}.`}
                  </span>
                </button>
              ))}
            </div>
          </Panel>
          <Helpers view={view} onDone={again} />
          <Panel className="p-4" label="Stock replies">
            <div className="flex items-center gap-2">
              <h2 className="text-panel">Stock replies</h2>
              {view.mayChange && (
                <Button small className="ml-auto" onClick={() => setStock('new')}>
                  New set
                </Button>
              )}
            </div>
            <ul className="mt-1">
              {view.sets.map((s) => (
                <li key={s.id} className="flex items-center gap-3 border-b border-rule py-1.5 text-small">
                  <button type="button" className="font-medium" onClick={() => setStock(s.id)}>
                    {s.name}
                  </button>
                  <span className="min-w-0 flex-1 truncate text-ink-2">{s.replies.map((r) => r.title).join(', ')}</span>
                  <span className="text-ink-2">{s.replies.length}</span>
                </li>
              ))}
            </ul>
          </Panel>
        </div>
        <Panel className="min-h-0 self-start p-4" label="Who got which">
          <h2 className="text-panel">Who got which, and by which rule</h2>
          <ul className="mt-2 max-h-[560px] overflow-y-auto" tabIndex={0} aria-label="People and their desk profiles">
            {view.people.map((p) => (
              <li key={p.id} className="flex items-center gap-2 border-b border-rule py-1 text-small">
                <span className="min-w-0 flex-1 truncate">{p.name}</span>
                <span className="truncate">{p.profile}</span>
                <span className="w-12 text-right text-ink-2">{p.rule === null ? 'no rule' : `rule ${p.rule + 1}`}</span>
              </li>
            ))}
          </ul>
        </Panel>
      </div>
      {open !== null && (
        <ProfileDialog
          view={view}
          profile={open === 'new' ? null : (view.profiles.find((p) => p.id === open) ?? null)}
          onClose={() => setOpen(null)}
          onSaved={() => {
            setOpen(null);
            again();
          }}
        />
      )}
      {stock !== null && (
        <StockDialog
          set={stock === 'new' ? null : (view.sets.find((s) => s.id === stock) ?? null)}
          languages={languages}
          fields={view.fields}
          uses={view.uses}
          mayChange={view.mayChange}
          onClose={() => setStock(null)}
          onSaved={() => {
            setStock(null);
            again();
          }}
        />
      )}
    </main>
  );
}
