import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { SubjectPage } from '@/ui/review/subjectpage';
import { signedIn } from '../../../../services';
import { askedOf, partOfPath, readFor, Refused, type Search } from '../../asked';

export const metadata: Metadata = { title: 'Review' };

export default async function Page({
  params,
  searchParams,
}: {
  params: Promise<{ kind: string; id: string }>;
  searchParams: Search;
}) {
  const actor = await signedIn();
  if (!holds(actor, 'review.view')) return <Forbidden what="Review" />;
  const { kind, id } = await params;
  const asked = { ...(await askedOf(searchParams)), kind, id: partOfPath(id) };
  const read = await readFor('review-subject', actor, asked);
  return 'refused' in read ? (
    <Refused why={read.refused} />
  ) : (
    <SubjectPage key={JSON.stringify(asked)} view={read.view} />
  );
}
