import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readTable, UnreadableTable, writeTable } from '../formats/csv';
import { textOf } from '../formats/bytes';
import { describeDifferences, sameValue } from '../differences';
import { guessTargets, planImport, sinceSeen, type ImportWorld, type KnownPerson } from './importplan';

const ida: KnownPerson = {
  id: 'p1',
  name: 'Ida Lindqvarn',
  shownName: 'Ida',
  email: 'ida@x.example',
  teamId: 't1',
  siteId: null,
  roleId: 'agent',
  dutyProfileId: 'd1',
  outbound: '',
  active: true,
  mayChange: true,
  above: false,
  levels: { brass: { level: 3, until: null, note: '' } },
};
const world: ImportWorld = {
  mayGiveRoles: true,
  people: [
    ida,
    { ...ida, id: 'p2', email: 'boss@x.example', roleId: 'owner' },
    { ...ida, id: 'p3', email: 'other@x.example', mayChange: false },
  ],
  skills: [
    { id: 'brass', name: 'Brass' },
    { id: 'es', name: 'Español' },
  ],
  teams: [
    { id: 't1', name: 'Front desk' },
    { id: 't2', name: 'Repairs bench' },
  ],
  sites: [{ id: 's1', name: 'Lisbon' }],
  roles: [
    { id: 'agent', name: 'agent' },
    { id: 'lead', name: 'lead' },
    { id: 'owner', name: 'owner' },
  ],
  profiles: [
    { id: 'd1', name: 'Everything' },
    { id: 'd2', name: 'Repairs first' },
  ],
};
const plan = (text: string) => {
  const table = readTable(text);
  return planImport(table.rows, guessTargets(table.header, world.skills), world);
};
const only = (text: string) => plan(`name,e-mail,team,duty profile,role,switched on,Brass,Español\n${text}`).lines[0];

describe('reading CSV', () => {
  it.each([
    ['comma', 'a,b\n1,2'],
    ['semicolon', 'a;b\r\n1;2\r\n'],
    ['tab', 'a\tb\n1\t2'],
    ['a byte-order mark', '\uFEFFa,b\n1,2'],
    ['quotes', '"a","b"\n"1","2"'],
  ])('with %s', (_what, text) => {
    expect(readTable(text)).toMatchObject({ header: ['a', 'b'], rows: [{ row: 2, cells: ['1', '2'] }] });
  });
  it('keeps separators, quotes and line breaks inside quotes, and the numbers of rows beside blank ones', () => {
    expect(readTable('a;b\n"x;""y""\nz";1\n\n3;4').rows).toEqual([
      { row: 2, cells: ['x;"y"\nz', '1'] },
      { row: 4, cells: ['3', '4'] },
    ]);
  });
  it('refuses a quote that never closes, and an empty file', () => {
    expect(() => readTable('a,b\n"1,2\n')).toThrow(UnreadableTable);
    expect(() => readTable('\n\n')).toThrow('no rows');
  });
  it('reads UTF-8, and Windows-1252 where it is not', () => {
    expect(textOf(new TextEncoder().encode('Español'))).toBe('Español');
    expect(textOf(Uint8Array.from([0x45, 0x73, 0x70, 0x61, 0xf1, 0x6f, 0x6c, 0x20, 0x80]))).toBe('Español €');
  });
  it('what is written can be read again unchanged, formulas included', () => {
    const cell = fc
      .string({ maxLength: 12 })
      .map((s) => s.trim())
      .filter((s) => !/[\r\0\uFEFF]/.test(s));
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            cell,
            cell.map((s) => `=${s}`),
          ),
          { minLength: 1, maxLength: 8 },
        ),
        (rows) => {
          expect(readTable(writeTable(['a', 'b'], rows)).rows.map((r) => r.cells)).toEqual(rows);
        },
      ),
    );
    expect(writeTable(['a'], [['=1+1']])).toContain("'=1+1");
  });
});

