import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { SharedPage } from '@/ui/bots/shared/sharedpage';
import { Forbidden } from '@/ui/kit/panel';
import { services, signedIn } from '../../../services';

export const metadata: Metadata = { title: 'Shared scenes' };

export default async function Page({ searchParams }: { searchParams: Promise<{ scene?: string | string[] }> }) {
  const actor = await signedIn();
  if (!holds(actor, 'settings.view')) return <Forbidden what="shared scenes" />;
  const { scene } = await searchParams;
  const open = typeof scene === 'string' ? scene : null;
  return <SharedPage initial={services().botParts.shared(actor)} around={services().bots.around(actor)} open={open} />;
}
