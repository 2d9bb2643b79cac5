'use client';

import { clsx } from 'clsx';
import Link from 'next/link';
import { usePathname } from 'next/navigation';
import type { Right } from '@/core/people/rights';
import { useHolds } from '../lane/viewer';

const PAGES: readonly { readonly path: string; readonly name: string; readonly right: Right }[] = [
  { path: '/people', name: 'Who can take what', right: 'people.view' }, { path: '/people/duty', name: 'Duty profiles', right: 'people.view' }, { path: '/people/teams', name: 'Teams and skills', right: 'people.view' }, { path: '/people/shifts', name: 'Shifts', right: 'people.view' },
  { path: '/people/desks', name: 'Desks', right: 'people.view' }, { path: '/people/roles', name: 'Roles', right: 'people.view' }, { path: '/people/import', name: 'Bring in', right: 'people.change' }, { path: '/history', name: 'History', right: 'history.view' },
];

/** The pages of the stop People that the viewer may open, in one line. */
export function PeopleNav() {
  const path = usePathname();
  const holds = useHolds();
  return (
    <nav aria-label="People" className="flex gap-1 px-4 pt-2.5">
      {PAGES.filter((p) => holds(p.right)).map((p) => <Link key={p.path} href={p.path} aria-current={path === p.path ? 'page' : undefined} className={clsx('rounded-full px-3 py-0.5 text-small font-medium', path === p.path ? 'bg-plum-wash text-plum' : 'text-ink-2 hover:bg-sunk')}>{p.name}</Link>)}
    </nav>
  );
}
