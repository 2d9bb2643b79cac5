'use client';

import { clsx } from 'clsx';
import { useState } from 'react';
import { toast } from 'sonner';
import {
  DESK_PANEL_IDS,
  DESK_PANELS,
  DESK_VIEW_IDS,
  DESK_VIEWS,
  HELPER_IDS,
  helperBar,
  HELPERS,
  MOMENT_WORDS,
  MOMENTS,
  PLAIN_DESK,
  type DeskProfile,
  type DeskRule,
  type Helper,
} from '@/core/people/deskprofile';
import { PLACEHOLDERS, unknownPlaceholders } from '@/core/messages/stockreplies';
import { languageName } from '@/core/localised';
import { isLevel } from '@/core/people/levels';
import type { DeskProfilesView, StockSet } from '@/services/people/deskprofiles';
import { Button } from '../kit/button';
import { call, sentence, setting } from '../kit/call';
import { Dialog } from '../kit/dialog';
import { Area, Check, Field, Input } from '../kit/field';
import { useLive } from '../kit/live';
import { Panel, Pill } from '../kit/panel';
import { useSaving } from '../kit/saving';
import { StopNav } from '../lane/stopnav';

const CONTROL = 'rounded-control border border-rule-strong bg-sheet px-2 py-0.5 text-small';

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
          <Rules key={view.rulesRevision} view={view} onSaved={again} />
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
                      : `Helpers: ${p.helpers.map((h) => `${HELPERS[h].name.toLowerCase()}${helperBar(h, p, new Set(view.helpers)) ? ' (off)' : ''}`).join(', ')}.`}
                  </span>
                </button>
              ))}
            </div>
          </Panel>
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

