import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { afterReport, afterSilence, type DeskReport, type Front, type InFront, SILENCE_MS } from './infront';

const report = fc.record({
  window: fc.constantFrom('a', 'b', 'c'),
  legId: fc.option(fc.constantFrom('one', 'two', 'three', 'four')),
  seen: fc.boolean(),
  focused: fc.boolean(),
  /** Real seconds since the report before. */
  after: fc.integer({ min: 0, max: 60 }),
});
/** Reports one after the other, on a floor whose clock runs `rate` times as fast. */
function all(reports: readonly (Omit<DeskReport, 'at'> & { readonly after: number })[], rate = 1) {
  let [now, real] = [null as InFront | null, 1_000_000];
  const fronts: Front[] = [];
  const each: { readonly at: number; readonly now: InFront | null }[] = [];
  for (const { after, ...said } of reports) {
    real += after * 1000;
    const step = afterReport(now, { ...said, at: { real, floor: real * rate } });
    now = step.now;
    if (step.ended) fronts.push(step.ended);
    each.push({ at: real, now });
  }
  const last = afterSilence(now, { real: real + SILENCE_MS + 1, floor: (real + SILENCE_MS + 1) * rate });
  expect(last.now).toBeNull();
  if (last.ended) fronts.push(last.ended);
  return { fronts, each, from: 1_000_000, to: real };
}
const seen = (legId: string | null, after: number, window = 'a', focused = true) => ({
  window,
  legId,
  seen: true,
  focused,
  after,
});
const seconds = (fronts: readonly Front[], legId: string) =>
  fronts.filter((f) => f.legId === legId).reduce((n, f) => n + (f.to.floor - f.from.floor) / 1000, 0);

describe('what is in front of somebody', () => {
  it('is at most one turn at any moment, and never more than the time that went by', () => {
    fc.assert(
      fc.property(fc.array(report, { maxLength: 60 }), fc.constantFrom(1, 30), (reports, rate) => {
        const { fronts, from, to } = all(reports, rate);
        const inOrder = [...fronts].sort((a, b) => a.from.real - b.from.real);
        inOrder.forEach((front, i) => {
          expect(front.to.real).toBeGreaterThan(front.from.real);
          expect(front.to.floor - front.from.floor).toBe((front.to.real - front.from.real) * rate);
          expect(front.from.real).toBeGreaterThanOrEqual(inOrder[i - 1]?.to.real ?? from);
          expect(front.to.real).toBeLessThanOrEqual(to);
        });
      }),
    );
  });
  it('is in the window that had the focus last, as long as it can be seen', () => {
    fc.assert(
      fc.property(fc.array(report, { maxLength: 60 }), (reports) => {
        const { each } = all(reports);
        each.forEach(({ now }, i) => {
          const said = reports[i];
          if (said?.seen && said.focused) expect(now).toMatchObject({ window: said.window, legId: said.legId });
          if (said && !said.seen) expect(now?.window).not.toBe(said.window);
        });
      }),
    );
  });
  it('four chats side by side share the time, and reading for four minutes and answering for seven is eleven', () => {
    const minute = (legId: string | null) => Array.from({ length: 4 }, (_, i) => seen(legId, i === 0 ? 0 : 15));
    const of = (legId: string | null, minutes: number) =>
      Array.from({ length: minutes }, () => [seen(legId, 15), ...minute(legId).slice(1)]).flat();
    // One is read, left open beside others for long, and answered.
    const { fronts } = all([seen('one', 0), ...of('one', 4), ...of('two', 30), ...of('one', 7), seen(null, 0)]);
    expect(seconds(fronts, 'one')).toBe(11 * 60 + 15 - 15);
    const four = all(
      [...Array(100).keys()].flatMap((i) => [seen(['one', 'two', 'three', 'four'][i % 4] ?? 'one', 15)]),
    );
    const sum = ['one', 'two', 'three', 'four'].reduce((n, leg) => n + seconds(four.fronts, leg), 0);
    expect(sum).toBe(99 * 15);
  });
  it('ends when it is hidden, and with its last word where nothing more is heard', () => {
    const hidden = all([seen('one', 0), seen('one', 15), { ...seen('one', 5), seen: false }, seen('two', 100)]);
    expect(seconds(hidden.fronts, 'one')).toBe(20);
    const silent = all([seen('one', 0), seen('one', 15), seen('one', 46)]);
    expect(silent.fronts.map((f) => (f.to.real - f.from.real) / 1000)).toEqual([15]);
  });
  it('another window that can be seen but has not the focus changes nothing', () => {
    const { fronts } = all([seen('one', 0), seen('two', 5, 'b', false), seen('one', 5), seen('two', 5, 'b', true)]);
    expect([seconds(fronts, 'one'), seconds(fronts, 'two')]).toEqual([15, 0]);
  });
});
