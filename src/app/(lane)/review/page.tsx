import type { Metadata } from 'next';
import { redirect } from 'next/navigation';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { ReviewPage } from '@/ui/review/reviewpage';
import { services, signedIn } from '../../services';
import { askedOf, readFor, Refused, type Search } from './asked';

export const metadata: Metadata = { title: 'Review' };

export default async function Page({ searchParams }: { searchParams: Search }) {
  const actor = await signedIn();
  if (!holds(actor, 'review.view')) return <Forbidden what="Review" />;
  const asked = await askedOf(searchParams);
  // Opened without a question, Review begins with the view that its reader has chosen for it.
  const first = Object.keys(await searchParams).length === 0 ? services().review.firstView(actor) : null;
  if (first !== null) redirect(first);
  const read = await readFor('review', actor, asked);
  return 'refused' in read ? (
    <Refused why={read.refused} />
  ) : (
    <ReviewPage key={JSON.stringify(asked)} view={read.view} />
  );
}
