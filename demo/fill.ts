import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { TZDate } from '@date-fns/tz';
import { connectorsUsed } from '../src/core/bots/references';
import { type Chance, seeded, stream } from '../src/core/chance';
import { imageType } from '../src/core/formats/imagetype';
import { seededIds } from '../src/core/ids';
import { daysFrom, plusDays } from '../src/core/hours/dates';
import { localDate } from '../src/core/hours/weekly';
import { daySpan } from '../src/core/measures/calendar';
import { OUTCOME_DEFAULTS } from '../src/core/outcomes';
import { ARTICLES, wordArticle } from '../src/data/articles';
import { BOT_TESTS, keepVersion, setLive, SHARED_SCENES, writeDraft } from '../src/data/bots';
import { writeFloorTime } from '../src/data/floortime';
import { CONNECTORS, TABLES } from '../src/data/connectors';
import { countContacts } from '../src/data/contacts';
import { beginBulk, endBulk } from '../src/data/bulk';
import type { Db } from '../src/data/database';
import { databaseFile, DatabaseRefused, moveAside, openDatabase } from '../src/data/databasefile';
import { writeDoor } from '../src/data/doors';
import { AWAY_REASONS, DESK_PROFILES, DESK_RULES, SHIFTS, STOCK_SETS, THE_RULES } from '../src/data/duty';
import { writeProfile } from '../src/data/dutyprofiles';
import { FIELD_DEFAULTS, writeField } from '../src/data/fields';
import { GROUPS, PARTNERS } from '../src/data/groups';
import { writeHours } from '../src/data/hours';
import { writeImage } from '../src/data/images';
import { openLegsOf } from '../src/data/legs';
import { writeOutcome } from '../src/data/outcomes';
import { readPeople, setSimulated, writePerson } from '../src/data/people';
import { writePhrasebook } from '../src/data/phrasebook';
import { writeQueue } from '../src/data/queuesettings';
import { writeWay } from '../src/data/reach';
import { COPIED_ROLES } from '../src/data/roles';
import { SKILL_SETS, writeOwnLevel, writeSkill, writeTeamLevels } from '../src/data/skills';
import { SITES, writeSupervisors, writeTeam } from '../src/data/teams';
import { newSettingsVersion, writeWorkspace } from '../src/data/workspace';
import { createServices } from '../src/services';
import { coachSome } from './coaching';
import { createHost, type Host, type Listener } from '../src/services/ground/host';
import { writePasswordHash } from '../src/data/sessions';
import { makeDay } from '../src/services/review/factdays';
import { keepWhole } from '../src/services/review/keepdays';
import { hashedPassword } from '../src/services/workspace/passwords';
import { ARTICLES_MADE, BOTS, CONNECTORS_MADE, phrasebookLearnt, SHARED, TABLES_MADE } from './bots';
import * as made from './company';
import {
  COMPANY,
  DOORS,
  FIELDS,
  HOURS,
  OUTCOMES,
  PASSWORD,
  people as planned,
  PROFILES,
  QUEUES,
  SKILLS,
  TEAMS,
} from './company';
import { createCrowd, NOTHING_PLANTED, type Planted } from './crowd';
import { keepSome } from './kept';
import { fillEarlier } from './earlier';
import { createWeek, type Week } from './week';

