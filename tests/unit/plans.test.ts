import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { describeDifferences } from '../../src/core/differences';
import { PLAN_KINDS, type PlanKind } from '../../src/core/drafts/kinds';
import { partsOf } from '../../src/core/drafts/parts';
import { rows, run } from '../../src/data/database';
import { LaneError } from '../../src/core/errors';
import { readDoors } from '../../src/data/doors';
import { readProfiles } from '../../src/data/dutyprofiles';
import { GROUPS, PARTNERS } from '../../src/data/groups';
import { readAllHours } from '../../src/data/hours';
import { readQueues } from '../../src/data/queuesettings';
import { COPIED_ROLES } from '../../src/data/roles';
import { SETTINGS_TABLES } from '../../src/data/settingscopy';
import type { Services } from '../../src/services';
import { applyGathered, type Gathered, gatheredNow } from '../../src/services/drafts/gathered';
import { readerOf } from '../../src/services/workspace/historyreader';
import { codeIn, codeOf, makeWorld, type World } from '../helpers/world';

let w: World;
let s: Services;
beforeEach(() => {
  w = makeWorld();
  s = w.services;
});
afterEach(() => w.close());

const HOUR = 3_600_000;
const lead = () => w.actor('Noor Amsel');
const owner = () => w.actor('Nell Ashgrove');
const QUEUE = 'queue_newhire';
const idsOf: Readonly<Record<PlanKind, () => readonly string[]>> = {
  queue: () => readQueues(w.db).map((q) => q.id),
  group: () => GROUPS.all(w.db).map((g) => g.id),
  partner: () => PARTNERS.all(w.db).map((p) => p.id),
  hours: () => readAllHours(w.db).map((h) => h.id),
  door: () => readDoors(w.db).map((d) => d.id),
  'duty-profile': () => readProfiles(w.db).map((p) => p.id),
  role: () => COPIED_ROLES.all(w.db).map((r) => r.id),
};
function now(kind: PlanKind, id: string): Gathered {
  const found = gatheredNow(w.db, kind, id);
  if (!found) throw new Error(`no ${kind} ${id}`);
  return found;
}
const by = () => ({
  queues: s.queues,
  groups: s.groups,
  hours: s.hours,
  doors: s.doors,
  duty: s.duty,
  roles: s.roles,
});
type Change = Readonly<Record<string, unknown>>;
const plan = (change: Change, at: { from: number; until?: number | null }, kind: PlanKind = 'queue', id = QUEUE) => {
  const { revision, value } = now(kind, id);
  return s.plans.plan(lead(), {
    kind,
    id,
    revision,
    value: { ...value, ...change },
    from: w.now() + at.from * HOUR,
    until: at.until ? w.now() + at.until * HOUR : null,
    note: 'The winter campaign',
  });
};
const set = (change: Change, actor = owner(), kind: PlanKind = 'queue', id = QUEUE) => {
  const { revision, value } = now(kind, id);
  applyGathered(by(), actor, kind, id, revision, { ...value, ...change });
};
const hours = (n: number) => w.pass(n * 3600);
const familiar = (holdSeconds: number) => ({ familiar: { holdSeconds, days: 30 } });
const lines = () => s.plans.view(lead()).plans;
const at = (percent: number) => ({
  goals: { ...(now('queue', QUEUE).value.goals as object), chat: { percent, seconds: 45 } },
});
const goal = () => (now('queue', QUEUE).value.goals as { chat: { percent: number } }).chat.percent;

describe('what is gathered', () => {
  it('is taken back as it is by the act that applies it, whatever it is of', () => {
    s.roles.save(owner(), { id: null, revision: 0, name: 'Coach', rights: ['people.view'], teams: 'all' });
    for (const kind of PLAN_KINDS) {
      const ids = idsOf[kind]();
      expect(ids.length, kind).toBeGreaterThan(0);
      for (const id of ids) {
        const before = now(kind, id);
        applyGathered(by(), owner(), kind, id, before.revision, before.value);
        expect(partsOf(before.value, now(kind, id).value), `${kind} ${id}`).toEqual([]);
      }
    }
  });
  it('is told in the words of its page: no field’s own name, no id, no choice as it is kept', () => {
    const { say } = readerOf(w.db, owner());
    for (const kind of PLAN_KINDS)
      for (const id of idsOf[kind]()) {
        const { value } = now(kind, id);
        const told = describeDifferences({}, value, say).map(({ what, to }) => `${what}: ${to}`);
        const kept = [...told.join('\n').matchAll(KEPT_WORDS)].map(([word]) => word);
        expect([kind, id, kept]).toEqual([kind, id, []]);
      }
  });
  it('is copied whole: each table is a setting, or something that happened', () => {
    const tables = rows<{ name: string }>(
      w.db,
      "SELECT name FROM pragma_table_list WHERE type = 'table' AND name NOT LIKE 'sqlite_%'",
    ).map((t) => t.name);
    expect(SETTINGS_TABLES.filter((name) => !tables.includes(name))).toEqual([]);
    expect(tables.filter((name) => !SETTINGS_TABLES.includes(name)).sort()).toEqual(HAPPENED);
  });
});

