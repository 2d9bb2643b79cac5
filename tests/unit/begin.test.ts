import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { seeded } from '../../src/core/chance';
import { seededIds } from '../../src/core/ids';
import { openDatabase } from '../../src/data/databasefile';
import { readOutside } from '../../src/data/outside';
import { createServices } from '../../src/services';
import { createHost } from '../../src/services/ground/host';
import { makeWorld, MIGRATIONS, MORNING, type World } from '../helpers/world';
import { browserAt } from '../helpers/reached';

/** The code that a promise is refused with. */
const refusal = (work: Promise<unknown>): Promise<unknown> =>
  work.then(
    () => 'none',
    (error: { code?: string }) => error.code,
  );

describe('a workspace that nobody has begun', () => {
  let folder: string;
  let close: () => void;
  let services: ReturnType<typeof createServices>;
  beforeEach(() => {
    folder = mkdtempSync(join(tmpdir(), 'lane-empty-'));
    const opened = openDatabase(folder, MIGRATIONS, { synchronous: 'OFF' });
    close = opened.close;
    services = createServices(
      createHost(opened.db, seededIds(seeded(1)), { real: () => MORNING, floor: () => MORNING }),
    );
  });
  afterEach(() => {
    close();
    rmSync(folder, { recursive: true, force: true });
  });
  const tokenOf = () => services.firstStart.open()?.split('/').at(-1) ?? '';
  const begin = (token: string, change: object = {}) =>
    services.firstStart.begin({
      token,
      company: 'Saltmarsh Lending Library',
      zone: 'Europe/Warsaw',
      languages: ['pl', 'en', 'pl'],
      country: 'PL',
      name: 'Halina Orzel-Tarn',
      email: 'Halina@saltmarsh.example',
      password: 'ten letters or more',
      ...change,
    });

  it('is begun once, by the address that was printed: its owner signs in and may do everything', async () => {
    const token = tokenOf();
    expect(services.firstStart.view(token).countries).toContain('PL');
    expect(await begin(token)).toEqual({ email: 'halina@saltmarsh.example' });
    const { token: session } = await services.signIn.signIn(
      { email: 'halina@saltmarsh.example', password: 'ten letters or more' },
      browserAt(),
    );
    const owner = services.sessions.actor(session);
    expect(owner).toMatchObject({ roleId: 'owner', teams: 'all' });
    if (!owner) return;
    expect(services.people.view(owner).people.map((p) => p.name)).toEqual(['Halina Orzel-Tarn']);
    expect(services.teams.view(owner)).toMatchObject({ zone: 'Europe/Warsaw', teams: [{ zone: 'Europe/Warsaw' }] });
    // The floor knows them: they could go on duty at once.
    expect(services.floor.router.floor.people.size).toBe(1);
    expect(services.firstStart.isEmpty()).toBe(false);
    expect(services.firstStart.open()).toBeNull();
    expect(await refusal(begin(token))).toBe('closed');
  });
  it('of two who begin at once, the second is told; nothing of theirs is kept', async () => {
    const token = tokenOf();
    const both = await Promise.all([
      refusal(begin(token)),
      refusal(begin(token, { company: 'Another', email: 'other@saltmarsh.example' })),
    ]);
    expect(both.sort()).toEqual(['closed', 'none']);
    expect(services.host.db.prepare('SELECT count(*) AS n FROM people').get()).toEqual({ n: 1 });
  });
  it('is not begun by another address, nor by one from before the server started anew', async () => {
    const before = tokenOf();
    const now = tokenOf();
    expect(await refusal(begin('guessed'))).toBe('not-found');
    expect(await refusal(begin(before))).toBe('not-found');
    expect(await refusal(begin(now))).toBe('none');
  });
  it.each([
    ['a short password', { password: 'short' }],
    ['a zone that is none', { zone: 'Mars/Olympus' }],
    ['a country that is none', { country: 'ZZ' }],
    ['no language', { languages: [] }],
    ['an address that is none', { email: 'halina' }],
    ['something unknown', { surprise: 1 }],
  ])('refuses %s and keeps nothing', async (_what, change) => {
    expect(await refusal(begin(tokenOf(), change))).toBe('not-valid');
    expect(services.firstStart.isEmpty()).toBe(true);
  });
});

