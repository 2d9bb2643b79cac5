import type { Channel } from '@/core/channels';
import { call, newKey } from '../kit/call';

/**
 * The Handset's whole knowledge of the product: the public interface for channels, as docs/api.md describes it. Only
 * beginning goes by its own server's side, which may speak as anybody.
 */
export type Door = {
  readonly id: string;
  readonly name: string;
  readonly channel: Channel;
  readonly address: string;
  readonly languages: readonly string[];
  readonly open: boolean;
};
export type Message = {
  readonly seq: number;
  readonly from: 'customer' | 'bot' | 'person';
  readonly name: string | null;
  readonly text: string;
  readonly options: readonly { key: string; label: string }[];
  readonly at: string;
  readonly ssml: string | null;
  readonly mayInterrupt: boolean;
  readonly spoken: readonly { readonly text: string; readonly recording: string | null }[] | null;
  readonly image: { readonly url: string; readonly alt: string } | null;
};
export type Conversation = {
  readonly contact: string;
  readonly channel: Channel;
  readonly state: 'with-bot' | 'waiting' | 'talking' | 'after' | 'ended';
  readonly language: string;
  readonly seq: number;
  readonly messages: readonly Message[];
  readonly more: boolean;
  readonly music: string | null;
  readonly call: 'promised' | 'ringing' | 'answered' | 'message-left' | null;
  readonly callNumber: string | null;
  readonly held: boolean;
};
export type Held = { readonly contact: string; readonly token: string };

const bearing = (held: Held) => ({ authorization: `Bearer ${held.token}` });

export const listDoors = async (): Promise<readonly Door[]> => (await call<{ doors: Door[] }>('/api/v1/doors')).doors;
export const start = (asked: {
  door: string;
  from: string;
  name?: string;
  language?: string;
  page?: { address: string; place: string };
}): Promise<Conversation & Held> =>
  call('/api/handset/contacts', { body: asked, headers: { 'idempotency-key': newKey() } });
/** Where the conversation is, with what was said after a sequence. */
export async function read(held: Held, after: number): Promise<Conversation> {
  let now = await call<Conversation>(`/api/v1/contacts/${held.contact}?after=${after}`, { headers: bearing(held) });
  let { messages } = now;
  while (now.more) {
    now = await call<Conversation>(`/api/v1/contacts/${held.contact}?after=${now.seq}`, { headers: bearing(held) });
    messages = [...messages, ...now.messages];
  }
  return { ...now, messages };
}
/** What was known with what has come since, each message once. */
export function joined(was: Conversation, next: Conversation): Conversation {
  const known = new Set(was.messages.map((m) => m.seq));
  const messages = [...was.messages, ...next.messages.filter((m) => !known.has(m.seq))].sort((a, b) => a.seq - b.seq);
  return { ...(next.seq >= was.seq ? next : was), messages };
}
export const send = (held: Held, what: { text: string } | { key: string }): Promise<Conversation> =>
  call(`/api/v1/contacts/${held.contact}/messages`, {
    body: what,
    headers: { ...bearing(held), 'idempotency-key': newKey() },
  });
/** Answers the telephone that rings with a promised call, or turns it away. */
export const answer = (held: Held, yes: boolean): Promise<Conversation> =>
  call(`/api/v1/contacts/${held.contact}/answer`, {
    body: { answer: yes },
    headers: { ...bearing(held), 'idempotency-key': newKey() },
  });
export const leave = (held: Held): Promise<Conversation> =>
  call(`/api/v1/contacts/${held.contact}/leave`, { method: 'POST', headers: bearing(held) });

/** Calls back whenever something happened, and on every (re)connection. Gives a function that stops it. */
export function follow(held: Held, after: number, onChange: () => void, onLink: (up: boolean) => void): () => void {
  const source = new EventSource(
    `/api/v1/contacts/${held.contact}/stream?after=${after}&token=${encodeURIComponent(held.token)}`,
  );
  source.onopen = () => {
    onLink(true);
    onChange();
  };
  source.onmessage = onChange;
  source.addEventListener('reset', onChange);
  source.onerror = () => onLink(false);
  return () => source.close();
}
