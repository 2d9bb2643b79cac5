import { readTable } from '../../src/core/formats/csv';
import { seeded } from '../../src/core/chance';
import { guessTargets, planImport, type ImportWorld } from '../../src/core/people/importplan';
import {
  effectiveLevels,
  giftsTo,
  type Givers,
  type Level,
  type Levels,
  type OwnLevel,
} from '../../src/core/people/levels';
import { time } from './time';

const chance = seeded(7);
const SKILLS = Array.from({ length: 60 }, (_, i) => ({ id: `s${i}`, name: `Skill ${i}` }));
const TEAMS = Array.from({ length: 20 }, (_, i) => ({ id: `t${i}`, name: `Team ${i}` }));
const level = (): Level => (1 + chance.below(5)) as Level;
const some = (share: number): Levels =>
  Object.fromEntries(SKILLS.filter(() => chance.next() < share).map((s) => [s.id, level()]));
const givers: Givers = {
  teams: new Map(TEAMS.map((t) => [t.id, { levels: some(0.2), setIds: [`set${chance.below(5)}`] }])),
  sets: new Map(Array.from({ length: 5 }, (_, i) => [`set${i}`, some(0.15)])),
};
const people = Array.from({ length: 1000 }, (_, i) => ({
  teamIds: [`t${i % 20}`, ...(i % 7 === 0 ? [`t${(i + 3) % 20}`] : [])],
  setIds: i % 5 === 0 ? ['set1'] : [],
  own: new Map<string, OwnLevel>(
    Object.entries(some(0.25)).map(([skill, l]) => [
      skill,
      { level: chance.next() < 0.05 ? 'never' : l, until: chance.next() < 0.1 ? '2026-12-31' : null, note: '' },
    ]),
  ),
}));
/** A bare pass over the same number of cells, to set the rest against. */
const cells = Float64Array.from({ length: 60_000 }, () => chance.next());
const bare = time(50, () => {
  let sum = 0;
  for (const c of cells) sum += c;
  if (sum < 0) throw new Error('never');
});

const levels = time(10, () => {
  for (const p of people) effectiveLevels(p.own, giftsTo(p, givers), '2026-11-23');
});

const header = ['Name', 'E-mail', 'Team', 'Duty profile', ...SKILLS.slice(0, 6).map((s) => s.name)];
const file = [
  header.join(';'),
  ...Array.from({ length: 10_000 }, (_, i) =>
    [
      `Person ${i}`,
      `p${i}@x.example`,
      `Team ${i % 20}`,
      'All',
      ...Array.from({ length: 6 }, () => String(level())),
    ].join(';'),
  ),
].join('\r\n');
const world: ImportWorld = {
  mayGiveRoles: true,
  skills: SKILLS,
  teams: TEAMS,
  sites: [],
  roles: [{ id: 'agent', name: 'agent' }],
  profiles: [{ id: 'd', name: 'All' }],
  people: Array.from({ length: 5000 }, (_, i) => ({
    id: `p${i}`,
    name: `Person ${i}`,
    shownName: 'Person',
    email: `p${i}@x.example`,
    teamId: `t${(i + 1) % 20}`,
    siteId: null,
    roleId: 'agent',
    dutyProfileId: 'd',
    outbound: '',
    active: true,
    mayChange: true,
    above: false,
    levels: {},
  })),
};
const preview = time(3, () => {
  const table = readTable(file);
  planImport(table.rows, guessTargets(table.header, SKILLS), world);
});

const ms = (ns: number) => `${(ns / 1e6).toFixed(1)} ms`.padStart(10);
console.log(`people: a bare pass over 60,000 numbers                 ${ms(bare)}   1 ×`);
console.log(`people: levels of 1,000 people × 60 skills × 20 teams   ${ms(levels)}   ${(levels / bare).toFixed(0)} ×`);
console.log(
  `people: preview of 10,000 CSV lines, half of them known ${ms(preview)}   ${(preview / bare).toFixed(0)} ×`,
);
