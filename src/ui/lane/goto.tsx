'use client';

import { clsx } from 'clsx';
import { Command } from 'cmdk';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import type { FoundCustomer } from '@/services/customers/customers';
import type { Place } from '@/services/workspace/search';
import { useFoundCustomers } from '../customers/usefound';
import { useLive } from '../kit/live';
import type { Viewer } from './viewer';

const PAGES = [
  { name: 'Doors', path: '/doors', right: 'settings.view' },
  { name: 'Bots', path: '/bots', right: 'settings.view' },
  { name: 'Words customers meet', path: '/bots/words', right: 'settings.view' },
  { name: 'Languages', path: '/bots/languages', right: 'settings.view' },
  { name: 'Queues', path: '/queues', right: 'settings.view' },
  { name: 'Callbacks and messages', path: '/queues/callbacks', right: 'floor.view' },
  { name: 'People', path: '/people', right: 'people.view' },
  { name: 'Duty profiles', path: '/people/duty', right: 'people.view' },
  { name: 'Teams and skills', path: '/people/teams', right: 'people.view' },
  { name: 'Shifts', path: '/people/shifts', right: 'people.view' },
  { name: 'Desks', path: '/people/desks', right: 'people.view' },
  { name: 'Roles', path: '/people/roles', right: 'people.view' },
  { name: 'Bring people in', path: '/people/import', right: 'people.change' },
  { name: 'Planned changes', path: '/plans', right: 'settings.view' },
  { name: 'History', path: '/history', right: 'history.view' },
  { name: 'To fix', path: '/tofix', right: 'people.view' },
  { name: 'Floor', path: '/floor', right: 'floor.view' },
  { name: 'Review', path: '/review', right: 'review.view' },
  { name: 'Two ranges side by side', path: '/review/ranges', right: 'review.view' },
  { name: 'Messages in and out', path: '/review/messages', right: 'review.view' },
  { name: 'Calls back, as they were kept', path: '/review/callbacks', right: 'review.view' },
  { name: 'Reports', path: '/review/reports', right: 'review.view' },
  { name: 'Coaching', path: '/review/coaching', right: 'people.coach' },
  { name: 'Bring in the past', path: '/review/past', right: 'review.import' },
  { name: 'Find a contact', path: '/review/find', right: 'conversations.view' },
  { name: 'Customers', path: '/customers', right: 'conversations.view' },
  { name: 'Desk', path: '/desk', right: 'desk.work' },
] as const;

/** One line that can be gone to. Its path tells it from others of the same name. */
type Line = { readonly text: string; readonly path: string };
type Group = { readonly heading: string; readonly lines: readonly Line[] };
const KINDS = [
  ['Queue', 'Queues'],
  ['Bot', 'Bots'],
  ['Door', 'Doors'],
  ['Person', 'People'],
] as const;

/** Names are matched by all the words typed, anywhere in the name. */
const matches = (name: string, typed: string): boolean =>
  typed
    .toLowerCase()
    .split(/\s+/)
    .every((word) => name.toLowerCase().includes(word));

/** What can be gone to by what was typed, in groups; whatever is typed may also be a customer, or have been said. */
function groupsFor(typed: string, viewer: Viewer, places: readonly Place[]): Group[] {
  const named: Group[] = [
    {
      heading: 'Pages',
      lines: PAGES.filter((p) => viewer.rights.includes(p.right)).map((p) => ({ text: p.name, path: p.path })),
    },
    ...KINDS.map(([kind, heading]) => ({
      heading,
      lines: places.filter((p) => p.kind === kind).map((p) => ({ text: p.name, path: p.path })),
    })),
  ].map((g) => ({ ...g, lines: g.lines.filter((line) => matches(line.text, typed)) }));
  const words = typed.trim();
  const found = (by: string) => `/review/find?${new URLSearchParams({ [by]: words }).toString()}`;
  return [
    ...named,
    {
      heading: 'Words',
      lines:
        words.length > 1 && viewer.rights.includes('settings.view')
          ? [
              {
                text: `“${words}” wherever customers meet it`,
                path: `/bots/words?${new URLSearchParams({ find: words }).toString()}`,
              },
            ]
          : [],
    },
    {
      heading: 'Contacts',
      lines:
        words.length > 1 && viewer.rights.includes('conversations.view')
          ? [
              { text: `Contacts of a customer like “${words}”`, path: found('customer') },
              { text: `Contacts in which “${words}” was said`, path: found('words') },
            ]
          : [],
    },
  ].filter((g) => g.lines.length > 0);
}

