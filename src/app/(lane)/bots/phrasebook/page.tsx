import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { PhrasebookPage } from '@/ui/bots/phrasebook/phrasebookpage';
import { Forbidden } from '@/ui/kit/panel';
import { services, signedIn } from '../../../services';
import { workspaceZone } from '../../../zone';

export const metadata: Metadata = { title: 'Phrasebook' };

export default async function Page() {
  const actor = await signedIn();
  if (!holds(actor, 'settings.view')) return <Forbidden what="the phrasebook" />;
  return <PhrasebookPage initial={await services().phrasebook.view(actor)} zone={workspaceZone()} />;
}
