'use client';

import { call } from '../kit/call';
import { ChoosePassword } from './choosepassword';
import { DeadLink } from './doorstep';

/** Where the mail after a forgotten password leads: choose another, once, and sign in. */
export const NewPassword = ({
  token,
  who,
  fault,
}: {
  token: string;
  who: { name: string; email: string } | null;
  fault: string | null;
}) =>
  !who ? (
    <DeadLink label="Another password" why={fault} />
  ) : (
    <ChoosePassword
      label="Another password"
      title={`Another password, ${who.name}`}
      set={(password) => call('/api/password', { method: 'PUT', body: { token, password } })}
    >
      For {who.email}. You are signed out everywhere else.
    </ChoosePassword>
  );