describe('a draft', () => {
  const mine = { kind: 'queue', id: QUEUE, label: 'New hire', base: { name: 'New hire' }, revision: 1 };
  const ofLead = () => s.drafts.view(lead(), { kind: 'queue' }).drafts;
  it('is there after a start, for whoever made it and nobody else, until they forget it', () => {
    expect(s.drafts.keep(lead(), { ...mine, mine: { name: '' }, turn: 0 })).toEqual({ turn: 1 });
    s = w.restart();
    expect(ofLead()).toMatchObject([{ thingId: QUEUE, mine: { name: '' }, base: { name: 'New hire' } }]);
    expect(s.drafts.own(lead()).drafts).toMatchObject([{ kindName: 'queue', path: `/queues?queue=${QUEUE}` }]);
    expect(s.drafts.own(owner()).drafts).toEqual([]);
    s.drafts.drop(owner(), { kind: 'queue', id: QUEUE });
    expect(ofLead()).toHaveLength(1);
    s.drafts.drop(lead(), { kind: 'queue', id: QUEUE });
    expect(ofLead()).toEqual([]);
  });
  it('of another window is not written over unseen', () => {
    s.drafts.keep(lead(), { ...mine, mine: { name: 'A' }, turn: 0 });
    expect(codeOf(() => s.drafts.keep(lead(), { ...mine, mine: { name: 'B' }, turn: 0 }))).toBe('changed-meanwhile');
    expect(s.drafts.keep(lead(), { ...mine, mine: { name: 'B' }, turn: 1 })).toEqual({ turn: 2 });
    expect(ofLead()).toMatchObject([{ mine: { name: 'B' } }]);
  });
  it('takes the right to apply it, and is kept small', () => {
    expect(codeOf(() => s.drafts.keep(w.actor('Odile Karrow'), { ...mine, mine: {}, turn: 0 }))).toBe('not-allowed');
    expect(codeOf(() => s.drafts.keep(lead(), { ...mine, mine: { name: 'x'.repeat(1_100_000) }, turn: 0 }))).toBe(
      'not-valid',
    );
    expect(codeOf(() => s.drafts.keep(lead(), { ...mine, mine: 'a word', turn: 0 }))).toBe('not-valid');
  });
});

