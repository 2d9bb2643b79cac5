import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { ToFixPage } from '@/ui/lane/tofixpage';
import { services, signedIn } from '../../services';

export const metadata: Metadata = { title: 'To fix' };

export default async function Page() {
  const actor = await signedIn();
  if (!holds(actor, 'people.view')) return <Forbidden what="To fix" />;
  return <ToFixPage initial={await services().toFix.whole(actor)} />;
}
