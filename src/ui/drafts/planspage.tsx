'use client';

import { clsx } from 'clsx';
import type { OwnDraftsView } from '@/services/drafts/drafts';
import type { AheadLine, AheadView, PlanLine, PlansView } from '@/services/drafts/plans';
import { Button } from '../kit/button';
import { doing } from '../kit/doing';
import { asDayTime } from '../kit/figures';
import { Link } from '../kit/link';
import { useLive } from '../kit/live';
import { Looking } from '../kit/looking';
import { Empty, Panel, PanelHead, Pill } from '../kit/panel';
import { StopNav } from '../lane/stopnav';

/** What will change by itself, in the order of its days, and what the reader has not finished. */
export function PlansPage({ initial, drafts }: { initial: PlansView; drafts: OwnDraftsView }) {
  const { data, refetch } = useLive<PlansView>('/api/read/plans', ['settings.changed'], initial);
  const { data: ahead, error, refetch: lookAgain } = useLive<AheadView>('/api/read/plans-ahead', ['settings.changed']);
  const { data: mine, refetch: again } = useLive<OwnDraftsView>('/api/read/own-drafts', [], drafts);
  const { plans, zone } = data ?? initial;
  const own = (mine ?? drafts).drafts;
  const open = plans.filter((p) => p.state !== 'done');
  const over = plans.filter((p) => p.state === 'done');
  const lineOf = (plan: PlanLine) => (
    <Planned
      key={plan.id}
      plan={plan}
      zone={zone}
      ahead={ahead?.plans.find((p) => p.id === plan.id)}
      tried={ahead !== undefined || error !== null}
      onDone={() => void refetch()}
    />
  );
  return (
    <>
      <StopNav stop="People" />
      <main className="grid items-start gap-3 p-4 pt-2.5 lg:grid-cols-[minmax(0,1fr)_330px]">
        <Panel label="Planned changes">
          <PanelHead
            title="Planned changes"
            marks={
              <>
                {open.some((p) => p.state === 'on') && (
                  <Pill tone="tide">{open.filter((p) => p.state === 'on').length} on now</Pill>
                )}
                {open.some((p) => p.state === 'failed') && (
                  <Pill tone="bad">{open.filter((p) => p.state === 'failed').length} refused</Pill>
                )}
              </>
            }
          />
          {open.length === 0 ? (
            <Empty title="Nothing is planned">
              Change a queue, group, partner desk, hours, door, duty profile or role, and press “Later…” instead of
              applying it.
            </Empty>
          ) : (
            <ul>{open.map(lineOf)}</ul>
          )}
          {error && (
            <div className="px-4">
              <Looking error={error} onAgain={lookAgain} />
            </div>
          )}
          {over.length > 0 && (
            <details className="border-t border-rule">
              <summary className="cursor-pointer px-4 py-2 text-small font-medium text-ink-2">
                {over.length} {over.length === 1 ? 'is' : 'are'} over
              </summary>
              <ul>{over.map(lineOf)}</ul>
            </details>
          )}
        </Panel>
        <Panel label="Your unfinished changes">
          <PanelHead title="Your unfinished changes" marks={own.length > 0 && <Pill>{own.length}</Pill>} />
          {own.length === 0 ? (
            <p className="px-4 py-3 text-small text-ink-2">
              Whatever you change and do not apply waits for you here, over reloads and days. Nobody else sees it.
            </p>
          ) : (
            <ul>
              {own.map((d) => (
                <li key={d.path} className="flex items-center gap-2 border-t border-rule px-4 py-2 first:border-t-0">
                  <span className="min-w-0 flex-1">
                    <Link className="block truncate font-medium text-plum underline" href={d.path}>
                      {d.label || `New ${d.kindName}`}
                    </Link>
                    <span className="text-tiny text-ink-2">
                      {d.kindName} · {asDayTime(d.realAt)}
                      {d.thingId === '' && ' · not added yet'}
                    </span>
                  </span>
                  <Button
                    small
                    kind="quiet"
                    aria-label={`Forget the changes of ${d.label || `the new ${d.kindName}`}`}
                    onClick={() =>
                      void doing('drop-draft', { kind: d.kind, id: d.thingId || null }, 'Forgotten.').then(() =>
                        again(),
                      )
                    }
                  >
                    Forget
                  </Button>
                </li>
              ))}
            </ul>
          )}
        </Panel>
      </main>
    </>
  );
}

