import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { PartnersPage } from '@/ui/queues/partnerspage';
import { services, signedIn } from '../../../services';

export const metadata: Metadata = { title: 'Partner desks' };

export default async function Page({ searchParams }: { searchParams: Promise<Record<string, string | undefined>> }) {
  const actor = await signedIn();
  if (!holds(actor, 'settings.view')) return <Forbidden what="partner desks" />;
  return <PartnersPage initial={services().groups.view(actor)} chosen={(await searchParams).partner ?? null} />;
}
