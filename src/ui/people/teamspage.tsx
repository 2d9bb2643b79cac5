'use client';

import { clsx } from 'clsx';
import Link from 'next/link';
import { useState } from 'react';
import { toast } from 'sonner';
import { isLevel, SKILL_KINDS, type Level, type Levels } from '@/core/people/levels';
import type { PeopleView } from '@/services/people/people';
import type { SetDetail, SiteDetail, SkillDetail, TeamDetail, TeamsView } from '@/services/people/teams';
import { Button } from '../kit/button';
import { call, sentence, setting } from '../kit/call';
import { Check, Field, Input, Select } from '../kit/field';
import { useLive } from '../kit/live';
import { Looking } from '../kit/looking';
import { Empty, Panel, Pill } from '../kit/panel';
import { useSaving } from '../kit/saving';
import { CellInk } from './skillsmatrix';
import { StopNav } from '../lane/stopnav';

type Kind = 'team' | 'skill' | 'skill-set' | 'site';
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
        <Panel className="min-h-0 overflow-y-auto p-3" label="Teams, skills, sets and sites">
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
              <ul>
                {lists[kind].map((x) => (
                  <li key={x.id}>
                    <button
                      type="button"
                      aria-current={chosen.kind === kind && chosen.id === x.id ? 'true' : undefined}
                      onClick={() => setChosen({ kind, id: x.id })}
                      className={clsx(
                        'flex w-full items-center gap-2 rounded-control px-2 py-1 text-left text-small',
                        chosen.kind === kind && chosen.id === x.id ? 'bg-chosen' : 'hover:bg-sunk',
                      )}
                    >
                      <span className="min-w-0 flex-1 truncate">{x.name}</span>
                      <span className="text-tiny text-ink-2">{note(kind, x.id)}</span>
                    </button>
                  </li>
                ))}
              </ul>
              {lists[kind].length === 0 && <p className="px-2 text-small text-ink-3">none yet</p>}
            </section>
          ))}
        </Panel>
        <Panel className="min-h-0 overflow-y-auto p-5" label={there?.name ?? 'New'}>
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
        </Panel>
      </div>
    </main>
  );
}

type FormProps = { readonly view: TeamsView; readonly onDone: (id: string | null) => void };
/** Saving and removing one thing of a kind, with both versions shown when somebody else changed it. */
function useThing(
  kind: Kind,
  act: string,
  id: string | null,
  view: TeamsView,
  pick: (v: TeamsView) => { revision: number } | undefined,
  onDone: (id: string | null) => void,
) {
  const names = new Map(
    [...view.teams, ...view.skills, ...view.sets, ...view.sites, ...view.people].map((x) => [x.id, x.name]),
  );
  const saving = useSaving(act, {
    latest: async () => pick(await call<TeamsView>('/api/read/teams')),
    nameOf: (x) => names.get(x) ?? x,
    onTheirs: () => onDone(id),
    onSaved: (a) => onDone(a.id),
  });
  const remove = () => {
    setting('remove-thing', { kind, id }).then(
      () => {
        toast.success('Removed. History can bring it back.');
        onDone(null);
      },
      (error: unknown) => toast.error(sentence(error)),
    );
  };
  return { ...saving, remove };
}
const Foot = ({
  view,
  isNew,
  busy,
  onRemove,
}: {
  view: TeamsView;
  isNew: boolean;
  busy: boolean;
  onRemove: () => void;
}) =>
  view.mayChange ? (
    <div className="mt-4 flex gap-2">
      <Button kind="primary" type="submit" disabled={busy}>
        {isNew ? 'Add' : 'Save'}
      </Button>
      {!isNew && (
        <Button kind="quiet" onClick={onRemove}>
          Remove
        </Button>
      )}
    </div>
  ) : null;

