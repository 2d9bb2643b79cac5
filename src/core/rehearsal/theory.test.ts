import { describe, expect, it } from 'vitest';
import { sized } from '../../../tests/helpers/size';
import { arrivalsOf, AT_ONCE, exponential, poolOf, queueOf, scenarioOf } from '../../../tests/helpers/scenarios';
import { summarise, type Estimate, type RehearsalResult } from './result';
import { runOnce } from './run';
import type { Scenario } from './scenario';

/**
 * The simulator against closed forms. λ arrivals and μ services a second, n servers, a = λ/μ, ρ = a/n, θ the rate of
 * patience. Each figure must be within 3.5 standard errors of theory at a standard error of at most 1%; seeds are
 * fixed. A smaller size runs a shorter time, and is allowed the larger error that comes of it.
 */
/** The share of the full length that a size must be worth; it runs half as long again, since an error is itself estimated. */
const LEAST = sized({ quick: 1 / 25, usual: 1 / 12, long: 1 });
const SHARE = Math.min(1, LEAST * 1.5);
const run = (whole: Scenario): RehearsalResult => {
  const scenario = { ...whole, lengthSeconds: Math.round(whole.lengthSeconds * SHARE) };
  return summarise(
    scenario,
    Array.from({ length: scenario.runs }, (_, i) => runOnce(scenario, i)),
  );
};
function agrees(what: string, found: Estimate | undefined, theory: number): void {
  const { mean, standardError } = found ?? {};
  if (mean === null || mean === undefined || standardError === null || standardError === undefined)
    throw new Error(`${what} was not measured`);
  expect(standardError / theory, `${what}: standard error`).toBeLessThanOrEqual(0.01 / Math.sqrt(LEAST));
  expect(Math.abs(mean - theory) / standardError, `${what}: ${mean} against ${theory}`).toBeLessThanOrEqual(3.5);
}

/** Erlang B by its recursion B(0) = 1, B(k) = aB(k−1) ÷ (k + aB(k−1)) (Erlang, 1917; recursion: Jagerman, 1974). */
function erlangB(n: number, a: number): number {
  let b = 1;
  for (let k = 1; k <= n; k++) b = (a * b) / (k + a * b);
  return b;
}
/**
 * Erlang C, the probability of waiting in M/M/n: B ÷ (1 − ρ(1 − B)) (Cooper, "Introduction to Queueing Theory",
 * 1981).
 */
function erlangC(n: number, a: number): number {
  const b = erlangB(n, a);
  return b / (1 - (a / n) * (1 - b));
}
/**
 * Erlang A (M/M/n+M; Palm, 1957): the birth and death chain solved state by state. A contact with j ahead of it in
 * line and n busy is served when all j + 1 departures before it come before its own patience ends; each such step
 * lasts 1 ÷ (nμ + (i + 1)θ) whichever of the two it is (Mandelbaum and Zeltyn, 2007).
 */
function erlangA(n: number, lambda: number, mu: number, theta: number) {
  const states = [1];
  for (let k = 1; k < n + 4000; k++)
    states.push(((states[k - 1] ?? 0) * lambda) / (Math.min(k, n) * mu + Math.max(0, k - n) * theta));
  const total = states.reduce((s, p) => s + p, 0);
  let [waits, servedNow, servedLater, waitServed] = [0, 0, 0, 0];
  states.forEach((weight, k) => {
    const p = weight / total;
    if (k < n) {
      servedNow += p;
      return;
    }
    waits += p;
    let [survives, time] = [1, 0];
    for (let i = k - n; i >= 0; i--) {
      const all = n * mu + (i + 1) * theta;
      survives *= (n * mu + i * theta) / all;
      time += 1 / all;
    }
    servedLater += p * survives;
    waitServed += p * survives * time;
  });
  const busy = states.reduce((s, weight, k) => s + (weight / total) * Math.min(k, n), 0);
  return {
    waits,
    gaveUp: 1 - servedNow - servedLater,
    speed: waitServed / (servedNow + servedLater),
    occupancy: busy / n,
  };
}