/** Puts the company's settings into an empty database. `realAt` is when all of it was set up. */
export function fillSettings(db: Db, realAt: number): void {
  const company = planned(seeded(64));
  const owner = company.find((p) => p.role === 'owner');
  writeWorkspace(db, COMPANY);
  made.SITES.forEach(({ id, name, ...site }, i) => SITES.write(db, id, name, site, i));
  made.SKILL_SETS.forEach(({ id, name, levels }, i) => SKILL_SETS.write(db, id, name, { levels }, i));
  TEAMS.forEach((t, i) =>
    writeTeam(db, { ...t, setIds: made.SKILL_SETS.filter((s) => s.teamIds.includes(t.id)).map((s) => s.id) }, i),
  );
  SKILLS.forEach((s, i) => writeSkill(db, s, i));
  for (const t of TEAMS) writeTeamLevels(db, t.id, t.levels);
  made.AWAY_REASONS.forEach(({ id, name, ...reason }, i) => AWAY_REASONS.write(db, id, name, reason, i));
  made.STOCK_SETS.forEach(({ id, name, replies }, i) => STOCK_SETS.write(db, id, name, { replies }, i));
  made.DESKS.forEach(({ id, name, ...desk }, i) => DESK_PROFILES.write(db, id, name, desk, i));
  DESK_RULES.write(db, THE_RULES, 'Who gets which desk profile', {
    rules: made.DESK_RULES,
    helpers: ['suggest', 'summary'],
  });
  COPIED_ROLES.write(db, 'role_quality', 'quality reader', {
    rights: ['people.view', 'review.view', 'conversations.view'],
    teams: 'all',
  });
  PROFILES.forEach((p) => writeProfile(db, p));
  made.GROUPS_MADE.forEach(({ id, name, ...g }, i) => GROUPS.write(db, id, name, g, i));
  made.PARTNERS_MADE.forEach(({ id, name, ...p }, i) => PARTNERS.write(db, id, name, p, i));
  QUEUES.forEach((q, i) => writeQueue(db, q, i, newSettingsVersion(db, realAt, 'queue', q.id)));
  HOURS.forEach((h) => writeHours(db, { ...h, exceptions: made.HOLIDAYS }));
  FIELDS.forEach((f, i) => writeField(db, { ...FIELD_DEFAULTS, ...f }, i));
  OUTCOMES.forEach((o, i) => writeOutcome(db, { ...OUTCOME_DEFAULTS, ...o }, i));
  [
    { code: 'NOANSWER', label: 'Nobody answered' },
    { code: 'BUSY', label: 'Busy or turned away' },
  ].forEach((o, i) =>
    writeOutcome(db, { ...OUTCOME_DEFAULTS, ...o, who: 'system', category: 'no-contact' }, OUTCOMES.length + i),
  );
  writeOutcome(
    db,
    {
      ...OUTCOME_DEFAULTS,
      code: 'WRONGNO',
      label: 'Wrong number',
      category: 'no-contact',
      longest: 120,
    },
    OUTCOMES.length + 2,
  );
  SHARED.forEach(({ id, name, ...scene }, i) => SHARED_SCENES.write(db, id, name, scene, i));
  CONNECTORS_MADE.forEach(({ id, name, ...c }, i) => CONNECTORS.write(db, id, name, c, i));
  TABLES_MADE.forEach(({ id, name, ...t }, i) => TABLES.write(db, id, name, t, i));
  ARTICLES_MADE.forEach(({ id, title, language, text, of }, i) => {
    ARTICLES.write(db, id, title, { language, text, ...(of === undefined ? {} : { of }) }, i);
    wordArticle(db, id, { language, title, text });
  });
  const phrasebook = phrasebookLearnt();
  const bookVersion = writePhrasebook(db, phrasebook.book, phrasebook.text, realAt, owner?.id ?? '');
  for (const b of BOTS) {
    for (const [id, data] of Object.entries(b.images ?? {})) {
      const bytes = Buffer.from(data, 'base64');
      writeImage(db, { id, type: imageType(bytes) ?? 'image/png', bytes });
    }
    writeDraft(db, b.id, b.name, b.script);
    const used = new Set(connectorsUsed([...b.script.scenes, ...b.shared]));
    setLive(
      db,
      b.id,
      keepVersion(
        db,
        b.id,
        { shared: b.shared, connectors: CONNECTORS_MADE.filter((c) => used.has(c.id)), phrasebook: bookVersion },
        'First version',
        realAt,
        owner?.id ?? '',
      ),
    );
    b.tests.forEach((test, i) =>
      BOT_TESTS.write(db, `${b.id}_test_${i + 1}`, test.name, {
        botId: b.id,
        trial: { ...test, id: `${b.id}_test_${i + 1}` },
      }),
    );
  }
  DOORS.forEach((d, i) =>
    writeDoor(db, { ...d, place: i, trial: null, whenClosed: { does: 'end' }, meets: { by: 'bot' } }),
  );
  for (const p of company) {
    writePerson(db, {
      id: p.id,
      name: p.name,
      email: p.email,
      teamId: p.teamId,
      roleId: p.role,
      shownName: p.name.split(' ')[0] ?? p.name,
      active: true,
      simulated: p.shift !== null,
      dutyProfileId: p.profileId,
      alsoTeamIds: p.name === 'Ines Vall' ? ['team_strings'] : [],
      setIds: made.SKILL_SETS.filter((s) => s.people.includes(p.name)).map((s) => s.id),
      siteId: p.teamId === 'team_repairs' ? 'site_lisbon' : 'site_dublin',
      outbound: p.role === 'agent' ? '+353 20 911 0100' : '',
      // One person is not ready, and it shows only as silence: every channel is set to none at once.
      most: p.id === 'person_60' ? { voice: 0, chat: 0, messaging: 0, sms: 0 } : {},
    });
    for (const [skill, level] of Object.entries(p.levels))
      writeOwnLevel(db, p.id, skill, {
        level,
        until: skill === 'skill_credit' && Number(p.id.slice(-2)) % 4 === 0 ? dayAfter(realAt, 30) : null,
        note: '',
      });
    if (p.name === 'Colm Ferrity')
      writeOwnLevel(db, p.id, 'skill_woodwind', { level: 'never', until: null, note: 'asked not to' });
    if (p.shift) {
      SHIFTS.write(db, p.id, p.name, { weekly: made.weekOf(p.id, p.shift), exceptions: [] });
    }
  }
  for (const t of TEAMS)
    writeSupervisors(
      db,
      t.id,
      company.filter((p) => p.role === 'supervisor' && p.teamId === t.id).map((p) => p.id),
    );
  const odile = company.find((p) => p.name === 'Odile Karrow');
  if (odile) {
    writeWay(db, {
      id: 'way_214',
      personId: odile.id,
      kind: 'extension',
      address: '214',
      mayCall: true,
      maySendText: false,
      mayReceiveText: false,
      codeHash: null,
      codeUntil: null,
      tries: 0,
      verifiedAt: realAt,
    });
    writeWay(db, {
      id: 'way_mobile',
      personId: odile.id,
      kind: 'outside',
      address: '+353209110171',
      mayCall: true,
      maySendText: true,
      mayReceiveText: true,
      codeHash: null,
      codeUntil: null,
      tries: 0,
      verifiedAt: null,
    });
  }
}

