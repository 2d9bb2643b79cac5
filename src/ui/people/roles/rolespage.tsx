'use client';

import { useState } from 'react';
import { type Right, RIGHT_WORDS } from '@/core/people/rights';
import type { RolesView } from '@/services/people/roles';
import { Button } from '../../kit/button';
import { ListPanel, TwoLines } from '../../kit/list';
import { useLive } from '../../kit/live';
import { SidePanel } from '../../kit/panel';
import { options, Select } from '../../kit/select';
import { StopNav } from '../../lane/stopnav';
import { Access } from './access';
import { HandOn } from './handon';
import { firstOpen, listed, nameIn, useGathered } from '../../drafts/usegathered';
import { type Draft, draftOf, ROLE_SHAPE, RoleForm } from './roleform';

/**
 * What each role may do and for which teams; built-in ones stand, copies are changed; and what one person can see and
 * do.
 */
export function RolesPage({
  initial,
  role,
  person,
}: {
  initial: RolesView;
  role: string | null;
  person: string | null;
}) {
  const { data, refetch } = useLive<RolesView>('/api/read/roles', ['settings.changed'], initial);
  const view = data ?? initial;
  const gathered = useGathered<Draft>({
    kind: 'role',
    act: 'save-role',
    things: view.roles.map(draftOf),
    shape: ROLE_SHAPE,
    first: firstOpen(view.roles, role),
    refetch,
    nameOf: (id) => (id in RIGHT_WORDS ? RIGHT_WORDS[id as Right] : nameIn(view.teams)(id)),
  });
  const { draft } = gathered;
  const [who, setWho] = useState<string | null>(person ?? view.me);
  const [handing, setHanding] = useState(false);
  return (
    <main className="flex h-[calc(100vh-64px)] min-h-[560px] flex-col">
      <StopNav stop="People" />
      <div className="grid min-h-0 flex-1 grid-cols-[230px_minmax(0,1fr)_340px] gap-3 px-4 pt-2 pb-4">
        <ListPanel
          title="Roles"
          className="min-h-0 !self-stretch overflow-y-auto"
          things={view.roles}
          {...listed(gathered)}
          line={(r) => (
            <TwoLines name={r.name}>
              {r.people.length} {r.people.length === 1 ? 'person' : 'people'}
              {r.builtIn && ' · built in'}
            </TwoLines>
          )}
          foot={view.isOwner && <Button onClick={() => setHanding(true)}>Hand ownership on…</Button>}
        />
        {draft && (
          <RoleForm
            key={draft.id ?? 'new'}
            gathered={gathered}
            view={view}
            kept={view.roles.find((r) => r.id === draft.id)}
            draft={draft}
          />
        )}
        <SidePanel label="What one person can see and do">
          <h2 className="text-panel">What can one person see and do?</h2>
          <Select
            aria-label="Person"
            className="mt-2"
            value={who ?? ''}
            onChange={(chosen) => setWho(chosen === '' ? null : chosen)}
          >
            <option value="">Choose a person…</option>
            {options(view.people)}
          </Select>
          {who !== null && <Access personId={who} />}
        </SidePanel>
      </div>
      {handing && <HandOn view={view} onClose={() => setHanding(false)} />}
    </main>
  );
}