describe('the simulator agrees with theory', () => {
  it('Erlang B: nobody waits', () => {
    const [n, perHour, handle] = [12, 180, 200];
    const a = (perHour / 3600) * handle;
    const result = run(
      scenarioOf({
        runs: 20,
        lengthSeconds: 400_000,
        warmUpSeconds: 4_000,
        pools: [poolOf('p', n)],
        arrivals: [arrivalsOf(perHour, exponential(handle), { patience: { kind: 'fixed', seconds: 0 } })],
      }),
    );
    agrees('blocked', result.queues[0]?.gaveUpShare, erlangB(n, a));
    agrees('occupancy', result.pools[0]?.occupancy, (a * (1 - erlangB(n, a))) / n);
  });
  it('Erlang B holds whatever the shape of the handle time', () => {
    const [n, perHour] = [6, 120];
    const a = (perHour / 3600) * 150;
    const result = run(
      scenarioOf({
        runs: 20,
        lengthSeconds: 400_000,
        pools: [poolOf('p', n)],
        arrivals: [
          arrivalsOf(
            perHour,
            { kind: 'log-normal', mean: 150, variation: 0.8 },
            { patience: { kind: 'fixed', seconds: 0 } },
          ),
        ],
      }),
    );
    agrees('blocked', result.queues[0]?.gaveUpShare, erlangB(n, a));
  });
  it('Erlang C: everybody waits as long as it takes', () => {
    const [n, perHour, handle] = [3, 30.6, 200];
    const lambda = perHour / 3600;
    const mu = 1 / handle;
    const c = erlangC(n, lambda / mu);
    const result = run(
      scenarioOf({
        runs: 24,
        lengthSeconds: 6_500_000,
        warmUpSeconds: 20_000,
        pools: [poolOf('p', n)],
        arrivals: [arrivalsOf(perHour, exponential(handle))],
      }),
    );
    const lane = result.queues[0];
    agrees('waits', lane?.waitedShare, c);
    agrees('speed of answer', lane?.speedOfAnswer.mean, c / (n * mu - lambda));
    // P(W ≤ t) = 1 − C·e^−(nμ−λ)t
    agrees('service level', lane?.serviceLevel, 1 - c * Math.exp(-(n * mu - lambda) * 20));
    agrees('occupancy', result.pools[0]?.occupancy, lambda / mu / n);
    agrees('load used', result.pools[0]?.loadUsed, lambda / mu / n);
  });
  it.each([
    [8, 162, 200, 150],
    [14, 260, 200, 300],
    [5, 150, 150, 60],
  ])('Erlang A with %i people, %i an hour, handle %i s, patience %i s', (n, perHour, handle, patience) => {
    const theory = erlangA(n, perHour / 3600, 1 / handle, 1 / patience);
    const result = run(
      scenarioOf({
        runs: 24,
        lengthSeconds: 500_000,
        warmUpSeconds: 5_000,
        pools: [poolOf('p', n)],
        arrivals: [arrivalsOf(perHour, exponential(handle), { patience: exponential(patience) })],
      }),
    );
    const lane = result.queues[0];
    agrees('waits', lane?.waitedShare, theory.waits);
    agrees('gave up', lane?.gaveUpShare, theory.gaveUp);
    agrees('speed of answer', lane?.speedOfAnswer.mean, theory.speed);
    agrees('occupancy', result.pools[0]?.occupancy, theory.occupancy);
  });
  // W₁ = C ÷ (nμ − λ₁), W₂ = C·nμ ÷ ((nμ − λ₁)(nμ − λ)) (Kella and Yechiali, 1985)
  it('two classes, the urgent ones first', () => {
    const [n, urgent, usual, handle] = [2, 10, 10, 200];
    const [l1, l, mu] = [urgent / 3600, (urgent + usual) / 3600, 1 / handle];
    const c = erlangC(n, l / mu);
    const result = run(
      scenarioOf({
        runs: 24,
        lengthSeconds: 9_000_000,
        warmUpSeconds: 20_000,
        queues: [queueOf('q'), queueOf('r')],
        pools: [poolOf('p', n, ['q', 'r'])],
        arrivals: [
          arrivalsOf(urgent, exponential(handle), { priority: 1 }),
          arrivalsOf(usual, exponential(handle), { queue: 'r' }),
        ],
      }),
    );
    agrees('urgent', result.queues.find((q) => q.queue === 'q')?.speedOfAnswer.mean, c / (n * mu - l1));
    agrees(
      'usual',
      result.queues.find((q) => q.queue === 'r')?.speedOfAnswer.mean,
      (c * n * mu) / ((n * mu - l1) * (n * mu - l)),
    );
  });
  it('several conversations per person wait like M/M/(people × conversations)', () => {
    const [people, each, perHour, handle] = [2, 2, 13.5, 600];
    const [servers, lambda, mu] = [people * each, perHour / 3600, 1 / handle];
    const c = erlangC(servers, lambda / mu);
    const result = run(
      scenarioOf({
        runs: 24,
        lengthSeconds: 14_000_000,
        warmUpSeconds: 30_000,
        pools: [
          poolOf('p', people, [], {
            duty: [{ queue: 'q', channel: 'chat', band: 1, delaySeconds: 0 }],
            load: { chat: { cost: 33, most: each } },
          }),
        ],
        arrivals: [arrivalsOf(perHour, exponential(handle), { channel: 'chat' })],
      }),
    );
    agrees('waits', result.queues[0]?.waitedShare, c);
    agrees('speed of answer', result.queues[0]?.speedOfAnswer.mean, c / (servers * mu - lambda));
    agrees('load used', result.pools[0]?.loadUsed, ((lambda / mu / people) * 33) / 100);
  });

  /**
   * Two skills. Specialists take A only and are preferred for it; generalists take both and prefer B (band 1). Every
   * contact gives up at θ. The chain over (specialists busy, generalists busy, A waiting, B waiting) is solved by
   * Gauss–Seidel sweeps.
   */
  function twoSkills(s: number, g: number, la: number, lb: number, mu: number, theta: number) {
    const most = 45;
    type State = readonly [number, number, number, number];
    const key = (x: State) => x.join();
    const flows = ([x, y, a, b]: State): [State, number][] => {
      const out: [State, number][] = [];
      if (x < s) out.push([[x + 1, y, a, b], la]);
      else if (y < g) out.push([[x, y + 1, a, b], la]);
      else if (a < most) out.push([[x, y, a + 1, b], la]);
      if (y < g) out.push([[x, y + 1, a, b], lb]);
      else if (b < most) out.push([[x, y, a, b + 1], lb]);
      if (x > 0) out.push([a > 0 ? [x, y, a - 1, b] : [x - 1, y, a, b], x * mu]);
      if (y > 0) out.push([b > 0 ? [x, y, a, b - 1] : a > 0 ? [x, y, a - 1, b] : [x, y - 1, a, b], y * mu]);
      if (a > 0) out.push([[x, y, a - 1, b], a * theta]);
      if (b > 0) out.push([[x, y, a, b - 1], b * theta]);
      return out;
    };
    const states: State[] = [];
    for (let x = 0; x <= s; x++)
      for (let y = 0; y <= g; y++)
        for (let a = 0; a <= (x === s && y === g ? most : 0); a++)
          for (let b = 0; b <= (y === g ? most : 0); b++) states.push([x, y, a, b]);
    const index = new Map(states.map((state, i) => [key(state), i]));
    const into: [number, number][][] = states.map(() => []);
    const leave = states.map(() => 0);
    states.forEach((state, i) =>
      flows(state).forEach(([to, rate]) => {
        leave[i] = (leave[i] ?? 0) + rate;
        into[index.get(key(to)) ?? 0]?.push([i, rate]);
      }),
    );
    const p = new Float64Array(states.length).fill(1 / states.length);
    for (let sweep = 0; sweep < 3000; sweep++) {
      let moved = 0;
      for (let i = 0; i < p.length; i++) {
        const next = (into[i] ?? []).reduce((sum, [from, rate]) => sum + (p[from] ?? 0) * rate, 0) / (leave[i] || 1);
        moved = Math.max(moved, Math.abs(next - (p[i] ?? 0)) / (next + 1e-12));
        p[i] = next;
      }
      const total = p.reduce((sum, v) => sum + v, 0);
      for (let i = 0; i < p.length; i++) p[i] = (p[i] ?? 0) / total;
      if (moved < 1e-9) break;
    }
    const mean = (of: (state: State) => number) => states.reduce((sum, state, i) => sum + (p[i] ?? 0) * of(state), 0);
    return {
      waitsA: mean(([x, y]) => (x === s && y === g ? 1 : 0)),
      waitsB: mean(([, y]) => (y === g ? 1 : 0)),
      gaveUpA: (theta * mean((x) => x[2])) / la,
      gaveUpB: (theta * mean((x) => x[3])) / lb,
      specialists: mean((x) => x[0]) / s,
      generalists: mean((x) => x[1]) / g,
    };
  }
  it('two skills: specialists and generalists', () => {
    const [s, g, perHourA, perHourB, handle, patience] = [4, 3, 72, 48, 200, 150];
    const theory = twoSkills(s, g, perHourA / 3600, perHourB / 3600, 1 / handle, 1 / patience);
    const need = (skillId: string) => [{ skillId, atLeast: 1 as const }];
    const result = run(
      scenarioOf({
        runs: 24,
        lengthSeconds: 700_000,
        queues: [queueOf('a', { needs: need('a'), order: ['highest-level'] }), queueOf('b', { needs: need('b') })],
        pools: [
          poolOf('specialist', s, ['a'], { skills: { a: 5 } }),
          poolOf('generalist', g, [], {
            skills: { a: 2, b: 2 },
            duty: [
              { queue: 'b', channel: 'voice', band: 1, delaySeconds: 0 },
              { queue: 'a', channel: 'voice', band: 2, delaySeconds: 0 },
            ],
          }),
        ],
        arrivals: [
          arrivalsOf(perHourA, exponential(handle), { queue: 'a', patience: exponential(patience) }),
          arrivalsOf(perHourB, exponential(handle), { queue: 'b', patience: exponential(patience) }),
        ],
      }),
    );
    const lane = (id: string) => result.queues.find((q) => q.queue === id);
    agrees('A waits', lane('a')?.waitedShare, theory.waitsA);
    agrees('B waits', lane('b')?.waitedShare, theory.waitsB);
    agrees('A gave up', lane('a')?.gaveUpShare, theory.gaveUpA);
    agrees('B gave up', lane('b')?.gaveUpShare, theory.gaveUpB);
    agrees('specialists', result.pools.find((p) => p.id === 'specialist')?.occupancy, theory.specialists);
    agrees('generalists', result.pools.find((p) => p.id === 'generalist')?.occupancy, theory.generalists);
  });
});

