'use client';

import { useEffect, useState } from 'react';
import { Dialog } from '../kit/dialog';
import { Key } from '../kit/keys';

const EVERYWHERE: readonly [string, string][] = [
  ['Ctrl K', 'go to a page or thing'],
  ['?', 'show these keys'],
  ['Esc', 'close what is open'],
  ['Tab', 'next control'],
];
const PAGES: readonly { readonly path: string; readonly name: string; readonly keys: readonly [string, string][] }[] = [
  {
    path: '/people/duty',
    name: 'Duty profile',
    keys: [
      ['↑ ↓', 'move to the band above or below'],
      ['1–5', 'move to this band'],
      ['0', 'not taken'],
      ['Tab', 'next queue'],
    ],
  },
  {
    path: '/people',
    name: 'Skills matrix',
    keys: [
      ['arrows', 'move between cells'],
      ['Shift arrows', 'pick a block'],
      ['1–5', 'set the level, of all picked'],
      ['0', 'clear to what team and sets give'],
      ['N', 'never'],
      ['Ctrl C, V', 'copy and paste, also from a spreadsheet'],
      ['Ctrl D', 'fill down'],
      ['Ctrl Z, Y', 'undo, redo'],
      ['Enter', 'open the person'],
    ],
  },
  {
    path: '/floor',
    name: 'Floor',
    keys: [
      ['Tab', 'through waiting contacts'],
      ['Enter', 'say why nobody has it yet'],
      ['Esc', 'back to the longest waiting'],
    ],
  },
  {
    path: '/bots',
    name: 'Bot script',
    keys: [
      ['Ctrl S', 'save the draft'],
      ['Ctrl Z', 'undo'],
      ['Ctrl Shift Z', 'redo'],
      ['Alt ↑ ↓', 'move the line'],
      ['Enter', 'open a line'],
    ],
  },
  {
    path: '/desk',
    name: 'Desk',
    keys: [
      ['T', 'take what is offered'],
      ['P', 'pass on the offer'],
      ['Ctrl Enter', 'send'],
      ['1–9', 'go to an open contact'],
    ],
  },
];

/** `?` lists the keys of the page. */
export function KeysSheet({ path }: { path: string }) {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const inText =
        event.target instanceof HTMLElement && event.target.closest('input, textarea, select, [contenteditable]');
      if (event.key === '?' && !inText) setOpen(true);
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, []);
  const page = PAGES.find((p) => path.startsWith(p.path));
  return (
    <Dialog open={open} onClose={() => setOpen(false)} title="Keys">
      {[...(page ? [page] : []), { name: 'Everywhere', keys: EVERYWHERE }].map(({ name, keys }) => (
        <section key={name} className="mb-4">
          <h3 className="mb-1 text-small text-ink-2">{name}</h3>
          <dl className="grid grid-cols-[120px_1fr] gap-y-1.5">
            {keys.map(([key, what]) => (
              <div key={key} className="contents">
                <dt>
                  <Key>{key}</Key>
                </dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
        </section>
      ))}
    </Dialog>
  );
}
