'use client';

import { useState } from 'react';
import { DRAW_WORDS } from '@/core/people/coaching';
import type { CoachingView } from '@/services/coaching/coachingviews';
import { Button } from '../kit/button';
import { sentence, setting } from '../kit/call';
import { ChannelMark } from '../kit/channelmark';
import { asDayTime, asShare } from '../kit/figures';
import { Link } from '../kit/link';
import { useLive } from '../kit/live';
import { Empty, Panel, PanelHead } from '../kit/panel';
import { StopNav } from '../lane/stopnav';
import type { Channel } from '@/core/channels';
import { toast } from 'sonner';
import { monthAfter } from '@/core/hours/dates';
import { monthName } from './months';
import { RulesDialog } from './rulesdialog';

/** Everybody whom one coaches: what is drawn and rated this month, how it went, and what is to be talked about. */
export function CoachingPage({ initial, zone }: { initial: CoachingView; zone: string }) {
  const [month, setMonth] = useState(initial.month);
  const [ruling, setRuling] = useState(false);
  const [drawing, setDrawing] = useState(false);
  const { data, error, refetch } = useLive<CoachingView>(
    `/api/read/coaching?month=${month}`,
    ['settings.changed'],
    month === initial.month ? initial : undefined,
  );
  const view = data ?? initial;
  const again = () => void refetch();
  const draw = () => {
    setDrawing(true);
    setting<{ drawn: number }>('draw-contacts', { month })
      .then(
        ({ drawn }) =>
          toast.success(
            drawn === 0 ? 'Nothing more is to be drawn for this month.' : `${drawn} contacts were drawn to be rated.`,
          ),
        (fault: unknown) => toast.error(sentence(fault)),
      )
      .finally(() => {
        setDrawing(false);
        again();
      });
  };
  const drawn = view.people.reduce((n, person) => n + person.drawn, 0);
  const done = view.people.reduce((n, person) => n + person.rated, 0);
  const future = month > view.thisMonth;
  // Another month was asked for than the one that is shown: nothing is drawn for what nobody sees.
  const loading = view.month !== month;
  return (
    <>
      <StopNav stop="Review" />
      <main className="flex flex-col gap-3 p-4 pt-2.5">
        <div className="flex flex-wrap items-center gap-2">
          <h1 className="text-title">Coaching</h1>
          <span className="inline-flex items-center">
            <Button small aria-label="The month before" onClick={() => setMonth(monthAfter(month, -1))}>
              ‹
            </Button>
            <span className="w-24 text-center font-display font-semibold" aria-live="polite">
              {monthName(month)}
            </span>
            <Button
              small
              aria-label="The month after"
              disabled={month >= view.thisMonth}
              onClick={() => setMonth(monthAfter(month, 1))}
            >
              ›
            </Button>
          </span>
          <span className="text-small text-ink-2">
            {drawn === 0 ? 'nothing is drawn yet' : `${done} of ${drawn} drawn contacts are rated`}
          </span>
          <span className="ml-auto flex gap-2">
            {view.mayChangeRules && (
              <Button small onClick={() => setRuling(true)}>
                What is rated…
              </Button>
            )}
            <Button small kind="primary" disabled={drawing || future || loading} onClick={draw}>
              {drawing ? 'Drawing…' : 'Draw contacts to rate'}
            </Button>
          </span>
        </div>
        {error && (
          <p role="alert" className="text-small text-clay">
            It cannot be read just now.
          </p>
        )}
        {view.people.length === 0 ? (
          <Panel>
            <Empty title="Nobody is in your teams">Whoever supervises a team coaches its people here.</Empty>
          </Panel>
        ) : (
          <div className="grid items-start gap-3 lg:grid-cols-[minmax(0,1fr)_400px]">
            <Panel className="overflow-x-auto">
              <PeopleTable view={view} />
            </Panel>
            <Panel label="To rate">
              <PanelHead as="h2" title="To rate" />
              {view.due.length === 0 ? (
                <Empty title={drawn === 0 ? 'Nothing is drawn for this month' : 'All that was drawn is rated'}>
                  {drawn === 0 && `“Draw contacts to rate” picks ${drawWords(view.rules)} of each person.`}
                </Empty>
              ) : (
                <ul className="max-h-[60vh] overflow-y-auto px-4 py-1">
                  {view.due.map((one) => (
                    <li
                      key={`${one.personId} ${one.contactId}`}
                      className="flex items-center gap-2 border-b border-rule py-1 text-small last:border-0"
                    >
                      <ChannelMark channel={one.channel as Channel} />
                      <span className="min-w-0 flex-1 truncate">
                        {view.mayRead ? (
                          <Link className="text-plum underline" href={`/contacts/${encodeURIComponent(one.contactId)}`}>
                            {one.person}
                          </Link>
                        ) : (
                          one.person
                        )}
                      </span>
                      <span className="text-tiny text-ink-2">{DRAW_WORDS[one.why]}</span>
                      <span className="w-24 text-right text-tiny text-ink-2 tabular-nums">
                        {asDayTime(one.startedAt, zone)}
                      </span>
                    </li>
                  ))}
                </ul>
              )}
            </Panel>
          </div>
        )}
        {ruling && <RulesDialog rules={view.rules} onClose={() => setRuling(false)} onChanged={again} />}
      </main>
    </>
  );
}

