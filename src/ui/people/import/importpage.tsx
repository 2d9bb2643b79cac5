'use client';

import { Link } from '../../kit/link';
import { useCallback, useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import type { Target } from '@/core/people/importplan';
import type { ImportView } from '@/services/people/peopleimport';
import { Button } from '../../kit/button';
import { call, Refused, sentence, setting } from '../../kit/call';
import { Check } from '../../kit/field';
import { FilePick } from '../../kit/filepick';
import { Empty, Panel, Pill } from '../../kit/panel';
import { asCount } from '../../kit/figures';
import { Progress } from '../../kit/progress';
import { StopNav } from '../../lane/stopnav';
import { ImportColumns } from './importcolumns';
import { type Edit, KINDS, Line, type Shown } from './importline';

const were = (n: number, done: string): string =>
  n === 1 ? `1 person was ${done}.` : `${asCount(n)} people were ${done}.`;

/** Which lines are looked at. */
type Place = { readonly kind: Shown; readonly page: number };
const BEGINNING: Place = { kind: '', page: 0 };

/** What is being done with the file, and how far it is. */
function progressOf(view: ImportView): { says: string; done: number; total: number } {
  if (view.state === 'reading') return { says: 'Reading the file…', done: 0, total: 0 };
  if (view.state === 'planning')
    return { says: `Checking line ${view.done} of ${view.total}`, done: view.done, total: view.total };
  const { done, total, canStop } = view.keeping ?? { done: 0, total: 0, canStop: true };
  return {
    says: canStop
      ? `Putting together ${asCount(done)} of ${asCount(total)}`
      : `Keeping ${asCount(done)} of ${asCount(total)}`,
    done,
    total,
  };
}

/**
 * People from a file: every line is shown before anything is written; wrong cells are mended here; then all is kept
 * at once.
 */
export function ImportPage({
  skills,
  mayExport,
}: {
  skills: readonly { id: string; name: string }[];
  mayExport: boolean;
}) {
  const [view, setView] = useState<ImportView | null>(null);
  const [{ kind, page }, setPlace] = useState<Place>(BEGINNING);
  const [edits, setEdits] = useState<readonly Edit[]>([]);
  const [invite, setInvite] = useState(true);
  const [fault, setFault] = useState<string | null>(null);
  const working = view?.state === 'reading' || view?.state === 'planning' || view?.state === 'keeping';
  const id = view?.id ?? null;
  // What is looked at now: an answer to what was asked before that was chosen comes too late.
  const wanted = useRef(BEGINNING);
  const read = useCallback(async (importId: string) => {
    const at = wanted.current;
    try {
      const answer = await call<ImportView>(`/api/read/import?id=${importId}&kind=${at.kind}&page=${at.page}`);
      if (at === wanted.current) setView(answer);
    } catch (error) {
      setFault(sentence(error));
      if (error instanceof Refused && error.code === 'not-found') setView(null);
    }
  }, []);
  const look = (place: Place) => {
    wanted.current = place;
    setPlace(place);
    if (id) void read(id);
  };
  useEffect(() => {
    if (!id || !working) return;
    const timer = setInterval(() => void read(id), 250);
    return () => clearInterval(timer);
  }, [id, working, read]);

  const begin = async (file: File) => {
    setFault(null);
    setEdits([]);
    wanted.current = BEGINNING;
    setPlace(BEGINNING);
    setView(null);
    try {
      const response = await fetch(`/api/people/import?name=${encodeURIComponent(file.name)}`, {
        method: 'POST',
        headers: { 'content-type': 'text/csv' },
        body: file,
      });
      const body = (await response.json()) as { id?: string; error?: { message: string } };
      if (body.id) await read(body.id);
      else setFault(body.error?.message ?? 'The file could not be sent.');
    } catch {
      setFault('The file could not be sent. Check the connection and choose it again.');
    }
  };
  const narrow = (to: Shown) => look({ kind: to, page: 0 });
  const plan = async (targets: readonly Target[], mended: readonly Edit[]) => {
    if (!id) return;
    setEdits(mended);
    try {
      await setting('import-plan', { id, targets: targets.map((t) => t ?? 'none'), edits: mended });
      await read(id);
    } catch (error) {
      setFault(sentence(error));
    }
  };
  const act = async (name: 'import-apply' | 'import-cancel') => {
    if (!id) return;
    setFault(null);
    try {
      const kept = setting<{ written?: number; met?: number }>(name, name === 'import-apply' ? { id, invite } : { id });
      // Keeping a large file takes a while; what is read meanwhile says how far it is.
      if (name === 'import-apply') setTimeout(() => void read(id), 100);
      const done = await kept;
      if (done.written) toast.success(were(done.written, 'kept'));
      if (done.met) narrow('met');
    } catch (error) {
      setFault(sentence(error));
    }
    await read(id);
  };
  const columns = view?.targets.flatMap((t, i) => (t ? [i] : [])) ?? [];
  const accepted = (view?.counts?.new ?? 0) + (view?.counts?.changed ?? 0);
  return (
    <main className="flex h-[calc(100vh-64px)] min-h-[560px] flex-col">
      <StopNav stop="People" />
      <div className="flex min-h-0 flex-1 flex-col gap-3 px-4 pt-2 pb-4">
        <Panel className="flex min-h-0 flex-1 flex-col p-4" label="Bring people in">
          <div className="flex flex-wrap items-center gap-3">
            <h1 className="text-title">Bring people in</h1>
            <FilePick
              kind="primary"
              label="People file"
              accept=".csv,.txt,.tsv,text/csv"
              onFile={(file) => void begin(file)}
            >
              {view ? 'Another file…' : 'Choose a CSV file…'}
            </FilePick>
            {view && (
              <span className="text-small text-ink-2">
                {view.fileName} · {view.total} {view.total === 1 ? 'line' : 'lines'},{' '}
                {view.separator === ';' ? 'semicolons' : view.separator === '\t' ? 'tabs' : 'commas'}
              </span>
            )}
            {mayExport && (
              <a className="ml-auto text-small text-plum underline" href="/api/people.csv">
                Take everybody out as CSV
              </a>
            )}
          </div>
          {fault && (
            <p role="alert" className="mt-2 text-small text-clay">
              {fault}
            </p>
          )}
          {!view && !fault && (
            <Empty title="A file with one person per line">
              The first line names the columns: name, e-mail, team, duty profile, role, site, and one column for each
              skill by its name, with 1 to 5, never, or 0 to clear. People who are there already, by their address, are
              changed; empty cells leave things as they are. Nothing is written before you have seen it.
            </Empty>
          )}
          {view?.state === 'failed' && (
            <p role="alert" className="mt-3 text-clay">
              {view.fault}
            </p>
          )}
          {view?.state === 'cancelled' && (
            <p role="status" className="mt-3 text-ink-2">
              Cancelled.{' '}
              {view.written === 0
                ? 'Nothing was written.'
                : `${were(view.written, 'written')} History takes that back.`}
            </p>
          )}
          {view?.state === 'applied' && (
            <p role="status" className="mt-3">
              <Pill tone="good">kept</Pill> {were(view.written, 'written')} {view.fault}{' '}
              <Link className="text-plum underline" href="/people">
                See them
              </Link>
              , or{' '}
              <Link className="text-plum underline" href="/history">
                take it back in History
              </Link>
              .
            </p>
          )}
          {working && (
            <div className="mt-3 flex items-center gap-3" role="status">
              <Progress {...progressOf(view)} />
              {(view.keeping === null || view.keeping.canStop) && (
                <Button small onClick={() => void act('import-cancel')}>
                  Cancel
                </Button>
              )}
            </div>
          )}
          {view &&
            view.header.length > 0 &&
            view.state !== 'failed' &&
            view.state !== 'keeping' &&
            view.state !== 'applied' &&
            view.state !== 'cancelled' && (
              <ImportColumns
                view={view}
                skills={skills}
                disabled={working}
                onTargets={(targets) => void plan(targets, edits)}
              />
            )}
          {view?.state === 'planned' && columns.length === 0 && (
            <p role="status" className="mt-2 rounded-control bg-brass-wash px-3 py-1.5 text-small text-brass-ink">
              No column was recognised. Say above which column holds what, or check that this is the right file.
            </p>
          )}
          {view?.state === 'planned' && view.met > 0 && (
            <p role="status" className="mt-2 rounded-control bg-brass-wash px-3 py-1.5 text-small text-brass-ink">
              {view.written > 0 && `${were(view.written, 'kept')} `}
              {view.met === 1
                ? 'One line was left: somebody else changed what it is about after you saw it. Look at what it would do now, and keep it or not.'
                : `${view.met} lines were left: somebody else changed what they are about after you saw them. Look at what they would do now, and keep them or not.`}{' '}
              {view.fault}
            </p>
          )}
          {view?.state === 'planned' && view.counts && (
            <>
              <div
                className="mt-2 flex flex-wrap items-center gap-2"
                role="group"
                aria-label="Lines by what they would do"
              >
                <Button small aria-pressed={kind === ''} onClick={() => narrow('')}>
                  all {view.total}
                </Button>
                {KINDS.map((k) => (
                  <Button
                    key={k.kind}
                    small
                    aria-pressed={kind === k.kind}
                    disabled={view.counts?.[k.kind] === 0}
                    onClick={() => narrow(k.kind)}
                  >
                    {view.counts?.[k.kind]} {k.name}
                  </Button>
                ))}
                {view.met > 0 && (
                  <Button small aria-pressed={kind === 'met'} onClick={() => narrow('met')}>
                    {view.met} met by others
                  </Button>
                )}
                <span className="ml-auto flex items-center gap-3">
                  <Check
                    label="Invite new people by mail"
                    checked={invite}
                    onChange={(e) => setInvite(e.target.checked)}
                  />
                  <Button onClick={() => void act('import-cancel')}>Cancel</Button>
                  <Button kind="primary" disabled={accepted === 0} onClick={() => void act('import-apply')}>
                    {accepted === 0
                      ? 'Nothing to keep'
                      : `Keep ${accepted} ${accepted === 1 ? 'line' : 'lines'}` +
                        (view.counts.refused > 0 ? `, leave ${view.counts.refused} out` : '')}
                  </Button>
                </span>
              </div>
              <div
                className="mt-2 min-h-0 flex-1 overflow-auto rounded-control border border-rule"
                tabIndex={0}
                role="region"
                aria-label="Lines of the file"
              >
                <table className="w-full text-small">
                  <thead className="sticky top-0 z-10 bg-sheet text-left text-tiny text-ink-2">
                    <tr>
                      <th className="w-12 px-2 py-1.5 text-right font-medium">Row</th>
                      <th className="w-24 font-medium">Would be</th>
                      <th className="w-60 font-medium">Person</th>
                      <th className="font-medium">What changes, or why not</th>
                    </tr>
                  </thead>
                  <tbody>
                    {view.lines.map((l) => (
                      <Line
                        key={l.row}
                        line={l}
                        header={view.header}
                        targets={view.targets}
                        onMend={(e) =>
                          void plan(view.targets, [...edits.filter((x) => x.row !== e.row || x.column !== e.column), e])
                        }
                      />
                    ))}
                  </tbody>
                </table>
                {view.lines.length === 0 && <p className="p-4 text-center text-ink-2">No line of this kind.</p>}
              </div>
              {view.pages > 1 && (
                <div className="mt-2 flex items-center gap-2 text-small">
                  <Button small disabled={page === 0} onClick={() => look({ kind, page: page - 1 })}>
                    Before
                  </Button>
                  page {page + 1} of {view.pages}
                  <Button small disabled={page + 1 >= view.pages} onClick={() => look({ kind, page: page + 1 })}>
                    Next
                  </Button>
                </div>
              )}
            </>
          )}
        </Panel>
      </div>
    </main>
  );
}