describe('a planned change', () => {
  it('comes at its instant and goes back at the other; what others changed in between stands', async () => {
    const before = goal();
    await plan({ ...at(95), ...familiar(33) }, { from: 2, until: 6 });
    expect(goal()).toBe(before);
    set({ name: 'New hire and trials' });
    hours(3);
    expect([goal(), now('queue', QUEUE).name]).toEqual([95, 'New hire and trials']);
    expect(lines()).toMatchObject([{ state: 'on', thing: 'New hire and trials', by: 'Noor Amsel' }]);
    // Somebody sets one of its places while it is on: that is theirs from then on.
    set(familiar(77));
    hours(4);
    expect([goal(), now('queue', QUEUE).name]).toEqual([before, 'New hire and trials']);
    expect(now('queue', QUEUE).value.familiar).toEqual({ holdSeconds: 77, days: 30 });
    expect(lines()).toMatchObject([{ state: 'done', reason: null }]);
  });
  it('goes over what somebody set in between, and says beforehand that it will', async () => {
    await plan(at(95), { from: 2 });
    set(at(70));
    expect(lines()).toMatchObject([{ goesOver: 1 }]);
    hours(3);
    expect(goal()).toBe(95);
  });
  it('comes and goes while nobody runs it, in its order, at the next start', async () => {
    const before = goal();
    await plan(at(95), { from: 1, until: 2 });
    await plan(at(60), { from: 3 });
    s = w.restart();
    w.pass(10 * 3600);
    s.timers.runDue();
    expect(lines().map((p) => p.state)).toEqual(['done', 'done']);
    expect(goal()).toBe(60);
    const seen = s.history.view(owner(), { kind: 'queue' }).lines.map((l) => l.changes[0]?.to);
    expect(seen).toEqual(['60', String(before), '95']);
  });
  it('is called off before it begins, ended while it is on, forgotten when it is over', async () => {
    const before = goal();
    const { id } = await plan(at(95), { from: 1, until: 9 });
    s.plans.callOff(lead(), { id });
    hours(2);
    expect([lines(), goal()]).toEqual([[], before]);
    const later = await plan(at(95), { from: 1, until: 9 });
    hours(2);
    expect(goal()).toBe(95);
    s.plans.callOff(owner(), later);
    expect([lines()[0]?.state, goal()]).toEqual(['done', before]);
    hours(9);
    expect(goal()).toBe(before);
    s.plans.callOff(lead(), later);
    expect(lines()).toEqual([]);
    expect(codeOf(() => s.plans.callOff(lead(), later))).toBe('not-found');
    expect(s.history.view(owner(), { kind: 'plan' }).lines.map((l) => l.did)).toEqual(['added', 'removed', 'added']);
  });
  it('that is refused on its day says why and changes nothing, and the others go on', async () => {
    const [first] = readAllHours(w.db);
    const { id } = s.hours.save(owner(), { ...hoursBody(), id: null, revision: 0, name: 'Fair hours' });
    await plan({ hoursId: id }, { from: 1 });
    await plan(at(95), { from: 1 });
    s.hours.remove(owner(), { id });
    hours(2);
    expect(lines().map(({ state, reason }) => [state, reason])).toContainEqual([
      'failed',
      'New hire: its hours are not known.',
    ]);
    expect(goal()).toBe(95);
    expect(now('queue', QUEUE).value.hoursId).not.toBe(first?.id === id ? null : id);
    expect(s.toFix.view(lead()).findings.filter((f) => f.path === '/plans')).toMatchObject([{ weight: 'stops' }]);
  });
  it('takes the rights of whoever planned it when it begins, and ends without them', async () => {
    await plan(at(95), { from: 1, until: 5 });
    await plan(at(40), { from: 9 });
    hours(2);
    run(w.db, 'UPDATE people SET role_id = ? WHERE id = ?', 'agent', lead().personId);
    s = w.restart();
    const before = goal();
    hours(4);
    expect([before, goal()]).not.toContain(40);
    expect(goal()).not.toBe(before);
    hours(9);
    expect(s.plans.view(owner()).plans.map((p) => p.state)).toEqual(['failed', 'done']);
  });
  it('is checked against the settings of its day: with what is planned before it', async () => {
    const [a, b] = idsOf.queue();
    await plan({ name: 'Winter desk' }, { from: 1, until: 5 }, 'queue', a);
    const twin = (from: number) => codeIn(() => plan({ name: 'Winter desk' }, { from }, 'queue', b));
    expect(await twin(3)).toBe('not-valid');
    expect(await twin(6)).toBe('none');
    const { plans } = await s.plans.ahead(lead());
    expect(plans.map((p) => [p.refused, p.changes.map((c) => `${c.what} ${c.to}`)])).toEqual([
      [null, ['name Winter desk']],
      [null, ['name Winter desk']],
    ]);
    // Nothing of that was done here.
    expect(readQueues(w.db).map((q) => q.name)).not.toContain('Winter desk');
    expect(s.history.view(owner(), { kind: 'queue' }).lines).toEqual([]);
  });
  it('tells what will be to fix on its day', async () => {
    await plan({ hoursId: neverOpen() }, { from: 2 });
    const { plans } = await s.plans.ahead(lead());
    expect(plans[0]?.toFix.join()).toMatch(/New hire/);
  });
  it('is refused where it says nothing, begins in the past, ends too early, or was made over an older version', async () => {
    expect(await codeIn(() => plan({}, { from: 1 }))).toBe('not-valid');
    expect(await codeIn(() => plan(at(95), { from: -1 }))).toBe('not-valid');
    expect(await codeIn(() => plan(at(95), { from: 3, until: 2 }))).toBe('not-valid');
    expect(await codeIn(() => plan(at(95), { from: 30_000 }))).toBe('not-valid');
    expect(await codeIn(() => plan({ name: '' }, { from: 1 }))).toBe('not-valid');
    const { revision, value } = now('queue', QUEUE);
    set({ name: 'Other' });
    const old = {
      kind: 'queue',
      id: QUEUE,
      revision,
      value: { ...value, ...at(1) },
      from: w.now() + HOUR,
      until: null,
      note: '',
    };
    expect(await codeIn(() => s.plans.plan(lead(), old))).toBe('changed-meanwhile');
    expect(await codeIn(() => s.plans.plan(w.actor('Odile Karrow'), old))).toBe('not-allowed');
  });
});