describe('a run', () => {
  const scenario = scenarioOf({
    runs: 1,
    lengthSeconds: 20_000,
    arrivals: [arrivalsOf(200, { kind: 'log-normal', mean: 180, variation: 0.7 }, { patience: exponential(120) })],
    pools: [poolOf('p', 9, ['q'], { answer: exponential(5), shifts: [{ fromSeconds: 0, toSeconds: 15_000 }] })],
  });
  it('is the same for the same seed, and another for another', () => {
    expect(runOnce(scenario, 3)).toEqual(runOnce(scenario, 3));
    expect(runOnce(scenario, 3)).not.toEqual(runOnce(scenario, 4));
  });
  it('nobody works outside their shift but to finish what they have', () => {
    for (const p of runOnce({ ...scenario, warmUpSeconds: 0 }, 0).people) {
      expect(p.onDuty).toBeGreaterThanOrEqual(15_000);
      expect(p.onDuty).toBeLessThan(20_000);
    }
  });
  it('takes listed arrivals, handle times and patience as they are', () => {
    const listed = scenarioOf({
      warmUpSeconds: 0,
      lengthSeconds: 100,
      pools: [poolOf('p', 1)],
      arrivals: [
        arrivalsOf(
          0,
          { kind: 'listed', seconds: [10, 20] },
          { rates: [], listed: [0, 1, 2, 3], patience: { kind: 'listed', seconds: [99, 99, 5, 99] } },
        ),
      ],
    });
    const lane = runOnce(listed, 0).lanes[0];
    expect([lane?.offered, lane?.handled, lane?.gaveUp]).toEqual([4, 3, 1]);
    expect([...(lane?.waits ?? [])]).toEqual([0, 9, 27]);
  });
  it('answers at once when nobody needs time to', () =>
    expect(
      summarise(scenario, [runOnce({ ...scenario, arrivals: [arrivalsOf(1, AT_ONCE)] }, 0)]).queues[0]?.speedOfAnswer
        .mean.mean ?? 0,
    ).toBeGreaterThan(0));
});
