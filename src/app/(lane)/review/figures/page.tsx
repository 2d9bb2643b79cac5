import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { FigureWordsPage } from '@/ui/review/figurewordspage';
import { services, signedIn } from '../../../services';

export const metadata: Metadata = { title: 'What the figures are' };

export default async function Page() {
  const actor = await signedIn();
  if (!holds(actor, 'review.view')) return <Forbidden what="Review" />;
  return <FigureWordsPage figures={services().review.explain(actor)} />;
}