const drawWords = ({ byChance, byRule }: CoachingView['rules']): string =>
  [
    ...(byChance > 0 ? [`${byChance} by chance`] : []),
    ...Object.entries(byRule).flatMap(([rule, many]) =>
      many > 0 ? [`${many}: ${DRAW_WORDS[rule as keyof typeof DRAW_WORDS]}`] : [],
    ),
  ].join(', ') || 'none';

const PeopleTable = ({ view }: { view: CoachingView }) => (
  <table className="w-full text-small">
    <thead className="text-tiny text-ink-2">
      <tr>
        <th scope="col" className="px-4 py-2 text-left font-normal">
          Person
        </th>
        <th scope="col" className="py-2 text-left font-normal">
          Team
        </th>
        <th scope="col" className="w-20 py-2 text-right font-normal">
          Rated
        </th>
        <th scope="col" className="w-16 py-2 text-right font-normal">
          Mean
        </th>
        <th scope="col" className="w-36 px-3 py-2 text-left font-normal" aria-label="Mean as a bar" />
        <th scope="col" className="w-28 py-2 text-right font-normal">
          3 months before
        </th>
        <th scope="col" className="w-28 px-4 py-2 text-right font-normal">
          To talk about
        </th>
      </tr>
    </thead>
    <tbody>
      {view.people.map((person) => (
        <tr key={person.id} className="border-t border-rule">
          <td className="max-w-48 truncate px-4 py-1">
            <Link className="hover:underline" href={`/review/people/${encodeURIComponent(person.id)}`}>
              {person.name}
            </Link>
          </td>
          <td className="max-w-32 truncate text-ink-2">{person.team}</td>
          <td className="text-right tabular-nums">
            {person.drawn === 0 ? (person.ratings > 0 ? person.ratings : '–') : `${person.rated} of ${person.drawn}`}
          </td>
          <td className="text-right font-semibold tabular-nums">{asShare(person.score)}</td>
          <td className="px-3">
            {person.score !== null && (
              <span className="block h-2 rounded bg-sunk" aria-hidden>
                <span className="block h-2 rounded bg-plum-2" style={{ width: `${person.score * 100}%` }} />
              </span>
            )}
          </td>
          <td className="text-right text-ink-2 tabular-nums">{asShare(person.before)}</td>
          <td className="px-4 text-right tabular-nums">{person.toTalk === 0 ? '–' : person.toTalk}</td>
        </tr>
      ))}
    </tbody>
  </table>
);
