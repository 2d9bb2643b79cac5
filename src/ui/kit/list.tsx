'use client';

import { clsx } from 'clsx';
import type { ReactNode } from 'react';
import { Panel } from './panel';

/** What a list is of, and what can be done with it. */
export const ListHead = ({ title, children }: { title: string; children?: ReactNode }) => (
  <div className="flex items-center gap-2 px-2 py-1.5">
    <h1 className="text-panel">{title}</h1>
    {children && <span className="ml-auto flex gap-1.5">{children}</span>}
  </div>
);

const lineLooks = (open: boolean) =>
  clsx(
    'relative flex w-full items-center gap-2 rounded-control border-l-3 px-2 py-1.5 text-left',
    open ? 'border-brass-2 bg-chosen' : 'border-transparent hover:bg-sunk',
  );

/** Things of which one is open beside the list. A line says the thing's name, under or after it what stands out. */
/** Says that a thing has changes that are not applied. */
export const Unapplied = ({ className }: { className?: string }) => (
  <span
    className={clsx('size-2 shrink-0 rounded-full bg-brass-2', className)}
    role="img"
    aria-label="changed, not applied"
    title="changed, not applied"
  />
);

/** A new thing that was begun and is not there yet. */
export type Begun = { readonly label: string; readonly open: boolean; readonly onOpen: () => void };

export const Lines = <Thing extends { readonly id: string }>({
  things,
  openId,
  onOpen,
  line,
  isChanged,
  begun,
}: {
  things: readonly Thing[];
  openId: string | null | undefined;
  onOpen: (thing: Thing) => void;
  line: (thing: Thing) => ReactNode;
  /** Whether a thing has changes that are not applied. */
  isChanged?: (id: string) => boolean;
  begun?: Begun | null;
}) => (
  <ul>
    {begun && (
      <li>
        <button
          type="button"
          aria-current={begun.open ? 'true' : undefined}
          onClick={begun.onOpen}
          className={lineLooks(begun.open)}
        >
          <span className="min-w-0 flex-1 truncate">
            {begun.label || 'New'} <span className="text-small text-ink-2">not added yet</span>
          </span>
          <Unapplied />
        </button>
      </li>
    )}
    {things.map((thing) => (
      <li key={thing.id}>
        <button
          type="button"
          aria-current={thing.id === openId ? 'true' : undefined}
          onClick={() => onOpen(thing)}
          className={lineLooks(thing.id === openId)}
        >
          {line(thing)}
          {/* Beside the name, so that figures stay in their column. */}
          {isChanged?.(thing.id) && <Unapplied className="absolute top-1/2 left-0 !size-1.5 -translate-y-1/2" />}
        </button>
      </li>
    ))}
  </ul>
);

/** A name with what stands out under it. */
export const TwoLines = ({ name, children }: { name: string; children: ReactNode }) => (
  <span className="min-w-0 flex-1">
    <span className="block truncate font-medium">{name}</span>
    <span className="block text-tiny text-ink-2">{children}</span>
  </span>
);

/** A list in a panel of its own, at the left of what is open. */
export const ListPanel = <Thing extends { readonly id: string }>({
  title,
  tools,
  none,
  foot,
  className,
  ...list
}: Parameters<typeof Lines<Thing>>[0] & {
  title: string;
  tools?: ReactNode;
  /** What would be here. */
  none?: string;
  foot?: ReactNode;
  className?: string;
}) => (
  <Panel className={clsx('self-start p-2', className)} label={title}>
    <ListHead title={title}>{tools}</ListHead>
    {list.things.length === 0 && none && <p className="px-2 pb-2 text-small text-ink-2">{none}</p>}
    <Lines {...list} />
    {foot && <div className="mt-2 flex flex-col gap-1.5 px-2 pb-1">{foot}</div>}
  </Panel>
);