describe('a forgotten password', () => {
  let w: World;
  beforeEach(() => {
    w = makeWorld();
  });
  afterEach(() => w.close());
  const email = 'noor.amsel@brindlewood.example';
  const links = () =>
    readOutside(w.db, 50).flatMap((m) => [...m.body.matchAll(/\/password\/(\S+)/g)].map((found) => found[1] ?? ''));

  it('is replaced by a link in a mail, once, and every session ends', async () => {
    const { newPassword, signIn, sessions } = w.services;
    w.actor('Noor Amsel');
    await newPassword.set({ token: (await newPassword.ask({ email }), links()[0]), password: 'the first of them' });
    const old = await signIn.signIn({ email, password: 'the first of them' }, browserAt());
    await newPassword.ask({ email: email.toUpperCase() });
    const [link = ''] = links();
    expect(newPassword.view(link)).toEqual({ name: 'Noor Amsel', email });
    expect(await newPassword.set({ token: link, password: 'the second of them' })).toEqual({ email });
    expect(sessions.actor(old.token)).toBeNull();
    expect(await refusal(signIn.signIn({ email, password: 'the first of them' }, browserAt()))).toBe('sign-in-failed');
    expect(await refusal(signIn.signIn({ email, password: 'the second of them' }, browserAt()))).toBe('none');
    expect(await refusal(newPassword.set({ token: link, password: 'a third of them' }))).toBe('closed');
  });
  it('a link works for an hour, and only the newest', async () => {
    const { newPassword } = w.services;
    await newPassword.ask({ email });
    const [first = ''] = links();
    await newPassword.ask({ email });
    const second = links().find((l) => l !== first) ?? '';
    expect(() => newPassword.view(first)).toThrow(/run out or was used/);
    w.at(MORNING + 3_599_000);
    expect(newPassword.view(second).email).toBe(email);
    w.at(MORNING + 3_600_000);
    expect(() => newPassword.view(second)).toThrow(/run out/);
  });
  it('of two who use one link at once, one sets it', async () => {
    const { newPassword } = w.services;
    await newPassword.ask({ email });
    const [token = ''] = links();
    const both = await Promise.all(
      ['the first of them', 'the second of them'].map((password) => refusal(newPassword.set({ token, password }))),
    );
    expect(both.sort()).toEqual(['closed', 'none']);
  });
  it('whoever asks learns nothing of who has an account, and cannot flood a mailbox', async () => {
    const { newPassword } = w.services;
    expect(await newPassword.ask({ email: 'nobody@brindlewood.example' })).toEqual({ done: true });
    expect(links()).toEqual([]);
    for (let i = 0; i < 3; i++) expect(await newPassword.ask({ email })).toEqual({ done: true });
    expect(await refusal(newPassword.ask({ email }))).toBe('slow-down');
    expect(await refusal(newPassword.ask({ email: 'not an address' }))).toBe('not-valid');
  });
});

describe('installing', () => {
  it('the lock file is what npm ci accepts, and names no host', () => {
    const root = join(import.meta.dirname, '../..');
    execFileSync('npm', ['ci', '--dry-run', '--ignore-scripts', '--no-audit', '--no-fund', '--offline'], {
      cwd: root,
      stdio: 'pipe',
    });
    const lock = JSON.parse(readFileSync(join(root, 'package-lock.json'), 'utf8')) as {
      packages: Record<string, { resolved?: string }>;
    };
    expect(Object.entries(lock.packages).filter(([, p]) => p.resolved?.startsWith('http'))).toEqual([]);
  });
});