/** Levels by skill, each set or not. */
function LevelGrid({
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
          <select
            aria-label={`${s.name}: level`}
            disabled={off}
            value={levels[s.id] ?? 0}
            onChange={(e) => set(s.id, Number(e.target.value))}
            className="rounded-control border border-rule-strong bg-sheet px-1 py-0.5"
          >
            <option value={0}>–</option>
            {[1, 2, 3, 4, 5].map((l) => (
              <option key={l} value={l}>
                {l}
              </option>
            ))}
          </select>
        </label>
      ))}
    </div>
  );
}
/** Zones to choose from, the present one among them whatever the list says. */
const zonesOf = (view: TeamsView, now: string): readonly string[] =>
  view.zones.includes(now) ? view.zones : [now, ...view.zones];

function TeamForm({ view, team, onDone }: FormProps & { team: TeamDetail | null }) {
  const [draft, setDraft] = useState<TeamDetail>(
    team ?? {
      id: '',
      name: '',
      zone: view.teams[0]?.zone ?? 'Europe/Dublin',
      levels: {},
      setIds: [],
      supervisorIds: [],
      members: 0,
      revision: 0,
    },
  );
  const [allSpeak, setAllSpeak] = useState(false);
  const { busy, faults, save, remove, conflict } = useThing(
    'team',
    'save-team',
    team?.id ?? null,
    view,
    (v) => v.teams.find((t) => t.id === team?.id),
    onDone,
  );
  const off = !view.mayChange;
  const set = (change: Partial<TeamDetail>) => setDraft({ ...draft, ...change });
  const languages = view.skills.filter((s) => s.kind === 'language' && draft.levels[s.id] && !team?.levels[s.id]);
  const submit = async () => {
    const done = await save(
      {
        id: team?.id ?? null,
        revision: draft.revision,
        name: draft.name.trim(),
        zone: draft.zone,
        levels: draft.levels,
        setIds: draft.setIds,
        supervisorIds: draft.supervisorIds,
        ...(allSpeak ? { allSpeak } : {}),
      },
      `${draft.name} saved; it counts from the next contact on.`,
    );
    if (done) onDone(done.id);
  };
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void submit();
      }}
    >
      {conflict}
      <div className="flex items-center gap-2">
        <h1 className="text-title">{team?.name ?? 'New team'}</h1>
        {team && <Pill>{team.members} people</Pill>}
      </div>
      <div className="mt-3 grid max-w-xl grid-cols-2 gap-3">
        <Field label="Name" fault={faults.name}>
          {(p) => (
            <Input {...p} required disabled={off} value={draft.name} onChange={(e) => set({ name: e.target.value })} />
          )}
        </Field>
        <Field label="Zone, for people without a site" fault={faults.zone}>
          {(p) => (
            <Select {...p} disabled={off} value={draft.zone} onChange={(e) => set({ zone: e.target.value })}>
              {zonesOf(view, draft.zone).map((z) => (
                <option key={z}>{z}</option>
              ))}
            </Select>
          )}
        </Field>
      </div>
      <h2 className="mt-4 text-panel">Gives its people</h2>
      <p className="text-small text-ink-2">A person’s own level always counts instead.</p>
      <LevelGrid view={view} levels={draft.levels} off={off} onLevels={(levels) => set({ levels })} />
      {languages.length > 0 && (
        <p className="mt-2 rounded-control bg-brass-wash px-3 py-2 text-small text-brass-ink">
          <Check
            label={`Everybody in this team speaks ${languages.map((l) => l.name).join(' and ')} equally well`}
            checked={allSpeak}
            onChange={(e) => setAllSpeak(e.target.checked)}
          />
        </p>
      )}
      {view.sets.length > 0 && (
        <>
          <h2 className="mt-4 text-panel">Skill sets</h2>
          <div className="mt-1 flex flex-wrap gap-x-4 gap-y-1">
            {view.sets.map((s) => (
              <Check
                key={s.id}
                label={s.name}
                disabled={off}
                checked={draft.setIds.includes(s.id)}
                onChange={(e) =>
                  set({ setIds: e.target.checked ? [...draft.setIds, s.id] : draft.setIds.filter((x) => x !== s.id) })
                }
              />
            ))}
          </div>
        </>
      )}
      <h2 className="mt-4 text-panel">Supervised by</h2>
      <div className="mt-1 flex flex-wrap items-center gap-1.5">
        {draft.supervisorIds.map((id) => (
          <span key={id} className="inline-flex items-center gap-1 rounded-full bg-sunk px-2.5 py-0.5 text-small">
            {view.people.find((p) => p.id === id)?.name ?? id}
            {!off && (
              <button
                type="button"
                aria-label={`Take ${view.people.find((p) => p.id === id)?.name ?? id} off`}
                onClick={() => set({ supervisorIds: draft.supervisorIds.filter((x) => x !== id) })}
              >
                ×
              </button>
            )}
          </span>
        ))}
        {!off && (
          <select
            aria-label="Add a supervisor"
            value=""
            onChange={(e) => {
              if (e.target.value) set({ supervisorIds: [...draft.supervisorIds, e.target.value] });
            }}
            className="rounded-control border border-rule-strong bg-sheet px-2 py-0.5 text-small"
          >
            <option value="">Add…</option>
            {view.people
              .filter((p) => !draft.supervisorIds.includes(p.id))
              .map((p) => (
                <option key={p.id} value={p.id}>
                  {p.name}
                </option>
              ))}
          </select>
        )}
        {draft.supervisorIds.length === 0 && <span className="text-small text-ink-2">nobody yet</span>}
      </div>
      <Foot view={view} isNew={!team} busy={busy} onRemove={remove} />
    </form>
  );
}

