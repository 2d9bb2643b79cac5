'use client';

import { clsx } from 'clsx';
import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';

export function Row({
  name,
  says,
  adds,
  disabled,
  onMenuClosed,
  children,
}: {
  name: string;
  says: string;
  adds: readonly (readonly [string, () => void])[];
  disabled: boolean;
  onMenuClosed: (event: Event) => void;
  children: ReactNode[];
}) {
  return (
    <div className="grid grid-cols-[132px_minmax(0,1fr)] border-b border-rule py-1.5" role="group" aria-label={name}>
      <div className="pr-2">
        <p className="flex items-center gap-1 text-small font-semibold">
          {name}
          {!disabled && adds.length > 0 && (
            <DropdownMenu.Root modal={false}>
              <DropdownMenu.Trigger
                aria-label={`Add to ${name}`}
                className={clsx(
                  'ml-auto size-[22px] rounded-control border border-rule-strong bg-sheet text-center text-small',
                  'leading-none text-ink-2 hover:bg-sunk',
                )}
              >
                +
              </DropdownMenu.Trigger>
              <DropdownMenu.Portal>
                <DropdownMenu.Content
                  align="start"
                  sideOffset={4}
                  className="z-50 max-h-72 min-w-44 overflow-y-auto rounded-panel border border-rule bg-sheet p-1.5 text-ink shadow-xl"
                  onCloseAutoFocus={onMenuClosed}
                >
                  {adds.map(([words, add]) => (
                    <DropdownMenu.Item
                      key={words}
                      className="cursor-pointer rounded-control px-3 py-1 text-small outline-none data-highlighted:bg-sunk"
                      onSelect={add}
                    >
                      {words}
                    </DropdownMenu.Item>
                  ))}
                </DropdownMenu.Content>
              </DropdownMenu.Portal>
            </DropdownMenu.Root>
          )}
        </p>
        <p className="text-tiny text-ink-2">{says}</p>
      </div>
      <div className="mr-6 flex flex-col gap-1">
        {children.length === 0 ? (
          <div className="h-7" />
        ) : (
          children.map((line, i) => (
            <div key={i} className="relative h-7">
              {line}
            </div>
          ))
        )}
      </div>
    </div>
  );
}
