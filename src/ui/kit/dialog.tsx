'use client';

import { Dialog as Radix } from 'radix-ui';
import { useRef, type ReactNode } from 'react';
import { X } from 'lucide-react';

/** A modal: Esc closes it and focus goes back to where it came from. */
export function Dialog({
  open,
  onClose,
  title,
  description,
  children,
  wide = false,
}: {
  open: boolean;
  onClose: () => void;
  title: string;
  description?: string;
  children: ReactNode;
  wide?: boolean;
}) {
  const cameFrom = useRef<Element | null>(null);
  return (
    <Radix.Root
      open={open}
      onOpenChange={(now) => {
        if (!now) onClose();
      }}
    >
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-strip/55" />
        <Radix.Content
          // It may stand within a form, which is not the one that is sent.
          onSubmit={(event) => event.stopPropagation()}
          onOpenAutoFocus={() => {
            cameFrom.current = document.activeElement;
          }}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            if (cameFrom.current instanceof HTMLElement) cameFrom.current.focus();
          }}
          {...(description ? {} : { 'aria-describedby': undefined })}
          className={
            `fixed top-1/2 left-1/2 z-50 max-h-[90vh] w-[calc(100vw-32px)] -translate-x-1/2 -translate-y-1/2 ` +
            `overflow-y-auto rounded-panel border border-rule bg-sheet p-5 text-ink shadow-2xl ` +
            `${wide ? 'max-w-3xl' : 'max-w-lg'}`
          }
        >
          <div className="mb-3 flex items-start justify-between gap-4">
            <div>
              <Radix.Title className="text-panel">{title}</Radix.Title>
              {description && <Radix.Description className="text-small text-ink-2">{description}</Radix.Description>}
            </div>
            <Radix.Close aria-label="Close" className="rounded-control p-1 text-ink-2 hover:bg-sunk">
              <X size={16} />
            </Radix.Close>
          </div>
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
