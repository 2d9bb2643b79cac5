'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button } from '../kit/button';
import { call, sentence } from '../kit/call';
import { Field, Input } from '../kit/field';
import { Panel } from '../kit/panel';
import { Doorstep } from './doorstep';

type DemoAccount = { readonly role: string; readonly name: string; readonly email: string; readonly password: string };

export function SignIn({ demo, begun, handset }: { demo: readonly DemoAccount[]; begun: boolean; handset: boolean }) {
  const router = useRouter();
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const [fault, setFault] = useState<string | null>(null);
  const [sent, setSent] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const submit = async (who: { email: string; password: string }) => {
    setBusy(true);
    setFault(null);
    try {
      await call('/api/session', { body: who });
      router.push('/');
      router.refresh();
    } catch (error) {
      setFault(sentence(error));
      setBusy(false);
    }
  };
  const forgot = async () => {
    setBusy(true);
    setFault(null);
    setSent(null);
    try {
      await call('/api/password', { body: { email: email.trim() } });
      setSent(`If there is an account for ${email.trim()}, a link is on its way. It works for an hour.`);
    } catch (error) {
      setFault(sentence(error));
    } finally {
      setBusy(false);
    }
  };
  if (!begun)
    return (
      <Doorstep label="Sign in">
        <h1 className="mb-2 text-panel">Nobody has begun here yet</h1>
        <p className="text-ink-2">
          Open the address that the server printed when it started: there the first owner names the workspace.
        </p>
      </Doorstep>
    );
  return (
    <Doorstep
      label="Sign in"
      below={
        <>
          {demo.length > 0 && (
            <Panel className="w-full max-w-sm p-5" label="Demo accounts">
              <h2 className="text-panel">Demo accounts</h2>
              <p className="mb-2 text-small text-ink-2">
                Everything here is made up. The password of each is “{demo[0]?.password}”.
              </p>
              <ul className="divide-y divide-rule">
                {demo.map((who) => (
                  <li key={who.email} className="flex items-center gap-3 py-1.5">
                    <span className="w-20 text-small text-ink-2">{who.role}</span>
                    <span className="flex-1 text-small">{who.name}</span>
                    <Button
                      small
                      aria-label={`Sign in as ${who.name}`}
                      disabled={busy}
                      onClick={() => void submit(who)}
                    >
                      Sign in
                    </Button>
                  </li>
                ))}
              </ul>
            </Panel>
          )}
          {handset && (
            <p className="text-small text-ink-2">
              Playing the customer?{' '}
              <a href="/handset" className="font-medium text-plum underline">
                Open a Handset
              </a>
            </p>
          )}
        </>
      }
    >
      <h1 className="mb-4 text-panel">Sign in</h1>
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void submit({ email, password });
        }}
      >
        <Field label="E-mail address">
          {(props) => (
            <Input
              {...props}
              type="email"
              autoComplete="username"
              required
              value={email}
              onChange={(e) => setEmail(e.target.value)}
            />
          )}
        </Field>
        <Field label="Password">
          {(props) => (
            <Input
              {...props}
              type="password"
              autoComplete="current-password"
              required
              value={password}
              onChange={(e) => setPassword(e.target.value)}
            />
          )}
        </Field>
        {fault && (
          <p role="alert" className="text-small text-clay">
            {fault}
          </p>
        )}
        {sent && (
          <p role="status" className="text-small text-moss">
            {sent}
          </p>
        )}
        <Button kind="primary" type="submit" disabled={busy} className="mt-1">
          {busy ? 'Signing in…' : 'Sign in'}
        </Button>
        <Button
          kind="quiet"
          small
          disabled={busy || !email.includes('@')}
          title={email.includes('@') ? undefined : 'Type your address first'}
          onClick={() => void forgot()}
        >
          Forgot the password?
        </Button>
      </form>
    </Doorstep>
  );
}
