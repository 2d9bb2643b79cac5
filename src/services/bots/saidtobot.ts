import type { BotInput } from '../../core/bots/conversation';
import type { Channel } from '../../core/channels';
import { LaneError } from '../../core/errors';
import { localTime } from '../../core/hours/weekly';
import { messagesOf } from '../../data/messages';
import { visitsOf } from '../../data/visits';
import { readWorkspace } from '../../data/workspace';
import { masked } from '../contacts/privatevalues';
import { seenContact } from '../contacts/seencontact';
import { type Actor, mustHold } from '../ground/actor';
import { bind } from '../ground/bind';
import type { Host } from '../ground/host';

/** What a customer said to a bot, so that its draft can be tried with the same: private values are masked. */
export type SaidToBot = {
  readonly contactId: string;
  readonly botId: string;
  readonly channel: Channel;
  readonly language: string;
  /** When it began, by the workspace's clock: `YYYY-MM-DDTHH:MM`. */ readonly local: string;
  readonly said: readonly Extract<BotInput, { type: 'text' | 'key' }>[];
};

/** The most that is tried again: a test has at most 120 turns. */
const MOST_SAID = 100;

/** What was said until a person was asked for. Throws `not-found` where no bot was met. */
export function viewSaidToBot({ host }: { readonly host: Host }, actor: Actor, contactId: string): SaidToBot {
  mustHold(actor, 'conversations.view');
  const { id, botId, channel, language, startedAt } = seenContact(host, actor, contactId);
  if (botId === null) throw new LaneError('not-found', 'No bot was met in this contact.');
  const until = visitsOf(host.db, id)[0]?.placedAt ?? Infinity;
  return {
    contactId: id,
    botId,
    channel,
    language,
    local: localTime(startedAt, readWorkspace(host.db)?.zone ?? 'UTC'),
    said: messagesOf(host.db, id)
      .filter((m) => m.sender === 'customer' && m.floorAt <= until)
      .slice(0, MOST_SAID)
      .map(({ text }) =>
        channel === 'voice' && /^[0-9*#]$/.test(text)
          ? { type: 'key', key: text }
          : { type: 'text', text: masked(text) },
      ),
  };
}

export const createSaidToBot = (deps: { readonly host: Host }) => bind(deps, { view: viewSaidToBot });
