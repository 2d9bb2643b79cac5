'use client';

import { clsx } from 'clsx';
import { useId, type ComponentProps, type ReactNode } from 'react';
import { CONTROL } from './control';

/** A label with its control and what is wrong with it. */
export function Field({
  label,
  hint,
  fault,
  children,
}: {
  label: string;
  hint?: string;
  fault?: string | undefined;
  children: (props: { id: string; 'aria-invalid': boolean; 'aria-describedby': string | undefined }) => ReactNode;
}) {
  const id = useId();
  const note = fault ?? hint;
  return (
    <div className="min-w-0">
      <label htmlFor={id} className="mb-1 block text-small font-medium text-ink-2">
        {label}
      </label>
      {children({ id, 'aria-invalid': fault !== undefined, 'aria-describedby': note ? `${id}-note` : undefined })}
      {note && (
        <p id={`${id}-note`} className={clsx('mt-0.5 text-tiny', fault ? 'text-clay' : 'text-ink-3')}>
          {note}
        </p>
      )}
    </div>
  );
}
export const Input = ({ className, ...rest }: ComponentProps<'input'>) => (
  <input {...rest} className={clsx(CONTROL, className)} />
);
export const Area = ({ className, ...rest }: ComponentProps<'textarea'>) => (
  <textarea {...rest} className={clsx(CONTROL, 'resize-y', className)} />
);
export function Check({ label, ...rest }: ComponentProps<'input'> & { label: ReactNode }) {
  return (
    <label className="inline-flex items-center gap-1.5 text-small">
      <input type="checkbox" {...rest} className="size-4 accent-plum" />
      {label}
    </label>
  );
}
