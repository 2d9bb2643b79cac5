import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { OutcomesPage } from '@/ui/queues/outcomespage';
import { services, signedIn } from '../../../services';

export const metadata: Metadata = { title: 'Outcomes' };

export default async function Page() {
  const actor = await signedIn();
  if (!holds(actor, 'settings.view')) return <Forbidden what="outcomes" />;
  return <OutcomesPage initial={services().outcomes.view(actor)} />;
}
