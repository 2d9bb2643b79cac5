import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { ConnectionsPage } from '@/ui/bots/shared/connectionspage';
import { Forbidden } from '@/ui/kit/panel';
import { services, signedIn } from '../../../services';

export const metadata: Metadata = { title: 'Connections' };

export default async function Page() {
  const actor = await signedIn();
  if (!holds(actor, 'settings.view')) return <Forbidden what="connections" />;
  return <ConnectionsPage initial={services().botParts.connections(actor)} />;
}
