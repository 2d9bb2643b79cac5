import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { PeoplePage } from '@/ui/people/peoplepage';
import { services, signedIn } from '../../services';

export const metadata: Metadata = { title: 'People' };

export default async function Page({ searchParams }: { searchParams: Promise<Record<string, string | undefined>> }) {
  const actor = await signedIn();
  if (!holds(actor, 'people.view')) return <Forbidden what="People" />;
  const asked = await searchParams;
  return (
    <PeoplePage
      initial={services().people.view(actor)}
      initialStandings={services().people.standings(actor)}
      chosen={asked.person ?? null}
      startFilter={asked.state ? { state: asked.state } : {}}
    />
  );
}