const hoursBody = () => {
  const { zone, weekly, exceptions } = readAllHours(w.db)[0] ?? { zone: 'UTC', weekly: [], exceptions: [] };
  return { zone, weekly, exceptions };
};
const neverOpen = () =>
  s.hours.save(owner(), { id: null, revision: 0, name: 'Never', zone: 'UTC', weekly: [], exceptions: [] }).id;

/** What queues refer to, and may be removed from under them. */
const ELSE = [
  ['group', 'group_help'],
  ['group', 'group_bench'],
  ['partner', 'partner_bench'],
  ['skill', 'skill_triage'],
  ['skill', 'skill_fr'],
  ['field', 'field_school'],
] as const;

describe('any order of changes, plans, removing and undoing', () => {
  const act = fc.oneof(
    fc.record({ does: fc.constant('set' as const), percent: fc.integer({ min: 1, max: 99 }), queue: fc.nat(3) }),
    fc.record({
      does: fc.constant('plan' as const),
      percent: fc.integer({ min: 1, max: 99 }),
      queue: fc.nat(3),
      from: fc.integer({ min: 1, max: 5 }),
      lasts: fc.option(fc.integer({ min: 1, max: 5 })),
    }),
    fc.record({ does: fc.constant('rename' as const), queue: fc.nat(3), name: fc.constantFrom('A', 'B') }),
    fc.record({ does: fc.constant('undo' as const) }),
    fc.record({ does: fc.constant('add' as const) }),
    fc.record({ does: fc.constant('remove' as const), queue: fc.nat(9) }),
    fc.record({ does: fc.constant('remove-else' as const), which: fc.nat(ELSE.length - 1) }),
    fc.record({ does: fc.constant('bring-back' as const) }),
    fc.record({ does: fc.constant('call-off' as const), which: fc.nat(3) }),
    fc.record({ does: fc.constant('pass' as const), hours: fc.integer({ min: 1, max: 4 }) }),
    fc.record({ does: fc.constant('start' as const) }),
  );
  it(
    'leaves settings that are accepted as they are, told in History, and no plan hanging',
    { timeout: 300_000 },
    async () => {
      await fc.assert(
        fc.asyncProperty(fc.array(act, { minLength: 3, maxLength: 12 }), async (acts) => {
          const mine = makeWorld();
          const [kept, keptServices] = [w, s];
          [w, s] = [mine, mine.services];
          try {
            const queue = (n: number) => idsOf.queue()[n] ?? QUEUE;
            const chat = (n: number, percent: number) => ({
              goals: { ...(now('queue', queue(n)).value.goals as object), chat: { percent, seconds: 45 } },
            });
            for (const a of acts) {
              if (a.does === 'set') set(chat(a.queue, a.percent), owner(), 'queue', queue(a.queue));
              if (a.does === 'plan')
                await plan(
                  chat(a.queue, a.percent),
                  { from: a.from, until: a.lasts === null ? null : a.from + a.lasts },
                  'queue',
                  queue(a.queue),
                ).catch(refusedInWords);
              if (a.does === 'rename')
                await Promise.resolve()
                  .then(() => set({ name: a.name }, owner(), 'queue', queue(a.queue)))
                  .catch(refusedInWords);
              if (a.does === 'undo') {
                const last = s.history.view(owner(), {}).lines.find((l) => l.canUndo);
                if (last)
                  await Promise.resolve()
                    .then(() => s.history.undo(owner(), { id: last.id }))
                    .catch(refusedInWords);
              }
              if (a.does === 'add') {
                // Another queue, that others lead to.
                const { goals: _g, ...like } = now('queue', QUEUE).value;
                const name = `Practice ${idsOf.queue().length}`;
                const added = await Promise.resolve()
                  .then(() =>
                    s.queues.save(owner(), {
                      id: null,
                      revision: 0,
                      settings: { ...like, goals: {}, clocks: {}, name },
                    }),
                  )
                  .catch(refusedInWords);
                if (added)
                  set({ entryRules: [{ if: { when: 'nobody' }, then: { to: 'queue', queueId: added.id } }] }, owner());
              }
              if (a.does === 'remove') {
                const id = idsOf.queue()[a.queue];
                if (id)
                  await s.removing
                    .remove(owner(), { kind: 'queue', id, instead: idsOf.queue().find((q) => q !== id) ?? null })
                    .catch(refusedInWords);
              }
              if (a.does === 'remove-else') {
                const [kind, id] = ELSE[a.which] ?? ELSE[0];
                await s.removing.remove(owner(), { kind, id, instead: null }).catch(refusedInWords);
              }
              if (a.does === 'bring-back') {
                const [last] = s.removing.retired(owner()).retired;
                if (last)
                  await Promise.resolve()
                    .then(() => s.removing.bringBack(owner(), { kind: last.kind, id: last.id }))
                    .catch(refusedInWords);
              }
              if (a.does === 'call-off') {
                const one = lines()[a.which];
                if (one) s.plans.callOff(lead(), { id: one.id });
              }
              if (a.does === 'pass') hours(a.hours);
              if (a.does === 'start') s = w.restart();
            }
            hours(24);
            for (const id of idsOf.queue()) {
              const { revision, value } = now('queue', id);
              applyGathered(by(), owner(), 'queue', id, revision, value);
            }
            expect(lines().map((p) => p.state)).not.toContain('planned');
            expect(lines().map((p) => p.state)).not.toContain('on');
            expect(rows(w.db, "SELECT 1 FROM timers WHERE kind LIKE 'plan-%'")).toEqual([]);
            for (const line of s.history.view(owner(), { kind: 'queue' }).lines)
              expect(line.changes.map((c) => c.what).join()).not.toMatch(/queue_|undefined/);
          } finally {
            w.close();
            [w, s] = [kept, keptServices];
          }
        }),
        { numRuns: process.env.LANE_TESTS === 'long' ? 200 : 12 },
      );
    },
  );
  const refusedInWords = (error: unknown): undefined => {
    if (!(error instanceof LaneError)) throw error;
    return undefined;
  };
});

