import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ChangesView } from '../../src/services/review/changes';
import type { ReasonContacts } from '../../src/services/review/reasoncontacts';
import { tooMany, type TwoView } from '../../src/services/review/two';
import type { PersonDayView, TimeUsedView } from '../../src/services/review/personday';
import { appendEvent, replayAll } from '../../src/data/events';
import { statesOf } from '../../src/data/personstates';
import { threeWeeks, writePast } from '../helpers/past';
import { makeWorld, type World } from '../helpers/world';

/** Three weeks of one queue before the world's Tuesday, with two missed Mondays in it. */
const RANGE = { from: '2026-11-09', to: '2026-11-15' };
let w: World;
let [one, two] = ['', ''];
const past = () => threeWeeks('2026-10-26', 'Europe/Dublin', 'queue_newhire', [one, two]);
beforeAll(() => {
  w = makeWorld();
  [one, two] = [w.actor('Odile Karrow').personId, w.actor('Tamsin Orrel').personId];
  writePast(w.db, past());
});
afterAll(() => w.close());
const lead = () => w.actor('Noor Amsel');
const ask = (name: Parameters<World['services']['reading']>[0], asked: object, who = lead()) =>
  w.services.reading(name, who, asked);

describe('what changed and what stands out', () => {
  it('the Monday that missed its goal is told with its hours, week after week; a week like the one before did not change', async () => {
    const { changes, standing, compared, days } = (await ask('review-changes', RANGE)) as ChangesView;
    expect([compared, days]).toEqual([7, 7]);
    expect(changes).toEqual([]);
    const peak = standing.find((s) => s.kind === 'peak');
    expect(peak).toMatchObject({ id: 'queue_newhire', name: 'New hire', weekday: 1, hours: { from: 10, to: 12 } });
    expect(peak?.count).toBe(50);
  });
  it('against a week without it, it is a change', async () => {
    const { changes } = (await ask('review-changes', { ...RANGE, against: '2026-10-26' })) as ChangesView;
    expect(changes.map((c) => c.measure)).toContain('service-level');
    expect(changes.every((c) => c.of !== 'person' || c.kind === 'people')).toBe(true);
  });
  it('days that are not over are left out, and weekdays without their like are said to be', async () => {
    const today = (await ask('review-changes', { from: '2026-11-17', to: '2026-11-17' })) as ChangesView;
    expect([today.compared, today.changes]).toEqual([0, []]);
    const other = (await ask('review-changes', { from: '2026-11-12', to: '2026-11-12' })) as ChangesView;
    expect([other.compared, other.alike]).toEqual([1, false]);
  });
  it('days that were not like others are left out, named, and like others again once they are not marked', async () => {
    const against = { ...RANGE, against: '2026-10-26' };
    const { id } = w.services.act('mark-days', lead(), {
      from: '2026-11-09',
      to: '2026-11-09',
      what: 'outage',
      words: 'The telephone exchange',
      queueIds: [],
    }) as { id: string };
    const marked = (await ask('review-changes', against)) as ChangesView;
    expect(marked.changes).toEqual([]);
    expect(marked.compared).toBe(6);
    expect(marked.marked.map((m) => m.words)).toEqual(['The telephone exchange']);
    w.services.act('unmark-days', lead(), { id });
    const again = (await ask('review-changes', against)) as ChangesView;
    expect([again.compared, again.marked]).toEqual([7, []]);
    expect(again.changes.map((c) => c.measure)).toContain('service-level');
    expect(() =>
      w.services.act('mark-days', lead(), {
        from: '2026-11-09',
        to: '2026-11-08',
        what: 'outage',
        words: 'x',
        queueIds: [],
      }),
    ).toThrow('before the first');
  });
  it('what touched some queues leaves the days of the others as they are', async () => {
    const against = { ...RANGE, against: '2026-10-26' };
    const mark = (queueIds: readonly string[]) =>
      w.services.act('mark-days', lead(), {
        from: '2026-11-09',
        to: '2026-11-09',
        what: 'situation',
        words: 'Bills went out twice',
        queueIds,
      });
    mark(['queue_billing']);
    const compared = async (more: object) => {
      const view = (await ask('review-changes', { ...against, ...more })) as ChangesView;
      return [view.compared, view.marked.flatMap((m) => m.queues)];
    };
    expect(await compared({})).toEqual([6, ['Billing']]);
    expect(await compared({ queue: 'queue_newhire' })).toEqual([7, []]);
    expect(await compared({ kind: 'queues', id: 'queue_newhire' })).toEqual([7, []]);
    expect(await compared({ queue: 'queue_newhire,queue_billing' })).toEqual([6, ['Billing']]);
    expect(() => mark(['queue_none'])).toThrow('no such queue');
  });
  it('whoever sees some teams only is told of their people alone', async () => {
    const { standing } = (await ask('review-changes', RANGE, w.actor('Bertil Achterberg'))) as ChangesView;
    expect(JSON.stringify(standing)).not.toContain('Tamsin');
  });
});

