'use client';

import { useQueryClient } from '@tanstack/react-query';
import { Link } from '../kit/link';
import { useState } from 'react';
import { toast } from 'sonner';
import { localDate } from '@/core/hours/weekly';
import type { HistoryLine, HistoryView, Undone } from '@/services/workspace/history';
import { Button } from '../kit/button';
import { Refused, sentence, setting } from '../kit/call';
import { RangeField } from '../kit/datefield';
import { Dialog } from '../kit/dialog';
import { asCount, asDayTime } from '../kit/figures';
import { Filters, FilterText } from '../kit/filters';
import { useLive } from '../kit/live';
import { Empty, Panel, Pill } from '../kit/panel';
import { usualRanges } from '../kit/ranges';
import { options, Select } from '../kit/select';
import { StopNav } from '../lane/stopnav';
import { UNDER_WAY, UnderWay } from './underway';

type Filter = {
  readonly text: string;
  readonly kind: string;
  readonly person: string;
  readonly from: string;
  readonly to: string;
  readonly thing: string;
};

/** Who changed what, newest first; searched, and taken back. */
export function HistoryPage({ initial, thing, zone }: { initial: HistoryView; thing: string; zone: string }) {
  const [filter, setFilter] = useState<Filter>({ text: '', kind: '', person: '', from: '', to: '', thing });
  const [before, setBefore] = useState<readonly number[]>([]);
  const [clash, setClash] = useState<{
    line: HistoryLine;
    faults: readonly { where: string; what: string }[];
    says: string;
  } | null>(null);
  const query = new URLSearchParams(
    Object.entries({ ...filter, before: String(before.at(-1) ?? '') }).filter(([, v]) => v !== ''),
  ).toString();
  const first = query === new URLSearchParams(thing === '' ? {} : { thing }).toString();
  const { data, error, refetch, isPlaceholderData } = useLive<HistoryView>(
    `/api/read/history?${query}`,
    ['settings.changed'],
    first ? initial : undefined,
  );
  const view = data ?? initial;
  const set = (change: Partial<Filter>) => {
    setBefore([]);
    setFilter({ ...filter, ...change });
  };
  const client = useQueryClient();
  const undo = async (line: HistoryLine, anyway: boolean) => {
    // A large one takes a while: how far it is, and the way to call it off, are there at once.
    if (line.batch > 1) setTimeout(() => void client.invalidateQueries({ queryKey: UNDER_WAY }), 150);
    try {
      const { undone, skipped } = await setting<Undone>('undo', { id: line.id, ...(anyway ? { anyway: 1 } : {}) });
      const left = skipped > 0 ? ` ${skipped} could not be, or were before.` : '';
      toast.success(undone === 1 ? `Taken back.${left}` : `${asCount(undone)} changes taken back.${left}`);
      setClash(null);
    } catch (e) {
      if (e instanceof Refused && e.code === 'changed-meanwhile') setClash({ line, faults: e.faults, says: e.message });
      else toast.error(sentence(e));
    }
    await refetch();
  };
  return (
    <main className="flex h-[calc(100vh-64px)] min-h-[560px] flex-col">
      <StopNav stop="People" />
      <div className="min-h-0 flex-1 px-4 pt-2 pb-4">
        <Panel className="flex h-full flex-col p-4" label="History">
          <Filters label="Narrow changes">
            <h1 className="mr-2 text-title">Who changed what</h1>
            <FilterText
              label="Search changes"
              hint="Search names and values"
              value={filter.text}
              onChange={(text) => set({ text })}
              className="w-52"
            />
            <Select aria-label="What kind" value={filter.kind} onChange={(chosen) => set({ kind: chosen })} compact>
              <option value="">Everything</option>
              {options(view.kinds)}
            </Select>
            <Select aria-label="By whom" value={filter.person} onChange={(chosen) => set({ person: chosen })} compact>
              <option value="">By anybody</option>
              {options(view.people)}
            </Select>
            <RangeField
              label="Days"
              from={filter.from}
              to={filter.to}
              presets={[{ name: 'All', from: '', to: '' }, ...usualRanges(localDate(Date.now(), zone))]}
              onChange={set}
            />
            {filter.thing !== '' && (
              <Pill tone="plum">
                only {view.thing ?? 'this'}{' '}
                <button type="button" aria-label="Show everything" className="ml-1" onClick={() => set({ thing: '' })}>
                  ×
                </button>
              </Pill>
            )}
          </Filters>
          <UnderWay />
          {error && (
            <p role="alert" className="mt-2 text-small text-clay">
              {sentence(error)}
            </p>
          )}
          <div className="mt-3 min-h-0 flex-1 overflow-y-auto" aria-busy={isPlaceholderData}>
            {view.lines.length === 0 ? (
              <Empty title="Nothing was changed">
                {query === ''
                  ? 'Whoever changes a setting shows here, with what it was before.'
                  : 'No change fits this search.'}
              </Empty>
            ) : (
              <ol>
                {view.lines.map((l) => (
                  <li
                    key={l.id}
                    className="grid grid-cols-[150px_210px_minmax(0,1fr)_190px] gap-3 border-b border-rule py-2 text-small"
                  >
                    <div>
                      <span className="block">{asDayTime(l.realAt, zone)}</span>
                      <span className="block text-ink-2">{l.who}</span>
                    </div>
                    <div className="min-w-0">
                      <span className="block truncate font-medium">
                        {l.path ? (
                          <Link href={l.path} className="hover:underline">
                            {l.thing}
                          </Link>
                        ) : (
                          l.thing
                        )}
                      </span>
                      <span className="block text-ink-2">
                        {l.did === 'changed' ? l.kindName : `${l.kindName} ${l.did}`}
                        {l.batch > 1 && ` · ${asCount(l.batch)} in one press`}
                      </span>
                    </div>
                    <ul className="min-w-0">
                      {l.changes.map((c, i) => (
                        <li key={i} className="break-words">
                          <span className="text-ink-2">{c.what}</span>{' '}
                          {c.from === '–' ? (
                            c.to
                          ) : c.to === '–' ? (
                            <s>{c.from}</s>
                          ) : (
                            <>
                              {c.from} <span aria-label="became">→</span> {c.to}
                            </>
                          )}
                        </li>
                      ))}
                      {l.more > 0 && <li className="text-ink-2">and {l.more} more</li>}
                    </ul>
                    <div className="text-right">
                      {l.undone ? (
                        <Pill>taken back</Pill>
                      ) : l.canUndo ? (
                        <Button small onClick={() => void undo(l, false)}>
                          {l.batch > 1 ? `Undo all ${asCount(l.batch)}` : 'Undo'}
                        </Button>
                      ) : (
                        <span className="text-tiny text-ink-3">{l.whyNot}</span>
                      )}
                    </div>
                  </li>
                ))}
              </ol>
            )}
          </div>
          <div className="mt-2 flex gap-2">
            {before.length > 0 && (
              <Button small onClick={() => setBefore(before.slice(0, -1))}>
                Newer
              </Button>
            )}
            {view.next !== null && (
              <Button small onClick={() => setBefore([...before, view.next ?? 0])}>
                Older
              </Button>
            )}
          </div>
        </Panel>
      </div>
      {clash && (
        <Dialog open wide onClose={() => setClash(null)} title="It was changed again since" description={clash.says}>
          <ul className="text-small">
            {clash.faults.map((f, i) => (
              <li key={i} className="flex gap-3 border-b border-rule py-1">
                <b className="w-64 font-medium">{f.where}</b>
                <span>{f.what}</span>
              </li>
            ))}
          </ul>
          <div className="mt-4 flex gap-2">
            <Button kind="danger" onClick={() => void undo(clash.line, true)}>
              Put back the version from before
            </Button>
            <Button kind="primary" onClick={() => setClash(null)}>
              Keep it as it is now
            </Button>
          </div>
        </Dialog>
      )}
    </main>
  );
}
