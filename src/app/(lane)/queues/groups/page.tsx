import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { GroupsPage } from '@/ui/queues/groupspage';
import { services, signedIn } from '../../../services';

export const metadata: Metadata = { title: 'Groups' };

export default async function Page({ searchParams }: { searchParams: Promise<Record<string, string | undefined>> }) {
  const actor = await signedIn();
  if (!holds(actor, 'settings.view')) return <Forbidden what="groups" />;
  return <GroupsPage initial={services().groups.view(actor)} chosen={(await searchParams).group ?? null} />;
}
