'use client';

import { useRouter } from 'next/navigation';
import { type ReactNode, useState } from 'react';
import { Button } from '../kit/button';
import { call, sentence } from '../kit/call';
import { Doorstep } from './doorstep';
import { differs, PasswordFields } from './passwordfields';

/** Sets a password by `set`, which gives the address, then signs in with it. */
export function ChoosePassword({
  label,
  title,
  children,
  set,
}: {
  label: string;
  title: string;
  children: ReactNode;
  set: (password: string) => Promise<{ email: string }>;
}) {
  const router = useRouter();
  const [typed, setTyped] = useState({ password: '', again: '' });
  const [wrong, setWrong] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const submit = async () => {
    if (differs(typed)) return setWrong(differs(typed));
    setBusy(true);
    setWrong(null);
    try {
      const { email } = await set(typed.password);
      await call('/api/session', { body: { email, password: typed.password } });
      router.push('/');
      router.refresh();
    } catch (error) {
      setWrong(sentence(error));
      setBusy(false);
    }
  };
  return (
    <Doorstep label={label}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void submit();
        }}
      >
        <h1 className="text-panel">{title}</h1>
        <p className="text-small text-ink-2">{children}</p>
        <PasswordFields value={typed} onChange={setTyped} />
        {wrong && (
          <p role="alert" className="text-small text-clay">
            {wrong}
          </p>
        )}
        <Button kind="primary" type="submit" disabled={busy}>
          Set it and sign in
        </Button>
      </form>
    </Doorstep>
  );
}
