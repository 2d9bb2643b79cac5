import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import Ajv from 'ajv/dist/2020';
import { describe, expect, it } from 'vitest';
import { runOnce } from '../../core/rehearsal/run';
import { estimate, studentT975, summarise } from '../../core/rehearsal/result';
import { readScenario } from './scenarioschema';

const formats = join(import.meta.dirname, '../../../docs/formats');
const json = (name: string) => JSON.parse(readFileSync(join(formats, name), 'utf8')) as Record<string, unknown>;
const valid = new Ajv({ strict: false, formats: { 'date-time': true } }).compile(
  json('rehearsal-scenario.schema.json'),
);
const example = json('rehearsal-example.json');
const withPart = (change: Record<string, unknown>) => ({ ...structuredClone(example), ...change });
const arrivals = (change: object) => withPart({ arrivals: [{ ...(example.arrivals as object[])[0], ...change }] });

describe('a rehearsal scenario', () => {
  it('the example is one, by the published schema and by the reader, and runs', () => {
    expect([valid(example), valid.errors]).toEqual([true, null]);
    const scenario = readScenario(example);
    expect(scenario.arrivals[1]?.rates[0]?.perHour).toBe(40);
    const result = summarise(
      scenario,
      [0, 1].map((run) => runOnce(scenario, run)),
    );
    expect(result.queues.map((q) => `${q.queue} ${q.channel}`)).toEqual([
      'billing chat',
      'billing voice',
      'repairs voice',
    ]);
    expect(result.queues[2]?.handled.mean).toBeGreaterThan(80);
  });
  it.each([
    ['another format', withPart({ format: 'other' })],
    ['another version', withPart({ version: 2 })],
    ['no length', withPart({ lengthSeconds: 0 })],
    ['no queue', withPart({ queues: [] })],
    ['an unknown name', withPart({ surprise: 1 })],
    ['a channel that is none', arrivals({ channel: 'fax' })],
    ['a duration that is none', arrivals({ handle: { kind: 'gamma', mean: 3 } })],
    ['a negative rate', arrivals({ rates: [{ fromSeconds: 0, toSeconds: 9, perHour: -1 }] })],
    ['a picking order that is none', withPart({ queues: [{ id: 'repairs', order: ['best'] }, { id: 'billing' }] })],
    ['a level of 6', withPart({ pools: [{ id: 'p', skills: { triage: 6 }, duty: [] }] })],
    [
      'a stage that does nothing',
      withPart({
        queues: [{ id: 'repairs', clocks: { voice: [{ atSeconds: 5, early: false, acts: [] }] } }, { id: 'billing' }],
      }),
    ],
  ])('%s is refused by both', (_what, scenario) => {
    expect(valid(scenario)).toBe(false);
    expect(() => readScenario(scenario)).toThrow(expect.objectContaining({ code: 'not-valid' }) as Error);
  });
  it.each([
    ['a queue that is not there', arrivals({ queue: 'nowhere' })],
    ['a warm-up as long as the whole', withPart({ warmUpSeconds: 14_400 })],
  ])('%s is refused by the reader', (_what, scenario) => {
    expect(() => readScenario(scenario)).toThrow(expect.objectContaining({ code: 'not-valid' }) as Error);
  });
});

describe('a figure over runs', () => {
  it.each([
    [1, 12.7062],
    [2, 4.3027],
    [4, 2.7764],
    [9, 2.2622],
    [19, 2.093],
    [29, 2.0452],
    [120, 1.9799],
  ])('Student’s t with %i degrees of freedom is %f', (n, t) => expect(studentT975(n)).toBeCloseTo(t, 3));
  it('has an interval from two runs on', () => {
    expect(estimate([])).toEqual({ mean: null, low: null, high: null, standardError: null });
    expect(estimate([3])).toEqual({ mean: 3, low: null, high: null, standardError: null });
    expect(estimate([1, 3, null])).toMatchObject({ mean: 2, standardError: 1 });
  });
});
