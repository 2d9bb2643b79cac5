import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { MessagesPage } from '@/ui/review/messagespage';
import { signedIn } from '../../../services';
import { askedOf, readFor, Refused, type Search } from '../asked';

export const metadata: Metadata = { title: 'Messages' };

export default async function Page({ searchParams }: { searchParams: Search }) {
  const actor = await signedIn();
  if (!holds(actor, 'review.view')) return <Forbidden what="Review" />;
  const asked = await askedOf(searchParams);
  const read = await readFor('messages', actor, asked);
  return 'refused' in read ? (
    <Refused why={read.refused} />
  ) : (
    <MessagesPage key={JSON.stringify(asked)} view={read.view} />
  );
}
