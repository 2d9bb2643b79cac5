import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { describeError } from '@/core/errors';
import { holds } from '@/core/people/rights';
import type { ContactView } from '@/services/floor/contactview';
import { Forbidden } from '@/ui/kit/panel';
import { ContactPage } from '@/ui/review/contactpage';
import { services, signedIn } from '../../../services';
import { workspaceZone } from '../../../zone';

export const metadata: Metadata = { title: 'Contact' };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const actor = await signedIn();
  if (!holds(actor, 'conversations.view')) return <Forbidden what="conversations" />;
  const { id } = await params;
  let view: ContactView;
  try {
    view = services().floorView.contact(actor, id);
  } catch (error) {
    if (describeError(error).status === 404) notFound();
    throw error;
  }
  return <ContactPage initial={view} zone={workspaceZone()} />;
}
