import type { ReactNode } from 'react';
import { Panel } from '../kit/panel';

/** A page outside the lane: the mark, and one panel with what is to be done. */
export const Doorstep = ({
  label,
  wide = false,
  children,
  below,
}: {
  label: string;
  wide?: boolean;
  children: ReactNode;
  below?: ReactNode;
}) => (
  <main className="flex min-h-screen flex-col items-center justify-center gap-5 bg-paper p-4">
    <div className="flex items-center gap-3 font-display text-title font-semibold">
      <img src="/mark.svg" alt="" width={36} height={36} />
      Usher Lane
    </div>
    <Panel className={`w-full p-6 ${wide ? 'max-w-xl' : 'max-w-sm'}`} label={label}>
      {children}
    </Panel>
    {below}
  </main>
);

/** A link that does not work, with why, and the way to sign in. */
export const DeadLink = ({ label, why }: { label: string; why: string | null }) => (
  <Doorstep label={label}>
    <h1 className="mb-2 text-panel">This link does not work</h1>
    <p className="text-ink-2">{why}</p>
    <p className="mt-3 text-small">
      <a className="text-plum underline" href="/signin">
        Sign in
      </a>
    </p>
  </Doorstep>
);
