'use client';

import { DropdownMenu } from 'radix-ui';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { AskedView } from '@/services/review/askedview';
import { Button } from '../kit/button';
import { Dialog } from '../kit/dialog';
import { doing } from '../kit/doing';
import { Check, Field, Input } from '../kit/field';
import { Link } from '../kit/link';
import { reviewHref } from './address';
import { MailView } from './mailview';

const ITEM = 'flex items-center gap-2 rounded-control px-2.5 py-1 text-small outline-none data-[highlighted]:bg-chosen';

/** Views kept by name, one's own and everybody's; the page as it is can be kept as another. */
export function KeptViews({ view, path }: { view: AskedView; path: string }) {
  const router = useRouter();
  const [naming, setNaming] = useState(false);
  const [mailing, setMailing] = useState<AskedView['kept'][number] | null>(null);
  return (
    <>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger asChild>
          <Button small>Views</Button>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="end"
            sideOffset={6}
            className="z-50 max-h-96 min-w-64 overflow-y-auto rounded-panel border border-rule-strong bg-sheet p-1.5 shadow-lg"
          >
            <DropdownMenu.Item className={`${ITEM} font-medium`} onSelect={() => setNaming(true)}>
              Keep this view…
            </DropdownMenu.Item>
            {view.kept.length > 0 && <DropdownMenu.Separator className="my-1 h-px bg-rule" />}
            {view.kept.map((kept) => (
              <DropdownMenu.Item key={kept.id} asChild className={ITEM}>
                <Link href={kept.href}>
                  <span className="flex-1">{kept.name}</span>
                  <span className="text-tiny text-ink-2">
                    {kept.owner ?? (kept.forAll ? 'yours, for all' : 'yours')}
                  </span>
                </Link>
              </DropdownMenu.Item>
            ))}
            {view.kept.length > 0 && <DropdownMenu.Separator className="my-1 h-px bg-rule" />}
            {view.kept.map((kept) => (
              <DropdownMenu.CheckboxItem
                key={kept.id}
                checked={kept.first}
                className={ITEM}
                onCheckedChange={(first) =>
                  void doing(
                    'begin-with-view',
                    { id: first ? kept.id : null },
                    first ? `Review begins with ${kept.name}.` : 'Review begins with the last seven days.',
                  ).then(() => router.refresh())
                }
              >
                <span className="w-4" aria-hidden>
                  {kept.first ? '✓' : ''}
                </span>
                Begin with {kept.name}
              </DropdownMenu.CheckboxItem>
            ))}
            {view.kept.some((kept) => kept.mine) && <DropdownMenu.Separator className="my-1 h-px bg-rule" />}
            {view.kept
              .filter((kept) => kept.mine)
              .map((kept) => (
                <DropdownMenu.Item key={`mail ${kept.id}`} className={ITEM} onSelect={() => setMailing(kept)}>
                  Mail {kept.name}…
                </DropdownMenu.Item>
              ))}
            {view.kept
              .filter((kept) => kept.mine)
              .map((kept) => (
                <DropdownMenu.Item
                  key={kept.id}
                  className={`${ITEM} text-ink-2`}
                  onSelect={() =>
                    void doing('drop-view', { id: kept.id }, `${kept.name} is no longer kept.`).then(() =>
                      router.refresh(),
                    )
                  }
                >
                  Forget {kept.name}
                </DropdownMenu.Item>
              ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {mailing && <MailView id={mailing.id} name={mailing.name} onClose={() => setMailing(null)} />}
      {naming && <Keep view={view} path={path} onClose={() => setNaming(false)} />}
    </>
  );
}

function Keep({ view, path, onClose }: { view: AskedView; path: string; onClose: () => void }) {
  const router = useRouter();
  const [name, setName] = useState('');
  const [forAll, setForAll] = useState(false);
  const asked = reviewHref('', { ...view.address, from: view.from, to: view.to }).slice(1);
  return (
    <Dialog
      open
      onClose={onClose}
      title="Keep this view"
      description={
        view.to === view.today
          ? 'What it is narrowed to, and as many days up to the day on which it is opened.'
          : 'What it is narrowed to, and these days.'
      }
    >
      <form
        onSubmit={(e) => {
          e.preventDefault();
          onClose();
          void doing('keep-view', { name: name.trim(), forAll, path, asked }, `Kept as ${name.trim()}.`).then(() =>
            router.refresh(),
          );
        }}
      >
        <Field label="Name">
          {(p) => (
            <Input {...p} autoFocus required maxLength={60} value={name} onChange={(e) => setName(e.target.value)} />
          )}
        </Field>
        <Check
          label="For everybody who may open Review; each finds what they may see"
          checked={forAll}
          onChange={(e) => setForAll(e.target.checked)}
        />
        <div className="mt-3 flex gap-2">
          <Button kind="primary" type="submit" disabled={name.trim() === ''}>
            Keep
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      </form>
    </Dialog>
  );
}