/** Names as code has them: camels, ids of ours, and choices of two words with a hyphen. */
const KEPT_WORDS =
  /\b[a-z]+[A-Z]\w*|\b(queue|skill|group|partner|hours|bot|door|profile|person|team|role|site)_\w+|\b(longest-idle|lightest-load|fewest-\w+|highest-level|closest-level|share-by-weight|in-turn|up-to|ring-all|one-by-one|all-at-once|first-words|add-\w+)\b|\b[a-z]+\.(view|change|publish|export|import|coach|work)\b/g;

/** Tables of what happened, and of what no check looks at; a new table is one of these or a setting. */
const HAPPENED: readonly string[] = [
  'article_questions',
  'bot_places',
  'callbacks',
  'coach_draws',
  'coach_notes',
  'coach_ratings',
  'connector_secrets',
  'contact_summaries',
  'contact_values',
  'contacts',
  'customer_blocks',
  'customer_hints',
  'customer_notes',
  'customer_stands',
  'customer_ties',
  'customers',
  'decisions',
  'done_acts',
  'door_keys',
  'drafts',
  'earlier_tokens',
  'erasures',
  'events',
  'fact_columns',
  'fact_days',
  'fact_rollups',
  'floor_clock',
  'given_numbers',
  'history',
  'images',
  'invitations',
  'leg_fronts',
  'legs',
  'messages',
  'offers',
  'outbox',
  'outside_messages',
  'own_replies',
  'packed_contacts',
  'pages',
  'partner_calls',
  'pass_notes',
  'passed_fields',
  'password_links',
  'past_chunks',
  'past_contacts',
  'past_imports',
  'past_names',
  'past_states',
  'person_states',
  'press_lines',
  'presses',
  'private_values',
  'router_memory',
  'sessions',
  'sounds',
  'stock_uses',
  'taken_from',
  'team_spells',
  'timers',
  'trail_people',
  'unheard',
  'visits',
];
