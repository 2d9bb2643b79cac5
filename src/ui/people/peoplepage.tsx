'use client';

import { clsx } from 'clsx';
import { useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import type { PeopleView, StandingLine } from '@/services/people/peopleview';
import { Button } from '../kit/button';
import { sentence, setting } from '../kit/call';
import { asTime } from '../kit/figures';
import { KeyHints } from '../kit/keys';
import { useLive } from '../kit/live';
import { Panel, Pill } from '../kit/panel';
import { StopNav } from '../lane/stopnav';
import { BulkDialog } from './bulkdialog';
import { NO_FILTER, passing, type PeopleFilter } from './filter';
import { FilterBar } from './filterbar';
import { type SetLevel, withLevels } from './matrix/matrixgrid';
import { SkillsMatrix } from './matrix/skillsmatrix';
import { PeopleList } from './peoplelist';
import { PersonPanel } from './person/personpanel';

type Before = SetLevel & { readonly until: string | null; readonly note: string };
type Step = { readonly back: readonly Before[]; readonly forth: readonly SetLevel[] };
const PATH = '/api/read/people';

/** Who can take what: the skills matrix or a list, with the chosen person beside it. */
export function PeoplePage({
  initial,
  initialStandings,
  chosen,
  startFilter,
}: {
  initial: PeopleView;
  initialStandings: readonly StandingLine[];
  chosen: string | null;
  startFilter: Partial<PeopleFilter>;
}) {
  const { data, refetch } = useLive<PeopleView>(PATH, ['settings.changed'], initial);
  const { data: day } = useLive<readonly StandingLine[]>(
    '/api/read/standings',
    ['person.duty', 'person.reach', 'leg.began', 'leg.wrapping', 'leg.ended', 'settings.changed'],
    initialStandings,
  );
  const [unsaid, setUnsaid] = useState<readonly (readonly SetLevel[])[]>([]);
  const view = useMemo(() => withLevels(data ?? initial, unsaid.flat()), [data, initial, unsaid]);
  const standings = useMemo(() => new Map((day ?? initialStandings).map((s) => [s.id, s])), [day, initialStandings]);
  const [shown, setShown] = useState<'matrix' | 'list'>('matrix');
  const [filter, setFilter] = useState<PeopleFilter>({ ...NO_FILTER, ...startFilter });
  const [grouped, setGrouped] = useState(true);
  const [personId, setPersonId] = useState<string | 'new' | null>(
    chosen ??
      view.people.find((p) => p.meant && (standings.get(p.id)?.open.length ?? 0) > 0)?.id ??
      view.people[0]?.id ??
      null,
  );
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  const [bulk, setBulk] = useState(false);
  // Steps are taken one after another, however fast the keys are: an undo waits for the change it undoes.
  const steps = useRef<{ undo: Step[]; redo: Step[]; last: Promise<unknown> }>({
    undo: [],
    redo: [],
    last: Promise.resolve(),
  });
  const [count, setCount] = useState({ undo: 0, redo: 0 });
  const [saved, setSaved] = useState<string | null>(null);
  const people = useMemo(() => passing(view, standings, filter, shown === 'list'), [view, standings, filter, shown]);

  /** Shows new levels until what the server says of them has been read, whatever else is read meanwhile. */
  const show = (changes: readonly SetLevel[]) => setUnsaid((was) => [...was, changes]);
  const hide = (changes: readonly SetLevel[]) => setUnsaid((was) => was.filter((c) => c !== changes));
  const send = async (changes: readonly SetLevel[]): Promise<Before[] | null> => {
    try {
      const { before } = await setting<{ before: Before[] }>('set-levels', { changes });
      setSaved(asTime(Date.now()));
      return before;
    } catch (error) {
      toast.error(sentence(error));
      return null;
    } finally {
      await refetch();
    }
  };
  const inTurn = (work: (stacks: { undo: Step[]; redo: Step[] }) => Promise<void>) => {
    steps.current.last = steps.current.last
      .then(() => work(steps.current))
      .then(() => setCount({ undo: steps.current.undo.length, redo: steps.current.redo.length }));
  };
  const setLevels = (forth: readonly SetLevel[]) => {
    show(forth);
    inTurn(async (stacks) => {
      const back = await send(forth);
      hide(forth);
      if (!back) return;
      stacks.undo.push({ back, forth });
      stacks.redo.length = 0;
    });
  };
  const undo = () =>
    inTurn(async (stacks) => {
      const last = stacks.undo.pop();
      if (!last) return;
      show(last.back);
      const undone = await send(last.back);
      hide(last.back);
      if (!undone) return;
      stacks.redo.push(last);
      toast(`Undone: ${last.forth.length} ${last.forth.length === 1 ? 'level' : 'levels'}.`);
    });
  const redo = () =>
    inTurn(async (stacks) => {
      const last = stacks.redo.pop();
      if (!last) return;
      show(last.forth);
      const back = await send(last.forth);
      hide(last.forth);
      if (back) stacks.undo.push({ back, forth: last.forth });
    });
  const person = view.people.find((p) => p.id === personId);
  const open = (id: string | 'new' | null) => {
    setPersonId(id);
    window.history.replaceState(null, '', id && id !== 'new' ? `/people?person=${id}` : '/people');
  };
  return (
    <main className="flex h-[calc(100vh-64px)] min-h-[560px] flex-col">
      <StopNav stop="People" />
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_330px] gap-3 px-4 pt-2 pb-4">
        <Panel className="flex min-h-0 min-w-0 flex-col" label="Who can take what">
          <div className="flex flex-wrap items-center gap-2 px-4 pt-3">
            <h1 className="text-title">Who can take what</h1>
            <Pill>
              {view.people.filter((p) => p.active).length} people · {view.skills.length} skills
            </Pill>
            <span className="ml-auto flex items-center gap-2">
              {shown === 'matrix' && (
                <Button onClick={() => setGrouped(!grouped)} aria-pressed={grouped}>
                  {grouped ? 'By team' : 'All together'}
                </Button>
              )}
              <Button onClick={() => setShown(shown === 'matrix' ? 'list' : 'matrix')}>
                {shown === 'matrix' ? 'As a list' : 'As a matrix'}
              </Button>
              {shown === 'list' && picked.size > 0 && (
                <Button onClick={() => setBulk(true)}>Change {picked.size}…</Button>
              )}
              {view.mayAdd && (
                <Button kind="primary" onClick={() => open('new')}>
                  Add a person
                </Button>
              )}
            </span>
          </div>
          <FilterBar view={view} filter={filter} onFilter={setFilter} shown={people.length} />
          {shown === 'matrix' && (
            <p className="flex flex-wrap items-center gap-x-2 gap-y-1 px-4 pt-1.5 pb-1 text-small text-ink-2">
              <span className="inline-flex size-5 items-center justify-center rounded bg-level-4 text-tiny font-bold text-on-level-deep">
                4
              </span>
              own
              <span
                className={clsx(
                  'inline-flex size-5 items-center justify-center rounded border border-dashed border-level-team',
                  'text-tiny font-bold text-plum',
                )}
              >
                3
              </span>
              team or set
              <KeyHints
                hints={[
                  ['1–5', 'sets'],
                  ['0', 'clears'],
                  ['N', 'never'],
                  ['Shift', 'picks a block'],
                ]}
              />
              <span className="ml-auto flex items-center gap-2" role="status">
                {saved && `Saved ${saved}`}
                {count.undo > 0 && (
                  <Button small onClick={undo}>
                    Undo
                  </Button>
                )}
                {count.redo > 0 && (
                  <Button small onClick={redo}>
                    Redo
                  </Button>
                )}
              </span>
            </p>
          )}
          <div className="min-h-0 flex-1 overflow-hidden px-4 pb-3">
            {shown === 'matrix' ? (
              <SkillsMatrix
                view={view}
                standings={standings}
                people={people}
                grouped={grouped}
                chosen={personId}
                onChoose={open}
                onLevels={setLevels}
                onUndo={undo}
                onRedo={redo}
              />
            ) : (
              <PeopleList
                view={view}
                standings={standings}
                people={people}
                chosen={personId}
                onChoose={open}
                picked={picked}
                onPick={setPicked}
              />
            )}
          </div>
        </Panel>
        <PersonPanel
          key={personId ?? 'none'}
          view={view}
          standing={standings.get(personId ?? '') ?? null}
          person={personId === 'new' ? null : (person ?? null)}
          adding={personId === 'new'}
          onSaved={(id) => {
            void refetch().then(() => {
              if (id !== personId) open(id);
            });
          }}
        />
      </div>
      {bulk && (
        <BulkDialog
          view={view}
          personIds={[...picked]}
          onClose={() => setBulk(false)}
          onDone={() => {
            setBulk(false);
            setPicked(new Set());
            void refetch();
          }}
        />
      )}
    </main>
  );
}
