import type { Metadata } from 'next';
import { mayDo } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { PeoplePage } from '@/ui/people/peoplepage';
import { services, signedIn } from '../../services';

export const metadata: Metadata = { title: 'People' };

export default async function Page({ searchParams }: { searchParams: Promise<Record<string, string | undefined>> }) {
  const actor = await signedIn();
  if (!mayDo(actor.role, 'settings.view')) return <Forbidden what="People" />;
  return <PeoplePage initial={services().people.view(actor)} chosen={(await searchParams).person ?? null} />;
}
