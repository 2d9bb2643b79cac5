'use client';

import { useEffect, useRef, useState } from 'react';
import type { DeskView } from '@/services/contacts/deskview';
import { Button } from '../kit/button';
import { Dialog } from '../kit/dialog';
import { Check, Field } from '../kit/field';
import { Select } from '../kit/select';
import { isSound, type Sound, sound, SOUNDS } from './sounds';

/** How somebody wants to be told of offers and messages, in this browser. */
type Wanted = { readonly sound: Sound; readonly outside: boolean };
const USUAL: Wanted = { sound: 'chime', outside: false };
const KEPT = 'lane.noticing';
function wantedHere(): Wanted {
  try {
    const kept = JSON.parse(localStorage.getItem(KEPT) ?? '{}') as Partial<Wanted>;
    return { sound: isSound(kept.sound) ? kept.sound : USUAL.sound, outside: kept.outside === true };
  } catch {
    return USUAL;
  }
}

const DOT =
  'data:image/svg+xml,' +
  encodeURIComponent(
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 32 32"><rect width="32" height="32" rx="8" fill="#f6c667"/>' +
      '<circle cx="16" cy="16" r="9" fill="#a8341f"/></svg>',
  );

/** The icon of the tab while something waits; the application's own otherwise. */
function useIcon(waits: boolean): void {
  useEffect(() => {
    if (!waits) return;
    const icon = document.createElement('link');
    icon.rel = 'icon';
    icon.href = DOT;
    document.head.append(icon);
    return () => icon.remove();
  }, [waits]);
}

/**
 * Tells of offers and of customers' words while somebody looks elsewhere: by a sound, in the tab's title and icon, and
 * outside the browser where that was asked for. What is in front of whoever looks makes no noise.
 */
export function Noticing({
  view,
  unread,
  frontId,
}: {
  view: DeskView;
  unread: ReadonlyMap<string, number>;
  /** The contact in front. */ frontId: string | null;
}) {
  const [wanted, setWanted] = useState(USUAL);
  const [open, setOpen] = useState(false);
  useEffect(() => setWanted(wantedHere()), []);
  const want = (next: Wanted) => {
    setWanted(next);
    try {
      localStorage.setItem(KEPT, JSON.stringify(next));
    } catch {
      // A browser that keeps nothing: it holds until the page is left.
    }
  };
  const { offer } = view;
  const words = [...unread.values()].reduce((a, b) => a + b, 0);
  const waits = (offer ? 1 : 0) + words;
  useIcon(waits > 0);
  useEffect(() => {
    const plain = document.title.replace(/^(?:\(\d+\) |• )+/, '');
    document.title = offer ? `• ${offer.queue} for you · ${plain}` : words > 0 ? `(${words}) ${plain}` : plain;
    return () => {
      document.title = plain;
    };
  }, [offer, words]);

  const news = useRef<{ readonly offerId: string | null; readonly unread: ReadonlyMap<string, number> } | null>(null);
  useEffect(() => {
    const before = news.current;
    news.current = { offerId: offer?.offerId ?? null, unread };
    if (!before) return;
    const looks = document.visibilityState === 'visible' && document.hasFocus();
    const offered = offer && offer.offerId !== before.offerId ? offer : null;
    const written = view.contacts.filter(
      (c) => (unread.get(c.legId) ?? 0) > (before.unread.get(c.legId) ?? 0) && !(looks && c.legId === frontId),
    );
    if (!offered && written.length === 0) return;
    sound(wanted.sound);
    if (looks || !wanted.outside || !('Notification' in window) || Notification.permission !== 'granted') return;
    // What the customer wrote does not leave the browser's window.
    const says = offered ? `${offered.queue} for you` : `${written[0]?.customer ?? 'A customer'} wrote`;
    const told = new Notification(says, { tag: 'usher-lane-desk' });
    told.onclick = () => {
      window.focus();
      told.close();
    };
  }, [offer, unread, view.contacts, frontId, wanted]);

  return (
    <>
      <Button small kind="quiet" onClick={() => setOpen(true)}>
        Noticing…
      </Button>
      <Dialog
        open={open}
        onClose={() => setOpen(false)}
        title="Noticing"
        description="How you are told of offers and of customers’ words in this browser. What you look at makes no noise."
      >
        <div className="flex flex-col gap-3">
          <Field label="Sound">
            {(p) => (
              <Select
                {...p}
                value={wanted.sound}
                onChange={(chosen) => {
                  if (!isSound(chosen)) return;
                  want({ ...wanted, sound: chosen });
                  sound(chosen);
                }}
              >
                {Object.entries(SOUNDS).map(([id, { name }]) => (
                  <option key={id} value={id}>
                    {name}
                  </option>
                ))}
              </Select>
            )}
          </Field>
          <div className="flex gap-2">
            <Button small disabled={wanted.sound === 'none'} onClick={() => sound(wanted.sound)}>
              Hear it
            </Button>
          </div>
          <Check
            label="Tell me outside this window as well"
            checked={wanted.outside}
            onChange={(e) => {
              if (!e.target.checked) return want({ ...wanted, outside: false });
              if (!('Notification' in window)) return;
              void Notification.requestPermission().then((given) => want({ ...wanted, outside: given === 'granted' }));
            }}
          />
          {typeof Notification !== 'undefined' && Notification.permission === 'denied' && (
            <p className="text-small text-clay">
              This browser was told not to: allow notifications in its settings first.
            </p>
          )}
          <p className="text-small text-ink-2">
            <kbd>Alt T</kbd> takes an offer while you type.
          </p>
        </div>
      </Dialog>
    </>
  );
}
