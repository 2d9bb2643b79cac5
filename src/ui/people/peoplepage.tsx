'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import { isLevel } from '@/core/people/levels';
import type { PeopleView } from '@/services/people';
import { Button } from '../kit/button';
import { sentence, setting } from '../kit/call';
import { Select } from '../kit/field';
import { useLive } from '../kit/live';
import { Key, Panel, Pill } from '../kit/panel';
import { PeopleList } from './peoplelist';
import { PersonPanel } from './personpanel';
import { ProfileDialog } from './profiledialog';
import { SkillsMatrix } from './skillsmatrix';

type LevelChange = { personId: string; skillId: string; level: number };

/** Who can take what: the skills matrix or a list, with the chosen person beside it. */
export function PeoplePage({ initial, chosen }: { initial: PeopleView; chosen: string | null }) {
  const { data, refetch } = useLive<PeopleView>('/api/read/people', ['settings.changed', 'person.duty', 'leg.began', 'leg.ended', 'person.reach'], initial);
  const view = data ?? initial;
  const [shown, setShown] = useState<'matrix' | 'list'>('matrix');
  const [team, setTeam] = useState('');
  const [text, setText] = useState('');
  const [personId, setPersonId] = useState<string | 'new' | null>(chosen ?? view.people.find((p) => p.role === 'agent' && p.open.length > 0)?.id ?? view.people[0]?.id ?? null);
  const [profile, setProfile] = useState<string | 'new' | null>(null);
  const [undoable, setUndoable] = useState<LevelChange[][]>([]);
  const [saved, setSaved] = useState<string | null>(null);

  const people = view.people.filter((p) => p.active && (team === '' || p.teamId === team) && p.name.toLowerCase().includes(text.toLowerCase()));
  const send = async (changes: LevelChange[]): Promise<LevelChange[] | null> => {
    try {
      const { before } = await setting<{ before: LevelChange[] }>('set-levels', { changes });
      setSaved(new Date().toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' }));
      await refetch();
      return before;
    } catch (error) {
      toast.error(sentence(error));
      return null;
    }
  };
  const setLevel = async (change: LevelChange) => {
    if (change.level !== 0 && !isLevel(change.level)) return;
    const before = await send([change]);
    if (before) setUndoable((stack) => [...stack, before]);
  };
  const undo = async () => {
    const last = undoable.at(-1);
    if (!last) return;
    setUndoable((stack) => stack.slice(0, -1));
    if (await send(last)) toast(`Undone: ${view.people.find((p) => p.id === last[0]?.personId)?.name ?? 'one person'}, ${view.skills.find((s) => s.id === last[0]?.skillId)?.name ?? ''}.`);
  };
  const person = view.people.find((p) => p.id === personId);
  return (
    <main className="grid h-[calc(100vh-64px)] min-h-[560px] grid-cols-[minmax(0,1fr)_330px] gap-3 p-4">
      <Panel className="flex min-h-0 min-w-0 flex-col" label="Who can take what">
        <div className="flex flex-wrap items-center gap-2 px-4 pt-3">
          <h1 className="text-title">Who can take what</h1><Pill>{view.people.filter((p) => p.active).length} people · {view.skills.length} skills</Pill>
          <span className="ml-auto flex items-center gap-2">
            <input aria-label="Find a person" placeholder="Find a person" value={text} onChange={(e) => setText(e.target.value)} className="w-30 rounded-control border border-rule-strong bg-sheet px-2 py-1.5 text-small" />
            <Select aria-label="Team" className="!w-40 !py-1 text-small" value={team} onChange={(e) => setTeam(e.target.value)}><option value="">All teams</option>{view.teams.map((t) => <option key={t.id} value={t.id}>{t.name}</option>)}</Select>
            <Button onClick={() => setShown(shown === 'matrix' ? 'list' : 'matrix')}>{shown === 'matrix' ? 'As a list' : 'As a matrix'}</Button>
            {view.mayAdd && <Button kind="primary" onClick={() => setPersonId('new')}>Add a person</Button>}
          </span>
        </div>
        {shown === 'matrix' && (
          <p className="flex flex-wrap items-center gap-2 px-4 pt-1 pb-1 text-small text-ink-2">
            <span className="inline-flex size-5 items-center justify-center rounded bg-level-4 text-tiny font-bold text-mark-ink">4</span>set on the person
            <span className="inline-flex size-5 items-center justify-center rounded border border-dashed border-level-team text-tiny font-bold text-plum">3</span>comes with the team
            <span>type <Key>1–5</Key> to set, <Key>0</Key> to clear, arrows to move</span>
            <span className="ml-auto flex items-center gap-2" role="status">{saved && `Saved ${saved}`}{undoable.length > 0 && <Button small onClick={() => void undo()}>Undo</Button>}</span>
          </p>
        )}
        <div className="min-h-0 flex-1 overflow-auto px-4 pb-3">
          {shown === 'matrix' ? <SkillsMatrix view={view} people={people} chosen={personId} onChoose={setPersonId} onLevel={(c) => void setLevel(c)} onUndo={() => void undo()} />
            : <PeopleList view={view} people={view.people.filter((p) => (team === '' || p.teamId === team) && p.name.toLowerCase().includes(text.toLowerCase()))} chosen={personId} onChoose={setPersonId} />}
        </div>
      </Panel>
      <PersonPanel key={personId ?? 'none'} view={view} person={personId === 'new' ? null : (person ?? null)} adding={personId === 'new'} onSaved={(id) => { void refetch().then(() => setPersonId(id)); }} onProfile={setProfile} />
      {profile !== null && <ProfileDialog view={view} profile={profile === 'new' ? null : (view.profiles.find((p) => p.id === profile) ?? null)} onClose={() => setProfile(null)} onSaved={() => { setProfile(null); void refetch(); }} />}
    </main>
  );
}
