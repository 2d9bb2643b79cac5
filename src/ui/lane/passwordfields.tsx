import { Field, Input } from '../kit/field';

/** A password, typed twice. */
export type Twice = { readonly password: string; readonly again: string };

/** What is wrong with a password typed twice, or null. */
export const differs = ({ password, again }: Twice): string | null =>
  password === again ? null : 'The two passwords differ.';

export const PasswordFields = ({ value, onChange }: { value: Twice; onChange: (value: Twice) => void }) => (
  <>
    <Field label="Password" hint="At least 10 characters">
      {(p) => (
        <Input
          {...p}
          type="password"
          autoComplete="new-password"
          required
          minLength={10}
          value={value.password}
          onChange={(e) => onChange({ ...value, password: e.target.value })}
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
          value={value.again}
          onChange={(e) => onChange({ ...value, again: e.target.value })}
        />
      )}
    </Field>
  </>
);
