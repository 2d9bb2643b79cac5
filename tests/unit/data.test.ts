import { copyFileSync, cpSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import type { IncomingMessage } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { fillHistory } from '../../demo/fill';
import { upcast } from '../../src/core/eventshapes';
import { tally } from '../../src/core/measures/counting';
import { groupName } from '../../src/core/measures/grouping';
import { openDatabase } from '../../src/data/databasefile';
import { readProfile } from '../../src/data/dutyprofiles';
import { replayAll } from '../../src/data/events';
import { goalCountsSince } from '../../src/data/facts';
import { searchHistory, writeHistory } from '../../src/data/history';
import { readPeople } from '../../src/data/people';
import { ownLevelsOf } from '../../src/data/skills';
import { SITES } from '../../src/data/teams';
import { asFactDay, makeDay } from '../../src/services/review/factdays';
import { isCrossSite } from '../../src/server/guard';
import { makeWorld, MIGRATIONS, MORNING } from '../helpers/world';
import { HERE } from '../helpers/reached';

const folder = () => mkdtempSync(join(tmpdir(), 'lane-'));

describe('the database', () => {
  it('runs each migration once and keeps what was there', () => {
    const at = folder();
    const first = openDatabase(at, MIGRATIONS);
    first.db.exec("INSERT INTO teams (id, name, zone, place) VALUES ('t', 'T', 'UTC', 0)");
    first.close();
    const again = openDatabase(at, MIGRATIONS);
    expect(again.db.prepare('SELECT count(*) AS n FROM teams').get()).toEqual({ n: 1 });
    expect(again.db.pragma('foreign_keys', { simple: true })).toBe(1);
    again.close();
  });
  it('a migration that fails leaves nothing half done', () => {
    const steps = folder();
    cpSync(MIGRATIONS, steps, { recursive: true });
    const at = folder();
    openDatabase(at, steps).close();
    writeFileSync(join(steps, '998-broken.sql'), 'CREATE TABLE fine (id INTEGER) STRICT; CREATE TABLE broken (;');
    expect(() => openDatabase(at, steps)).toThrow();
    const still = openDatabase(at, MIGRATIONS);
    expect(still.db.prepare("SELECT count(*) AS n FROM sqlite_master WHERE name = 'fine'").get()).toEqual({ n: 0 });
    still.close();
  });
  it('refuses one newer than the code, in a sentence', () => {
    const at = folder();
    const { db, close } = openDatabase(at, MIGRATIONS);
    db.pragma('user_version = 999');
    close();
    expect(() => openDatabase(at, MIGRATIONS)).toThrow(/step 999.*newer version/);
  });
  it('refuses a second server on the same data', () => {
    const at = folder();
    const { close } = openDatabase(at, MIGRATIONS);
    expect(() => openDatabase(at, MIGRATIONS)).toThrow(/Another server/);
    close();
    openDatabase(at, MIGRATIONS).close();
  });
  it('reads old events and refuses those of the future', () => {
    const stored = {
      seq: 3,
      code: 25,
      v: 1,
      floorAt: 5,
      realAt: 6,
      contactId: 'c',
      body: '{"type":"contact.ended","contactId":"c","how":"bot"}',
    };
    expect(upcast(stored)).toEqual({
      type: 'contact.ended',
      contactId: 'c',
      how: 'bot',
      seq: 3,
      v: 2,
      floorAt: 5,
      realAt: 6,
    });
    expect(() => upcast({ ...stored, v: 99 })).toThrow(/newer/);
  });
});

describe('the simulated crowd', () => {
  it('lives through a morning by the product’s own routing: everything that began is accounted for', () => {
    const w = makeWorld();
    const eight = MORNING - 140 * 60_000;
    w.at(eight);
    const indexes = () => w.db.prepare("SELECT name, sql FROM sqlite_schema WHERE type = 'index' ORDER BY name").all();
    const kept = indexes();
    const contacts = fillHistory(w.db, eight, MORNING, 7, 0.3, () => undefined);
    // What is left out while it is filled is there afterwards.
    expect(indexes()).toEqual(kept);
    expect(contacts).toBeGreaterThan(80);
    const count = (sql: string) => (w.db.prepare(sql).get() as { n: number }).n;
    expect(count('SELECT count(*) AS n FROM legs')).toBe(
      count("SELECT count(*) AS n FROM visits WHERE ended_how = 'accepted'"),
    );
    expect(count("SELECT count(*) AS n FROM offers WHERE ended_how = 'accepted'")).toBe(
      count('SELECT count(*) AS n FROM legs'),
    );
    expect(count('SELECT count(*) AS n FROM contacts WHERE ended_at IS NOT NULL')).toBe(
      count('SELECT count(*) AS n FROM events WHERE type = 25'),
    );
    // Nobody was ever over their room: no person has two calls at once.
    expect(
      count(`SELECT count(*) AS n FROM legs a JOIN legs b ON a.person_id = b.person_id AND a.id < b.id
          AND a.accepted_at < coalesce(b.ended_at, 1e18) AND b.accepted_at < coalesce(a.ended_at, 1e18)
        JOIN visits va ON va.id = a.visit_id JOIN visits vb ON vb.id = b.visit_id
          WHERE va.channel = 'voice' AND vb.channel = 'voice'`),
    ).toBe(0);
    // The floor counts by SQL what Review counts by the rule: the same for every queue and channel.
    const byCount = goalCountsSince(w.db, eight);
    expect(byCount.reduce((n, c) => n + c.all, 0)).toBeGreaterThan(20);
    const span = { from: eight, to: MORNING, weekday: 2, hours: [] };
    const byRule = tally([asFactDay(span, makeDay(w, span))], {}, { by: ['queue', 'channel'] });
    for (const { queueId, channel, good, all } of byCount) {
      const visits = byRule.get(groupName([queueId, channel]))?.visits;
      expect([queueId, channel, visits?.inGoal, visits?.rated]).toEqual([queueId, channel, good, all]);
    }
    expect(byCount.reduce((n, c) => n + c.all, 0)).toBe([...byRule.values()].reduce((n, t) => n + t.visits.rated, 0));
    const before = w.db.prepare('SELECT * FROM visits ORDER BY id').all();
    replayAll(w.db);
    expect(w.db.prepare('SELECT * FROM visits ORDER BY id').all()).toEqual(before);
    w.close();
  });
  it('the same seed gives the same morning', () => {
    const morning = () => {
      const w = makeWorld();
      const from = MORNING - 90 * 60_000;
      w.at(from);
      fillHistory(w.db, from, MORNING - 60 * 60_000, 3, 0.2, () => undefined);
      const log = JSON.stringify(w.db.prepare('SELECT type, floor_at, body FROM events ORDER BY seq').all());
      w.close();
      return log;
    };
    expect(morning()).toBe(morning());
  });
});

describe('who may post', () => {
  const request = (method: string, headers: Record<string, string>) =>
    ({ method, headers: { host: 'lane.example', ...headers } }) as unknown as IncomingMessage;
  it.each([
    ['GET', { origin: 'https://evil.example' }, false],
    ['POST', {}, false],
    ['POST', { origin: 'http://lane.example' }, false],
    ['POST', { origin: 'https://evil.example' }, true],
    ['DELETE', { origin: 'null' }, true],
    ['POST', { 'sec-fetch-site': 'cross-site' }, true],
    ['POST', { origin: 'http://lane.example.evil.example' }, true],
  ] as const)('%s %j', (method, headers, refused) => expect(isCrossSite(request(method, headers), HERE)).toBe(refused));
});

describe('the lock file', () => {
  it('names no registry', () => expect(readFileSync('package-lock.json', 'utf8')).not.toMatch(/"resolved"/));
});

describe('a workspace from before', () => {
  it('keeps its people, their roles and levels when the newer steps run', () => {
    const at = folder();
    const first = mkdtempSync(join(tmpdir(), 'lane-steps-'));
    copyFileSync(join(MIGRATIONS, '001-ground.sql'), join(first, '001-ground.sql'));
    const old = openDatabase(at, first);
    old.db.exec(`INSERT INTO teams VALUES ('t', 'T', 'UTC', 0); INSERT INTO skills VALUES ('s', 'S', 'task',
          0); INSERT INTO duty_profiles VALUES ('d', 'D', '{"rows":[],"load":{},"acceptSeconds":20}',
          1);
        INSERT INTO people (id, name, shown_name, email, team_id, role, duty_profile_id, revision)
          VALUES ('p', 'P', 'P', 'p@x.example', 't', 'owner', 'd', 1), ('q', 'Q', 'Q', 'q@x.example',
          't', 'agent', 'd', 1);
        INSERT INTO person_skills VALUES ('p', 's', 4); INSERT INTO team_supervisors VALUES ('t',
          'p'); INSERT INTO history (real_at, person_id, kind, thing_id) VALUES (1, 'p', 'queue', 'x');`);
    old.close();
    const { db, close } = openDatabase(at, MIGRATIONS);
    expect(readPeople(db).map((p) => [p.id, p.roleId, p.alsoTeamIds, p.forNow])).toEqual([
      ['p', 'owner', [], null],
      ['q', 'agent', [], null],
    ]);
    expect(ownLevelsOf(db, 'p')).toEqual(new Map([['s', { level: 4, until: null, note: '' }]]));
    expect(readProfile(db, 'd')).toMatchObject({ autoAccept: false, restSeconds: null });
    expect(searchHistory(db, {}, 9)).toMatchObject([{ kind: 'queue', label: '', batch: null }]);
    expect(() => db.exec("UPDATE people SET role_id = 'owner' WHERE id = 'q'")).toThrow(/UNIQUE/);
    close();
  });
});

describe('documents and history', () => {
  it('a document keeps its place and raises its revision; a new one stands last', () => {
    const { db, close } = openDatabase(folder(), MIGRATIONS);
    SITES.write(db, 'b', 'B', { zone: 'UTC', address: '' });
    SITES.write(db, 'a', 'A', { zone: 'UTC', address: '' });
    SITES.write(db, 'b', 'B2', { zone: 'UTC', address: 'moved' });
    expect(SITES.all(db).map((d) => [d.id, d.name, d.revision])).toEqual([
      ['b', 'B2', 2],
      ['a', 'A', 1],
    ]);
    close();
  });
  it('a search takes percent signs and underscores as they are, and pages backwards', () => {
    const { db, close } = openDatabase(folder(), MIGRATIONS);
    for (const label of ['100% sure', '100 sure', 'a_b', 'axb'])
      writeHistory(db, {
        realAt: 1,
        personId: 'p',
        kind: 'person',
        thingId: label,
        label,
        batch: null,
        before: null,
        after: null,
      });
    expect(searchHistory(db, { text: '100%' }, 9).map((e) => e.label)).toEqual(['100% sure']);
    expect(searchHistory(db, { text: 'a_b' }, 9).map((e) => e.label)).toEqual(['a_b']);
    const page = searchHistory(db, {}, 2);
    expect(searchHistory(db, { before: page[1]?.id ?? 0 }, 2).map((e) => e.label)).toEqual(['100 sure', '100% sure']);
    close();
  });
});
