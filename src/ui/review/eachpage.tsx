'use client';

import { useState } from 'react';
import type { EachView } from '@/services/review/each';
import { Empty, Panel } from '../kit/panel';
import { StopNav } from '../lane/stopnav';
import { reviewHref } from './address';
import { AskBar } from './askbar';
import { Behind, type Opened } from './behind';
import { EachTable } from './eachtable';
import { RangeNote } from './reviewpage';

/** All people, teams, queues, … beside each other, each with a page of its own. */
export function EachPage({ view }: { view: EachView }) {
  const [opened, setOpened] = useState<Opened | null>(null);
  return (
    <>
      <StopNav stop="Review" asked={reviewHref('', view.address)} />
      <main className="flex flex-col gap-3 p-4 pt-2.5">
        <AskBar
          view={view}
          path={`/review/${view.kind}`}
          title={<h1 className="text-title">{view.name}</h1>}
          csv={{ kind: view.kind }}
        />
        <Panel className="min-w-0 overflow-x-auto p-4" label={view.name}>
          {view.rows.length === 0 ? (
            <Empty title="Nothing in this range">Widen the range, or narrow it less.</Empty>
          ) : (
            <>
              <p className="mb-1 text-small text-ink-2">
                bar: this range · tick: the range before · a name opens its page, a figure its contacts
              </p>
              <EachTable
                changes
                kind={view.kind}
                head={view.one.charAt(0).toUpperCase() + view.one.slice(1)}
                columns={view.columns}
                rows={view.rows}
                address={view.address}
                compared={view.before.whole}
                onOpen={(id, measure) => setOpened({ kind: view.kind, id, measure })}
              />
            </>
          )}
        </Panel>
        <RangeNote view={view} />
        {opened && <Behind address={view.address} opened={opened} zone={view.zone} onClose={() => setOpened(null)} />}
      </main>
    </>
  );
}