const dayAfter = (at: number, days: number): string => new Date(at + days * 86_400_000).toISOString().slice(0, 10);

/** What is lived through: [from, until), UTC ms, with how much comes, and what is worth finding in it. */
type Lived = {
  readonly from: number;
  readonly until: number;
  readonly seed: number;
  readonly scale: number;
  readonly planted?: Planted;
};

/** Lets the crowd live through some days on a virtual clock, in one transaction. Gives the number of contacts. */
export function fillHistory(
  db: Db,
  from: number,
  until: number,
  seed: number,
  scale: number,
  progress: (share: number) => void,
): number {
  beginBulk(db);
  liveThrough(db, { from, until, seed, scale }, progress);
  endBulk(db);
  return countContacts(db);
}

export function liveThrough(
  db: Db,
  { from, until, seed, scale, planted }: Lived,
  progress: (share: number) => void,
  listener?: Listener,
): void {
  let now = from;
  const chance = seeded(seed);
  const services = createServices(bulkHost(db, seeded(seed + 1), () => now));
  const crowd = createCrowd(services, chance, scale, planted);
  services.host.listen(crowd.hear);
  if (listener) services.host.listen(listener);
  crowd.begin();
  for (let steps = 0; ; steps++) {
    const { real, floor } = services.timers.next();
    const next = Math.min(crowd.agenda.nextAt() ?? Infinity, real ?? Infinity, floor ?? Infinity);
    if (next > until) break;
    now = Math.max(now, next);
    if ((real !== null && real <= now) || (floor !== null && floor <= now)) services.timers.runDue();
    else crowd.agenda.takeNext()?.();
    if (steps % 20_000 === 0) progress((now - from) / (until - from));
  }
  // The accounts that people sign in to leave the floor: what they had open is finished and they go off duty.
  for (const person of planned(seeded(64)).filter((p) => p.real)) {
    services.host.transact((tx) => {
      for (const leg of openLegsOf(tx.db, person.id)) {
        const { contactId, id: legId } = leg;
        services.contacts.happen(tx, contactId, { type: 'outcome', legId, outcome: 'ADVICE' });
        services.contacts.happen(tx, contactId, { type: 'wrap-up-over', legId });
      }
      services.floor.setDuty(tx, person.id, 'off', null);
    });
  }
  services.host.transact((tx) => services.floor.remember(tx));
}

