'use client';

import type { SignIn } from '@/core/bots/connectors';
import { Field, Input } from '../../kit/field';
import { options, Select } from '../../kit/select';

const WAYS: Readonly<Record<SignIn['by'], string>> = {
  bearer: 'bearer token',
  basic: 'user and password',
  header: 'key in a header',
  client: 'client credentials',
};
/** What the secret is, by how it signs in. */
export const SECRET_NAMES: Readonly<Record<SignIn['by'], string>> = {
  bearer: 'Token',
  basic: 'Password',
  header: 'Key',
  client: 'Client secret',
};

/** How a connector says who asks. */
export function SignInFields({
  value,
  hosts,
  faults,
  onChange,
}: {
  value: SignIn;
  hosts: readonly string[];
  faults: Readonly<Record<string, string>>;
  onChange: (value: SignIn) => void;
}) {
  const made = (by: SignIn['by']): SignIn => {
    switch (by) {
      case 'bearer':
        return { by };
      case 'basic':
        return { by, user: '' };
      case 'header':
        return { by, header: 'X-Api-Key' };
      case 'client':
        return { by, clientId: '', tokenHost: hosts[0] ?? '', tokenPath: '/oauth/token', scope: '' };
    }
  };
  return (
    <div className="grid grid-cols-3 gap-3">
      <Field label="Signs in by">
        {(p) => (
          <Select {...p} value={value.by} onChange={(chosen) => onChange(made(chosen as SignIn['by']))}>
            {options(Object.keys(WAYS) as SignIn['by'][], (by) => WAYS[by])}
          </Select>
        )}
      </Field>
      {value.by === 'basic' && (
        <Field label="User" fault={faults['signIn.user']}>
          {(p) => <Input {...p} value={value.user} onChange={(e) => onChange({ ...value, user: e.target.value })} />}
        </Field>
      )}
      {value.by === 'header' && (
        <Field label="Header of the key" fault={faults['signIn.header']}>
          {(p) => (
            <Input {...p} value={value.header} onChange={(e) => onChange({ ...value, header: e.target.value })} />
          )}
        </Field>
      )}
      {value.by === 'client' && (
        <>
          <Field label="Client id" fault={faults['signIn.clientId']}>
            {(p) => (
              <Input {...p} value={value.clientId} onChange={(e) => onChange({ ...value, clientId: e.target.value })} />
            )}
          </Field>
          <Field label="Host of tokens" fault={faults['signIn.tokenHost']}>
            {(p) => (
              <Select {...p} value={value.tokenHost} onChange={(tokenHost) => onChange({ ...value, tokenHost })}>
                {value.tokenHost === '' && <option value="">none is allowed yet</option>}
                {options(hosts)}
              </Select>
            )}
          </Field>
          <Field label="Path of tokens" fault={faults['signIn.tokenPath']}>
            {(p) => (
              <Input
                {...p}
                className="font-mono"
                value={value.tokenPath}
                onChange={(e) => onChange({ ...value, tokenPath: e.target.value })}
              />
            )}
          </Field>
          <Field label="Scope" hint="may be empty">
            {(p) => (
              <Input {...p} value={value.scope} onChange={(e) => onChange({ ...value, scope: e.target.value })} />
            )}
          </Field>
        </>
      )}
    </div>
  );
}
