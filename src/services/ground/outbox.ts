import { addPost, dropItem, noteFailed, outboxItem, type Posted, releasePosts, unsentItems } from '../../data/outbox';
import { setTimer } from '../../data/timers';
import type { Post } from '../../standins/post';
import { backOffMs } from './backoff';
import { bind } from './bind';
import type { Host, Tx } from './host';

/**
 * What leaves the house for somebody outside: written with the change that calls for it, sent once that is kept, and
 * tried again for as long as it fails. A message is sent at least once; a stop between sending and noting it sends it
 * again.
 */
export type Outbox = ReturnType<typeof createOutbox>;

/** What the functions of this file are given first. */
export type OutboxDeps = { readonly host: Host; readonly post: Post };

function put(deps: OutboxDeps, tx: Tx, posted: Posted): void {
  const id = addPost(tx.db, posted, tx.realAt);
  tx.onceKept(() => sendPost(deps, id));
}

/** Sends one. When it cannot be sent it is kept, with why, and is due again later. */
export function sendPost({ host, post }: OutboxDeps, id: number): void {
  const item = outboxItem(host.db, id);
  if (item?.kind !== 'post' || item.state !== 'ready') return;
  const { medium, address, subject, body } = item.body;
  try {
    if (medium === 'mail') post.mail(address, subject, body);
    else if (medium === 'text') post.text(address, body);
    else post.call(address, body);
  } catch (error) {
    host.fault(error);
    return host.transact((tx) => {
      const attempts = noteFailed(tx.db, id, error instanceof Error ? error.message : 'it could not be sent');
      setTimer(tx.db, 'post-due', String(id), 'real', tx.realAt + backOffMs(attempts));
    });
  }
  host.transact((tx) => dropItem(tx.db, id));
}

export const mail = (deps: OutboxDeps, tx: Tx, address: string, subject: string, body: string): void =>
  put(deps, tx, { medium: 'mail', address, subject, body });
export const text = (deps: OutboxDeps, tx: Tx, address: string, body: string): void =>
  put(deps, tx, { medium: 'text', address, subject: '', body });
/** Rings a number and speaks. */
export const call = (deps: OutboxDeps, tx: Tx, address: string, body: string): void =>
  put(deps, tx, { medium: 'call', address, subject: '', body });

/** A text that is sent when a contact is over. */
export const textAfter = (_deps: OutboxDeps, tx: Tx, contactId: string, address: string, body: string): void =>
  void addPost(tx.db, { medium: 'text', address, subject: '', body }, tx.realAt, contactId);
/** The contact is over: what waited for that is sent. */
export function contactOver(deps: OutboxDeps, tx: Tx, contactId: string): void {
  for (const id of releasePosts(tx.db, contactId)) tx.onceKept(() => sendPost(deps, id));
}

/** After a stop: what was written down and had not left yet leaves. */
export function resumePosts(deps: OutboxDeps): void {
  for (const id of unsentItems(deps.host.db))
    try {
      sendPost(deps, id);
    } catch (error) {
      // One that cannot be read keeps none of the others from leaving.
      deps.host.fault(error);
    }
}

export const createOutbox = (deps: OutboxDeps) =>
  bind(deps, { mail, text, call, textAfter, contactOver, sendPost, resumePosts });
