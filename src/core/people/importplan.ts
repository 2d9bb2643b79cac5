import { withoutUnseen } from '../formats/csv';
import { isLevel, type Level, type OwnLevel } from './levels';

/**
 * What a column of a people file can hold, and the headings it is known by (compared without case, spaces and marks).
 */
export const IMPORT_FIELDS = {
  name: { label: 'Full name', headings: ['name', 'fullname', 'agent', 'employee', 'person'] },
  shownName: {
    label: 'Name shown',
    headings: ['shownname', 'nameshown', 'displayname', 'alias', 'nameshowntocustomers'],
  },
  email: { label: 'E-mail', headings: ['email', 'emailaddress', 'mail', 'address', 'login'] },
  team: { label: 'Team', headings: ['team', 'group', 'department'] },
  site: { label: 'Site', headings: ['site', 'location', 'office'] },
  role: { label: 'Role', headings: ['role', 'rights'] },
  profile: { label: 'Duty profile', headings: ['dutyprofile', 'duty', 'profile'] },
  outbound: { label: 'Outbound identity', headings: ['outboundidentity', 'outbound', 'callerid'] },
  active: { label: 'Switched on', headings: ['switchedon', 'active', 'enabled', 'state'] },
} as const;
export type ImportField = keyof typeof IMPORT_FIELDS;
export const IMPORT_FIELD_IDS = Object.keys(IMPORT_FIELDS) as readonly ImportField[];

/** What a column is read as: a field, a skill's level, or nothing. */
export type Target = { readonly field: ImportField } | { readonly skillId: string } | null;
export type Named = { readonly id: string; readonly name: string };
export type KnownPerson = {
  readonly id: string;
  readonly name: string;
  readonly shownName: string;
  readonly email: string;
  readonly teamId: string;
  readonly siteId: string | null;
  readonly roleId: string;
  readonly dutyProfileId: string;
  readonly outbound: string;
  readonly active: boolean;
  readonly mayChange: boolean;
  /** Holds more than the importer: role and account stay as they are. */ readonly above: boolean;
  readonly levels: Readonly<Record<string, OwnLevel>>;
};
/**
 * What a file is checked against. `teams` and `roles` are those the importer may use; the defaults fill what a new
 * person's line leaves open.
 */
export type ImportWorld = {
  /** Whether the importer may give roles at all. */ readonly mayGiveRoles: boolean;
  readonly people: readonly KnownPerson[];
  readonly skills: readonly Named[];
  readonly teams: readonly Named[];
  readonly sites: readonly Named[];
  readonly roles: readonly Named[];
  readonly profiles: readonly Named[];
};

export type PersonDraft = Pick<
  KnownPerson,
  'name' | 'shownName' | 'email' | 'teamId' | 'siteId' | 'roleId' | 'dutyProfileId' | 'outbound' | 'active'
>;
export type LineChange = { readonly what: string; readonly from: string; readonly to: string };
export type PlannedLine = {
  readonly row: number;
  readonly name: string;
  readonly email: string;
  readonly cells: readonly string[];
  readonly kind: 'new' | 'changed' | 'unchanged' | 'refused';
  readonly personId: string | null;
  readonly draft: PersonDraft | null;
  /** Own levels to set: 0 clears, `never` bars. */
  readonly levels: readonly { readonly skillId: string; readonly level: Level | 'never' | 0 }[];
  readonly changes: readonly LineChange[];
  /** Why a line is refused; `column` is its place in the file, -1 for the whole line. */
  readonly reasons: readonly { readonly column: number; readonly what: string }[];
};
export type ImportPlan = {
  readonly lines: readonly PlannedLine[];
  readonly counts: Readonly<Record<PlannedLine['kind'], number>>;
};

const bare = (text: string): string =>
  text
    .toLowerCase()
    .normalize('NFKD')
    .replace(/[^\p{L}\p{N}]/gu, '');

/**
 * The target each heading most likely means: a field by one of its names, a skill by its own. The first column of a
 * kind wins.
 */
export function guessTargets(header: readonly string[], skills: readonly Named[]): Target[] {
  const used = new Set<string>();
  return header.map((heading) => {
    const word = bare(heading);
    const skill = skills.find((s) => bare(s.name) === word || `skill${bare(s.name)}` === word);
    const field = IMPORT_FIELD_IDS.find(
      (f) => (IMPORT_FIELDS[f].headings as readonly string[]).includes(word) || bare(IMPORT_FIELDS[f].label) === word,
    );
    const key = skill ? skill.id : field;
    if (key === undefined || used.has(key)) return null;
    used.add(key);
    return skill ? { skillId: skill.id } : field ? { field } : null;
  });
}

