'use client';

import { useState } from 'react';
import { DRAW_WORDS } from '@/core/people/coaching';
import type { PersonCoachingView } from '@/services/coaching/coachingviews';
import { Button } from '../kit/button';
import { asDayTime, asShare } from '../kit/figures';
import { Link } from '../kit/link';
import { useLive } from '../kit/live';
import { Panel } from '../kit/panel';
import { NoteDialog } from './notedialog';
import { Note, Rating } from './said';
import { monthName } from './months';

/** Of notes and ratings, those that stand there before the rest is asked for. */
const FIRST = 4;

/** What is to be talked about with somebody, how their ratings went, and what coaches wrote about them. */
export function PersonCoaching({ id, zone }: { id: string; zone: string }) {
  const [writing, setWriting] = useState(false);
  const [whole, setWhole] = useState(false);
  const { data, error, refetch } = useLive<PersonCoachingView>(
    `/api/read/person-coaching?id=${encodeURIComponent(id)}`,
    [],
  );
  const again = () => void refetch();
  if (!data)
    return (
      <Panel className="p-4" label="Coaching">
        <h2 className="text-panel">Coaching</h2>
        <p className="text-small text-ink-2" role={error ? 'alert' : undefined}>
          {error ? 'It cannot be read just now.' : 'Reading…'}
        </p>
      </Panel>
    );
  const rated = data.months.some((month) => month.count > 0);
  const said = [
    ...data.notes.map((note) => ({ at: note.at, open: note.toTalk && note.talkedAt === null, note, rating: null })),
    ...data.ratings.map((rating) => ({ at: rating.at, open: false, note: null, rating })),
  ].sort((a, b) => Number(b.open) - Number(a.open) || b.at - a.at);
  return (
    <Panel className="p-4" label="Coaching">
      <div className="flex items-center gap-2">
        <h2 className="text-panel">Coaching</h2>
        <Button small className="ml-auto" onClick={() => setWriting(true)}>
          Write a note…
        </Button>
      </div>
      {rated && (
        <div className="mt-1 grid grid-cols-2 gap-x-4">
          <Scores label="By month" rows={data.months.map((month) => ({ ...month, name: monthName(month.month) }))} />
          <Scores label="By point, three months" rows={data.points} />
        </div>
      )}
      {data.due.length > 0 && (
        <p className="mt-2 text-small">
          To rate:{' '}
          {data.due.map((draw, i) => (
            <span key={draw.contactId}>
              {i > 0 && ', '}
              <Link className="text-plum underline" href={`/contacts/${encodeURIComponent(draw.contactId)}`}>
                {asDayTime(draw.startedAt, zone)}
              </Link>{' '}
              <span className="text-ink-2">({DRAW_WORDS[draw.why]})</span>
            </span>
          ))}
        </p>
      )}
      {said.length === 0 ? (
        <p className="mt-1 text-small text-ink-2">
          Nothing was noted or rated yet. Conversations are rated on their own page.
        </p>
      ) : (
        <ul className="mt-1">
          {(whole ? said : said.slice(0, FIRST)).map(({ note, rating }) =>
            note ? (
              <Note key={note.id} note={note} zone={zone} contacts onChanged={again} />
            ) : (
              <Rating key={rating.id} rating={rating} zone={zone} contacts onChanged={again} />
            ),
          )}
        </ul>
      )}
      {said.length > FIRST && (
        <button type="button" className="text-small text-plum underline" onClick={() => setWhole(!whole)}>
          {whole ? 'Fewer' : `${said.length - FIRST} more`}
        </button>
      )}
      {writing && (
        <NoteDialog
          people={[{ id: data.id, name: data.name }]}
          contactId={null}
          onClose={() => setWriting(false)}
          onChanged={again}
        />
      )}
    </Panel>
  );
}

const Scores = ({
  label,
  rows,
}: {
  label: string;
  rows: readonly { readonly name: string; readonly count: number; readonly score: number | null }[];
}) => (
  <table className="self-start text-small">
    <caption className="text-left text-tiny text-ink-2">{label}</caption>
    <tbody>
      {rows.map((row) => (
        <tr key={row.name}>
          <th scope="row" className="max-w-24 truncate py-0.5 pr-2 text-left font-normal">
            {row.name}
          </th>
          <td className="w-full">
            <span className="block h-2 rounded bg-sunk" aria-hidden>
              <span className="block h-2 rounded bg-plum-2" style={{ width: `${(row.score ?? 0) * 100}%` }} />
            </span>
          </td>
          <td className="pl-2 text-right tabular-nums">{asShare(row.score)}</td>
          <td className="pl-1 text-right text-tiny text-ink-3 tabular-nums" title="ratings or marks">
            {row.count}
          </td>
        </tr>
      ))}
    </tbody>
  </table>
);
