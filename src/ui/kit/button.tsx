import { clsx } from 'clsx';
import type { ComponentProps } from 'react';

type Kind = 'primary' | 'plain' | 'quiet' | 'danger';
const KINDS: Readonly<Record<Kind, string>> = {
  primary: 'bg-plum text-on-plum border-plum hover:bg-plum-2 hover:border-plum-2',
  plain:
    'bg-sheet text-ink border-rule-strong hover:bg-sunk aria-pressed:border-plum aria-pressed:bg-plum-wash aria-pressed:text-plum',
  quiet: 'border-transparent bg-transparent text-ink-2 hover:bg-sunk',
  danger: 'bg-sheet text-clay border-clay hover:bg-clay-wash',
};

const looks = (kind: Kind, small: boolean, className: string | undefined) =>
  clsx(
    'inline-flex items-center justify-center gap-1.5 rounded-control border font-display',
    'font-semibold whitespace-nowrap disabled:opacity-55',
    small ? 'px-2 py-0.5 text-small' : 'px-3 py-1.5 text-[13.5px]',
    KINDS[kind],
    className,
  );
type Looks = { readonly kind?: Kind; readonly small?: boolean };

export const Button = ({ kind = 'plain', className, small = false, ...rest }: ComponentProps<'button'> & Looks) => (
  <button type="button" {...rest} className={looks(kind, small, className)} />
);
/** Looks like a button and is a link: a page to open, a file to take out. */
export const LinkButton = ({
  kind = 'plain',
  className,
  small = false,
  children,
  ...rest
}: ComponentProps<'a'> & Looks) => (
  <a {...rest} className={looks(kind, small, className)}>
    {children}
  </a>
);
