import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { DoorsPage } from '@/ui/doors/doorspage';
import { services, signedIn } from '../../services';

export const metadata: Metadata = { title: 'Doors' };

export default async function Page({ searchParams }: { searchParams: Promise<Record<string, string | undefined>> }) {
  const actor = await signedIn();
  if (!holds(actor, 'settings.view')) return <Forbidden what="Doors" />;
  return <DoorsPage initial={services().doors.view(actor)} chosen={(await searchParams).door ?? null} />;
}
