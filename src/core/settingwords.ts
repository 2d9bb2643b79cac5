import { CALLBACK_PARTS } from './callbacks/sentences';
import { CHANNEL_NAMES } from './channels';
import { languageName } from './localised';
import { RIGHT_WORDS } from './people/rights';
import { RULE_WORDS } from './routing/queuesentence';

/** How the fields of settings are said where their changes are told: in the words of their pages. */
export const FIELD_WORDS: Readonly<Record<string, string>> = {
  // People and teams
  shownName: 'name shown',
  teamId: 'team',
  alsoTeamIds: 'further teams',
  teamIds: 'teams',
  setIds: 'skill sets',
  siteId: 'site',
  roleId: 'role',
  dutyProfileId: 'duty profile',
  most: 'at once',
  active: 'switched on',
  email: 'e-mail',
  outbound: 'outbound identity',
  supervisorIds: 'supervisors',
  personIds: 'people',
  personId: 'person',
  profileId: 'profile',
  exceptions: 'dated days',
  weekly: 'week',
  mayCall: 'may call',
  maySendText: 'may send text',
  mayReceiveText: 'may receive text',
  sentTo: 'sent to',
  stockSetIds: 'stock replies',
  // Articles
  lookAgain: 'look at it again on',
  asks: 'questions it should answer',
  // Duty profiles
  rows: 'queues',
  delaySeconds: 'joins after, s',
  acceptSeconds: 'seconds to accept',
  autoAccept: 'takes offers unasked',
  restSeconds: 'seconds until rest',
  cost: 'load',
  load: 'room',
  // Queues
  goals: 'goal',
  messageGoal: 'goal of messages',
  percent: 'share, %',
  seconds: 'within, s',
  hoursId: 'opening hours',
  queueId: 'queue',
  groupId: 'group',
  partnerId: 'partner desk',
  skillId: 'skill',
  sceneId: 'scene',
  needs: 'needed skills',
  atLeast: 'at least',
  atMost: 'at most',
  order: 'who is asked first',
  familiar: 'familiar person',
  days: 'known for, days',
  holdSeconds: 'held, s',
  offering: 'how people are asked',
  missedSetsAway: 'sets away whoever misses an offer',
  entryRules: 'if it goes wrong',
  clocks: 'wait clock',
  atSeconds: 'at, s',
  everySeconds: 'again every, s',
  early: 'as soon as all are full',
  acts: 'what happens',
  onward: 'goes on',
  wrapUp: 'wrap-up',
  mayFinishEarly: 'may be ended early',
  needsOutcome: 'outcome required',
  connect: 'on connection',
  toAgent: 'said to the agent',
  toCustomer: 'said to the customer',
  callback: 'calls back',
  spacingMinutes: 'apart, min',
  expiryHours: 'given up after, h',
  // Groups and partner desks
  atOnce: 'at once',
  perHour: 'an hour',
  perDay: 'a day',
  perMonth: 'a month',
  instead: 'in place of their own limits',
  who: 'who belongs',
  alsoIds: 'and besides',
  exceptIds: 'but not',
  weights: 'shares',
  ringSeconds: 'rings, s',
  countsFromSeconds: 'counts from, s',
  perQueue: 'by queue',
  // Doors
  botId: 'bot',
  doorId: 'door',
  closedWording: 'said when closed',
  whenClosed: 'when closed',
  meets: 'whom customers meet',
  trial: 'on trial',
  away: 'when none is on duty',
  // Bots and phrases
  draft: 'script',
  steps: 'lines',
  wording: 'words',
  examples: 'phrases',
};

/** How what may be chosen in a field is said. */
const CHOICES: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  order: Object.fromEntries(Object.entries(RULE_WORDS).map(([rule, { name }]) => [rule, name])),
  way: {
    one: 'one at a time',
    'ring-all': 'several at once',
    claim: 'taken from a list',
    'one-by-one': 'one by one',
    'all-at-once': 'all at once',
  },
  does: {
    lower: 'loosens',
    'add-group': 'asks a group as well',
    'add-partner': 'rings a partner desk',
    raise: 'gives priority',
    say: 'says',
    play: 'plays',
    ask: 'asks',
    move: 'moves on',
    end: 'ends',
    bot: 'leads to a bot',
    message: 'takes a message',
    callback: 'offers a call back',
    door: 'leads to another door',
    queue: 'waits in the queue',
  },
  when: {
    closed: 'while it is closed',
    nobody: 'while nobody is able',
    waiting: 'while so many wait',
    expected: 'while so long a wait is expected',
  },
  to: {
    end: 'to an end',
    message: 'to a message',
    callback: 'to a call back',
    queue: 'to a queue',
    group: 'to a group',
    partner: 'to a partner desk',
    scene: 'back to a scene',
  },
  by: { bot: 'its bot', 'first-words': 'a bot by first words', people: 'named people', everyone: 'everyone' },
  what: { callback: 'a call back', message: 'leave a message' },
  rights: RIGHT_WORDS,
  teams: { all: 'everybody', supervised: 'the teams they supervise' },
  instead: { atOnce: 'at once', perHour: 'an hour', perDay: 'a day', perMonth: 'a month', hours: 'hours' },
};
const isChannel = (word: string): word is keyof typeof CHANNEL_NAMES => Object.hasOwn(CHANNEL_NAMES, word);

/** What stands in a field, in words; undefined where it is no choice of that field. */
export const choiceWords = (field: string | undefined, value: string): string | undefined =>
  (field === 'channels' || field === 'channel') && isChannel(value)
    ? CHANNEL_NAMES[value].name
    : field === 'languages' || field === 'language'
      ? languageName(value)
      : field === undefined
        ? undefined
        : CHOICES[field]?.[value];

/** Fields whose parts are told apart by language. */
const WORDED = new Set(['wording', 'closedWording', 'examples', 'toAgent', 'toCustomer', 'text', 'reason']);
/** Fields whose parts are told apart by channel. */
const BY_CHANNEL = new Set(['goals', 'clocks', 'load']);
/** A part within a field, in words: a field of its own, a language, a channel; undefined for what has a name. */
const isSentence = (word: string): word is keyof typeof CALLBACK_PARTS => Object.hasOwn(CALLBACK_PARTS, word);
export const partWords = (within: string | undefined, key: string): string | undefined =>
  within === 'wording' && isSentence(key)
    ? CALLBACK_PARTS[key].part.toLowerCase()
    : within !== undefined && (WORDED.has(within) || isSentence(within))
      ? languageName(key)
      : within !== undefined && BY_CHANNEL.has(within) && isChannel(key)
        ? CHANNEL_NAMES[key].name
        : isChannel(key)
          ? CHANNEL_NAMES[key].name
          : FIELD_WORDS[key];
