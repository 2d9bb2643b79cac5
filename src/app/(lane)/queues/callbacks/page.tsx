import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { CallbacksPage } from '@/ui/queues/callbackspage';
import { services, signedIn } from '../../../services';

export const metadata: Metadata = { title: 'Callbacks' };

export default async function Page() {
  const actor = await signedIn();
  if (!holds(actor, 'floor.view')) return <Forbidden what="callbacks" />;
  return <CallbacksPage initial={services().callbacks.view(actor)} />;
}