/** The most customers that are offered to go to. */
const MOST_CUSTOMERS = 6;
const customersFound = (found: readonly FoundCustomer[]): Group[] =>
  found.length === 0
    ? []
    : [
        {
          heading: 'Customers',
          lines: found.slice(0, MOST_CUSTOMERS).map((f) => ({
            text: f.name === null ? f.address : `${f.name} · ${f.address}`,
            path: `/customers/${encodeURIComponent(f.id)}`,
          })),
        },
      ];

/** Ctrl K: go to any page or thing by its name. */
export function GoTo({ viewer }: { viewer: Viewer }) {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() !== 'k' || !(event.ctrlKey || event.metaKey)) return;
      event.preventDefault();
      setOpen((was) => !was);
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, []);
  return (
    <>
      <button
        type="button"
        onClick={() => setOpen(true)}
        className={clsx(
          'flex items-center gap-3 rounded-control border border-strip-line px-2.5 py-1 text-small',
          'whitespace-nowrap text-on-strip hover:border-lamp',
        )}
      >
        Go to…<kbd className="rounded border border-strip-line px-1 text-tiny text-strip-2 max-xl:hidden">Ctrl K</kbd>
      </button>
      {open && <Chooser viewer={viewer} onClose={() => setOpen(false)} />}
    </>
  );
}

function Chooser({ viewer, onClose }: { viewer: Viewer; onClose: () => void }) {
  const router = useRouter();
  const [typed, setTyped] = useState('');
  const [moved, setMoved] = useState<string>();
  const { data } = useLive<Place[]>('/api/read/places', ['settings.changed']);
  const mayFind = viewer.rights.includes('conversations.view') || viewer.rights.includes('desk.work');
  const { found } = useFoundCustomers(typed, mayFind);
  const groups = [...groupsFor(typed, viewer, data ?? []), ...customersFound(found)];
  const paths = groups.flatMap((g) => g.lines.map((line) => line.path));
  // The first line stays chosen until somebody moves: what is read later, above it, takes its place.
  const chosen = moved !== undefined && paths.includes(moved) ? moved : (paths[0] ?? '');
  return (
    <Command.Dialog
      open
      onOpenChange={onClose}
      label="Go to a page or thing"
      shouldFilter={false}
      value={chosen}
      onValueChange={(path) => setMoved(path === paths[0] ? undefined : path)}
      overlayClassName="fixed inset-0 z-40 bg-strip/55"
      contentClassName={clsx(
        'fixed top-24 left-1/2 z-50 w-[min(560px,calc(100vw-32px))] -translate-x-1/2 overflow-hidden',
        'rounded-panel border border-rule bg-sheet text-ink shadow-2xl',
      )}
    >
      <Command.Input
        value={typed}
        onValueChange={(text) => {
          setTyped(text);
          setMoved(undefined);
        }}
        placeholder="Name of a page, person, queue, bot, door or customer"
        className="w-full border-b border-rule bg-sheet px-4 py-3 text-base outline-none"
      />
      <Command.List
        className={clsx(
          'max-h-80 overflow-y-auto p-1.5 [&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2',
          '[&_[cmdk-group-heading]]:text-tiny [&_[cmdk-group-heading]]:text-ink-3',
        )}
      >
        {paths.length === 0 && <p className="px-4 py-6 text-center text-ink-2">Nothing has this name.</p>}
        {groups.map((group) => (
          <Command.Group key={group.heading} heading={group.heading}>
            {group.lines.map((line) => (
              <Command.Item
                key={line.path}
                value={line.path}
                onSelect={() => {
                  onClose();
                  router.push(line.path);
                }}
                className="cursor-pointer rounded-control px-3 py-1.5 data-[selected=true]:bg-chosen"
              >
                {line.text}
              </Command.Item>
            ))}
          </Command.Group>
        ))}
      </Command.List>
    </Command.Dialog>
  );
}
