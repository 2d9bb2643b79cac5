'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { InvitationView } from '@/services/people/invitations';
import { Button } from '../kit/button';
import { call, sentence } from '../kit/call';
import { Field, Input } from '../kit/field';
import { Panel } from '../kit/panel';

/** Where an invitation leads: choose a password, once, and sign in. */
export function Invitation({
  token,
  invitation,
  fault,
}: {
  token: string;
  invitation: InvitationView | null;
  fault: string | null;
}) {
  const router = useRouter();
  const [password, setPassword] = useState('');
  const [again, setAgain] = useState('');
  const [wrong, setWrong] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const submit = async () => {
    if (password !== again) return setWrong('The two passwords differ.');
    setBusy(true);
    setWrong(null);
    try {
      const { email } = await call<{ email: string }>('/api/invitation', { body: { token, password } });
      await call('/api/session', { body: { email, password } });
      router.push('/');
      router.refresh();
    } catch (error) {
      setWrong(sentence(error));
      setBusy(false);
    }
  };
  return (
    <main className="flex min-h-screen flex-col items-center justify-center gap-5 bg-paper p-4">
      <div className="flex items-center gap-3 font-display text-title font-semibold">
        <img src="/mark.svg" alt="" width={36} height={36} />
        Usher Lane
      </div>
      <Panel className="w-full max-w-sm p-6" label="Invitation">
        {!invitation ? (
          <>
            <h1 className="mb-2 text-panel">This link does not work</h1>
            <p className="text-ink-2">{fault}</p>
            <p className="mt-3 text-small">
              <a className="text-plum underline" href="/signin">
                Sign in
              </a>
            </p>
          </>
        ) : (
          <form
            className="flex flex-col gap-3"
            onSubmit={(e) => {
              e.preventDefault();
              void submit();
            }}
          >
            <h1 className="text-panel">Welcome, {invitation.name}</h1>
            <p className="text-small text-ink-2">
              Choose a password for {invitation.email} at {invitation.company}.
            </p>
            <Field label="Password" hint="At least 10 characters">
              {(p) => (
                <Input
                  {...p}
                  type="password"
                  autoComplete="new-password"
                  required
                  minLength={10}
                  value={password}
                  onChange={(e) => setPassword(e.target.value)}
                />
              )}
            </Field>
            <Field label="The same again">
              {(p) => (
                <Input
                  {...p}
                  type="password"
                  autoComplete="new-password"
                  required
                  value={again}
                  onChange={(e) => setAgain(e.target.value)}
                />
              )}
            </Field>
            {wrong && (
              <p role="alert" className="text-small text-clay">
                {wrong}
              </p>
            )}
            <Button kind="primary" type="submit" disabled={busy}>
              Set it and sign in
            </Button>
          </form>
        )}
      </Panel>
    </main>
  );
}
