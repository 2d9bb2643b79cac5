import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { OwnPage } from '@/ui/review/ownpage';
import { services, signedIn } from '../../../services';

export const metadata: Metadata = { title: 'How I did' };

export default async function Page() {
  const actor = await signedIn();
  if (!holds(actor, 'desk.work')) return <Forbidden what="this page" />;
  const s = services();
  return <OwnPage work={await s.reading('own-work', actor, {})} said={s.coaching.own(actor)} />;
}
