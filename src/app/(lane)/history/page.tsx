import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { HistoryPage } from '@/ui/history/historypage';
import { services, signedIn } from '../../services';
import { workspaceZone } from '../../zone';

export const metadata: Metadata = { title: 'History' };

export default async function Page({ searchParams }: { searchParams: Promise<Record<string, string | undefined>> }) {
  const actor = await signedIn();
  if (!holds(actor, 'history.view')) return <Forbidden what="history" />;
  const asked = await searchParams;
  return (
    <HistoryPage
      initial={await services().history.page(actor, asked.thing ? { thing: asked.thing } : {})}
      thing={asked.thing ?? ''}
      zone={workspaceZone()}
    />
  );
}
