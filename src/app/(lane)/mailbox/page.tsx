import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { MailboxPage } from '@/ui/mailbox/mailboxpage';
import { services, signedIn } from '../../services';
import { workspaceZone } from '../../zone';

export const metadata: Metadata = { title: 'Stand-in mailbox' };

export default async function Page() {
  const actor = await signedIn();
  if (!holds(actor, 'people.change') || actor.teams !== 'all') return <Forbidden what="the mailbox" />;
  return <MailboxPage initial={services().mailbox.view(actor)} zone={workspaceZone()} />;
}