function SetForm({ view, set: kept, onDone }: FormProps & { set: SetDetail | null }) {
  const [draft, setDraft] = useState<SetDetail>(
    kept ?? { id: '', name: '', levels: {}, teamIds: [], personIds: [], revision: 0 },
  );
  const { busy, faults, save, remove, conflict } = useThing(
    'skill-set',
    'save-skill-set',
    kept?.id ?? null,
    view,
    (v) => v.sets.find((s) => s.id === kept?.id),
    onDone,
  );
  const off = !view.mayChange;
  const set = (change: Partial<SetDetail>) => setDraft({ ...draft, ...change });
  const submit = async () => {
    const done = await save(
      {
        id: kept?.id ?? null,
        revision: draft.revision,
        name: draft.name.trim(),
        levels: draft.levels,
        teamIds: draft.teamIds,
        personIds: draft.personIds,
      },
      `${draft.name} saved; it counts from the next contact on.`,
    );
    if (done) onDone(done.id);
  };
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void submit();
      }}
    >
      {conflict}
      <h1 className="text-title">{kept?.name ?? 'New skill set'}</h1>
      <div className="mt-3 max-w-xs">
        <Field label="Name" fault={faults.name}>
          {(p) => (
            <Input {...p} required disabled={off} value={draft.name} onChange={(e) => set({ name: e.target.value })} />
          )}
        </Field>
      </div>
      <h2 className="mt-4 text-panel">Gives</h2>
      <LevelGrid view={view} levels={draft.levels} off={off} onLevels={(levels) => set({ levels })} />
      <h2 className="mt-4 text-panel">To teams</h2>
      <div className="mt-1 flex flex-wrap gap-x-4 gap-y-1">
        {view.teams.map((t) => (
          <Check
            key={t.id}
            label={t.name}
            disabled={off}
            checked={draft.teamIds.includes(t.id)}
            onChange={(e) =>
              set({ teamIds: e.target.checked ? [...draft.teamIds, t.id] : draft.teamIds.filter((x) => x !== t.id) })
            }
          />
        ))}
      </div>
      <h2 className="mt-4 text-panel">To people</h2>
      <div className="mt-1 flex flex-wrap items-center gap-1.5">
        {draft.personIds.map((id) => (
          <span key={id} className="inline-flex items-center gap-1 rounded-full bg-sunk px-2.5 py-0.5 text-small">
            {view.people.find((p) => p.id === id)?.name ?? id}
            {!off && (
              <button
                type="button"
                aria-label={`Take it from ${view.people.find((p) => p.id === id)?.name ?? id}`}
                onClick={() => set({ personIds: draft.personIds.filter((x) => x !== id) })}
              >
                ×
              </button>
            )}
          </span>
        ))}
        {!off && (
          <select
            aria-label="Give it to a person"
            value=""
            onChange={(e) => {
              if (e.target.value) set({ personIds: [...draft.personIds, e.target.value] });
            }}
            className="rounded-control border border-rule-strong bg-sheet px-2 py-0.5 text-small"
          >
            <option value="">Add…</option>
            {view.people
              .filter((p) => !draft.personIds.includes(p.id))
              .map((p) => (
                <option key={p.id} value={p.id}>
                  {p.name}
                </option>
              ))}
          </select>
        )}
      </div>
      <Foot view={view} isNew={!kept} busy={busy} onRemove={remove} />
    </form>
  );
}

