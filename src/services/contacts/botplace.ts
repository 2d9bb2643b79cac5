import { beginning, type BotState, type ShownImage } from '../../core/bots/conversation';
import type { Value } from '../../core/bots/value';
import { localTime } from '../../core/hours/weekly';
import { readBotState, writeBotState } from '../../data/askings';
import type { Contact } from '../../data/contacts';
import type { Db } from '../../data/database';
import { readFields } from '../../data/fields';
import type { MessageOption } from '../../data/messages';
import { clearTimer } from '../../data/timers';
import { privateValuesOf } from '../../data/values';
import { readWorkspace } from '../../data/workspace';
import type { StandInSystem } from '../../standins/system';
import type { Post } from '../../standins/post';
import type { Send } from '../bots/outside';
import type { Programs, Ready } from '../bots/programs';
import type { Host, Tx } from '../ground/host';
import type { BotAnswers } from './botanswers';
import type { LiveFloor } from './livefloor';
import { opened, tokensFor } from './privatevalues';

type Said = {
  readonly lineId: string | null;
  readonly options: readonly MessageOption[];
  readonly ssml: string | null;
  readonly mayInterrupt: boolean;
  readonly image: ShownImage | null;
};

/** What else a bot's doings rest on: the transcript, and work that comes of a message. */
export type BotHands = {
  readonly botSays: (tx: Tx, contactId: string, text: string, said: Said) => void;
  readonly customerSaid: (tx: Tx, contactId: string, text: string) => void;
  readonly leaveMessage: (tx: Tx, contact: Contact, queueId: string, text: string) => void;
};

export type Outside = { readonly system: StandInSystem; readonly send: Send; readonly post: Post };

/** Applies `change` to every text within plain data. */
function mapTexts(value: unknown, change: (text: string) => string): unknown {
  if (typeof value === 'string') return change(value);
  if (Array.isArray(value)) return value.map((v) => mapTexts(v, change));
  return typeof value === 'object' && value !== null
    ? Object.fromEntries(Object.entries(value).map(([k, v]) => [k, mapTexts(v, change)]))
    : value;
}

/** What this stands on. */
export type BotRunDeps = {
  readonly host: Host;
  readonly floor: LiveFloor;
  readonly programs: Programs;
  readonly answers: BotAnswers;
  readonly outside: Outside;
  readonly hands: BotHands;
};

export const fieldNamed = ({ host }: BotRunDeps, name: string) =>
  host.remembered('fields', readFields).find((f) => f.name === name);

export const isPrivate = (deps: BotRunDeps, name: string): boolean => fieldNamed(deps, name)?.private ?? false;

// Where a conversation stands
// ------------------------------------------------------------------------------------------

/** Private values are left out of the stored place in the script and put back from their own table. */
export function keepState(deps: BotRunDeps, tx: Tx, contactId: string, state: BotState): void {
  if (state.status !== 'listening' && state.status !== 'asking') return forgetPlace(tx, contactId);
  const shown = (values: BotState['values']) =>
    Object.fromEntries(Object.entries(values).filter(([name]) => !isPrivate(deps, name)));
  const kept = {
    ...state,
    values: shown(state.values),
    frames: state.frames.map((f) => ({ ...f, values: shown(f.values) })),
  };
  writeBotState(tx.db, contactId, mapTexts(kept, tokensFor(tx.db, contactId)) as BotState);
}

export function stateOf(deps: BotRunDeps, db: Db, contactId: string): BotState | null {
  const kept = readBotState(db, contactId);
  if (!kept) return null;
  // What was kept by an earlier step of the product knows less.
  const state = {
    ...beginning(kept.language),
    ...(mapTexts(kept, (text) => opened(db, contactId, text)) as BotState),
  };
  const hidden = privateValuesOf(db, contactId).map(({ name, value }): [string, Value] => [
    name,
    fieldNamed(deps, name)?.type === 'whole' && value.trim() !== '' ? Number(value) : value,
  ]);
  return { ...state, values: { ...state.values, ...Object.fromEntries(hidden) } };
}

export function forgetPlace(tx: Tx, contactId: string): void {
  writeBotState(tx.db, contactId, null);
  for (const kind of ['bot-waits', 'bot-slow', 'outside-answers'] as const) clearTimer(tx.db, kind, contactId);
}

export const readyOf = ({ programs }: BotRunDeps, contact: Contact): Ready | null =>
  contact.botId !== null && contact.botVersion !== null ? programs.of(contact.botId, contact.botVersion) : null;

export const worldOf = ({ host }: BotRunDeps, contact: Contact) => ({
  channel: contact.channel,
  local: localTime(host.times.floor(), host.remembered('workspace', readWorkspace)?.zone ?? 'UTC'),
});
