'use client';

import type { InvitationView } from '@/services/people/invitations';
import { call } from '../kit/call';
import { ChoosePassword } from './choosepassword';
import { DeadLink } from './doorstep';

/** Where an invitation leads: choose a password, once, and sign in. */
export const Invitation = ({
  token,
  invitation,
  fault,
}: {
  token: string;
  invitation: InvitationView | null;
  fault: string | null;
}) =>
  !invitation ? (
    <DeadLink label="Invitation" why={fault} />
  ) : (
    <ChoosePassword
      label="Invitation"
      title={`Welcome, ${invitation.name}`}
      set={(password) => call('/api/invitation', { body: { token, password } })}
    >
      Choose a password for {invitation.email} at {invitation.company}.
    </ChoosePassword>
  );