function SiteForm({ view, site, onDone }: FormProps & { site: SiteDetail | null }) {
  const [draft, setDraft] = useState<SiteDetail>(
    site ?? { id: '', name: '', zone: 'Europe/Dublin', address: '', people: 0, revision: 0 },
  );
  const { busy, faults, save, remove, conflict } = useThing(
    'site',
    'save-site',
    site?.id ?? null,
    view,
    (v) => v.sites.find((s) => s.id === site?.id),
    onDone,
  );
  const off = !view.mayChange;
  const submit = async () => {
    const done = await save(
      {
        id: site?.id ?? null,
        revision: draft.revision,
        name: draft.name.trim(),
        zone: draft.zone,
        address: draft.address.trim(),
      },
      `${draft.name} saved.`,
    );
    if (done) onDone(done.id);
  };
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void submit();
      }}
    >
      {conflict}
      <div className="flex items-center gap-2">
        <h1 className="text-title">{site?.name ?? 'New site'}</h1>
        {site && <Pill>{site.people} people</Pill>}
      </div>
      <div className="mt-3 grid max-w-xl grid-cols-2 gap-3">
        <Field label="Name" fault={faults.name}>
          {(p) => (
            <Input
              {...p}
              required
              disabled={off}
              value={draft.name}
              onChange={(e) => setDraft({ ...draft, name: e.target.value })}
            />
          )}
        </Field>
        <Field label="Zone" fault={faults.zone}>
          {(p) => (
            <Select
              {...p}
              disabled={off}
              value={draft.zone}
              onChange={(e) => setDraft({ ...draft, zone: e.target.value })}
            >
              {zonesOf(view, draft.zone).map((z) => (
                <option key={z}>{z}</option>
              ))}
            </Select>
          )}
        </Field>
        <div className="col-span-2">
          <Field label="Address">
            {(p) => (
              <Input
                {...p}
                disabled={off}
                value={draft.address}
                onChange={(e) => setDraft({ ...draft, address: e.target.value })}
              />
            )}
          </Field>
        </div>
      </div>
      <Foot view={view} isNew={!site} busy={busy} onRemove={remove} />
    </form>
  );
}