const EMAIL = /^[^\s@<>"',;]+@[^\s@<>"',;]+\.[^\s@<>"',;]+$/;
const YES = ['yes', 'y', 'true', '1', 'on', 'active', 'x'];
const NO = ['no', 'n', 'false', '0', 'off', 'inactive'];

/**
 * Reads every line against what is there: new, changed field by field, unchanged or refused with reasons. Nothing is
 * written. An empty cell leaves a known person's value as it is and gives a new person the usual one.
 * `tick` is called with the number of lines done; it may throw to cancel.
 */
export function planImport(
  rows: readonly { readonly row: number; readonly cells: readonly string[] }[],
  targets: readonly Target[],
  world: ImportWorld,
  tick: (done: number) => void = () => undefined,
): ImportPlan {
  const byName = (list: readonly Named[]) => new Map(list.map((n) => [bare(n.name), n]));
  const lookUps = {
    team: byName(world.teams),
    site: byName(world.sites),
    role: byName(world.roles),
    profile: byName(world.profiles),
  };
  const names = new Map([...world.teams, ...world.sites, ...world.roles, ...world.profiles].map((n) => [n.id, n.name]));
  const skillNames = new Map(world.skills.map((s) => [s.id, s.name]));
  const known = new Map(world.people.map((p) => [p.email.toLowerCase(), p]));
  const columnOf = new Map(targets.flatMap((t, i) => (t && 'field' in t ? [[t.field, i] as const] : [])));
  const seen = new Map<string, number>();
  const counts = { new: 0, changed: 0, unchanged: 0, refused: 0 };

  const plan = ({ row, cells }: { row: number; cells: readonly string[] }): PlannedLine => {
    const reasons: { column: number; what: string }[] = [];
    const cell = (field: ImportField): string => {
      const i = columnOf.get(field);
      return i === undefined ? '' : (cells[i] ?? '').trim();
    };
    const refuse = (field: ImportField, what: string) => {
      reasons.push({ column: columnOf.get(field) ?? -1, what });
    };
    if (cells.length > targets.length)
      reasons.push({ column: -1, what: `has ${cells.length} cells where the header has ${targets.length}` });

    const email = withoutUnseen(cell('email')).toLowerCase();
    if (email === '') refuse('email', 'the e-mail address is missing');
    else if (!EMAIL.test(email) || email.length > 200) refuse('email', `“${email}” is not an e-mail address`);
    const earlier = seen.get(email);
    if (earlier !== undefined) refuse('email', `the same address stands in row ${earlier}`);

    const person = known.get(email) ?? null;
    if (person && !person.mayChange) refuse('email', 'this address belongs to somebody you may not change');
    const name = cell('name') || person?.name || '';
    if (name === '') refuse('name', 'the name is missing');
    if (name.length > 80) refuse('name', 'a name has at most 80 characters');

    const pick = (field: 'team' | 'site' | 'role' | 'profile', word: string): string | null => {
      const text = cell(field);
      if (text === '') return null;
      const found = lookUps[field].get(bare(text));
      if (!found) refuse(field, `there is no ${word} “${text}” that you may use`);
      return found?.id ?? null;
    };
    const teamId = pick('team', 'team') ?? person?.teamId ?? null;
    const siteId = pick('site', 'site') ?? person?.siteId ?? null;
    const roleId = pick('role', 'role') ?? person?.roleId ?? 'agent';
    const profileId = pick('profile', 'duty profile') ?? person?.dutyProfileId ?? null;
    if (teamId === null && cell('team') === '') refuse('team', 'a new person needs a team');
    if (profileId === null && cell('profile') === '') refuse('profile', 'a new person needs a duty profile');
    if (person && person.roleId !== 'owner' && roleId !== person.roleId && (!world.mayGiveRoles || person.above))
      refuse('role', 'you may not change their role');
    if (person?.roleId === 'owner' && roleId !== 'owner')
      refuse('role', 'the owner keeps that role; ownership is handed on elsewhere');
    if (person?.roleId !== 'owner' && roleId === 'owner')
      refuse('role', 'there is one owner; ownership is handed on elsewhere');

    const switched = cell('active').toLowerCase();
    if (switched !== '' && !YES.includes(switched) && !NO.includes(switched))
      refuse('active', `“${cell('active')}” is neither yes nor no`);
    const active = switched === '' ? (person?.active ?? true) : YES.includes(switched);
    if (person?.roleId === 'owner' && !active) refuse('active', 'the owner stays switched on');

    if (person?.above && active !== person.active && person.roleId !== 'owner')
      refuse('active', 'they hold more than you do, so their account is not yours to switch');

    const levels: { skillId: string; level: Level | 'never' | 0 }[] = [];
    targets.forEach((target, column) => {
      const text = (cells[column] ?? '').trim().toLowerCase();
      if (!target || !('skillId' in target) || text === '') return;
      const level =
        text === 'never' || text === 'n' ? 'never' : text === '0' || text === '-' || text === '–' ? 0 : Number(text);
      if (level === 'never' || level === 0 || isLevel(level)) levels.push({ skillId: target.skillId, level });
      else reasons.push({ column, what: `“${text}” is not a level: 1 to 5, never, or 0 to clear` });
    });

    const shownName = cell('shownName') || person?.shownName || name.split(/\s+/)[0] || name;
    if (shownName.length > 40) refuse('shownName', 'the name shown has at most 40 characters');
    const outbound = cell('outbound') || person?.outbound || '';
    if (outbound.length > 60) refuse('outbound', 'an outbound identity has at most 60 characters');
    if (reasons.length > 0 || teamId === null || profileId === null)
      return {
        row,
        name,
        email,
        cells,
        kind: 'refused',
        personId: person?.id ?? null,
        draft: null,
        levels: [],
        changes: [],
        reasons,
      };
    // Only a line that is taken keeps others from its address.
    seen.set(email, row);

    const draft: PersonDraft = {
      name,
      shownName,
      email,
      teamId,
      siteId,
      roleId,
      dutyProfileId: profileId,
      outbound,
      active,
    };
    const changes: LineChange[] = [];
    const compare = (what: string, from: string, to: string) => {
      if (from !== to) changes.push({ what, from, to });
    };
    const named = (id: string | null) => (id === null ? '' : (names.get(id) ?? id));
    compare('Full name', person?.name ?? '', name);
    compare('Name shown', person?.shownName ?? '', shownName);
    compare('Team', named(person?.teamId ?? null), named(teamId));
    compare('Site', named(person?.siteId ?? null), named(siteId));
    compare('Role', named(person?.roleId ?? null), named(roleId));
    compare('Duty profile', named(person?.dutyProfileId ?? null), named(profileId));
    compare('Outbound identity', person?.outbound ?? '', outbound);
    compare('Switched on', person ? (person.active ? 'yes' : 'no') : '', active ? 'yes' : 'no');
    const toSet = levels.filter(({ skillId, level }) => (person?.levels[skillId]?.level ?? 0) !== level);
    for (const { skillId, level } of toSet)
      compare(
        skillNames.get(skillId) ?? skillId,
        String(person?.levels[skillId]?.level ?? '–'),
        level === 0 ? '–' : String(level),
      );
    return {
      row,
      name,
      email,
      cells,
      kind: !person ? 'new' : changes.length > 0 ? 'changed' : 'unchanged',
      personId: person?.id ?? null,
      draft,
      levels: toSet,
      changes,
      reasons,
    };
  };
  const lines = rows.map((line, i) => {
    const planned = plan(line);
    counts[planned.kind]++;
    if (i % 500 === 499) tick(i + 1);
    return planned;
  });
  tick(rows.length);
  return { lines, counts };
}

