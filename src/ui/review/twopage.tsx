'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { TwoView } from '@/services/review/two';
import { Button } from '../kit/button';
import { asFigure } from '../kit/figures';
import { Empty, Panel } from '../kit/panel';
import { options, Select } from '../kit/select';
import { StopNav } from '../lane/stopnav';
import { reviewHref } from './address';
import { AskBar } from './askbar';
import { ReasonContacts } from './reasoncontacts';
import { RangeNote } from './reviewpage';
import { WhyTwo } from './whytwo';

/** Two of a kind side by side; of two people also why the one had more than the other, reason by reason. */
export function TwoPage({ view }: { view: TwoView }) {
  const router = useRouter();
  const [chosen, setChosen] = useState<string | null>(view.why?.lines[0]?.key ?? null);
  const pathOf = (id: string) => `/review/${view.kind}/${encodeURIComponent(id)}/beside`;
  const go = (id: string, other: string) => router.push(reviewHref(pathOf(id), view.address, { with: other }));
  const line = [...(view.why?.lines ?? []), ...(view.why?.rest ?? [])].find((l) => l.key === chosen);
  return (
    <>
      <StopNav stop="Review" asked={reviewHref('', view.address)} />
      <main className="flex flex-col gap-3 p-4 pt-2.5">
        <AskBar
          view={view}
          path={pathOf(view.one.id)}
          fixed={{ with: view.other.id }}
          keeps={false}
          csv={view.other.id === '' ? null : { kind: view.kind, id: view.one.id, with: view.other.id }}
          title={
            <span className="inline-flex flex-wrap items-center gap-2">
              <h1 className="text-title">{view.one.name}</h1>
              <span className="text-small text-ink-2">beside</span>
              <Select compact aria-label="Beside whom" value={view.other.id} onChange={(id) => go(view.one.id, id)}>
                {view.other.id === '' && <option value="">choose…</option>}
                {view.kind === 'people' && <option value="team">their team’s mean</option>}
                {options(view.others)}
              </Select>
              {view.other.id !== '' && view.other.id !== 'team' && (
                <Button small onClick={() => go(view.other.id, view.one.id)}>
                  Swap
                </Button>
              )}
            </span>
          }
        />
        {view.other.id === '' ? (
          <Panel>
            <Empty title="Choose what it is put beside">
              {view.kind === 'people'
                ? 'Another person, or the mean of their team: the page says why the one had more contacts than the other.'
                : 'Another of its kind.'}
            </Empty>
          </Panel>
        ) : (
          <div className="grid items-start gap-3 lg:grid-cols-[minmax(0,1fr)_400px]">
            {view.why && (
              <WhyTwo one={view.one} other={view.other} why={view.why} chosen={chosen} onChoose={setChosen} />
            )}
            {view.whyNot && (
              <Panel>
                <Empty title="Why they differ is not said">{view.whyNot}</Empty>
              </Panel>
            )}
            <div className="flex min-w-0 flex-col gap-3">
              <Figures view={view} />
              {line && (
                <ReasonContacts
                  key={line.key}
                  line={line}
                  href={reviewHref('/api/read/contacts-of-reason', view.address, {
                    kind: view.kind,
                    id: view.one.id,
                    with: view.other.id,
                    reason: line.key,
                  })}
                  zone={view.zone}
                  names={{
                    mine: view.one.name,
                    theirs: view.other.id === 'team' ? 'others of the team' : view.other.name,
                  }}
                />
              )}
            </div>
          </div>
        )}
        <RangeNote view={view} />
      </main>
    </>
  );
}

const Figures = ({ view }: { view: TwoView }) => (
  <Panel className="p-4" label="Side by side">
    <h2 className="text-panel">Side by side</h2>
    <table className="mt-1 w-full text-small">
      <thead className="text-tiny text-ink-2">
        <tr>
          <th scope="col" className="text-left font-normal">
            <span className="sr-only">Figure</span>
          </th>
          {[view.one, view.other].map((of) => (
            <th key={of.id} scope="col" className="max-w-32 truncate pl-3 text-right font-normal" title={of.name}>
              {of.name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {view.figures.map(({ one, other }) => (
          <tr key={one.id} className="border-t border-rule">
            <td className="py-1" title={one.formula}>
              {one.name}
            </td>
            {[one, other].map((f, i) => (
              <td key={i} className="pl-3 text-right tabular-nums">
                <span className="font-semibold">{asFigure(f.value, f.unit)}</span>{' '}
                <span className="inline-block min-w-14 text-tiny text-ink-2">was {asFigure(f.before, f.unit)}</span>
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  </Panel>
);
