/**
 * One place at which two versions of a thing differ. `from` or `to` is undefined where the place is only in the
 * other.
 */
export type Difference = { readonly path: string; readonly from: unknown; readonly to: unknown };

const isPlain = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
/** List items are told apart by what names them, so that one added in front does not change all the others. */
const KEYS = ['id', 'queueId', 'skillId', 'date', 'day'] as const;
const keyOf = (item: unknown): string | null => {
  if (!isPlain(item)) return null;
  const key = KEYS.find((k) => item[k] !== undefined);
  if (!key) return null;
  return [key, 'channel', 'from']
    .filter((k, i) => i === 0 || (key !== 'id' && typeof item[k] === 'string'))
    .map((k) => String(item[k]))
    .join(' ');
};
const asRecord = (list: readonly unknown[]): Record<string, unknown> | null => {
  const keys = list.map(keyOf);
  return keys.every((k) => k !== null) && new Set(keys).size === keys.length
    ? Object.fromEntries(list.map((item, i) => [keys[i] ?? i, item]))
    : null;
};

/** All places at which two plain values differ, by dotted path; lists of plain values are compared as a whole. */
export function differences(from: unknown, to: unknown, path = ''): Difference[] {
  if (Object.is(from, to) || JSON.stringify(from) === JSON.stringify(to)) return [];
  const [a, b] = [Array.isArray(from) ? asRecord(from) : from, Array.isArray(to) ? asRecord(to) : to];
  if (isPlain(a) && isPlain(b)) {
    return [...new Set([...Object.keys(a), ...Object.keys(b)])].flatMap((key) =>
      differences(a[key], b[key], path === '' ? key : `${path}.${key}`),
    );
  }
  return [{ path, from, to }];
}

/** Whether two plain values say the same, whatever the order of their names. */
export const sameValue = (a: unknown, b: unknown): boolean => differences(a, b).length === 0;

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

/**
 * All differences of two versions in words, without ids of their own and revisions. Either may be null: then the
 * thing was not there.
 */
export function describeDifferences(before: unknown, after: unknown, say: Sayer): ChangeLine[] {
  const whole = [before, after].every((v) => v === null || v === undefined || isPlain(v));
  return differences(whole ? (before ?? {}) : { value: before }, whole ? (after ?? {}) : { value: after })
    .filter((d) => d.path !== 'id' && d.path !== 'revision' && !(empty(d.from) && empty(d.to)))
    .map((d) => ({
      what: d.path
        .split('.')
        .map((part) =>
          part
            .split(' ')
            .map((word) => WORDS[word] ?? say.name(word))
            .join(' '),
        )
        .join(' · '),
      from: sayValue(d.from, say),
      to: sayValue(d.to, say),
    }));
}