function SkillForm({ view, skill, onDone }: FormProps & { skill: SkillDetail | null }) {
  const [name, setName] = useState(skill?.name ?? '');
  const [kind, setKind] = useState<string>(skill?.kind ?? 'task');
  const { busy, faults, save, remove, conflict } = useThing(
    'skill',
    'save-skill',
    skill?.id ?? null,
    view,
    (v) => v.skills.find((s) => s.id === skill?.id),
    onDone,
  );
  const off = !view.mayChange;
  const submit = async () => {
    const done = await save(
      { id: skill?.id ?? null, revision: skill?.revision ?? 0, name: name.trim(), kind },
      `${name} saved.`,
    );
    if (done) onDone(done.id);
  };
  return (
    <>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void submit();
        }}
      >
        {conflict}
        <div className="flex items-center gap-2">
          <h1 className="text-title">{skill?.name ?? 'New skill'}</h1>
          {skill && (
            <Pill>{skill.usedBy.length === 0 ? 'no queue needs it' : `needed by ${skill.usedBy.join(', ')}`}</Pill>
          )}
        </div>
        <div className="mt-3 grid max-w-xl grid-cols-2 gap-3">
          <Field label="Name" fault={faults.name}>
            {(p) => <Input {...p} required disabled={off} value={name} onChange={(e) => setName(e.target.value)} />}
          </Field>
          <Field label="Kind">
            {(p) => (
              <Select {...p} disabled={off} value={kind} onChange={(e) => setKind(e.target.value)}>
                {SKILL_KINDS.map((k) => (
                  <option key={k} value={k}>
                    {k}
                  </option>
                ))}
              </Select>
            )}
          </Field>
        </div>
        <Foot view={view} isNew={!skill} busy={busy} onRemove={remove} />
      </form>
      {skill && skill.ends.length > 0 && (
        <>
          <h2 className="mt-4 text-panel">Ends</h2>
          <ul className="mt-1 max-w-md">
            {skill.ends.map((e) => (
              <li key={e.personId} className="flex border-b border-rule py-1 text-small">
                <Link className="flex-1 underline" href={`/people?person=${e.personId}`}>
                  {e.name}
                </Link>
                <span className="text-ink-2">last day {e.until}</span>
              </li>
            ))}
          </ul>
        </>
      )}
      {skill && <Holders skillId={skill.id} />}
    </>
  );
}

/** Who has a skill at what level, set here for anybody. */
function Holders({ skillId }: { skillId: string }) {
  const { data, error, refetch } = useLive<PeopleView>('/api/read/people', ['settings.changed']);
  if (!data) return <Looking error={error} onAgain={refetch} what="Looking who has it…" />;
  const put = (personId: string, value: string) => {
    setting('set-levels', {
      changes: [{ personId, skillId, level: value === 'never' ? 'never' : Number(value) }],
    }).catch((error: unknown) => toast.error(sentence(error)));
  };
  const people = data.people
    .filter((p) => p.active)
    .sort((a, b) => (b.cells[skillId]?.level ?? -1) - (a.cells[skillId]?.level ?? -1) || a.name.localeCompare(b.name));
  return (
    <>
      <h2 className="mt-4 text-panel">
        People{' '}
        <span className="font-body text-small font-normal text-ink-2">
          {people.filter((p) => (p.cells[skillId]?.level ?? 0) > 0).length} have it
        </span>
      </h2>
      <ul className="mt-1 grid grid-cols-2 gap-x-6 xl:grid-cols-3">
        {people.map((p) => {
          const cell = p.cells[skillId];
          return (
            <li key={p.id} className="flex items-center gap-2 border-b border-rule py-1 text-small">
              <span className="w-9">
                <CellInk cell={cell} />
              </span>
              <Link className="min-w-0 flex-1 truncate" href={`/people?person=${p.id}`}>
                {p.name}
              </Link>
              <select
                aria-label={`${p.name}: own level`}
                disabled={!p.mayChange}
                value={cell?.from === 'own' ? cell.level : cell?.from === 'never' ? 'never' : 0}
                onChange={(e) => put(p.id, e.target.value)}
                className="rounded-control border border-rule-strong bg-sheet px-1 py-0.5"
              >
                <option value={0}>not set</option>
                {[1, 2, 3, 4, 5].map((l) => (
                  <option key={l} value={l}>
                    {l}
                  </option>
                ))}
                <option value="never">never</option>
              </select>
            </li>
          );
        })}
      </ul>
    </>
  );
}
