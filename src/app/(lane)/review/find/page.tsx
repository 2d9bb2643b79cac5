import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { FINDING } from '@/ui/review/address';
import { FindPage } from '@/ui/review/findpage';
import { signedIn } from '../../../services';
import { askedOf, readFor, Refused, type Search } from '../asked';

export const metadata: Metadata = { title: 'Find a contact' };

export default async function Page({ searchParams }: { searchParams: Search }) {
  const actor = await signedIn();
  if (!holds(actor, 'conversations.view')) return <Forbidden what="finding contacts" />;
  const search = await searchParams;
  const finding = Object.fromEntries(
    FINDING.flatMap((name) => {
      const value = search[name];
      return typeof value === 'string' && value !== '' ? [[name, value]] : [];
    }),
  );
  const asked = { ...(await askedOf(searchParams)), ...finding };
  const read = await readFor('find-contacts', actor, asked);
  return 'refused' in read ? (
    <Refused why={read.refused} />
  ) : (
    <FindPage key={JSON.stringify(asked)} view={read.view} finding={finding} />
  );
}
