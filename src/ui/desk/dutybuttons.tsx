'use client';

import { clsx } from 'clsx';
import { DropdownMenu } from 'radix-ui';
import type { DeskView } from '@/services/contacts/deskview';
import { Button } from '../kit/button';
import { asClock } from '../kit/figures';
import { Pill } from '../kit/panel';

export function Duty({
  view,
  now,
  busy,
  onDuty,
}: {
  view: DeskView;
  now: number;
  busy: boolean;
  onDuty: (duty: DeskView['duty'], reason?: string) => void;
}) {
  const words =
    view.duty === 'ready'
      ? 'Ready'
      : view.duty === 'off'
        ? 'Off duty'
        : view.duty === 'away'
          ? `Away: ${view.reason ?? ''}`
          : 'Leaving when empty';
  const item = 'cursor-pointer rounded-control px-3 py-1.5 text-small outline-none data-highlighted:bg-sunk';
  return (
    <>
      <Pill tone={view.duty === 'ready' ? 'good' : view.duty === 'off' ? 'plain' : 'warn'}>
        {words}
        {view.duty === 'off' ? '' : ` · ${asClock((now - view.since) / 1000)}`}
      </Pill>
      {view.duty !== 'ready' && (
        <Button kind="primary" disabled={busy} onClick={() => onDuty('ready')}>
          Go ready
        </Button>
      )}
      {view.duty !== 'off' && (
        <DropdownMenu.Root modal={false}>
          <DropdownMenu.Trigger
            className={clsx(
              'rounded-control border border-rule-strong bg-sheet px-3 py-1.5 font-display text-[13.5px]',
              'font-semibold',
            )}
          >
            Away ▾
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content
              align="end"
              sideOffset={4}
              className="z-50 min-w-44 rounded-panel border border-rule bg-sheet p-1.5 text-ink shadow-xl"
            >
              {view.reasons.map((r) => (
                <DropdownMenu.Item key={r.name} className={item} onSelect={() => onDuty('away', r.name)}>
                  {r.name}
                  {r.minutes !== null && <span className="ml-2 text-ink-3">{r.minutes} min</span>}
                </DropdownMenu.Item>
              ))}
              <DropdownMenu.Separator className="my-1 h-px bg-rule" />
              <DropdownMenu.Item className={item} onSelect={() => onDuty('away-when-empty')}>
                Off when empty
              </DropdownMenu.Item>
              <DropdownMenu.Item className={item} onSelect={() => onDuty('off')}>
                Off duty now
              </DropdownMenu.Item>
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      )}
    </>
  );
}
