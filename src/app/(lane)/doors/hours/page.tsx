import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { HoursPage } from '@/ui/doors/hourspage';
import { Forbidden } from '@/ui/kit/panel';
import { services, signedIn } from '../../../services';

export const metadata: Metadata = { title: 'Opening hours' };

export default async function Page({ searchParams }: { searchParams: Promise<Record<string, string | undefined>> }) {
  const actor = await signedIn();
  if (!holds(actor, 'settings.view')) return <Forbidden what="opening hours" />;
  return <HoursPage initial={services().hours.view(actor)} chosen={(await searchParams).hours ?? null} />;
}
