import type { Metadata } from 'next';
import { describeError } from '@/core/errors';
import type { InvitationView } from '@/services/people/invitations';
import { Invitation } from '@/ui/lane/invitation';
import { services } from '../../services';

export const metadata: Metadata = { title: 'Invitation', referrer: 'no-referrer' };

export default async function Page({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  let invitation: InvitationView | null = null;
  let fault: string | null = null;
  try {
    invitation = services().invitations.view(token);
  } catch (error) {
    fault = describeError(error).body.error.message;
  }
  return <Invitation token={token} invitation={invitation} fault={fault} />;
}
