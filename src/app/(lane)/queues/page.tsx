import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { QueuesPage } from '@/ui/queues/queuespage';
import { services, signedIn } from '../../services';

export const metadata: Metadata = { title: 'Queues' };

export default async function Page({ searchParams }: { searchParams: Promise<Record<string, string | undefined>> }) {
  const actor = await signedIn();
  if (!holds(actor, 'settings.view')) return <Forbidden what="Queues" />;
  return <QueuesPage initial={services().queues.view(actor)} chosen={(await searchParams).queue ?? null} />;
}
