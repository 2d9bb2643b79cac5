import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { DutyPage } from '@/ui/people/duty/dutypage';
import { services, signedIn } from '../../../services';

export const metadata: Metadata = { title: 'Duty profiles' };

export default async function Page({ searchParams }: { searchParams: Promise<Record<string, string | undefined>> }) {
  const actor = await signedIn();
  if (!holds(actor, 'people.view')) return <Forbidden what="duty profiles" />;
  const asked = await searchParams;
  return (
    <DutyPage initial={services().duty.view(actor)} chosen={asked.profile ?? null} reasons={asked.reasons === '1'} />
  );
}
