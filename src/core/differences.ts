import { ORDER, partsOf, type Path, reorders } from './drafts/parts';

/** Whether two plain values say the same, whatever the order of their names and of things that are told apart. */
export const sameValue = (a: unknown, b: unknown): boolean => partsOf(a, b).every(({ path }) => path.at(-1) === ORDER);

/** A difference as it is put to people. */
export type ChangeLine = { readonly what: string; readonly from: string; readonly to: string };

/** How the names of settings are said. */
const WORDS: Readonly<Record<string, string>> = {
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
  acceptSeconds: 'seconds to accept',
  autoAccept: 'takes offers unasked',
  restSeconds: 'seconds until rest',
  outboundQueueId: 'outbound queue',
  exceptions: 'dated days',
  weekly: 'week',
  profileId: 'profile',
  supervisorIds: 'supervisors',
  personIds: 'people',
  delaySeconds: 'delay',
  sentTo: 'sent to',
  exceptIds: 'but not',
  stockSetIds: 'stock replies',
  mayCall: 'may call',
  maySendText: 'may send text',
  mayReceiveText: 'may receive text',
  hoursId: 'opening hours',
  botId: 'bot',
  queueId: 'queue',
  skillId: 'skill',
  goals: 'goal',
  percent: 'share, %',
  seconds: 'within, s',
  clocks: 'wait clock',
  atSeconds: 'at, s',
  acts: 'what happens',
  needs: 'needed skills',
  atLeast: 'at least',
  atMost: 'at most',
  order: 'who is asked first',
  familiar: 'familiar person',
  holdSeconds: 'held, s',
  entryRules: 'entry rules',
  wrapUp: 'wrap-up',
  toAgent: 'said to the agent',
  toCustomer: 'said to the customer',
  callback: 'calls back',
  messageGoal: 'goal of messages',
  closedWording: 'said when closed',
  whenClosed: 'when closed',
  meets: 'whom customers meet',
  trial: 'on trial',
  limits: 'limits',
  atOnce: 'at once',
  perHour: 'an hour',
  perDay: 'a day',
  perMonth: 'a month',
  ringSeconds: 'rings, s',
  countsFromSeconds: 'counts from, s',
  perQueue: 'by queue',
  weights: 'shares',
  who: 'who belongs',
  alsoIds: 'and besides',
  instead: 'in place of their own limits',
  rows: 'queues',
  examples: 'phrases',
  draft: 'script',
  steps: 'lines',
  wording: 'words',
};

/** How ids and instants (UTC ms) are said. */
export type Sayer = { readonly name: (id: string) => string; readonly time: (at: number) => string };
const empty = (value: unknown): boolean =>
  value === null || value === undefined || value === '' || (Array.isArray(value) && value.length === 0);

/** A plain value in words; what is empty within it is left out. Numbers that can only be instants are said as times. */
export function sayValue(value: unknown, say: Sayer): string {
  if (empty(value)) return '–';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'string') return say.name(value);
  if (typeof value === 'number') return value > 1e12 ? say.time(value) : String(value);
  if (Array.isArray(value)) return value.map((v) => sayValue(v, say)).join(', ');
  return Object.entries(value as object)
    .filter(([k, v]) => k !== 'id' && !empty(v))
    .map(([k, v]) => `${WORDS[k] ?? say.name(k)} ${sayValue(v, say)}`)
    .join(', ');
}

/** A place in words. */
export const sayPath = (path: Path, say: Pick<Sayer, 'name'>): string =>
  path
    .map((key) =>
      key === ORDER
        ? 'order'
        : key
            .split(' ')
            .map((word) => WORDS[word] ?? say.name(word))
            .join(' '),
    )
    .join(' · ');

const isPlain = (value: unknown): boolean => typeof value === 'object' && value !== null && !Array.isArray(value);

/**
 * All differences of two versions in words, without ids of their own and revisions. Either may be null: then the
 * thing was not there.
 */
export function describeDifferences(before: unknown, after: unknown, say: Sayer): ChangeLine[] {
  const whole = [before, after].every((v) => v === null || v === undefined || isPlain(v));
  return partsOf(whole ? (before ?? {}) : { value: before }, whole ? (after ?? {}) : { value: after })
    .filter(({ path: [first], from, to }) => first !== 'id' && first !== 'revision' && !(empty(from) && empty(to)))
    .filter((part) => part.path.at(-1) !== ORDER || reorders(part))
    .map(({ path, from, to }) => ({ what: sayPath(path, say), from: sayValue(from, say), to: sayValue(to, say) }));
}
