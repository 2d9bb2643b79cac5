import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { localTime } from '../../src/core/hours/weekly';
import { weekdayOf } from '../../src/core/hours/dates';
import { readOutside } from '../../src/data/outside';
import type { MailingView } from '../../src/services/review/mailedviews';
import { nextMail } from '../../src/services/review/mailedviews';
import { threeWeeks, writePast } from '../helpers/past';
import { codeOf, makeWorld, type World } from '../helpers/world';

const [NOOR, BERTIL, TAMSIN] = ['person_02', 'person_03', 'person_04'];
const HOUR = 3600;
let w: World;
beforeEach(() => {
  w = makeWorld();
  writePast(w.db, threeWeeks('2026-10-26', 'Europe/Dublin', 'queue_newhire', ['person_05', 'person_04']));
});
afterEach(() => w.close());
const lead = () => w.actor('Noor Amsel');
const keep = (path = '/review', asked = 'from=2026-11-02&to=2026-11-08') =>
  (w.services.act('keep-view', lead(), { name: 'Mornings', forAll: false, path, asked }) as { id: string }).id;
const mail = (id: string, days: string | null, personIds: string[]) =>
  w.services.act('mail-view', lead(), { id, days, personIds });
const mailed = () => readOutside(w.db, 50).map((m) => ({ to: m.address, subject: m.subject, body: m.body }));
/** Until whatever is being read has been mailed. */
const settled = () => new Promise((resume) => setTimeout(resume, 30));
async function pass(seconds: number): Promise<void> {
  w.pass(seconds);
  await settled();
}

describe('a kept view that is mailed', () => {
  it('comes each morning at seven, to each what they may see, once', async () => {
    const id = keep();
    mail(id, 'daily', [NOOR, BERTIL]);
    expect(w.services.read('view-mailing', lead(), { id })).toMatchObject({
      days: 'daily',
      personIds: [NOOR, BERTIL],
    } satisfies Partial<MailingView>);
    await pass(24 * HOUR);
    const first = mailed();
    expect(first.map((m) => m.to).sort()).toEqual([
      'bertil.achterberg@brindlewood.example',
      'noor.amsel@brindlewood.example',
    ]);
    const noors = first.find((m) => m.to.startsWith('noor'));
    expect(noors?.subject).toBe('Mornings: 2026-11-02 to 2026-11-08');
    expect(noors?.body).toMatch(/Contacts: 242 \(before 200\)/);
    expect(noors?.body).toContain('/review?from=2026-11-02&to=2026-11-08');
    await pass(HOUR);
    expect(mailed()).toHaveLength(2);
    await pass(24 * HOUR);
    expect(mailed()).toHaveLength(4);
    mail(id, null, []);
    await pass(48 * HOUR);
    expect(mailed()).toHaveLength(4);
  });
  it('of a list has a line for each, and of one thing its figures', async () => {
    mail(keep('/review/queues'), 'daily', [NOOR]);
    await pass(24 * HOUR);
    expect(mailed()[0]?.body).toMatch(/New hire: offered 242, answered in goal/);
    mail(keep('/review/people/person_05'), 'daily', [NOOR]);
    await pass(24 * HOUR);
    expect(mailed()[0]?.subject).toBe('Mornings: Odile Karrow, 2026-11-02 to 2026-11-08');
  });
  it('what was due when the process died is mailed after the next start, and to nobody twice', async () => {
    const id = keep();
    mail(id, 'daily', [NOOR, BERTIL]);
    let reads = 0;
    // The second reading never comes back: the process is gone by then.
    const hanging = makeHanging(() => ++reads > 1);
    hanging.timers.runDue();
    w.at(w.now() + 24 * HOUR * 1000);
    hanging.timers.runDue();
    await settled();
    expect(mailed()).toHaveLength(1);
    w.restart().review.resumeMails();
    await settled();
    expect(mailed()).toHaveLength(2);
    w.restart().review.resumeMails();
    await settled();
    expect(mailed()).toHaveLength(2);
  });
  it('goes to people who may open Review, and is one’s own', () => {
    const id = keep();
    expect(codeOf(() => mail(id, 'daily', [TAMSIN]))).toBe('not-valid');
    expect(codeOf(() => mail(id, 'hourly', [NOOR]))).toBe('not-valid');
    expect(
      codeOf(() => w.services.act('mail-view', w.actor('Bertil Achterberg'), { id, days: 'daily', personIds: [] })),
    ).toBe('not-found');
  });
  it('is mailed no longer when it is forgotten', async () => {
    const id = keep();
    mail(id, 'daily', [NOOR]);
    w.services.act('drop-view', lead(), { id });
    await pass(48 * HOUR);
    expect(mailed()).toEqual([]);
  });
  it('the next morning is at seven by the workspace’s clock, whatever the clocks do, and a Monday where it should be', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: Date.UTC(2026, 0, 1), max: Date.UTC(2027, 0, 1) }),
        fc.constantFrom('Europe/Dublin', 'America/St_Johns', 'Pacific/Auckland', 'UTC'),
        fc.constantFrom('daily' as const, 'monday' as const),
        (at, zone, days) => {
          const next = nextMail(at, days, zone);
          expect(next.at).toBeGreaterThan(at);
          expect(localTime(next.at, zone)).toBe(`${next.day}T07:00`);
          if (days === 'monday') expect(weekdayOf(next.day)).toBe(1);
          expect(next.at - at).toBeLessThanOrEqual((days === 'daily' ? 25 : 7 * 24 + 1) * HOUR * 1000);
        },
      ),
    );
  });
});

/** The same workspace, of which some readings never end. */
function makeHanging(hangs: () => boolean) {
  const { reading } = w.services;
  return w.restart({
    reading: ((name, actor, asked, signal) =>
      name === 'view-text' && hangs()
        ? new Promise(() => undefined)
        : reading(name, actor, asked, signal)) as typeof reading,
  });
}

describe('the view with which Review begins', () => {
  it('is each reader’s own choice, until it is forgotten', () => {
    const id = keep();
    const first = (who = lead()) => w.services.review.firstView(who);
    expect(first()).toBeNull();
    w.services.act('begin-with-view', lead(), { id });
    expect(first()).toBe('/review?from=2026-11-02&to=2026-11-08');
    expect(first(w.actor('Nell Ashgrove'))).toBeNull();
    // A view of somebody's own is no choice of others.
    expect(codeOf(() => w.services.act('begin-with-view', w.actor('Bertil Achterberg'), { id }))).toBe('not-found');
    w.services.act('begin-with-view', lead(), { id: null });
    expect(first()).toBeNull();
    w.services.act('begin-with-view', lead(), { id });
    w.services.act('drop-view', lead(), { id });
    expect(first()).toBeNull();
  });
});