function Rules({ view, onSaved }: { view: DeskProfilesView; onSaved: () => void }) {
  const [rules, setRules] = useState<readonly DeskRule[]>(view.rules);
  const [helpers, setHelpers] = useState<readonly Helper[]>(view.helpers);
  const names = new Map(
    [...view.teams, ...view.roles, ...view.skills, ...view.people, ...view.profiles].map((x) => [x.id, x.name]),
  );
  const { busy, save, conflict } = useSaving('save-desk-rules', {
    latest: async () => {
      const v = await call<DeskProfilesView>('/api/read/desks');
      return { revision: v.rulesRevision, rules: v.rules, helpers: v.helpers };
    },
    nameOf: (id) => names.get(id) ?? id,
    onTheirs: onSaved,
    onSaved,
  });
  const off = !view.mayChange;
  const changed = JSON.stringify([rules, helpers]) !== JSON.stringify([view.rules, view.helpers]);
  const put = (i: number, change: Partial<DeskRule>) =>
    setRules(rules.map((r, j) => (j === i ? { ...r, ...change } : r)));
  const swap = (i: number, by: number) => {
    const next = [...rules];
    const [a, b] = [next[i], next[i + by]];
    if (a && b) {
      next[i] = b;
      next[i + by] = a;
      setRules(next);
    }
  };
  const setWho = (i: number, text: string) => {
    const [by, id = ''] = text.split('|');
    if (by === 'everyone') put(i, { who: { by } });
    else if (by === 'team' || by === 'role') put(i, { who: { by, id } });
    else if (by === 'skill') put(i, { who: { by, id, atLeast: 3 } });
  };
  const whoText = (w: DeskRule['who']) => (w.by === 'everyone' ? 'everyone' : `${w.by}|${w.id}`);
  return (
    <Panel className="p-4" label="Who gets which desk profile">
      {conflict}
      <div className="flex items-center gap-2">
        <h1 className="text-title">Who gets which Desk</h1>
        <span className="text-small text-ink-2">The first rule that fits wins.</span>
        {!off && (
          <span className="ml-auto flex gap-2">
            <Button
              small
              onClick={() =>
                setRules([...rules, { who: { by: 'everyone' }, exceptIds: [], profileId: view.profiles[0]?.id ?? '' }])
              }
              disabled={view.profiles.length === 0}
            >
              Add a rule
            </Button>
            <Button
              small
              kind="primary"
              disabled={busy || !changed}
              onClick={() =>
                void save({ revision: view.rulesRevision, rules, helpers }, 'Rules saved; Desks follow at once.').then(
                  (ok) => {
                    if (ok) onSaved();
                  },
                )
              }
            >
              Save the rules
            </Button>
          </span>
        )}
      </div>
      <ol className="mt-2">
        {rules.map((r, i) => (
          <li key={i} className="flex flex-wrap items-center gap-1.5 border-b border-rule py-1.5 text-small">
            <b className="w-5">{i + 1}</b>
            <select
              aria-label={`Rule ${i + 1}: who`}
              disabled={off}
              value={whoText(r.who)}
              onChange={(e) => setWho(i, e.target.value)}
              className={CONTROL}
            >
              <option value="everyone">everyone</option>
              <optgroup label="Team">
                {view.teams.map((t) => (
                  <option key={t.id} value={`team|${t.id}`}>
                    {t.name}
                  </option>
                ))}
              </optgroup>
              <optgroup label="Role">
                {view.roles.map((t) => (
                  <option key={t.id} value={`role|${t.id}`}>
                    {t.name}
                  </option>
                ))}
              </optgroup>
              <optgroup label="Skill">
                {view.skills.map((t) => (
                  <option key={t.id} value={`skill|${t.id}`}>
                    {t.name}
                  </option>
                ))}
              </optgroup>
            </select>
            {r.who.by === 'skill' && (
              <select
                aria-label={`Rule ${i + 1}: at least`}
                disabled={off}
                value={r.who.atLeast}
                onChange={(e) => {
                  const n = Number(e.target.value);
                  if (r.who.by === 'skill' && isLevel(n)) put(i, { who: { ...r.who, atLeast: n } });
                }}
                className={CONTROL}
              >
                {[1, 2, 3, 4, 5].map((l) => (
                  <option key={l} value={l}>
                    {l} or more
                  </option>
                ))}
              </select>
            )}
            <span className="text-ink-2">gets</span>
            <select
              aria-label={`Rule ${i + 1}: profile`}
              disabled={off}
              value={r.profileId}
              onChange={(e) => put(i, { profileId: e.target.value })}
              className={CONTROL}
            >
              {view.profiles.map((p) => (
                <option key={p.id} value={p.id}>
                  {p.name}
                </option>
              ))}
            </select>
            <span className="text-ink-2">but not</span>
            {r.exceptIds.map((id) => (
              <span key={id} className="inline-flex items-center gap-1 rounded-full bg-sunk px-2">
                {names.get(id) ?? id}
                {!off && (
                  <button
                    type="button"
                    aria-label={`Take the exception ${names.get(id) ?? id} out`}
                    onClick={() => put(i, { exceptIds: r.exceptIds.filter((x) => x !== id) })}
                  >
                    ×
                  </button>
                )}
              </span>
            ))}
            {!off && (
              <select
                aria-label={`Rule ${i + 1}: add an exception`}
                value=""
                onChange={(e) => {
                  if (e.target.value) put(i, { exceptIds: [...r.exceptIds, e.target.value] });
                }}
                className={CONTROL}
              >
                <option value="">{r.exceptIds.length === 0 ? 'nobody' : 'and…'}</option>
                {view.people
                  .filter((p) => !r.exceptIds.includes(p.id))
                  .map((p) => (
                    <option key={p.id} value={p.id}>
                      {p.name}
                    </option>
                  ))}
              </select>
            )}
            <span className="ml-auto text-ink-2">{view.people.filter((p) => p.rule === i).length} people</span>
            {!off && (
              <span className="flex gap-1">
                <Button
                  small
                  kind="quiet"
                  aria-label={`Rule ${i + 1} up`}
                  disabled={i === 0}
                  onClick={() => swap(i, -1)}
                >
                  ↑
                </Button>
                <Button
                  small
                  kind="quiet"
                  aria-label={`Rule ${i + 1} down`}
                  disabled={i === rules.length - 1}
                  onClick={() => swap(i, 1)}
                >
                  ↓
                </Button>
                <Button
                  small
                  kind="quiet"
                  aria-label={`Remove rule ${i + 1}`}
                  onClick={() => setRules(rules.filter((_, j) => j !== i))}
                >
                  ×
                </Button>
              </span>
            )}
          </li>
        ))}
        {rules.length === 0 && <li className="py-2 text-small text-ink-2">No rule: everybody has the plain Desk.</li>}
      </ol>
      <div className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-1">
        <span className="text-small font-semibold">Helpers for the whole workspace</span>
        {HELPER_IDS.map((h) => (
          <Check
            key={h}
            label={
              <>
                {HELPERS[h].name} <span className="text-ink-2">{HELPERS[h].says}</span>
              </>
            }
            disabled={off}
            checked={helpers.includes(h)}
            onChange={(e) => setHelpers(e.target.checked ? [...helpers, h] : helpers.filter((x) => x !== h))}
          />
        ))}
      </div>
    </Panel>
  );
}

