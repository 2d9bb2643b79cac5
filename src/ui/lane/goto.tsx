'use client';

import { clsx } from 'clsx';
import { Command } from 'cmdk';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import type { Place } from '@/services/workspace/search';
import { useLive } from '../kit/live';
import type { Viewer } from './viewer';

const PAGES = [
  { name: 'Doors', path: '/doors', right: 'settings.view' },
  { name: 'Bots', path: '/bots', right: 'settings.view' },
  { name: 'Queues', path: '/queues', right: 'settings.view' },
  { name: 'People', path: '/people', right: 'people.view' },
  { name: 'Duty profiles', path: '/people/duty', right: 'people.view' },
  { name: 'Teams and skills', path: '/people/teams', right: 'people.view' },
  { name: 'Shifts', path: '/people/shifts', right: 'people.view' },
  { name: 'Desks', path: '/people/desks', right: 'people.view' },
  { name: 'Roles', path: '/people/roles', right: 'people.view' },
  { name: 'Bring people in', path: '/people/import', right: 'people.change' },
  { name: 'History', path: '/history', right: 'history.view' },
  { name: 'To fix', path: '/tofix', right: 'people.view' },
  { name: 'Floor', path: '/floor', right: 'floor.view' },
  { name: 'Review', path: '/review', right: 'review.view' },
  { name: 'Calls back, as they were kept', path: '/review/callbacks', right: 'review.view' },
  { name: 'Reports', path: '/review/reports', right: 'review.view' },
  { name: 'Coaching', path: '/review/coaching', right: 'people.coach' },
  { name: 'Bring in the past', path: '/review/past', right: 'review.import' },
  { name: 'Find a contact', path: '/review/find', right: 'conversations.view' },
  { name: 'Desk', path: '/desk', right: 'desk.work' },
] as const;

/**
 * Names are matched by all the words typed, anywhere in the name; what follows the tab only tells equal names apart.
 */
const matches = (value: string, typed: string): number => {
  const name = value.split('\t')[0]?.toLowerCase() ?? '';
  return typed
    .toLowerCase()
    .split(/\s+/)
    .every((word) => name.includes(word))
    ? 1
    : 0;
};

/** Ctrl K: go to any page or thing by its name. */
export function GoTo({ viewer }: { viewer: Viewer }) {
  const router = useRouter();
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState('');
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() !== 'k' || !(event.ctrlKey || event.metaKey)) return;
      event.preventDefault();
      setOpen((was) => !was);
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, []);
  const go = (path: string) => {
    setOpen(false);
    setTyped('');
    router.push(path);
  };
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
      <Command.Dialog
        open={open}
        onOpenChange={setOpen}
        label="Go to a page or thing"
        filter={matches}
        overlayClassName="fixed inset-0 z-40 bg-strip/55"
        contentClassName={clsx(
          'fixed top-24 left-1/2 z-50 w-[min(560px,calc(100vw-32px))] -translate-x-1/2 overflow-hidden',
          'rounded-panel border border-rule bg-sheet text-ink shadow-2xl',
        )}
      >
        <Command.Input
          value={typed}
          onValueChange={setTyped}
          placeholder="Name of a page, person, queue, bot or door"
          className="w-full border-b border-rule bg-sheet px-4 py-3 text-base outline-none"
        />
        <Command.List
          className={clsx(
            'max-h-80 overflow-y-auto p-1.5 [&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2',
            '[&_[cmdk-group-heading]]:text-tiny [&_[cmdk-group-heading]]:text-ink-3',
          )}
        >
          <Command.Empty className="px-4 py-6 text-center text-ink-2">Nothing has this name.</Command.Empty>
          <Command.Group heading="Pages">
            {PAGES.filter((p) => viewer.rights.includes(p.right)).map((p) => (
              <Line key={p.path} text={p.name} onGo={() => go(p.path)} />
            ))}
          </Command.Group>
          {open && <Things onGo={go} />}
          {typed.trim().length > 1 && viewer.rights.includes('conversations.view') && (
            <Contacts typed={typed.trim()} onGo={go} />
          )}
        </Command.List>
      </Command.Dialog>
    </>
  );
}

function Things({ onGo }: { onGo: (path: string) => void }) {
  const { data } = useLive<Place[]>('/api/read/places', ['settings.changed']);
  const kinds = ['Queue', 'Bot', 'Door', 'Person'] as const;
  return kinds.map((kind) => (
    <Command.Group key={kind} heading={kind === 'Person' ? 'People' : `${kind}s`}>
      {(data ?? [])
        .filter((p) => p.kind === kind)
        .map((p) => (
          <Line key={p.path} text={p.name} id={p.path} onGo={() => onGo(p.path)} />
        ))}
    </Command.Group>
  ));
}
/** Whatever is typed may be a customer, or have been said. */
const Contacts = ({ typed, onGo }: { typed: string; onGo: (path: string) => void }) => (
  <Command.Group heading="Contacts">
    {(
      [
        ['customer', `Contacts of a customer like “${typed}”`],
        ['words', `Contacts in which “${typed}” was said`],
      ] as const
    ).map(([by, text]) => (
      <Line
        key={by}
        id={by}
        text={text}
        onGo={() => onGo(`/review/find?${new URLSearchParams({ [by]: typed }).toString()}`)}
      />
    ))}
  </Command.Group>
);
const Line = ({ text, id, onGo }: { text: string; id?: string; onGo: () => void }) => (
  <Command.Item
    value={`${text}\t${id ?? ''}`}
    onSelect={onGo}
    className="cursor-pointer rounded-control px-3 py-1.5 data-[selected=true]:bg-chosen"
  >
    {text}
  </Command.Item>
);
