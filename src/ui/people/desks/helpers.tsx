'use client';

import { type Helper, HELPER_IDS, HELPERS } from '@/core/people/deskprofile';
import type { DeskProfilesView } from '@/services/people/desklayout';
import { Button } from '../../kit/button';
import { doing } from '../../kit/doing';
import { Panel, Pill } from '../../kit/panel';

/** What helps at Desks: on which of them, and off everywhere, or on again, by one press. */
export function Helpers({ view, onDone }: { view: DeskProfilesView; onDone: () => void }) {
  const turn = (helper: Helper, on: boolean) =>
    void doing(
      'save-desk-rules',
      {
        revision: view.rulesRevision,
        rules: view.rules,
        helpers: on ? [...view.helpers, helper] : view.helpers.filter((h) => h !== helper),
      },
      on ? `${HELPERS[helper].name} is on again.` : `${HELPERS[helper].name} is off at every Desk.`,
    ).then((done) => done && onDone());
  return (
    <Panel className="p-4" label="Helpers">
      <h2 className="text-panel">Helpers</h2>
      <ul className="mt-1">
        {HELPER_IDS.map((h) => {
          const on = view.helpers.includes(h);
          const where = view.profiles.filter((p) => p.helpers.includes(h)).map((p) => p.name);
          return (
            <li key={h} className="flex items-center gap-3 border-b border-rule py-1.5 text-small last:border-b-0">
              <b className="font-medium">{HELPERS[h].name}</b>
              <span className="min-w-0 flex-1 truncate text-ink-2">{HELPERS[h].says}</span>
              {!on && <Pill tone="warn">off everywhere</Pill>}
              {on && <span className="text-ink-2">{where.length === 0 ? 'on no Desk' : where.join(', ')}</span>}
              {view.mayChange && (
                <Button small onClick={() => turn(h, !on)}>
                  {on ? 'Off everywhere' : 'On again'}
                </Button>
              )}
            </li>
          );
        })}
      </ul>
    </Panel>
  );
}
