import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { FindCustomers } from '@/ui/customers/findcustomers';
import { Forbidden } from '@/ui/kit/panel';
import { signedIn } from '../../services';

export const metadata: Metadata = { title: 'Customers' };

export default async function Page() {
  const actor = await signedIn();
  if (!holds(actor, 'conversations.view') && !holds(actor, 'desk.work')) return <Forbidden what="customers" />;
  return <FindCustomers />;
}
