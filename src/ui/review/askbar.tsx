'use client';

import { useRouter } from 'next/navigation';
import { type ReactNode, useState } from 'react';
import { daysBetween, plusDays } from '@/core/hours/dates';
import type { AskedView } from '@/services/review/askedview';
import { Button, LinkButton } from '../kit/button';
import { DateField, RangeField } from '../kit/datefield';
import { Dialog } from '../kit/dialog';
import { Check, Field } from '../kit/field';
import { asDay, asShortDay } from '../kit/figures';
import { Link } from '../kit/link';
import { Filters } from '../kit/filters';
import { Pill } from '../kit/panel';
import { Picks } from '../kit/picks';
import { usualRanges } from '../kit/ranges';
import { clockWords, reviewHref } from './address';
import { KeptViews } from './keptviews';

const KEYS = ['queue', 'channel', 'door', 'team', 'person', 'bot', 'language', 'outcome', 'skill'] as const;
type Key = (typeof KEYS)[number];
const KEY_NAMES: Readonly<Record<Key, string>> = {
  queue: 'Queues',
  channel: 'Channels',
  door: 'Doors',
  team: 'Teams',
  person: 'People',
  bot: 'Bots',
  language: 'Languages',
  outcome: 'Outcomes',
  skill: 'Needs skill',
};
const listed = (text: string | undefined): string[] => (text ? text.split(',') : []);

/** What is asked of Review: which days, against which others, and narrowed to what. It all stands in the address. */
export function AskBar({
  view,
  path,
  title,
  csv = {},
  fixed = {},
  compares = true,
  keeps = compares,
}: {
  view: AskedView;
  path: string;
  title: ReactNode;
  /** What of the page its table is, beside what is asked; null where it has none. */
  csv?: Readonly<Record<string, string>> | null;
  /** What of the address the page itself says. */
  fixed?: Readonly<Record<string, string>>;
  /** Whether the page compares two ranges. */
  compares?: boolean;
  /** Whether the page can be kept by name. */
  keeps?: boolean;
}) {
  const router = useRouter();
  const [narrowing, setNarrowing] = useState(false);
  const go = (change: Readonly<Record<string, string>>) =>
    router.push(reviewHref(path, view.address, { ...fixed, ...change }));
  const days = daysBetween(view.from, view.to) + 1;
  const move = (by: number) =>
    go({ from: plusDays(view.from, by * days), to: plusDays(view.to, by * days), against: '' });
  const narrowed = KEYS.filter((key) => view.address[key]);
  const nameOf = (key: Key, id: string) => view.choices[key].find((c) => c.id === id)?.name ?? id;
  return (
    <>
      <Filters label="What is reviewed">
        <span className="mr-2">{title}</span>
        <span className="hidden print:inline">
          {asDay(view.from)} – {asDay(view.to)}
        </span>
        <Button small aria-label="Earlier" onClick={() => move(-1)}>
          ←
        </Button>
        <RangeField
          label="Days"
          from={view.from}
          to={view.to}
          presets={usualRanges(view.today)}
          onChange={(range) => range.from && range.to && go({ ...range, against: '' })}
        />
        <Button small aria-label="Later" disabled={view.to >= view.today} onClick={() => move(1)}>
          →
        </Button>
        {compares && (
          <Link href={reviewHref('/review/ranges', view.address)} title="Put the two ranges side by side">
            <Pill tone={view.before.whole ? 'plain' : 'warn'}>
              against {asShortDay(view.before.from)}
              {view.before.to === view.before.from ? '' : ` – ${asShortDay(view.before.to)}`}
              {view.to === view.today ? ', to this hour' : ''}
              {view.before.whole ? '' : ': not all in the log'}
            </Pill>
          </Link>
        )}
        <Button small onClick={() => setNarrowing(true)}>
          Narrow by…
        </Button>
        <span className="ml-auto flex items-center gap-1.5">
          {keeps && <KeptViews view={view} path={path} />}
          {view.mayExport && csv && (
            <LinkButton small href={reviewHref('/api/review.csv', view.address, csv)}>
              CSV
            </LinkButton>
          )}
        </span>
      </Filters>
      {(narrowed.length > 0 || view.address.hours || view.address.clock || view.partly) && (
        <div className="flex flex-wrap items-center gap-1.5 text-small" aria-label="Narrowed to" role="group">
          <span className="text-ink-2">Only</span>
          {view.partly && <Pill>queues that your people serve</Pill>}
          {narrowed.map((key) => (
            <Chip key={key} label={KEY_NAMES[key]} onGone={() => go({ [key]: '' })}>
              {KEY_NAMES[key]}:{' '}
              {listed(view.address[key])
                .map((id) => nameOf(key, id))
                .join(', ')}
            </Chip>
          ))}
          {view.address.clock && (
            <Chip label="Hours of the clock" onGone={() => go({ clock: '' })}>
              {clockWords(view.address.clock)}
            </Chip>
          )}
          {view.address.hours && (
            <Chip label="Opening hours" onGone={() => go({ hours: '' })}>
              begun in opening hours
            </Chip>
          )}
        </div>
      )}
      {narrowing && <Narrow view={view} onClose={() => setNarrowing(false)} onAsk={go} />}
    </>
  );
}

const Chip = ({ label, onGone, children }: { label: string; onGone: () => void; children: ReactNode }) => (
  <span className="inline-flex max-w-full items-center gap-1 rounded-full bg-plum-wash px-2.5 py-0.5 text-plum">
    <span className="truncate">{children}</span>
    <button type="button" aria-label={`Not narrowed by ${label.toLowerCase()}`} onClick={onGone}>
      ×
    </button>
  </span>
);

/** Everything by which the page can be narrowed, asked for in one go. */
function Narrow({
  view,
  onClose,
  onAsk,
}: {
  view: AskedView;
  onClose: () => void;
  onAsk: (change: Readonly<Record<string, string>>) => void;
}) {
  const [asked, setAsked] = useState<Readonly<Record<string, string>>>(view.address);
  const put = (key: string, value: string) => setAsked((was) => ({ ...was, [key]: value }));
  return (
    <Dialog
      open
      onClose={onClose}
      title="Narrow by"
      description="A contact counts when it has one of what is chosen in each line. Nothing chosen means all."
    >
      <div className="mb-3 grid grid-cols-[110px_1fr] items-center gap-x-3 gap-y-2">
        {KEYS.map((key) => (
          <NarrowLine key={key} name={KEY_NAMES[key]}>
            <Picks
              label={KEY_NAMES[key]}
              of={view.choices[key]}
              picked={listed(asked[key])}
              onPicked={(ids) => put(key, ids.join(','))}
              takeOut={(name) => `Take out ${name}`}
              none="all"
            />
          </NarrowLine>
        ))}
      </div>
      <Check
        label="Only contacts that began in their door’s opening hours"
        checked={asked.hours === 'open'}
        onChange={(e) => put('hours', e.target.checked ? 'open' : '')}
      />
      <Field label="Compare with as many days from" hint="Empty: the range before.">
        {(props) => <DateField {...props} value={asked.against ?? ''} onChange={(day) => put('against', day)} />}
      </Field>
      <div className="mt-4 flex gap-2">
        <Button
          kind="primary"
          onClick={() => {
            onClose();
            onAsk({ ...Object.fromEntries([...KEYS, 'hours', 'against'].map((key) => [key, ''])), ...asked });
          }}
        >
          Show
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </div>
    </Dialog>
  );
}
const NarrowLine = ({ name, children }: { name: string; children: ReactNode }) => (
  <>
    <span className="text-small text-ink-2">{name}</span>
    <div>{children}</div>
  </>
);