const changesSomething = (line: PlannedLine): boolean => line.kind === 'new' || line.kind === 'changed';
const doesTheSame = (a: PlannedLine, b: PlannedLine): boolean =>
  a.kind === b.kind &&
  a.personId === b.personId &&
  a.changes.length === b.changes.length &&
  a.changes.every((c, i) => {
    const other = b.changes[i];
    return other !== undefined && c.what === other.what && c.from === other.from && c.to === other.to;
  });

/**
 * A file checked again after others changed settings, against the plan that somebody has seen. `same` are the lines that
 * still do what was seen; `met` those that would now do something else, or nothing any more for a reason of their own.
 * What has become unnecessary, or was refused and still is, is in neither. Both plans are of the same lines in order.
 */
export function sinceSeen(
  seen: ImportPlan,
  now: ImportPlan,
): { readonly same: readonly PlannedLine[]; readonly met: readonly PlannedLine[] } {
  const same: PlannedLine[] = [];
  const met: PlannedLine[] = [];
  now.lines.forEach((line, i) => {
    const was = seen.lines[i];
    if (changesSomething(line)) (was && doesTheSame(was, line) ? same : met).push(line);
    else if (line.kind === 'refused' && was?.kind !== 'refused') met.push(line);
  });
  return { same, met };
}
