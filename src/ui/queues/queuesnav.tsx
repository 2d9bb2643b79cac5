'use client';

import { clsx } from 'clsx';
import Link from 'next/link';
import { usePathname } from 'next/navigation';

const PAGES = [{ path: '/queues', name: 'Queues' }, { path: '/queues/groups', name: 'Groups' }, { path: '/queues/partners', name: 'Partner desks' }, { path: '/queues/outcomes', name: 'Outcome codes' }, { path: '/queues/callbacks', name: 'Callbacks' }] as const;

/** The pages of the stop Queues, in one line. */
export function QueuesNav() {
  const path = usePathname();
  return (
    <nav aria-label="Queues" className="flex gap-1 px-4 pt-2.5">
      {PAGES.map((p) => <Link key={p.path} href={p.path} aria-current={path === p.path ? 'page' : undefined} className={clsx('rounded-full px-3 py-0.5 text-small font-medium', path === p.path ? 'bg-plum-wash text-plum' : 'text-ink-2 hover:bg-sunk')}>{p.name}</Link>)}
    </nav>
  );
}