describe('planning an import', () => {
  it('knows columns by their usual headings, each thing once', () => {
    expect(guessTargets(['Full Name', 'E-Mail Address', 'TEAM', 'shoe size', 'brass', 'Name'], world.skills)).toEqual([
      { field: 'name' },
      { field: 'email' },
      { field: 'team' },
      null,
      { skillId: 'brass' },
      null,
    ]);
  });
  it('a new person gets the usual values; nothing is written', () => {
    expect(only('Wren Tarn,WREN@x.example,front DESK,everything,,,4,never')).toMatchObject({
      kind: 'new',
      draft: {
        name: 'Wren Tarn',
        shownName: 'Wren',
        email: 'wren@x.example',
        teamId: 't1',
        roleId: 'agent',
        dutyProfileId: 'd1',
        active: true,
      },
      levels: [
        { skillId: 'brass', level: 4 },
        { skillId: 'es', level: 'never' },
      ],
    });
  });
  it('a known person is changed field by field; empty cells leave things as they are', () => {
    expect(only(',ida@x.example,Repairs bench,,,,5,')).toMatchObject({
      kind: 'changed',
      personId: 'p1',
      changes: [
        { what: 'Team', from: 'Front desk', to: 'Repairs bench' },
        { what: 'Brass', from: '3', to: '5' },
      ],
    });
    expect(only('Ida Lindqvarn,ida@x.example,,,,,3,')).toMatchObject({ kind: 'unchanged', changes: [] });
    expect(only(',ida@x.example,,,,,0,')?.changes).toEqual([{ what: 'Brass', from: '3', to: '–' }]);
  });
  it.each([
    ['no address', 'Wren,,Front desk,Everything,,,,', 1, /address is missing/],
    ['no address at all', 'Wren,wren at x,Front desk,Everything,,,,', 1, /is not an e-mail address/],
    ['an unknown team', 'Wren,w@x.example,Back desk,Everything,,,,', 2, /no team “Back desk”/],
    ['a level of 7', 'Wren,w@x.example,Front desk,Everything,,,7,', 6, /“7” is not a level/],
    ['no team for somebody new', 'Wren,w@x.example,,Everything,,,,', 2, /needs a team/],
    ['somebody else’s person', 'X,other@x.example,,,,,,', 1, /may not change/],
    ['a second owner', 'Wren,w@x.example,Front desk,Everything,owner,,,', 4, /one owner/],
    ['the owner off', ',boss@x.example,,,,no,,', 5, /stays switched on/],
    ['neither yes nor no', ',ida@x.example,,,,maybe,,', 5, /neither yes nor no/],
    ['too many cells', ',ida@x.example,,,,,,,x', -1, /9 cells/],
  ])('refuses %s and says where', (_what, line, column, why) => {
    const planned = only(line);
    expect(planned?.kind).toBe('refused');
    expect(planned?.reasons.some((r) => r.column === column && why.test(r.what))).toBe(true);
  });
  it('role and account of somebody who holds more, and roles without the right to give them, stay as they are', () => {
    const asked = (line: string, change: object) => {
      const t = readTable(`e-mail,role,switched on\n${line}`);
      return planImport(t.rows, guessTargets(t.header, []), {
        ...world,
        people: [{ ...ida, roleId: 'lead', above: true }],
        ...change,
      }).lines[0];
    };
    expect(asked('ida@x.example,agent,', {})?.reasons).toEqual([{ column: 1, what: 'you may not change their role' }]);
    expect(asked('ida@x.example,,no', {})?.reasons[0]?.what).toMatch(/hold more than you do/);
    expect(asked('ida@x.example,lead,yes', {})?.kind).toBe('unchanged');
    expect(asked('ida@x.example,lead,', { mayGiveRoles: false, people: [ida] })?.reasons[0]?.column).toBe(1);
  });
  it('the second of one address in a file is refused and the first is named', () => {
    expect(
      plan('name,email,team,profile\nA,a@x.example,Front desk,Everything\nB,A@x.example,Front desk,Everything\n')
        .lines[1]?.reasons[0]?.what,
    ).toBe('the same address stands in row 2');
  });
  it('planning again what a plan would write changes nothing', () => {
    const text = [
      'name,email,team,profile,Brass',
      'Ida Lindqvarn,ida@x.example,Repairs bench,Repairs first,5',
      'Wren,w@x.example,Front desk,Everything,never',
      '',
    ].join('\n');
    const first = plan(text);
    const people = first.lines.flatMap((l) =>
      l.draft
        ? [
            {
              ...ida,
              ...l.draft,
              id: l.personId ?? 'new',
              levels: Object.fromEntries(
                l.levels.flatMap((x) =>
                  x.level === 0 ? [] : [[x.skillId, { level: x.level, until: null, note: '' }]],
                ),
              ),
            },
          ]
        : [],
    );
    const table = readTable(text);
    expect(planImport(table.rows, guessTargets(table.header, world.skills), { ...world, people }).counts).toEqual({
      new: 0,
      changed: 0,
      unchanged: 2,
      refused: 0,
    });
  });
  it('tells how far it is, and stops when the teller throws', () => {
    const rows = Array.from({ length: 1200 }, (_, i) => ({ row: i + 2, cells: [`N${i}`, `n${i}@x.example`] }));
    const told: number[] = [];
    planImport(rows, [{ field: 'name' }, { field: 'email' }], world, (done) => told.push(done));
    expect(told).toEqual([500, 1000, 1200]);
    expect(() =>
      planImport(rows, [null, null], world, () => {
        throw new Error('stop');
      }),
    ).toThrow('stop');
  });
});

