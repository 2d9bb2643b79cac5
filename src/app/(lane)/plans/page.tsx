import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { PlansPage } from '@/ui/drafts/planspage';
import { Forbidden } from '@/ui/kit/panel';
import { services, signedIn } from '../../services';

export const metadata: Metadata = { title: 'Planned changes' };

export default async function Page() {
  const actor = await signedIn();
  if (!holds(actor, 'settings.view')) return <Forbidden what="planned changes" />;
  return <PlansPage initial={services().plans.view(actor)} drafts={services().drafts.own(actor)} />;
}