function ProfileDialog({
  view,
  profile,
  onClose,
  onSaved,
}: {
  view: DeskProfilesView;
  profile: DeskProfilesView['profiles'][number] | null;
  onClose: () => void;
  onSaved: () => void;
}) {
  const [draft, setDraft] = useState<DeskProfile>(profile ?? { ...PLAIN_DESK, id: '', name: '' });
  const { busy, faults, save, conflict } = useSaving('save-desk-profile', {
    latest: async () => {
      const p = (await call<DeskProfilesView>('/api/read/desks')).profiles.find((x) => x.id === profile?.id);
      return p;
    },
    nameOf: (id) => view.sets.find((s) => s.id === id)?.name ?? id,
    onTheirs: onSaved,
    onSaved,
  });
  const off = !view.mayChange;
  const flip = <T extends string>(list: readonly T[], item: T): T[] =>
    list.includes(item) ? list.filter((x) => x !== item) : [...list, item];
  const submit = async () => {
    if (
      await save(
        {
          id: profile?.id ?? null,
          revision: profile?.revision ?? 0,
          name: draft.name.trim(),
          panels: draft.panels,
          helpers: draft.helpers,
          stockSetIds: draft.stockSetIds,
          views: draft.views,
        },
        `${draft.name} saved.`,
      )
    )
      onSaved();
  };
  const remove = () => {
    setting('remove-desk-thing', { kind: 'desk-profile', id: profile?.id }).then(
      () => {
        toast.success('Removed. History can bring it back.');
        onSaved();
      },
      (error: unknown) => toast.error(sentence(error)),
    );
  };
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title={profile?.name ?? 'New desk profile'}
      description={
        profile
          ? profile.people.length === 0
            ? 'Nobody has it.'
            : `${profile.people.slice(0, 5).join(', ')}${profile.people.length > 5 ? ` and ${profile.people.length - 5} more` : ''} ${profile.people.length === 1 ? 'has' : 'have'} it.`
          : 'What a Desk shows at each moment'
      }
    >
      {conflict}
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void submit();
        }}
      >
        <div className="max-w-xs">
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
        </div>
        <table className="mt-3 w-full text-small">
          <thead>
            <tr className="text-left text-tiny text-ink-2">
              <th className="py-1 font-medium">Panel</th>
              {MOMENTS.map((m) => (
                <th key={m} className="w-28 font-medium">
                  {MOMENT_WORDS[m]}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {DESK_PANEL_IDS.map((panel) => (
              <tr key={panel} className="border-t border-rule">
                <th scope="row" className="py-1.5 text-left font-medium">
                  {DESK_PANELS[panel].name} <span className="font-normal text-ink-2">{DESK_PANELS[panel].says}</span>
                </th>
                {MOMENTS.map((m) => (
                  <td key={m}>
                    {(DESK_PANELS[panel].at as readonly string[]).includes(m) ? (
                      <input
                        type="checkbox"
                        className="size-4 accent-plum"
                        disabled={off}
                        aria-label={`${DESK_PANELS[panel].name} ${MOMENT_WORDS[m]}`}
                        checked={draft.panels[m].includes(panel)}
                        onChange={() =>
                          setDraft({ ...draft, panels: { ...draft.panels, [m]: flip(draft.panels[m], panel) } })
                        }
                      />
                    ) : (
                      <span className="text-ink-3">–</span>
                    )}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
        <div className="mt-3 grid grid-cols-3 gap-4">
          <fieldset>
            <legend className="text-small font-semibold">Helpers</legend>
            {HELPER_IDS.map((h) => {
              const bar = helperBar(h, draft, new Set(view.helpers));
              return (
                <div key={h} className="py-0.5">
                  <Check
                    label={HELPERS[h].name}
                    disabled={off}
                    checked={draft.helpers.includes(h)}
                    onChange={() => setDraft({ ...draft, helpers: flip(draft.helpers, h) })}
                  />
                  {bar && (
                    <p className={clsx('pl-5 text-tiny', draft.helpers.includes(h) ? 'text-brass-ink' : 'text-ink-3')}>
                      {bar}
                    </p>
                  )}
                </div>
              );
            })}
          </fieldset>
          <fieldset>
            <legend className="text-small font-semibold">Stock replies</legend>
            {view.sets.map((s) => (
              <div key={s.id} className="py-0.5">
                <Check
                  label={s.name}
                  disabled={off}
                  checked={draft.stockSetIds.includes(s.id)}
                  onChange={() => setDraft({ ...draft, stockSetIds: flip(draft.stockSetIds, s.id) })}
                />
              </div>
            ))}
            {view.sets.length === 0 && <p className="text-small text-ink-2">No set yet.</p>}
          </fieldset>
          <fieldset>
            <legend className="text-small font-semibold">Views</legend>
            {DESK_VIEW_IDS.map((v) => (
              <div key={v} className="py-0.5">
                <Check
                  label={DESK_VIEWS[v].name}
                  disabled={off}
                  checked={draft.views.includes(v)}
                  onChange={() => setDraft({ ...draft, views: flip(draft.views, v) })}
                />
                <p className="pl-[22px] text-tiny text-ink-2">{DESK_VIEWS[v].says}</p>
              </div>
            ))}
          </fieldset>
        </div>
        {faults.helpers && (
          <p role="alert" className="mt-2 text-small text-clay">
            {faults.helpers}
          </p>
        )}
        {!off && (
          <div className="mt-4 flex gap-2">
            <Button kind="primary" type="submit" disabled={busy}>
              {profile ? 'Save' : 'Add'}
            </Button>
            {profile && (
              <Button kind="quiet" onClick={remove}>
                Remove
              </Button>
            )}
            <Button onClick={onClose}>Cancel</Button>
          </div>
        )}
      </form>
    </Dialog>
  );
}

function StockDialog({
  set,
  languages,
  mayChange,
  onClose,
  onSaved,
}: {
  set: StockSet | null;
  languages: readonly string[];
  mayChange: boolean;
  onClose: () => void;
  onSaved: () => void;
}) {
  const [name, setName] = useState(set?.name ?? '');
  const [replies, setReplies] = useState<
    readonly { id: string | null; title: string; text: Readonly<Record<string, string>> }[]
  >(set?.replies ?? [{ id: null, title: '', text: {} }]);
  const { busy, save, conflict } = useSaving('save-stock-set', {
    latest: async () => (await call<DeskProfilesView>('/api/read/desks')).sets.find((s) => s.id === set?.id),
    nameOf: (x) => x,
    onTheirs: onSaved,
    onSaved,
  });
  const put = (i: number, change: Partial<(typeof replies)[number]>) =>
    setReplies(replies.map((r, j) => (j === i ? { ...r, ...change } : r)));
  const submit = async () => {
    if (
      await save(
        {
          id: set?.id ?? null,
          revision: set?.revision ?? 0,
          name: name.trim(),
          replies: replies.map((r) => ({
            id: r.id,
            title: r.title.trim(),
            text: Object.fromEntries(Object.entries(r.text).filter(([, t]) => t.trim() !== '')),
          })),
        },
        `${name} saved.`,
      )
    )
      onSaved();
  };
  const remove = () => {
    setting('remove-desk-thing', { kind: 'stock-set', id: set?.id }).then(
      () => {
        toast.success('Removed. History can bring it back.');
        onSaved();
      },
      (error: unknown) => toast.error(sentence(error)),
    );
  };
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title={set?.name ?? 'New set of stock replies'}
      description={`Filled when used: ${Object.entries(PLACEHOLDERS)
        .map(([k, v]) => `{${k}} is ${v}`)
        .join(', ')}.`}
    >
      {conflict}
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void submit();
        }}
      >
        <div className="max-w-xs">
          <Field label="Name">
            {(p) => (
              <Input {...p} required disabled={!mayChange} value={name} onChange={(e) => setName(e.target.value)} />
            )}
          </Field>
        </div>
        <ul className="mt-3 flex flex-col gap-3">
          {replies.map((r, i) => (
            <li key={i} className="rounded-control border border-rule p-2.5">
              <div className="flex gap-2">
                <Input
                  aria-label="Title"
                  placeholder="Title"
                  required
                  disabled={!mayChange}
                  value={r.title}
                  onChange={(e) => put(i, { title: e.target.value })}
                />
                {mayChange && (
                  <Button
                    small
                    kind="quiet"
                    aria-label={`Remove ${r.title}`}
                    onClick={() => setReplies(replies.filter((_, j) => j !== i))}
                  >
                    ×
                  </Button>
                )}
              </div>
              <div className="mt-1.5 grid grid-cols-2 gap-2">
                {languages.map((l) => {
                  const odd = unknownPlaceholders(r.text[l] ?? '');
                  return (
                    <div key={l}>
                      <Area
                        aria-label={`${r.title} in ${languageName(l)}`}
                        rows={2}
                        placeholder={languageName(l)}
                        disabled={!mayChange}
                        value={r.text[l] ?? ''}
                        onChange={(e) => put(i, { text: { ...r.text, [l]: e.target.value } })}
                      />
                      {odd.length > 0 && (
                        <p className="text-tiny text-brass-ink">Nothing fills {odd.map((o) => `{${o}}`).join(', ')}.</p>
                      )}
                    </div>
                  );
                })}
              </div>
            </li>
          ))}
        </ul>
        {mayChange && (
          <div className="mt-3 flex gap-2">
            <Button kind="primary" type="submit" disabled={busy}>
              {set ? 'Save' : 'Add'}
            </Button>
            <Button onClick={() => setReplies([...replies, { id: null, title: '', text: {} }])}>Add a reply</Button>
            {set && (
              <Button kind="quiet" onClick={remove}>
                Remove the set
              </Button>
            )}
          </div>
        )}
      </form>
    </Dialog>
  );
}