describe('two people', () => {
  it('why they differ sums to the difference of what they handled, and each reason has its contacts', async () => {
    const asked = { ...RANGE, kind: 'people', id: one, with: two };
    const view = (await ask('review-two', asked)) as TwoView;
    const week = past().filter((c) => c.at >= Date.parse('2026-11-09T00:00:00Z'));
    const of = (id: string) => week.filter((c) => c.personId === id).length;
    expect(view.why?.mine.contacts).toBe(of(one));
    expect(view.why?.theirs.contacts).toBe(of(two));
    const handled = view.figures.find((f) => f.one.id === 'handled');
    expect([handled?.one.value, handled?.other.value]).toEqual([of(one), of(two)]);
    const lines = [...(view.why?.lines ?? []), ...(view.why?.rest ?? [])];
    const difference = lines.reduce((n, l) => n + l.mine.contacts - l.theirs.contacts, 0);
    expect(difference).toBe(of(one) - of(two));
    expect(lines.map((l) => l.key).sort()).toEqual(['away', 'off-duty', 'skill skill_fr']);
    expect(lines.find((l) => l.key === 'skill skill_fr')?.words).toBe('does not meet French');
    for (const line of lines) {
      const found = (await ask('contacts-of-reason', { ...asked, reason: line.key })) as ReasonContacts;
      expect(found.lines.length + found.more).toBe(line.mine.contacts + line.theirs.contacts);
    }
  });
  it('beside the mean of the team, beside nobody yet, beside oneself, and beside somebody one may not see', async () => {
    const asked = { ...RANGE, kind: 'people', id: one };
    const team = (await ask('review-two', { ...asked, with: 'team' })) as TwoView;
    expect(((await ask('review-two', { ...asked, with: '' })) as TwoView).why).toBeNull();
    // Whom nobody of the team can be held against is not told to have taken nothing.
    expect([team.why, team.whyNot]).toEqual([null, 'Nobody else of the team took a contact in this range.']);
    expect([tooMany(20_000), tooMany(20_001)]).toEqual([false, true]);
    const refused = { code: 'not-found' };
    await expect(ask('review-two', { ...asked, with: one })).rejects.toMatchObject(refused);
    await expect(ask('review-two', { ...asked, with: two }, w.actor('Bertil Achterberg'))).rejects.toMatchObject(
      refused,
    );
  });
});

describe('a person’s day', () => {
  const [nine, noon] = ['2026-11-12T09:00:00Z', '2026-11-12T12:00:00Z'].map((at) => Date.parse(at)) as [number, number];
  it('shows their states, what they had open and what they did not take', async () => {
    const duty = (at: number, state: 'ready' | 'away' | 'off', reason: string | null) =>
      appendEvent(w.db, { type: 'person.duty', personId: one, duty: state, reason }, at, at);
    w.db.transaction(() => {
      duty(nine, 'ready', null);
      duty(noon, 'away', 'Lunch');
      duty(noon + 1_800_000, 'ready', null);
      duty(noon + 5 * 3_600_000, 'off', null);
    })();
    const asked = { from: '2026-11-12', to: '2026-11-12', kind: 'people', id: one };
    const day = (await ask('person-day', asked)) as PersonDayView;
    expect(day.states.filter((s) => s.duty !== 'off').map((s) => [s.duty, s.reason, s.from])).toEqual([
      ['ready', null, nine],
      ['away', 'Lunch', noon],
      ['ready', null, noon + 1_800_000],
    ]);
    expect(day.turns.length).toBe(
      past().filter((c) => c.personId === one && new Date(c.at).toISOString().startsWith('2026-11-12')).length,
    );
    const time = (await ask('time-used', asked)) as TimeUsedView;
    expect(time.uses.map((u) => u.use)).toEqual(['calls', 'ready', 'away Lunch']);
    expect(time.uses.find((u) => u.use === 'away Lunch')?.seconds).toBeLessThanOrEqual(1800);
    expect(time.days).toEqual([{ day: '2026-11-12', taken: day.turns.length, notTaken: 0 }]);
  });
  it('states made again from the log are the same', () => {
    const before = statesOf(w.db, one, nine - 1, noon + 86_400_000);
    replayAll(w.db);
    expect(statesOf(w.db, one, nine - 1, noon + 86_400_000)).toEqual(before);
  });
});
