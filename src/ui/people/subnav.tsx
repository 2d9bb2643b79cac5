'use client';

import { clsx } from 'clsx';
import Link from 'next/link';
import { usePathname } from 'next/navigation';

const PAGES = [
  { path: '/people', name: 'Who can take what' }, { path: '/people/duty', name: 'Duty profiles' }, { path: '/people/teams', name: 'Teams and skills' }, { path: '/people/shifts', name: 'Shifts' },
  { path: '/people/desks', name: 'Desks' }, { path: '/people/roles', name: 'Roles' }, { path: '/people/import', name: 'Bring in' }, { path: '/history', name: 'History' },
] as const;

/** The pages of the stop People, in one line. */
export function PeopleNav() {
  const path = usePathname();
  return (
    <nav aria-label="People" className="flex gap-1 px-4 pt-2.5">
      {PAGES.map((p) => <Link key={p.path} href={p.path} aria-current={path === p.path ? 'page' : undefined} className={clsx('rounded-full px-3 py-0.5 text-small font-medium', path === p.path ? 'bg-plum-wash text-plum' : 'text-ink-2 hover:bg-sunk')}>{p.name}</Link>)}
    </nav>
  );
}
