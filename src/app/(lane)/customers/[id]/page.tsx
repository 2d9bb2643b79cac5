import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { describeError } from '@/core/errors';
import { holds } from '@/core/people/rights';
import type { CustomerView } from '@/services/customers/customers';
import { CustomerPage } from '@/ui/customers/customerpage';
import { Forbidden } from '@/ui/kit/panel';
import { services, signedIn } from '../../../services';
import { workspaceZone } from '../../../zone';

export const metadata: Metadata = { title: 'Customer' };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const actor = await signedIn();
  if (!holds(actor, 'conversations.view') && !holds(actor, 'desk.work')) return <Forbidden what="customers" />;
  const { id } = await params;
  let view: CustomerView;
  try {
    view = (await services().reading('customer', actor, { id: decodeURIComponent(id) })) as CustomerView;
  } catch (error) {
    if (describeError(error).status === 404) notFound();
    throw error;
  }
  return <CustomerPage initial={view} zone={workspaceZone()} />;
}
