import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { PastPage } from '@/ui/past/pastpage';
import { services, signedIn } from '../../../services';
import { workspaceZone } from '../../../zone';

export const metadata: Metadata = { title: 'Bring in the past' };

export default async function Page() {
  const actor = await signedIn();
  if (!holds(actor, 'review.import') || actor.teams !== 'all') return <Forbidden what="bringing in the past" />;
  return <PastPage initial={services().past.view(actor)} zone={workspaceZone()} />;
}
