import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { LaneError } from '../../src/core/errors';
import { row, rows, run } from '../../src/data/database';
import { searchHistory } from '../../src/data/history';
import { readPersonByEmail, settingsOfPerson } from '../../src/data/people';
import { addPressLine, beginPress, makePressWhole, type PressLine } from '../../src/data/presses';
import type { Services } from '../../src/services';
import { createPresses, type PressKind } from '../../src/services/ground/presses';
import { groupFacts } from '../../src/services/contacts/floorsettings';
import { handsIn } from '../helpers/hands';
import { codeOf, makeWorld, type World } from '../helpers/world';
import { STAND_IN } from '../../src/services/contacts/speaker';

/** Presses that change thousands: whole or not at all, beside the floor, through refusals, faults and stops. */
let w: World;
let s: Services;
beforeEach(() => {
  w = makeWorld();
  s = w.services;
});
afterEach(() => w.close());
const { lead, tamsin, settings } = handsIn(() => w);
const count = (table: string) => row<{ n: number }>(w.db, `SELECT count(*) AS n FROM ${table}`)?.n ?? 0;
const nothingLeft = () => expect([count('presses'), count('press_lines')]).toEqual([0, 0]);

/** A file of so many new people, planned and ready to be kept. */
async function planned(lines: number, at = 'many.example', who = lead()): Promise<string> {
  const [, first = ''] = s.peopleImport.csv(who, '').text.split('\r\n');
  const cells = first.split(',');
  const csv = [
    'Full name,E-mail,Team,Duty profile,French',
    ...Array.from({ length: lines }, (_, i) => `Person ${i},p${i}@${at},${cells[3]},${cells[6]},${(i % 5) + 1}`),
  ].join('\n');
  const { id } = s.peopleImport.begin(who, Buffer.from(csv), 'many.csv');
  await expect.poll(() => s.peopleImport.view(who, { id }).state).toBe('planned');
  return id;
}
const nell = () => w.actor('Nell Ashgrove');
const turn = () => new Promise((resume) => setImmediate(resume));
/** Looks between any two turns of what is under way: on a fast machine a phase of it is over within some. */
async function until(holds: () => boolean): Promise<void> {
  for (const late = Date.now() + 30_000; !holds();) {
    if (Date.now() > late) throw new Error('it never came to that');
    await turn();
  }
}

describe('while its lines are gathered', () => {
  it('nothing of it counts, and it can be called off: nothing is left of it', async () => {
    const id = await planned(1200);
    const before = [count('people'), count('history'), count('own_levels')];
    const keeping = s.peopleImport.apply(lead(), { id, invite: true });
    await until(() => count('press_lines') > 0);
    expect(s.peopleImport.view(lead(), { id })).toMatchObject({ state: 'keeping', keeping: { canStop: true } });
    expect(s.history.underWay(lead())).toMatchObject({ title: 'Bringing in many.csv', canStop: true });
    const other = nell();
    expect(s.history.underWay(other)?.canStop).toBe(false);
    expect(codeOf(() => s.presses.stop(other, { id: s.presses.now()?.id }))).toBe('not-found');
    s.peopleImport.cancel(lead(), { id });
    await expect(keeping).rejects.toMatchObject({ code: 'not-now' });
    expect([count('people'), count('history'), count('own_levels')]).toEqual(before);
    nothingLeft();
    // The preview is still there, and can be kept after all.
    expect(s.peopleImport.view(lead(), { id }).state).toBe('planned');
    expect(await s.peopleImport.apply(lead(), { id, invite: false })).toEqual({ written: 1200, met: 0 });
  });
  it('called off after it was checked again, it is checked again the next time: nothing unseen is kept', async () => {
    const id = await planned(1200);
    const [line] = s.peopleImport.view(lead(), { id }).lines;
    // Meanwhile somebody adds a person with an address of the file: that line would now change them.
    const { name: _name, email: _email, ...like } = settings('person_04');
    s.people.save(nell(), { ...like, id: null, revision: 0, name: 'Theirs', email: line?.email });
    const keeping = s.peopleImport.apply(lead(), { id, invite: false });
    await until(() => count('press_lines') > 0);
    s.peopleImport.cancel(lead(), { id });
    await expect(keeping).rejects.toMatchObject({ code: 'not-now' });
    expect(await s.peopleImport.apply(lead(), { id, invite: false })).toEqual({ written: 1199, met: 1 });
    expect(readPersonByEmail(w.db, line?.email ?? '')?.name).toBe('Theirs');
  });
  it('one that still waits for another can be called off as well: nothing of it is written', async () => {
    const before = count('people');
    const [first, second] = [await planned(600, 'one.example'), await planned(600, 'two.example', nell())];
    const keeping = s.peopleImport.apply(lead(), { id: first, invite: false });
    const waiting = s.peopleImport.apply(nell(), { id: second, invite: false });
    s.peopleImport.cancel(nell(), { id: second });
    await expect(waiting).rejects.toMatchObject({ code: 'not-now' });
    expect(await keeping).toEqual({ written: 600, met: 0 });
    expect(s.peopleImport.view(nell(), { id: second }).state).toBe('cancelled');
    expect(count('people')).toBe(before + 600);
    nothingLeft();
  });
  it('one line that is refused refuses all', async () => {
    const line = (thingId: string): PressLine => ({
      kind: 'x',
      thingId,
      label: '',
      before: null,
      after: 1,
      undoes: null,
    });
    const done: string[] = [];
    const presses = createPresses(s.host, { x: { restore: (_tx, _actor, id) => void done.push(id) } });
    const kept = presses.run(lead(), {
      title: 'Trying',
      about: { kind: 'x', thingId: 'all' },
      all: ['a', 'b', 'c'],
      total: 3,
      linesOf: (_tx, one) => {
        if (one === 'c') throw new LaneError('not-valid', 'Not c.');
        return [line(one)];
      },
    });
    await expect(kept).rejects.toMatchObject({ code: 'not-valid', message: 'Not c.' });
    expect(done).toEqual([]);
    nothingLeft();
  });
});

