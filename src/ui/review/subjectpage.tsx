'use client';

import { useState } from 'react';
import type { Kind } from '@/services/review/each';
import type { SubjectView } from '@/services/review/subject';
import { LinkButton } from '../kit/button';
import { asCount, asFigure, asShare, initials } from '../kit/figures';
import { Link } from '../kit/link';
import { Empty, Panel } from '../kit/panel';
import { PersonCoaching } from '../coaching/personcoaching';
import { StopNav } from '../lane/stopnav';
import { reviewHref } from './address';
import { AskBar } from './askbar';
import { Behind, type Opened } from './behind';
import { BesideStrip } from './beside';
import { Busy } from './busy';
import { EachTable } from './eachtable';
import { FiguresRow } from './figuresrow';
import { GoalButton } from './goalbutton';
import { LinePanel } from './linepanel';
import { PersonDays } from './personday';
import { RangeNote } from './reviewpage';
import { TimeUsed } from './timeused';
import { WhatChanged } from './whatchanged';

/** Where what something is split by has its pages, and what the split is called. */
const SPLITS: Readonly<Record<string, { readonly kind: Kind; readonly name: string }>> = {
  queue: { kind: 'queues', name: 'By queue' },
  channel: { kind: 'channels', name: 'By channel' },
  door: { kind: 'doors', name: 'By door' },
  bot: { kind: 'bots', name: 'By bot' },
  team: { kind: 'teams', name: 'By team' },
  person: { kind: 'people', name: 'By person' },
  language: { kind: 'languages', name: 'By language' },
  skill: { kind: 'skills', name: 'By skill' },
  outcome: { kind: 'outcomes', name: 'Outcomes' },
};

/** What things have inside, and what it is called there. */
const INSIDE: Partial<Record<Kind, { readonly title: string; readonly head: string; readonly none: string }>> = {
  lines: { title: 'Line by line', head: 'Line', none: 'Nobody came to a line that listens' },
  intents: {
    title: 'What customers wanted, in their own words',
    head: 'Intent',
    none: 'Nobody said it in their own words',
  },
  stages: { title: 'Stage by stage: where waiting ended', head: 'Stage', none: 'Nobody waited' },
};

/** How one person, team, queue, … did: against another range, beside its peers, and what it was made of. */
export function SubjectPage({ view }: { view: SubjectView }) {
  const [opened, setOpened] = useState<Opened | null>(null);
  const [chosen, setChosen] = useState(view.figures[0]?.id ?? '');
  const figure = view.figures.find((f) => f.id === chosen) ?? view.figures[0];
  const goal = view.goals.find((g) => g.measure === figure?.id);
  const path = `/review/${view.kind}/${encodeURIComponent(view.id)}`;
  const nothing = view.figures.every((f) => f.count === 0);
  return (
    <>
      <StopNav stop="Review" asked={reviewHref('', view.address)} />
      <main className="flex flex-col gap-3 p-4 pt-2.5">
        <AskBar
          view={view}
          path={path}
          csv={{ kind: view.kind, id: view.id }}
          title={
            <span className="inline-flex items-center gap-2">
              {view.kind === 'people' && (
                <span
                  aria-hidden
                  className="grid size-8 place-items-center rounded-full bg-plum text-small font-semibold text-sheet"
                >
                  {initials(view.name)}
                </span>
              )}
              <h1 className="text-title">{view.name}</h1>
              {view.team && <span className="text-small text-ink-2">{view.team}</span>}
              <LinkButton small href={reviewHref(`${path}/beside`, view.address)}>
                Beside another…
              </LinkButton>
            </span>
          }
        />
        <WhatChanged
          address={view.address}
          range={view}
          path={path}
          of={{ kind: view.kind, id: view.id }}
          onOpen={setOpened}
        />
        <FiguresRow figures={view.figures} compared={view.before.whole} chosen={figure?.id} onChoose={setChosen} />
        {nothing ? (
          <Panel>
            <Empty title="Nothing in this range">Widen the range, or narrow it less.</Empty>
          </Panel>
        ) : (
          <div className="grid gap-3 lg:grid-cols-[minmax(0,1fr)_400px]">
            <div className="flex min-w-0 flex-col gap-3">
              {view.kind === 'people' && <PersonDays address={view.address} id={view.id} today={view.today} />}
              {figure && (
                <LinePanel
                  figure={figure}
                  line={view.line}
                  goal={goal}
                  tools={
                    view.maySetGoals && figure.unit !== 'count' && (view.kind === 'people' || view.kind === 'teams') ? (
                      <GoalButton key={figure.id} kind={view.kind} of={view.id} figure={figure} goal={goal} />
                    ) : null
                  }
                  onOpen={() => setOpened({ kind: view.kind, id: view.id, measure: figure.id })}
                />
              )}
              {view.inside.map((inside) => (
                <Panel key={inside.kind} className="p-4" label={INSIDE[inside.kind]?.title ?? ''}>
                  <h2 className="text-panel">{INSIDE[inside.kind]?.title}</h2>
                  {inside.rows.length === 0 ? (
                    <Empty title={INSIDE[inside.kind]?.none ?? ''} />
                  ) : (
                    <EachTable
                      kind={inside.kind}
                      head={INSIDE[inside.kind]?.head ?? ''}
                      columns={inside.columns}
                      rows={inside.rows}
                      address={view.address}
                      compared={view.before.whole}
                      changes
                      inOrder={inside.kind === 'stages'}
                      onOpen={(id, measure) => setOpened({ kind: inside.kind, id, measure })}
                    />
                  )}
                </Panel>
              ))}
              <div className="grid items-start gap-3 md:grid-cols-2">
                {view.splits.map((split) => (
                  <SplitPanel key={split.by} split={split} address={view.address} />
                ))}
              </div>
              {view.kind === 'people' && view.mayCoach && <PersonCoaching id={view.id} zone={view.zone} />}
            </div>
            <div className="flex min-w-0 flex-col gap-3">
              {view.kind === 'people' && <TimeUsed address={view.address} id={view.id} />}
              <BesidePanel view={view} />
              <Busy busy={view.busy} from={view.from} to={view.to} />
            </div>
          </div>
        )}
        <RangeNote view={view} />
        {opened && <Behind address={view.address} opened={opened} zone={view.zone} onClose={() => setOpened(null)} />}
      </main>
    </>
  );
}