describe('differences of two versions', () => {
  it('nothing differs from itself, whatever the order of names', () => {
    fc.assert(
      fc.property(fc.dictionary(fc.string(), fc.jsonValue()), (value) =>
        sameValue(value, JSON.parse(JSON.stringify(Object.fromEntries(Object.entries(value).reverse())))),
      ),
    );
  });
});

describe('a file checked again', () => {
  const rows = [
    { row: 2, cells: ['Ida Lindqvarn', 'ida@x.example', '', '', '5'] },
    { row: 3, cells: ['Wren Tarn', 'wren@x.example', 'Front desk', 'Everything', '2'] },
    { row: 4, cells: ['Nobody', 'nowhere', 'Front desk', '', ''] },
    { row: 5, cells: ['', 'other@x.example', '', '', '1'] },
  ];
  const targets = [
    { field: 'name' },
    { field: 'email' },
    { field: 'team' },
    { field: 'profile' },
    { skillId: 'brass' },
  ] as const;
  const plan = (change: Partial<ImportWorld> = {}) => planImport(rows, targets, { ...world, ...change });
  const of = (change: Partial<ImportWorld>) => {
    const { same, met } = sinceSeen(plan(), plan(change));
    return { same: same.map((l) => l.row), met: met.map((l) => l.row) };
  };
  const changed = (change: Partial<KnownPerson>) => ({
    people: world.people.map((p) => (p.id === 'p1' ? { ...p, ...change } : p)),
  });
  it('lines that still do what was seen go on, those that others have met do not', () => {
    expect(of({})).toEqual({ same: [2, 3], met: [] });
    // Something else about the same person: the line does the same, with what they have now.
    expect(of(changed({ outbound: '+353209140001' }))).toEqual({ same: [2, 3], met: [] });
    const after = sinceSeen(plan(), plan(changed({ outbound: '+353209140001' }))).same[0];
    expect(after?.draft?.outbound).toBe('+353209140001');
    // The very thing: seen was 3 to 5, now it is 4 to 5.
    expect(of(changed({ levels: { brass: { level: 4, until: null, note: '' } } }))).toEqual({ same: [3], met: [2] });
    // Done already by somebody else.
    expect(of(changed({ levels: { brass: { level: 5, until: null, note: '' } } }))).toEqual({ same: [3], met: [] });
    // Theirs is new here too, so that the line would change somebody instead of adding one.
    const wren = { ...ida, id: 'p9', name: 'Wren Tarn', email: 'wren@x.example' };
    expect(of({ people: [...world.people, wren] })).toEqual({ same: [2], met: [3] });
    // Not possible any more; and possible, but never seen as such.
    expect(of({ teams: world.teams.slice(1) })).toEqual({ same: [2], met: [3] });
    expect(of({ people: world.people.map((p) => ({ ...p, mayChange: true })) })).toEqual({ same: [2, 3], met: [5] });
  });
});

describe('differences in words', () => {
  const say = { name: (id: string) => ({ team_a: 'Front desk', skill_b: 'Brass' })[id] ?? id, time: () => 'Mon 14:00' };
  it('say names for ids and times for instants, and leave out what is empty', () => {
    expect(
      describeDifferences(
        { id: 'x', revision: 1, teamId: 'team_a', alsoTeamIds: [], note: '' },
        { id: 'x', revision: 2, teamId: 'team_b', alsoTeamIds: [], note: null },
        say,
      ),
    ).toEqual([{ what: 'team', from: 'Front desk', to: 'team_b' }]);
    expect(describeDifferences(null, { profileId: 'p', until: 1_795_442_400_000 }, say)).toEqual([
      { what: 'profile', from: '–', to: 'p' },
      { what: 'until', from: '–', to: 'Mon 14:00' },
    ]);
    expect(describeDifferences({ skill_b: null }, { skill_b: { level: 3, until: null, note: '' } }, say)).toEqual([
      { what: 'Brass', from: '–', to: 'level 3' },
    ]);
  });
});
