import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { FloorPage } from '@/ui/floor/floorpage';
import { guest, services, signedIn } from '../../services';
import { workspaceZone } from '../../zone';

export const metadata: Metadata = { title: 'Floor' };

export default async function Page() {
  const actor = await signedIn();
  if (!holds(actor, 'floor.view')) return <Forbidden what="the Floor" />;
  return <FloorPage initial={services().floorView.view(actor)} zone={workspaceZone()} simulated={guest().simulated} />;
}