describe('while it is carried out', () => {
  it('contacts go on, other changes of settings wait, and it can no longer be called off', async () => {
    const id = await planned(1200);
    const keeping = s.peopleImport.apply(lead(), { id, invite: false });
    await until(() => s.presses.now()?.phase === 'carrying');
    expect(codeOf(() => s.peopleImport.cancel(lead(), { id }))).toBe('not-now');
    const waits = Promise.resolve(s.act('set-levels', lead(), { changes: [{ ...someLevel(), level: 4 }] }));
    let meanwhile = false;
    void waits.then(() => (meanwhile = s.presses.busy()));
    const c = s.channel.start(STAND_IN, { door: 'door_web', from: 'guest' }, null);
    expect(s.channel.read(c.contact, c.token, 0).state).not.toBe('ended');
    expect(await keeping).toEqual({ written: 1200, met: 0 });
    await waits;
    expect(meanwhile).toBe(false);
    nothingLeft();
  });
  it('who takes part in a group is what the groups’ rules say, whatever was changed and taken back', async () => {
    const rules = () => groupFacts(s.host, s.floor.router.floor.people).map((g) => [g.id, [...g.members].sort()]);
    const known = () => [...s.floor.router.floor.groups.values()].map((g) => [g.id, [...g.members].sort()]);
    const group = s.groups.view(lead()).groups[0];
    await s.peopleImport.apply(lead(), { id: await planned(700), invite: false });
    expect(group).toBeDefined();
    expect(known()).toEqual(rules());
    const person = readPersonByEmail(w.db, 'p3@many.example');
    const teams = s.teams.view(lead()).teams.map((t) => t.id);
    for (const teamId of teams) {
      s.bulk.run(lead(), { personIds: [person?.id], apply: true, set: { teamId } });
      expect(known()).toEqual(rules());
    }
    s.people.switchPerson(lead(), { personId: person?.id, active: false });
    expect(known()).toEqual(rules());
    s.history.undo(lead(), { id: searchHistory(w.db, {}, 1)[0]?.id });
    await s.history.undoPress(lead(), { id: searchHistory(w.db, { kind: 'levels' }, 1)[0]?.id, anyway: 1 });
    expect(known()).toEqual(rules());
  });
  it('a line that is refused, or breaks, is left and counted with why; the others are carried out', async () => {
    const done: string[] = [];
    const kinds: Record<string, PressKind> = {
      x: {
        restore: (_tx, _actor, id) => {
          if (id === 'b') throw new LaneError('not-allowed', 'Not b.');
          if (id === 'c') throw new Error('broken');
          done.push(id);
        },
      },
    };
    const presses = createPresses(s.host, kinds);
    const carried = await presses.run(lead(), {
      title: 'Trying',
      about: { kind: 'x', thingId: 'all' },
      all: ['a', 'b', 'c', 'd'],
      total: 4,
      linesOf: (_tx, thingId) => [{ kind: 'x', thingId, label: '', before: null, after: 1, undoes: null }],
    });
    expect(carried).toEqual({ done: 2, skipped: 2, reason: 'Not b.' });
    expect(done).toEqual(['a', 'd']);
    expect(w.faults.splice(0)).toHaveLength(1);
    nothingLeft();
  });
  it('what the disk cannot take for a moment is tried again until it can', async () => {
    let full = 2;
    const presses = createPresses(s.host, {
      x: {
        // A line that was not undone with its turn could not be done anew: its key is there.
        restore: (tx, _actor, id) => {
          if (id === 'b' && full-- > 1) throw new LaneError('not-kept', 'The disk is full.');
          run(tx.db, "INSERT INTO router_memory (key, body) VALUES (?, '')", `done ${id}`);
        },
      },
    });
    const carried = presses.run(lead(), {
      title: 'Trying',
      about: { kind: 'x', thingId: 'all' },
      all: ['a', 'b', 'c'],
      total: 3,
      linesOf: (_tx, thingId) => [{ kind: 'x', thingId, label: '', before: null, after: 1, undoes: null }],
    });
    expect(await carried).toMatchObject({ done: 3, skipped: 0 });
    const done = rows<{ key: string }>(w.db, "SELECT key FROM router_memory WHERE key LIKE 'done %' ORDER BY key");
    expect(done.map((d) => d.key)).toEqual(['done a', 'done b', 'done c']);
    expect(w.faults.splice(0)).toHaveLength(1);
    nothingLeft();
  });
});

