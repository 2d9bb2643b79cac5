'use client';

import { clsx } from 'clsx';
import Link from 'next/link';
import { usePathname } from 'next/navigation';

const PAGES = [{ path: '/bots', name: 'Bots' }, { path: '/bots/phrasebook', name: 'Phrasebook' }, { path: '/bots/shared', name: 'Shared scenes' }, { path: '/bots/connections', name: 'Connections' }, { path: '/bots/articles', name: 'Articles' }, { path: '/bots/fields', name: 'Fields' }] as const;

/** The pages of the stop Bots, in one line. */
export function BotsNav() {
  const path = usePathname();
  return (
    <nav aria-label="Bots" className="flex gap-1 px-4 pt-2.5">
      {PAGES.map((p) => <Link key={p.path} href={p.path} aria-current={path === p.path ? 'page' : undefined} className={clsx('rounded-full px-3 py-0.5 text-small font-medium', path === p.path ? 'bg-plum-wash text-plum' : 'text-ink-2 hover:bg-sunk')}>{p.name}</Link>)}
    </nav>
  );
}
