'use client';

import { clsx } from 'clsx';
import { Link } from '../kit/link';
import { usePathname } from 'next/navigation';
import type { Right } from '@/core/people/rights';
import { useHolds } from './viewer';

type Page = { readonly path: string; readonly name: string; readonly right?: Right };

/** The pages of each stop that has several. One without a right is for everybody who may open the stop. */
const PAGES = {
  Bots: [
    { path: '/bots', name: 'Bots' },
    { path: '/bots/phrasebook', name: 'Phrasebook' },
    { path: '/bots/shared', name: 'Shared scenes' },
    { path: '/bots/connections', name: 'Connections' },
    { path: '/bots/articles', name: 'Articles' },
    { path: '/bots/recordings', name: 'Recordings' },
    { path: '/bots/fields', name: 'Fields' },
    { path: '/bots/words', name: 'Words' },
    { path: '/bots/languages', name: 'Languages' },
  ],
  Queues: [
    { path: '/queues', name: 'Queues' },
    { path: '/queues/groups', name: 'Groups' },
    { path: '/queues/partners', name: 'Partner desks' },
    { path: '/queues/outcomes', name: 'Outcomes' },
    { path: '/queues/callbacks', name: 'Callbacks & messages' },
  ],
  People: [
    { path: '/people', name: 'Who can take what', right: 'people.view' },
    { path: '/people/duty', name: 'Duty profiles', right: 'people.view' },
    { path: '/people/teams', name: 'Teams and skills', right: 'people.view' },
    { path: '/people/shifts', name: 'Shifts', right: 'people.view' },
    { path: '/people/desks', name: 'Desks', right: 'people.view' },
    { path: '/people/roles', name: 'Roles', right: 'people.view' },
    { path: '/people/import', name: 'Bring in', right: 'people.change' },
    { path: '/plans', name: 'Planned', right: 'settings.view' },
    { path: '/history', name: 'History', right: 'history.view' },
  ],
  Review: [
    { path: '/review', name: 'Overview' },
    { path: '/review/people', name: 'People' },
    { path: '/review/teams', name: 'Teams' },
    { path: '/review/queues', name: 'Queues' },
    { path: '/review/channels', name: 'Channels' },
    { path: '/review/doors', name: 'Doors' },
    { path: '/review/bots', name: 'Bots' },
    { path: '/review/languages', name: 'Languages' },
    { path: '/review/skills', name: 'Skills' },
    { path: '/review/outcomes', name: 'Outcomes' },
    { path: '/review/messages', name: 'Messages' },
    { path: '/review/callbacks', name: 'Calls back' },
    { path: '/review/reports', name: 'Reports' },
    { path: '/review/coaching', name: 'Coaching', right: 'people.coach' },
    { path: '/review/find', name: 'Find', right: 'conversations.view' },
    { path: '/customers', name: 'Customers', right: 'conversations.view' },
    { path: '/review/past', name: 'Bring in', right: 'review.import' },
  ],
} as const satisfies Record<string, readonly Page[]>;

/** The pages of a stop that the viewer may open, in one line. `asked` stands in the address of each of them. */
export function StopNav({ stop, asked = '' }: { stop: keyof typeof PAGES; asked?: string }) {
  const path = usePathname();
  const holds = useHolds();
  const pages: readonly Page[] = PAGES[stop];
  /** A page of one thing belongs to the page of all of them; the stop's own path is that of its first page alone. */
  const here = (page: string) => path === page || (page !== pages[0]?.path && path.startsWith(`${page}/`));
  return (
    <nav aria-label={stop} className="flex flex-wrap gap-1 px-4 pt-2.5">
      {pages
        .filter((p) => !p.right || holds(p.right))
        .map((p) => (
          <Link
            key={p.path}
            href={p.path + asked}
            aria-current={here(p.path) ? 'page' : undefined}
            className={clsx(
              'rounded-full px-3 py-0.5 text-small font-medium',
              here(p.path) ? 'bg-plum-wash text-plum' : 'text-ink-2 hover:bg-sunk',
            )}
          >
            {p.name}
          </Link>
        ))}
    </nav>
  );
}
