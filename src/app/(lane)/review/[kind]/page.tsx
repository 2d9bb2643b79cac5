import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { EachPage } from '@/ui/review/eachpage';
import { signedIn } from '../../../services';
import { askedOf, readFor, Refused, type Search } from '../asked';

export const metadata: Metadata = { title: 'Review' };

export default async function Page({
  params,
  searchParams,
}: {
  params: Promise<{ kind: string }>;
  searchParams: Search;
}) {
  const actor = await signedIn();
  if (!holds(actor, 'review.view')) return <Forbidden what="Review" />;
  const asked = { ...(await askedOf(searchParams)), kind: (await params).kind };
  const read = await readFor('review-each', actor, asked);
  return 'refused' in read ? <Refused why={read.refused} /> : <EachPage key={JSON.stringify(asked)} view={read.view} />;
}