describe('after a stop', () => {
  /** A press as a stop leaves it, of two changes to one person. */
  function left(whole: boolean): string {
    const person = readPersonByEmail(w.db, tamsinsAddress()) ?? fail();
    const before = settingsOfPerson(person);
    const line = { kind: 'person', thingId: person.id, label: person.name, undoes: null };
    beginPress(w.db, {
      id: 'batch_left',
      realAt: 1,
      actor: JSON.stringify(lead()),
      title: 'Left',
      kind: 'import',
      thingId: 'x',
    });
    addPressLine(w.db, 'batch_left', 1, { ...line, before, after: { ...before, shownName: 'Tam' } });
    addPressLine(w.db, 'batch_left', 2, { ...line, before, after: { ...before, shownName: 'Tammy' } });
    if (whole) makePressWhole(w.db, 'batch_left', 2);
    return person.id;
  }
  const tamsinsAddress = () =>
    rows<{ email: string }>(w.db, 'SELECT email FROM people WHERE id = ?', tamsin().personId)[0]?.email ?? '';
  const fail = (): never => {
    throw new Error('nobody there');
  };

  it('one that was whole goes on before anything else is changed, and can be taken back', async () => {
    const id = left(true);
    s = w.restart();
    const resumed = s.presses.resume();
    expect(s.presses.busy()).toBe(true);
    await resumed;
    expect(readPersonByEmail(w.db, tamsinsAddress())?.shownName).toBe('Tammy');
    nothingLeft();
    const [entry] = searchHistory(w.db, { thingId: id }, 1);
    expect(entry).toMatchObject({ batch: 'batch_left', personId: lead().personId });
  });
  it('one that cannot be read, and a kind that is not known any more, keep nothing else from going on', async () => {
    left(true);
    const line = { thingId: 'x', label: '', before: null, after: 1, undoes: null };
    const press = { realAt: 0, title: 'Odd', kind: 'x', thingId: 'x' };
    beginPress(w.db, { ...press, id: 'batch_a', actor: '{' });
    beginPress(w.db, { ...press, id: 'batch_b', actor: JSON.stringify(lead()) });
    addPressLine(w.db, 'batch_b', 1, { ...line, kind: 'forgotten' });
    for (const id of ['batch_a', 'batch_b']) makePressWhole(w.db, id, 1);
    s = w.restart();
    await s.presses.resume();
    await expect.poll(() => s.presses.busy()).toBe(false);
    expect(readPersonByEmail(w.db, tamsinsAddress())?.shownName).toBe('Tammy');
    expect(rows(w.db, 'SELECT id FROM presses')).toEqual([{ id: 'batch_a' }]);
    expect(w.faults.splice(0)).toHaveLength(1);
  });
  it('one that was not whole has counted nowhere and is gone', async () => {
    const id = left(false);
    s = w.restart();
    await s.presses.resume();
    expect(readPersonByEmail(w.db, tamsinsAddress())?.shownName).toBe('Tamsin');
    expect(searchHistory(w.db, { thingId: id }, 1)).toEqual([]);
    nothingLeft();
  });
});

it('two people taking back different large presses at once both succeed, one after the other', async () => {
  const before = count('people');
  await s.peopleImport.apply(lead(), { id: await planned(600, 'one.example'), invite: false });
  const [one] = s.history.view(lead(), {}).lines;
  await s.peopleImport.apply(lead(), { id: await planned(600, 'two.example'), invite: false });
  const [two] = s.history.view(lead(), {}).lines;
  const other = nell();
  const both = [s.act('undo', lead(), { id: one?.id }), s.act('undo', other, { id: two?.id })];
  await turn();
  expect(await Promise.all(both)).toEqual([
    { undone: 1200, skipped: 0 },
    { undone: 1200, skipped: 0 },
  ]);
  expect(count('people')).toBe(before);
  nothingLeft();
});

function someLevel() {
  const level = row<{ personId: string; skillId: string }>(
    w.db,
    'SELECT person_id AS personId, skill_id AS skillId FROM own_levels LIMIT 1',
  );
  if (!level) throw new Error('nobody has a level');
  return level;
}
