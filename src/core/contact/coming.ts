import { isText } from '../channels';
import type { Away } from '../doors/doorway';
import { type Closed, closedWords, type Turned } from './closed';
import type { Asking } from './contact';
import type { ContactEvent, CustomerInput, Met } from './events';
import { botSays, end, enter, type Going, said, setAsking } from './going';
import { offerCallback, takeMessage, waitForWords } from './waiting';
import { beginBot, botTakes, isWithBot } from './withbot';
import { AWAY, builtIn } from './words';

/** How a contact comes in at a door: to its bot, to one that its first words ask for, to people, or to a door that is shut. */

/** How long somebody may take over their first words before the door's own bot speaks to them, seconds of the floor. */
const FIRST_WORDS_SECONDS = 20;
const UNPUBLISHED = 'the door’s bot has never been published';

/** A contact comes in: what doors that are closed say, then what follows. */
export function begins(going: Going, event: Extract<ContactEvent, { readonly type: 'begins' }>): void {
  const { contact, world } = going;
  const { closed, meets, elsewhere } = event;
  const saying = (one: Closed) => closedWords(one, world.now, contact.language);
  for (const one of closed?.said ?? []) botSays(going, { text: saying(one) });
  if (closed && closed.then.does !== 'in') follow(going, closed.then, elsewhere);
  else meet(going, meets, elsewhere);
}

function meet(going: Going, meets: Met, elsewhere: string | null): void {
  const { contact, world } = going;
  if (meets.by === 'people') {
    const personId = meets.personIds.find(world.isOnDuty);
    if (personId !== undefined)
      return enter(going, meets.queueId, world.now, 'the door leads straight to people', { personId });
    botSays(going, { text: said(going, meets.away.wording) || builtIn(AWAY, contact.language) });
    return follow(going, meets.away.then, elsewhere, meets.queueId);
  }
  // A caller says nothing before somebody has spoken to them.
  if (meets.by === 'first-words' && isText(contact.channel)) {
    setAsking(going, { kind: 'first-words', doorId: meets.doorId });
    return waitForWords(going, FIRST_WORDS_SECONDS);
  }
  toBot(going, elsewhere);
}

/** Its bot has it; people do where the bot was never published. */
function toBot(going: Going, elsewhere: string | null): void {
  if (!beginBot(going) && elsewhere !== null) enter(going, elsewhere, going.world.now, UNPUBLISHED);
}

function follow(
  going: Going,
  then: Exclude<Turned['then'], { readonly does: 'in' }> | Away['then'],
  elsewhere: string | null,
  queueId = elsewhere,
): void {
  const { contact, world, acts } = going;
  switch (then.does) {
    case 'end':
      return end(going, 'closed-by-us');
    case 'message':
      return takeMessage(going, then.queueId, '');
    case 'callback':
      return offerCallback(going, { queueId: then.queueId, placedAt: world.now }, null);
    case 'queue':
      if (queueId !== null) enter(going, queueId, world.now, 'nobody the door leads to is on duty');
      return;
    case 'bot': {
      const version = contact.bot ? null : world.liveVersion(then.botId);
      if (version !== null) {
        contact.bot = { id: then.botId, version };
        acts.push({ do: 'bot-begins', botId: then.botId, version });
      }
      return toBot(going, queueId);
    }
  }
}

type FirstWordsAwaited = Extract<Asking, { readonly kind: 'first-words' }>;

/** Somebody has written their first words, or nothing in time (null): the bot that these ask for speaks to them. */
export function firstWords(going: Going, { doorId }: FirstWordsAwaited, input: CustomerInput | null): void {
  const { contact, world, acts } = going;
  setAsking(going, null);
  acts.push({ do: 'forget', timer: 'bot-waits', id: contact.id });
  const text = input === null ? null : input.type === 'key' ? input.key : input.text;
  const { bot, language, elsewhere } = world.botAskedFor(doorId, text);
  if (language !== null && language !== contact.language) {
    contact.language = language;
    acts.push({ do: 'language', language });
  }
  if (bot) {
    contact.bot = bot;
    acts.push({ do: 'bot-begins', botId: bot.id, version: bot.version });
  }
  const from = acts.length;
  toBot(going, elsewhere);
  if (input === null || text === null) return;
  // What they wrote is what the bot hears first, where it listens.
  if (isWithBot(contact)) botTakes(going, input);
  else acts.push({ do: 'customer-said', text, secret: null });
  wroteFirst(acts, from);
}

/** They wrote before the bot spoke, and read it so; but for what is private, which is kept before it is written down. */
function wroteFirst(acts: Going['acts'], from: number): void {
  const said = acts.findIndex((act, i) => i >= from && act.do === 'customer-said' && act.secret === null);
  const spoke = acts.findIndex((act, i) => i >= from && act.do === 'bot-says');
  if (spoke >= 0 && spoke < said) acts.splice(spoke, 0, ...acts.splice(said, 1));
}