export const bulkHost = (db: Db, chance: Chance, now: () => number): Host =>
  createHost(
    db,
    seededIds(chance),
    { real: now, floor: now },
    {
      oneTransaction: true,
      // What breaks here breaks the making of the demo, not a floor.
      onFault: (error) => {
        throw error;
      },
    },
  );

/** The newest weekday 10:20 in the company's zone that has passed by `realAt`. */
function dayToShow(realAt: number): number {
  for (let back = 0; ; back++) {
    const day = new TZDate(realAt, COMPANY.zone);
    const at = new TZDate(day.getFullYear(), day.getMonth(), day.getDate() - back, 10, 20, 0, COMPANY.zone);
    if (at.getTime() <= realAt && at.getDay() >= 1 && at.getDay() <= 5) return at.getTime();
  }
}

/** After the history: the demo's accounts belong to people again, who sign in for themselves. */
async function handOverAccounts(db: Db): Promise<void> {
  const real = new Set(
    planned(seeded(64))
      .filter((p) => p.real)
      .map((p) => p.id),
  );
  const hash = await hashedPassword(PASSWORD);
  const host = createHost(db, seededIds(seeded(5)), { real: Date.now, floor: Date.now });
  host.transact((tx) => {
    for (const p of readPeople(tx.db)) {
      if (!real.has(p.id)) continue;
      writePasswordHash(tx.db, p.id, hash);
      setSimulated(tx.db, p.id, false);
    }
  });
}

/** Says that what stands in a folder was made by the demo, whole or half. */
export const MADE_HERE = 'demo';
const WHOLE = 'filled';

/**
 * Makes room for new data: what an earlier demo made is moved aside, half-made data of one is removed, and anything else
 * is left as it is. Throws when the folder holds a workspace that no demo made.
 */
export function makeRoom(folder: string): void {
  const has = (name: string) => existsSync(join(folder, name));
  if (has('lane.db') && !has(MADE_HERE) && !has(WHOLE))
    throw new DatabaseRefused(
      `${folder} holds a workspace that the demo did not make, so it is left alone. Set another folder with LANE_DATA.`,
    );
  rmSync(join(folder, 'aside'), { recursive: true, force: true });
  moveAside(folder, 'aside');
  if (!has(WHOLE)) rmSync(join(folder, 'aside'), { recursive: true, force: true });
  rmSync(join(folder, WHOLE), { force: true });
  mkdirSync(folder, { recursive: true });
  writeFileSync(join(folder, MADE_HERE), '');
}

/** The last of the days are lived through whole; those before them are gone through without a word. */
const LIVED_DAYS = 14;
/** Where in the log what is lived through begins: room for all that happened before it. */
const EARLIER_PLACES = 100_000_000;
const MIGRATIONS = join(process.cwd(), 'src/data/migrations');
const seconds = (since: number): string => `${Math.round((performance.now() - since) / 100) / 10} s`;

/** The instants of a history of so many days up to one: when it begins, and when what is lived through does. */
function partsOf(until: number, days: number): { readonly began: number; readonly lived: number } {
  const date = localDate(until, COMPANY.zone);
  const dayBefore = (many: number) => daySpan(plusDays(date, -many), COMPANY.zone).from;
  return { began: dayBefore(days), lived: dayBefore(Math.min(days, LIVED_DAYS)) };
}

/** The earlier weeks, in a database of their own within a folder; in a process of its own, beside the others. */
function makeEarlier(folder: string, until: number, days: number, scale: number): void {
  const { began, lived } = partsOf(until, days);
  const { db, close } = openDatabase(folder, MIGRATIONS, { synchronous: 'OFF' });
  db.transaction(() => fillSettings(db, began))();
  const week = usualWeek(join(folder, 'usual'), lived);
  beginBulk(db);
  const host = (now: () => number) => bulkHost(db, stream(40, 1), now);
  fillEarlier(host, week, { from: began, until: lived, chance: seeded(41), scale });
  endBulk(db);
  keepDays(db, began, lived);
  close();
}