const STATES = {
  planned: null,
  on: { tone: 'tide', says: 'on now' },
  done: { tone: 'plain', says: 'over' },
  failed: { tone: 'bad', says: 'refused' },
} as const;
/** What ends it: before it begins it is called off, while it is on it goes back, and later it is only forgotten. */
const ENDING = {
  planned: { press: 'Call off', said: 'Called off; nothing will change.' },
  on: { press: 'End it now', said: 'Ended; it is as it was before.' },
  done: { press: 'Forget', said: 'Taken off the list.' },
  failed: { press: 'Forget', said: 'Taken off the list.' },
} as const;

function Planned({
  plan,
  zone,
  ahead,
  tried,
  onDone,
}: {
  plan: PlanLine;
  zone: string;
  ahead: AheadLine | undefined;
  /** Whether that day was looked at, or could not be. */
  tried: boolean;
  onDone: () => void;
}) {
  const state = STATES[plan.state];
  const ending = ENDING[plan.state];
  // Over that day's settings it may come to something else than over today's.
  const changes = ahead && plan.state === 'planned' ? ahead.changes : plan.changes;
  return (
    <li className="grid grid-cols-[150px_minmax(0,1fr)_auto] gap-3 border-t border-rule px-4 py-2.5 first:border-t-0">
      <div className="text-small">
        <b className="block font-display">{asDayTime(plan.from, zone)}</b>
        <span className="text-ink-2">{plan.until === null ? 'and stays' : `until ${asDayTime(plan.until, zone)}`}</span>
      </div>
      <div className="min-w-0">
        <p className="flex flex-wrap items-center gap-2">
          <Link className="font-medium text-plum underline" href={plan.path}>
            {plan.thing}
          </Link>
          <span className="text-tiny text-ink-2">
            {plan.kindName} · by {plan.by}
          </span>
          {state && <Pill tone={state.tone}>{state.says}</Pill>}
        </p>
        {plan.note && <p className="text-small">{plan.note}</p>}
        <ul className="mt-0.5 text-small text-ink-2">
          {changes.slice(0, 6).map((c) => (
            <li key={c.what} className="break-words">
              {c.what}: {c.from} → <b className="font-medium text-ink">{c.to}</b>
            </li>
          ))}
          {changes.length > 6 && <li>and {changes.length - 6} more</li>}
        </ul>
        {plan.reason && <Says tone="bad">{plan.reason} Nothing was changed.</Says>}
        {plan.goesOver > 0 && (
          <Says tone="warn">
            {plan.goesOver} of these {plan.goesOver === 1 ? 'has' : 'have'} been set otherwise since; this goes over it.
          </Says>
        )}
        {ahead?.refused && <Says tone="bad">It would be refused then: {ahead.refused}</Says>}
        {ahead?.toFix.map((says) => (
          <Says key={says} tone="warn">
            To fix from then on: {says}
          </Says>
        ))}
        {plan.state === 'planned' && !tried && <p className="text-tiny text-ink-3">Looking at that day…</p>}
      </div>
      {plan.mayChange && (
        <Button
          small
          className="self-start"
          aria-label={`${ending.press}: ${plan.thing}`}
          onClick={() => void doing('call-off-plan', { id: plan.id }, ending.said).then(onDone)}
        >
          {ending.press}
        </Button>
      )}
    </li>
  );
}

const Says = ({ tone, children }: { tone: 'bad' | 'warn'; children: React.ReactNode }) => (
  <p className={clsx('mt-0.5 text-small', tone === 'bad' ? 'text-clay' : 'text-brass-ink')}>{children}</p>
);
