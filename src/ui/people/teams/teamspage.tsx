'use client';

import { useState } from 'react';
import type { TeamsView } from '@/services/people/teamsview';
import { Button } from '../../kit/button';
import { Lines } from '../../kit/list';
import { useLive } from '../../kit/live';
import { Empty, SidePanel } from '../../kit/panel';
import { StopNav } from '../../lane/stopnav';
import { RetiredList } from '../../removing/retiredlist';
import { SetForm } from './setform';
import { SiteForm } from './siteform';
import { SkillForm } from './skillform';
import { TeamForm } from './teamform';
import type { Kind } from './thing';

type Chosen = { readonly kind: Kind; readonly id: string | null };

const KINDS: readonly { readonly kind: Kind; readonly name: string; readonly one: string }[] = [
  { kind: 'team', name: 'Teams', one: 'team' },
  { kind: 'skill', name: 'Skills', one: 'skill' },
  { kind: 'skill-set', name: 'Skill sets', one: 'skill set' },
  { kind: 'site', name: 'Sites', one: 'site' },
];

/** Teams, skills, skill sets and sites: what gives people their levels, and where their days begin. */
export function TeamsPage({ initial, chosen: asked }: { initial: TeamsView; chosen: Chosen | null }) {
  const { data, refetch } = useLive<TeamsView>('/api/read/teams', ['settings.changed'], initial);
  const view = data ?? initial;
  const [chosen, setChosen] = useState<Chosen>(asked ?? { kind: 'team', id: view.teams[0]?.id ?? null });
  const lists: Readonly<Record<Kind, readonly { id: string; name: string }[]>> = {
    team: view.teams,
    skill: view.skills,
    'skill-set': view.sets,
    site: view.sites,
  };
  const note = (kind: Kind, id: string): string => {
    if (kind === 'team') return `${view.teams.find((t) => t.id === id)?.members ?? 0} people`;
    if (kind === 'site') return `${view.sites.find((t) => t.id === id)?.people ?? 0} people`;
    if (kind === 'skill') return view.skills.find((s) => s.id === id)?.kind ?? '';
    return `${Object.keys(view.sets.find((s) => s.id === id)?.levels ?? {}).length} skills`;
  };
  const done = (kind: Kind, id: string | null) =>
    void refetch().then((r) =>
      setChosen({
        kind,
        id:
          id ??
          { team: r.data?.teams, skill: r.data?.skills, 'skill-set': r.data?.sets, site: r.data?.sites }[kind]?.[0]
            ?.id ??
          null,
      }),
    );
  const props = { view, onDone: (id: string | null) => done(chosen.kind, id) };
  const key = `${chosen.kind} ${chosen.id ?? 'new'}`;
  const there = lists[chosen.kind].find((x) => x.id === chosen.id);
  return (
    <main className="flex h-[calc(100vh-64px)] min-h-[560px] flex-col">
      <StopNav stop="People" />
      <div className="grid min-h-0 flex-1 grid-cols-[260px_minmax(0,1fr)] gap-3 px-4 pt-2 pb-4">
        <SidePanel label="Teams, skills, sets and sites">
          {KINDS.map(({ kind, name, one }) => (
            <section key={kind} className="mb-3">
              <div className="flex items-center px-1">
                <h2 className="flex-1 text-panel">{name}</h2>
                {view.mayChange && (
                  <Button small kind="quiet" aria-label={`New ${one}`} onClick={() => setChosen({ kind, id: null })}>
                    New
                  </Button>
                )}
              </div>
              <Lines
                things={lists[kind]}
                openId={chosen.kind === kind ? chosen.id : null}
                onOpen={(x) => setChosen({ kind, id: x.id })}
                line={(x) => (
                  <>
                    <span className="min-w-0 flex-1 truncate text-small">{x.name}</span>
                    <span className="text-tiny text-ink-2">{note(kind, x.id)}</span>
                  </>
                )}
              />
              {(kind === 'team' || kind === 'skill') && (
                <RetiredList kind={kind} onBack={(id) => setChosen({ kind, id })} />
              )}
              {lists[kind].length === 0 && <p className="px-2 text-small text-ink-3">none yet</p>}
            </section>
          ))}
        </SidePanel>
        <SidePanel label={there?.name ?? 'New'}>
          {chosen.id !== null && !there ? (
            <Empty title="It is not there any more">Choose another on the left.</Empty>
          ) : chosen.kind === 'team' ? (
            <TeamForm key={key} {...props} team={view.teams.find((t) => t.id === chosen.id) ?? null} />
          ) : chosen.kind === 'skill-set' ? (
            <SetForm key={key} {...props} set={view.sets.find((s) => s.id === chosen.id) ?? null} />
          ) : chosen.kind === 'site' ? (
            <SiteForm key={key} {...props} site={view.sites.find((s) => s.id === chosen.id) ?? null} />
          ) : (
            <SkillForm key={key} {...props} skill={view.skills.find((s) => s.id === chosen.id) ?? null} />
          )}
        </SidePanel>
      </div>
    </main>
  );
}