/** How much of a week is lived through, to know how contacts come. */
const SAMPLE = 0.2;
/** A week in which nothing is planted, lived through aside and forgotten but for how contacts came in it. */
function usualWeek(folder: string, from: number): Week {
  mkdirSync(folder);
  const { db, close } = openDatabase(folder, MIGRATIONS, { synchronous: 'OFF' });
  db.transaction(() => fillSettings(db, from))();
  const { hear, week } = createWeek();
  const until = from + 7 * 86_400_000;
  beginBulk(db);
  liveThrough(db, { from, until, seed: 30, scale: SAMPLE, planted: NOTHING_PLANTED }, () => undefined, hear);
  endBulk(db);
  close();
  return week();
}

/** Makes so many days of history up to an instant; gives the number of contacts. */
async function makeHistory(db: Db, folder: string, until: number, days: number, scale: number): Promise<number> {
  const { lived } = partsOf(until, days);
  const aside = join(folder, 'earlier');
  const made = days > LIVED_DAYS ? earlierBeside(aside, until) : Promise.resolve();
  // What went wrong there is heard of when it is waited for.
  made.catch(() => undefined);
  beginBulk(db, EARLIER_PLACES);
  liveThrough(db, { from: lived, until, seed: 20, scale }, (share) =>
    console.log(`history ${Math.floor(100 * share)} of 100`),
  );
  await made;
  endBulk(db, days > LIVED_DAYS ? [databaseFile(aside)] : []);
  rmSync(aside, { recursive: true, force: true });
  keepDays(db, lived, until);
  return countContacts(db);
}
/** Keeps the days that are over as Review counts them, so that whoever opens it first need not wait. */
function keepDays(db: Db, from: number, until: number): void {
  const dates = daysFrom(localDate(from, COMPANY.zone), localDate(until, COMPANY.zone));
  for (const span of dates.map((date) => daySpan(date, COMPANY.zone)).filter(({ to }) => to <= until))
    db.transaction(() => keepWhole(db, makeDay({ db }, span)))();
}
async function earlierBeside(folder: string, until: number): Promise<void> {
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder);
  const began = performance.now();
  const child = spawn(
    process.execPath,
    [...process.execArgv, ...process.argv.slice(1, 2), 'earlier', folder, String(until)],
    {
      stdio: 'inherit',
    },
  );
  // Where this process ends early, nobody waits for that one.
  process.once('exit', () => child.kill());
  const [code] = (await once(child, 'exit')) as [number | null];
  if (code !== 0) throw new Error(`the earlier weeks could not be made (${code})`);
  console.log(`the earlier weeks in ${seconds(began)}`);
}

const [, , what, aside = '', until = ''] = process.argv;
const folder = process.env.LANE_DATA;
const days = Number(process.env.LANE_DEMO_DAYS ?? 56);
const scale = Number(process.env.LANE_DEMO_SCALE ?? 1);
if (folder && what === 'earlier') makeEarlier(aside, Number(until), days, scale);
if (folder && what === 'fill') {
  try {
    makeRoom(folder);
  } catch (error) {
    console.error(error instanceof DatabaseRefused ? error.message : error);
    process.exit(1);
  }
  const { db, close } = openDatabase(folder, MIGRATIONS, { synchronous: 'OFF' });
  const realAt = Date.now();
  const shown = dayToShow(realAt);
  db.transaction(() => fillSettings(db, partsOf(shown, days).began))();
  const started = performance.now();
  if (days > 0) console.log(`${await makeHistory(db, folder, shown, days, scale)} contacts in ${seconds(started)}`);
  await handOverAccounts(db);
  if (days > 0) coachSome(db, shown);
  if (days > 0) keepSome(db, planned(seeded(64)).find((p) => p.role === 'lead')?.id ?? '');
  writeFloorTime(db, { realAt, floorAt: shown, rate: 1 });
  close();
  writeFileSync(join(folder, WHOLE), '');
}
