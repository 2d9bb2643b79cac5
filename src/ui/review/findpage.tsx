'use client';

import { useRouter } from 'next/navigation';
import { type FormEvent, useState } from 'react';
import { CONTACT_END_WORDS, CONTACT_ENDS } from '@/core/measures/facts';
import { MOOD_WORDS, MOODS } from '@/core/mood/mood';
import type { FindView, FoundLine } from '@/services/review/find';
import { Button, LinkButton } from '../kit/button';
import { ChannelMark } from '../kit/channelmark';
import { Field, Input } from '../kit/field';
import { asClock, asDayTime } from '../kit/figures';
import { Link } from '../kit/link';
import { Empty, Panel, Pill } from '../kit/panel';
import { options, Select } from '../kit/select';
import { Table } from '../kit/table';
import { StopNav } from '../lane/stopnav';
import { reviewHref } from './address';
import { AskBar } from './askbar';
import { MOOD_TONES } from './moodline';
import { RangeNote } from './reviewpage';

const PATH = '/review/find';
type Finding = Readonly<Record<string, string>>;

/** Contacts by who the customer was, what was said and how it went, within what the bar above narrows to. */
export function FindPage({ view, finding }: { view: FindView; finding: Finding }) {
  const router = useRouter();
  const [asked, setAsked] = useState<Finding>({ ...finding, after: '' });
  const put = (name: string, value: string) => setAsked((was) => ({ ...was, [name]: value }));
  const find = (event: FormEvent) => {
    event.preventDefault();
    router.push(reviewHref(PATH, view.address, asked));
  };
  const further = view.further === null ? null : { ...finding, after: String(view.further) };
  return (
    <>
      <StopNav stop="Review" asked={reviewHref('', view.address)} />
      <main className="flex flex-col gap-3 p-4 pt-2.5">
        <AskBar
          view={view}
          path={PATH}
          compares={false}
          fixed={{ ...finding, after: '' }}
          title={<h1 className="text-title">Find a contact</h1>}
        />
        <Panel className="p-4" label="What is looked for">
          <form
            onSubmit={find}
            className="grid items-end gap-3 md:grid-cols-3 xl:grid-cols-[1fr_1.2fr_150px_100px_120px_120px_auto]"
          >
            <Field label="Customer" hint="Name, address or number, or a part of it">
              {(props) => (
                <Input
                  {...props}
                  autoFocus
                  value={asked.customer ?? ''}
                  onChange={(e) => put('customer', e.target.value)}
                />
              )}
            </Field>
            <Field label="Words said" hint="All of them; “in quotation marks” together">
              {(props) => <Input {...props} value={asked.words ?? ''} onChange={(e) => put('words', e.target.value)} />}
            </Field>
            <Field label="Ended" hint="How it came to its end">
              {(props) => (
                <Select {...props} value={asked.ended ?? ''} onChange={(value) => put('ended', value)}>
                  <option value="">however</option>
                  {options(CONTACT_ENDS, (end) => CONTACT_END_WORDS[end])}
                </Select>
              )}
            </Field>
            <Field label="At least" hint="Minutes long">
              {(props) => (
                <Input
                  {...props}
                  type="number"
                  min={0}
                  value={asked.minutes ?? ''}
                  onChange={(e) => put('minutes', e.target.value)}
                />
              )}
            </Field>
            <Field label="Mood" hint="As it seemed">
              {(props) => (
                <Select {...props} value={asked.mood ?? ''} onChange={(value) => put('mood', value)}>
                  <option value="">whichever</option>
                  {options(MOODS, (mood) => MOOD_WORDS[mood])}
                </Select>
              )}
            </Field>
            <Field label="Rated" hint="At most, of 5">
              {(props) => (
                <Select {...props} value={asked.rated ?? ''} onChange={(value) => put('rated', value)}>
                  <option value="">or not</option>
                  {options(['1', '2', '3', '4', '5'], (rating) => rating)}
                </Select>
              )}
            </Field>
            <Button kind="primary" type="submit" className="mb-5">
              Find
            </Button>
          </form>
        </Panel>
        <Panel className="min-w-0 overflow-x-auto p-4" label="Contacts found">
          {view.mayExport && view.lines.length > 0 && (
            <div className="mb-2 flex items-center justify-end gap-2 text-small text-ink-2">
              All that are like that, with private values masked:
              {(['csv', 'ndjson'] as const).map((format) => (
                <LinkButton
                  key={format}
                  small
                  href={reviewHref(`/api/contacts.${format}`, view.address, { ...finding, after: '' })}
                >
                  {format.toUpperCase()}
                </LinkButton>
              ))}
            </div>
          )}
          {view.lines.length === 0 ? (
            <Empty title={view.further === null ? 'No contact like that in this range' : 'None so far'}>
              {view.further === null
                ? 'Widen the range, look for less, or narrow it less.'
                : `It has been looked back to ${asDayTime(view.lookedBackTo ?? 0, view.zone)}.`}
            </Empty>
          ) : (
            <Found lines={view.lines} zone={view.zone} />
          )}
          {(further || finding.after) && (
            <div className="mt-2 flex items-center gap-3 text-small text-ink-2">
              {further && view.lookedBackTo !== null && (
                <>
                  <Button small onClick={() => router.push(reviewHref(PATH, view.address, further))}>
                    Look further back
                  </Button>
                  <span>It has been looked back to {asDayTime(view.lookedBackTo, view.zone)}.</span>
                </>
              )}
              {finding.after && (
                <Link href={reviewHref(PATH, view.address, { ...finding, after: '' })} className="text-plum underline">
                  From the latest again
                </Link>
              )}
            </div>
          )}
        </Panel>
        <RangeNote view={view} />
      </main>
    </>
  );
}

