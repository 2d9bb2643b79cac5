import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { ShiftsPage } from '@/ui/people/shifts/shiftspage';
import { services, signedIn } from '../../../services';

export const metadata: Metadata = { title: 'Shifts' };

export default async function Page({ searchParams }: { searchParams: Promise<Record<string, string | undefined>> }) {
  const actor = await signedIn();
  if (!holds(actor, 'people.view')) return <Forbidden what="shifts" />;
  const asked = await searchParams;
  return <ShiftsPage initial={services().shifts.view(actor, {})} owner={asked.owner ?? null} />;
}
