import { clsx } from 'clsx';
import type { ReactNode } from 'react';

export const Panel = ({ children, className, label }: { children: ReactNode; className?: string; label?: string }) => (
  <section aria-label={label} className={clsx('rounded-panel border border-rule bg-sheet', className)}>
    {children}
  </section>
);

type Tone = 'plain' | 'good' | 'warn' | 'bad' | 'plum' | 'tide';
const TONES: Readonly<Record<Tone, string>> = {
  plain: 'bg-sunk text-ink-2',
  good: 'bg-moss-wash text-moss',
  warn: 'bg-brass-wash text-brass-ink',
  bad: 'bg-clay-wash text-clay',
  plum: 'bg-plum-wash text-plum',
  tide: 'bg-tide-wash text-tide',
};
export const Pill = ({
  tone = 'plain',
  children,
  className,
}: {
  tone?: Tone;
  children: ReactNode;
  className?: string;
}) => (
  <span
    className={clsx(
      'inline-flex items-center rounded-full px-2 py-px text-tiny font-medium whitespace-nowrap',
      TONES[tone],
      className,
    )}
  >
    {children}
  </span>
);

/** What stands beside the page's main thing: as high as the page, and scrolling by itself. */
export const SidePanel = ({ className, ...rest }: Parameters<typeof Panel>[0]) => (
  <Panel {...rest} className={clsx('min-h-0 overflow-y-auto p-4', className)} />
);

/** An empty view says what would be here and what to do about it. */
export const Empty = ({ title, children }: { title: string; children?: ReactNode }) => (
  <div className="px-6 py-10 text-center text-ink-2">
    <p className="font-display font-semibold text-ink">{title}</p>
    {children && <div className="mt-1 text-small">{children}</div>}
  </div>
);
export const Forbidden = ({ what }: { what: string }) => (
  <main className="mx-auto mt-16 max-w-md">
    <Panel className="p-6">
      <h1 className="text-panel">You may not open {what}</h1>
      <p className="mt-2 text-ink-2">Your role does not include it. An owner or a lead can change that.</p>
    </Panel>
  </main>
);

/** The head of a panel: what it is, how it stands, and at the right what can be done. `h2` where it is one of several. */
export const PanelHead = ({
  title,
  as: Heading = 'h1',
  marks,
  children,
}: {
  title: string;
  as?: 'h1' | 'h2';
  marks?: ReactNode;
  children?: ReactNode;
}) => (
  <div className="flex flex-wrap items-center gap-x-3 gap-y-1.5 border-b border-rule px-4 py-2.5">
    <Heading className={Heading === 'h1' ? 'text-title' : 'text-panel'}>{title}</Heading>
    {marks}
    {children && <span className="ml-auto flex gap-2">{children}</span>}
  </div>
);