const Found = ({ lines, zone }: { lines: readonly FoundLine[]; zone: string }) => (
  <Table
    compact
    label="Contacts found"
    rows={lines}
    idOf={(l) => l.id}
    columns={[
      {
        id: 'started',
        head: 'Started',
        by: (l) => l.startedAt,
        cell: (l) => (
          <Link href={`/contacts/${l.id}`} className="inline-flex items-center gap-2 font-medium text-plum underline">
            <ChannelMark channel={l.channel} size={14} />
            {asDayTime(l.startedAt, zone)}
          </Link>
        ),
      },
      { id: 'customer', head: 'Customer', by: (l) => l.customer, cell: (l) => l.customer },
      { id: 'queues', head: 'Queues', by: (l) => l.queues, cell: (l) => l.queues },
      { id: 'people', head: 'People', by: (l) => l.people, cell: (l) => l.people },
      {
        id: 'handled',
        head: 'Handle time',
        figure: true,
        by: (l) => l.handleSeconds,
        cell: (l) => asClock(l.handleSeconds),
      },
      { id: 'outcomes', head: 'Outcome', by: (l) => l.outcomes, cell: (l) => l.outcomes },
      {
        id: 'ended',
        head: 'Ended',
        className: 'text-ink-2',
        cell: (l) => (l.endedHow ? CONTACT_END_WORDS[l.endedHow] : 'still open'),
      },
      ...(lines.some((l) => l.mood !== null)
        ? [
            {
              id: 'mood',
              head: 'Mood',
              by: (l: FoundLine) => (l.mood === null ? null : MOODS.indexOf(l.mood)),
              cell: (l: FoundLine) => l.mood && <Pill tone={MOOD_TONES[l.mood]}>{MOOD_WORDS[l.mood]}</Pill>,
            },
          ]
        : []),
      ...(lines.some((l) => l.rating !== null)
        ? [
            {
              id: 'rating',
              head: 'Rated',
              figure: true,
              by: (l: FoundLine) => l.rating,
              cell: (l: FoundLine) => l.rating,
            },
          ]
        : []),
      // Where words are looked for, what was said is what is read.
      ...(lines.some((l) => l.summary !== null) && lines.every((l) => l.said === null)
        ? [
            {
              id: 'summary',
              head: 'Came to',
              className: 'text-ink-2',
              cell: (l: FoundLine) => l.summary && <span className="line-clamp-2 max-w-80">{l.summary}</span>,
            },
          ]
        : []),
      ...(lines.some((l) => l.said !== null)
        ? [{ id: 'said', head: 'Said', className: 'text-ink-2', cell: (l: FoundLine) => l.said }]
        : []),
    ]}
  />
);
