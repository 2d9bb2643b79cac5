import type { BotState } from '../../core/bots/conversation';
import type { Value } from '../../core/bots/value';
import { readBotState, writeBotState } from '../../data/askings';
import type { Db } from '../../data/database';
import { readFields } from '../../data/fields';
import { clearTimer } from '../../data/timers';
import { privateValuesOf } from '../../data/values';
import type { Host, Tx } from '../ground/host';
import { opened, tokensFor } from './privatevalues';

/** Where a contact stands in its bot's script, as it is kept: private values stand in a table of their own. */

type PlaceDeps = { readonly host: Host };

const fieldsByName = (db: Db) => new Map(readFields(db).map((f) => [f.name, f]));
const fieldNamed = (host: Host, name: string) => host.remembered('fields by name', fieldsByName).get(name);
export const isField = (host: Host, name: string): boolean => fieldNamed(host, name) !== undefined;
export const isPrivate = (host: Host, name: string): boolean => fieldNamed(host, name)?.private ?? false;

/** Applies `change` to every text within plain data. */
function mapTexts(value: unknown, change: (text: string) => string): unknown {
  if (typeof value === 'string') return change(value);
  if (Array.isArray(value)) return value.map((v) => mapTexts(v, change));
  if (typeof value !== 'object' || value === null) return value;
  const changed: Record<string, unknown> = {};
  for (const [name, v] of Object.entries(value)) changed[name] = mapTexts(v, change);
  return changed;
}

/** Keeps it, or forgets it with its reminders (null). */
export function keepPlace({ host }: PlaceDeps, tx: Tx, contactId: string, state: BotState | null): void {
  if (state === null) {
    writeBotState(tx.db, contactId, null);
    for (const kind of ['bot-waits', 'bot-slow', 'outside-answers'] as const) clearTimer(tx.db, kind, contactId);
    return;
  }
  const shown = (values: BotState['values']): BotState['values'] => {
    const open: Record<string, Value> = {};
    for (const [name, value] of Object.entries(values)) if (!isPrivate(host, name)) open[name] = value;
    return open;
  };
  const kept = {
    ...state,
    values: shown(state.values),
    frames: state.frames.map((f) => ({ ...f, values: shown(f.values) })),
  };
  const tokens = tokensFor(tx.db, contactId);
  writeBotState(tx.db, contactId, tokens === null ? kept : (mapTexts(kept, tokens) as BotState));
}

/** Throws where what is kept cannot be read. */
export function readPlace({ host }: PlaceDeps, db: Db, contactId: string): BotState | null {
  const place = readBotState(db, contactId);
  if (!place) return null;
  const { state: kept } = place;
  const state = place.tokens ? (mapTexts(kept, (text) => opened(db, contactId, text)) as BotState) : kept;
  const hidden = privateValuesOf(db, contactId).map(({ name, value }): [string, Value] => [
    name,
    fieldNamed(host, name)?.type === 'whole' && value.trim() !== '' ? Number(value) : value,
  ]);
  return { ...state, values: { ...state.values, ...Object.fromEntries(hidden) } };
}
