'use client';

import { clsx } from 'clsx';
import { useRouter } from 'next/navigation';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { toast } from 'sonner';
import { call, sentence } from '../kit/call';
import { initials } from '../kit/figures';
import type { Lights } from './lights';
import { SessionsDialog } from './sessionsdialog';
import type { Viewer } from './viewer';

/** Who is signed in, and what concerns them alone: lights, sessions, signing out. */
export function Account({
  viewer,
  lights,
  onLights,
}: {
  viewer: Viewer;
  lights: Lights;
  onLights: (lights: Lights) => void;
}) {
  const router = useRouter();
  const [listed, setListed] = useState(false);
  const gone = () => {
    router.push('/signin');
    router.refresh();
  };
  const leave = (everywhere: boolean) => {
    call(`/api/session${everywhere ? '?everywhere=1' : ''}`, { method: 'DELETE' }).then(gone, (error: unknown) =>
      toast.error(sentence(error)),
    );
  };
  const item = 'cursor-pointer rounded-control px-3 py-1.5 text-small outline-none data-highlighted:bg-sunk';
  return (
    <>
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger
          aria-label={`Account of ${viewer.name}`}
          className={clsx(
            'flex size-8 items-center justify-center rounded-full bg-mark-voice text-small font-semibold',
            'text-mark-ink ring-1 ring-strip-2',
          )}
        >
          {initials(viewer.name)}
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="end"
            sideOffset={6}
            className="z-50 min-w-52 rounded-panel border border-rule bg-sheet p-1.5 text-ink shadow-xl"
          >
            <div className="px-3 py-1.5">
              <p className="font-display font-semibold">{viewer.name}</p>
              <p className="text-tiny text-ink-2">{viewer.role}</p>
            </div>
            <DropdownMenu.Separator className="my-1 h-px bg-rule" />
            <DropdownMenu.Item className={item} onSelect={() => onLights(lights === 'up' ? 'down' : 'up')}>
              {lights === 'up' ? 'House lights down' : 'House lights up'}
            </DropdownMenu.Item>
            {viewer.rights.includes('desk.work') && (
              <DropdownMenu.Item className={item} onSelect={() => router.push('/desk/own')}>
                How I did
              </DropdownMenu.Item>
            )}
            {viewer.standIns && (
              <DropdownMenu.Item className={item} onSelect={() => window.open('/handset', '_blank')}>
                Open a Handset
              </DropdownMenu.Item>
            )}
            {viewer.everybody && viewer.rights.includes('people.change') && (
              <DropdownMenu.Item className={item} onSelect={() => router.push('/mailbox')}>
                Stand-in mailbox
              </DropdownMenu.Item>
            )}
            <DropdownMenu.Separator className="my-1 h-px bg-rule" />
            <DropdownMenu.Item className={item} onSelect={() => setListed(true)}>
              Where you are signed in…
            </DropdownMenu.Item>
            <DropdownMenu.Item className={item} onSelect={() => leave(false)}>
              Sign out
            </DropdownMenu.Item>
            <DropdownMenu.Item className={item} onSelect={() => leave(true)}>
              Sign out everywhere
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {listed && <SessionsDialog onClose={() => setListed(false)} onGone={gone} />}
    </>
  );
}
