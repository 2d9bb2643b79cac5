import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { DesksPage } from '@/ui/people/desks/deskspage';
import { services, signedIn } from '../../../services';

export const metadata: Metadata = { title: 'Desks' };

export default async function Page({ searchParams }: { searchParams: Promise<Record<string, string | undefined>> }) {
  const actor = await signedIn();
  if (!holds(actor, 'people.view')) return <Forbidden what="desk profiles" />;
  const asked = await searchParams;
  return (
    <DesksPage
      initial={services().deskProfiles.view(actor)}
      profile={asked.profile ?? null}
      set={asked.set ?? null}
      languages={services().review.languages()}
    />
  );
}
