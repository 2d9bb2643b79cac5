import { describe, expect, it } from 'vitest';
import type { Cell, PeopleView, PersonLine } from '../../src/services/people/peopleview';
import { NO_FILTER, passing } from '../../src/ui/people/filter';
import {
  type Block,
  blockOf,
  copyText,
  fillBlock,
  fillDown,
  linesOf,
  pasteBlock,
  withLevels,
} from '../../src/ui/people/matrix/matrixgrid';

const skills = [{ id: 'a' }, { id: 'b' }, { id: 'c' }];
const person = (id: string, cells: Record<string, Cell>, more: Partial<PersonLine> = {}) =>
  ({
    id,
    name: id,
    email: `${id}@x.example`,
    teamId: 't',
    alsoTeamIds: [],
    active: true,
    mayChange: true,
    meant: true,
    stop: null,
    forNow: null,
    cells,
    ...more,
  }) as unknown as PersonLine;
const own = (level: 1 | 2 | 3 | 4 | 5): Cell => ({ level, from: 'own' });
const people = [
  person('p', { a: own(4), b: { level: 3, from: 'team', giver: 'T' } }),
  person('q', { a: { level: 0, from: 'never' } }),
  person('r', {}, { mayChange: false }),
];
const all: Block = { top: 0, bottom: 2, left: 0, right: 2 };

describe('the matrix as a grid', () => {
  it('a block has both its corners, whichever way it was drawn', () =>
    expect(blockOf({ row: 2, column: 1 }, { row: 0, column: 2 })).toEqual({ top: 0, bottom: 2, left: 1, right: 2 }));
  it('copies what is seen, for a spreadsheet', () => expect(copyText(people, skills, all)).toBe('4\t3\t\nN\t\t\n\t\t'));
  it('filling changes only what differs, and nobody who may not be changed', () => {
    expect(fillBlock(people, skills, all, 4).map((c) => c.personId + c.skillId)).toEqual([
      'pb',
      'pc',
      'qa',
      'qb',
      'qc',
    ]);
    expect(fillBlock(people, skills, all, 0).map((c) => c.personId + c.skillId)).toEqual(['pa', 'qa']);
  });
  it('pasting what is there already changes nothing, so a given level stays given', () => {
    expect(pasteBlock(people, skills, all, copyText(people, skills, all)).changes).toEqual([]);
    expect(pasteBlock(people, skills, { ...all, bottom: 0, right: 0 }, '5\tnever\r\nx\t2\r\n')).toMatchObject({
      odd: 1,
      block: { top: 0, bottom: 1, left: 0, right: 1 },
      changes: [
        { personId: 'p', skillId: 'a', level: 5 },
        { personId: 'p', skillId: 'b', level: 'never' },
        { personId: 'q', skillId: 'b', level: 2 },
      ],
    });
  });
  it('one value fills the whole block; what falls off the edge is left out', () => {
    expect(pasteBlock(people, skills, all, '2').changes).toHaveLength(6);
    expect(
      pasteBlock(people, skills, { top: 1, bottom: 1, left: 2, right: 2 }, '1\t1\n1\t1\n1\t1').changes.map(
        (c) => c.personId + c.skillId,
      ),
    ).toEqual(['qc']);
  });
  it('levels not yet read back lie over what was read, the later over the earlier, and leave all else as it is', () => {
    const view = { people } as unknown as PeopleView;
    expect(withLevels(view, [])).toBe(view);
    const shown = withLevels(view, [
      { personId: 'p', skillId: 'a', level: 2 },
      { personId: 'p', skillId: 'b', level: 'never' },
      { personId: 'p', skillId: 'a', level: 0 },
    ]);
    expect(shown.people.map((p) => p.cells)).toEqual([
      { b: { level: 0, from: 'never' } },
      people[1]?.cells,
      people[2]?.cells,
    ]);
    expect(shown.people[1]).toBe(people[1]);
    expect(people[0]?.cells.a).toEqual(own(4));
  });
  it('fills down from the first row', () =>
    expect(fillDown(people, skills, all)).toEqual([
      { personId: 'q', skillId: 'a', level: 4 },
      { personId: 'q', skillId: 'b', level: 3 },
    ]));
  it('lines stand under their team, or all together by a skill', () => {
    const view = {
      teams: [
        { id: 't', name: 'T' },
        { id: 'u', name: 'U' },
      ],
    } as unknown as PeopleView;
    expect(
      linesOf(view, people, true, { by: 'name' }).lines.map((l) => (l.kind === 'team' ? l.name : l.person.id)),
    ).toEqual(['T', 'p', 'q', 'r']);
    expect(linesOf(view, people, false, { by: 'skill', skillId: 'b' }).ordered.map((p) => p.id)).toEqual([
      'p',
      'q',
      'r',
    ]);
  });
});

describe('narrowing people', () => {
  const crowd = [
    ...people,
    person('s', { a: own(2) }, { active: false }),
    person('t', {}, { stop: 'no queue', alsoTeamIds: ['u'] }),
  ];
  const view = { people: crowd } as unknown as PeopleView;
  const shown = (filter: Partial<typeof NO_FILTER>, withOff = false) =>
    passing(
      view,
      new Map([
        ['p', { id: 'p', duty: 'ready', reason: null, reachable: true, open: ['chat'], held: [], used: 25 }],
        ['q', { id: 'q', duty: 'ready', reason: null, reachable: true, open: [], held: [], used: 0 }],
      ]),
      { ...NO_FILTER, ...filter },
      withOff,
    ).map((p) => p.id);
  it.each([
    ['nothing asked', {}, ['p', 'q', 'r', 't']],
    ['a skill at a level', { skill: 'a', level: '3' }, ['p']],
    ['a further team', { team: 'u' }, ['t']],
    ['not ready', { state: 'not-ready' }, ['t']],
    ['switched off', { state: 'switched-off' }, ['s']],
    ['busy', { state: 'busy' }, ['p']],
    ['ready and free', { state: 'ready' }, ['q']],
    ['text in the address', { text: 'R@X' }, ['r']],
  ])('%s', (_what, filter, expected) => expect(shown(filter)).toEqual(expected));
});