const BesidePanel = ({ view }: { view: SubjectView }) => (
  <Panel className="p-4" label={`Beside ${view.peers}`}>
    <div className="flex flex-wrap items-baseline gap-x-2">
      <h2 className="text-panel">Beside {view.peers}</h2>
      <span className="text-tiny text-ink-2">
        ● now ○ before · ticks: each other with ten or more · bar: their mean
      </span>
    </div>
    <table className="mt-1 w-full text-small">
      <thead className="text-tiny text-ink-2">
        <tr>
          <th scope="col" className="text-left font-normal">
            <span className="sr-only">Figure</span>
          </th>
          <th scope="col" className="w-14 text-right font-normal">
            now
          </th>
          <th scope="col" className="w-14 text-right font-normal">
            before
          </th>
          <th scope="col" className="w-14 text-right font-normal">
            mean
          </th>
          <th className="w-28" />
        </tr>
      </thead>
      <tbody>
        {view.figures.flatMap((f) => {
          const beside = view.beside.find((b) => b.measure === f.id);
          if (!beside) return [];
          return (
            <tr key={f.id} className="border-t border-rule">
              <td className="max-w-28 truncate py-1 pr-2" title={f.formula}>
                {f.name}
              </td>
              <td className="text-right font-semibold tabular-nums">{asFigure(f.value, f.unit)}</td>
              <td className="text-right text-ink-2 tabular-nums">{asFigure(f.before, f.unit)}</td>
              <td className="text-right text-ink-2 tabular-nums">{asFigure(beside.mean, f.unit)}</td>
              <td className="pl-3">
                <BesideStrip figure={f} beside={beside} />
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  </Panel>
);

/** Rows of a split that stand there before the rest is asked for. */
const FIRST = 8;

function SplitPanel({
  split,
  address,
}: {
  split: SubjectView['splits'][number];
  address: Readonly<Record<string, string>>;
}) {
  const [whole, setWhole] = useState(false);
  const { kind, name } = SPLITS[split.by] ?? { kind: 'queues', name: split.by };
  const shown = whole ? split.rows : split.rows.slice(0, FIRST);
  return (
    <Panel className="p-4" label={name}>
      <h2 className="text-panel">{name}</h2>
      {split.rows.length === 0 ? (
        <p className="mt-1 text-small text-ink-2">None in this range.</p>
      ) : (
        <table className="mt-1 w-full text-small">
          <tbody>
            {shown.map((row) => (
              <tr key={row.id}>
                <td className="max-w-36 truncate py-0.5 pr-2">
                  <Link
                    href={reviewHref(`/review/${kind}/${encodeURIComponent(row.id)}`, address)}
                    className="hover:underline"
                  >
                    {row.name}
                  </Link>
                </td>
                <td className="w-12 text-right tabular-nums">{asCount(row.count)}</td>
                <td className="w-full pl-2">
                  <span className="block h-2.5 rounded bg-sunk" aria-hidden>
                    <span className="block h-2.5 rounded bg-plum-2" style={{ width: `${row.share * 100}%` }} />
                  </span>
                </td>
                <td className="w-10 pl-2 text-right text-ink-2 tabular-nums">{asShare(row.share)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {split.rows.length > FIRST && (
        <button type="button" className="mt-1 text-small text-plum underline" onClick={() => setWhole(!whole)}>
          {whole ? 'Fewer' : `${split.rows.length - FIRST} more`}
        </button>
      )}
    </Panel>
  );
}
