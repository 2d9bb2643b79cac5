import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { TwoPage } from '@/ui/review/twopage';
import { signedIn } from '../../../../../services';
import { askedOf, partOfPath, readFor, Refused, type Search } from '../../../asked';

export const metadata: Metadata = { title: 'Side by side' };

type Props = { params: Promise<{ kind: string; id: string }>; searchParams: Search };

export default async function Page({ params, searchParams }: Props) {
  const actor = await signedIn();
  if (!holds(actor, 'review.view')) return <Forbidden what="Review" />;
  const { kind, id } = await params;
  const { with: other } = await searchParams;
  const asked = {
    ...(await askedOf(searchParams)),
    kind: partOfPath(kind),
    id: partOfPath(id),
    with: typeof other === 'string' ? other : '',
  };
  const read = await readFor('review-two', actor, asked);
  return 'refused' in read ? <Refused why={read.refused} /> : <TwoPage key={JSON.stringify(asked)} view={read.view} />;
}
