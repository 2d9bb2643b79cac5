import { array, mixed, number, object, string } from 'yup';
import { CHANNELS } from '../../core/channels';
import { LaneError } from '../../core/errors';
import type { Duration, Scenario } from '../../core/rehearsal/scenario';
import { inOrder } from '../../core/routing/clock';
import { NO_LIMITS } from '../../core/routing/limits';
import { queueFrom } from '../../core/routing/queue';
import { queueSettingsShape, limitsSchema, insteadSchema } from '../queues/queueschema';
import { channel, exactly, id, needsSchema, oneOf, whole } from '../ground/schemas';
import { zone } from '../doors/hours';
import { allOrAbsent, orAbsent, orNull, perChannel, shaped } from '../ground/shaped';
import { parse } from '../ground/validate';

const positive = (label: string) => number().min(0, `${label} must not be below 0`).required(`${label} is missing`);
const durationSchema = shaped<Duration, 'kind'>(
  'kind',
  {
    exponential: { mean: positive('The mean') },
    'log-normal': {
      mean: positive('The mean').moreThan(0, 'The mean must be above 0'),
      variation: positive('The variation'),
    },
    fixed: { seconds: positive('The seconds') },
    listed: { seconds: array(positive('A listed duration')).min(1, 'List at least one duration').required() },
  },
  'The kind of a duration',
  {},
);
const loadSchema = exactly(object({ cost: whole(0, 100, 'The cost'), most: whole(0, 100, 'The most at once') }));
const scenarioSchema = exactly(
  object({
    format: string()
      .oneOf(['usher-lane/rehearsal-scenario'], 'The format must be usher-lane/rehearsal-scenario')
      .required('The format is missing'),
    version: number().oneOf([1], 'The version must be 1').required('The version is missing'),
    name: string().max(120).optional(),
    seed: whole(0, Number.MAX_SAFE_INTEGER, 'The seed').optional(),
    runs: whole(1, 10_000, 'The runs').optional(),
    lengthSeconds: positive('The length').moreThan(0, 'The length must be above 0'),
    warmUpSeconds: positive('The warm-up').optional(),
    zone: orAbsent(zone),
    startsAt: string().datetime('The start must be an instant like 2026-11-23T08:00:00Z').optional(),
    queues: array(exactly(object({ id: id('The queue’s id'), ...allOrAbsent(queueSettingsShape) })))
      .min(1, 'There must be a queue')
      .required('The queues are missing'),
    pools: array(
      exactly(
        object({
          id: id('The pool’s id'),
          size: whole(1, 10_000, 'The size').optional(),
          skills: mixed<Record<string, number>>()
            .optional()
            .test(
              'skills',
              'Skills must be levels 1 to 5 by skill',
              (v) =>
                v === undefined ||
                (typeof v === 'object' &&
                  v !== null &&
                  Object.values(v).every((l) => typeof l === 'number' && Number.isInteger(l) && l >= 1 && l <= 5)),
            ),
          duty: array(
            exactly(
              object({
                queue: id('The queue'),
                channel,
                band: whole(1, 5, 'The band').optional(),
                delaySeconds: whole(0, 86_400, 'The delay').optional(),
              }),
            ),
          ).required('The duty is missing'),
          load: orAbsent(perChannel(loadSchema, 'The load')),
          shifts: array(
            exactly(object({ fromSeconds: positive('The start'), toSeconds: positive('The end') })),
          ).optional(),
          answer: orAbsent(durationSchema),
        }),
      ),
    ).required('The pools are missing'),
    arrivals: array(
      exactly(
        object({
          queue: id('The queue'),
          channel,
          perHour: positive('The rate').optional(),
          rates: array(
            exactly(
              object({
                fromSeconds: positive('The start'),
                toSeconds: positive('The end'),
                perHour: positive('The rate'),
              }),
            ),
          ).optional(),
          listed: array(positive('A listed arrival')).optional(),
          needs: orAbsent(needsSchema),
          priority: whole(0, 99, 'The priority').optional(),
          handle: durationSchema,
          patience: orAbsent(orNull(durationSchema)),
        }),
      ),
    ).required('The arrivals are missing'),
    groups: array(
      exactly(
        object({
          id: id('The group’s id'),
          members: array(string().required()).required('The members are missing'),
          limits: orAbsent(limitsSchema),
          instead: orAbsent(insteadSchema),
          weights: mixed<Record<string, number>>().optional(),
        }),
      ),
    ).optional(),
    partners: array(
      exactly(
        object({
          id: id('The partner’s id'),
          way: oneOf<'one-by-one' | 'all-at-once'>(['one-by-one', 'all-at-once'], 'The way'),
          ringSeconds: whole(1, 600, 'The ring').optional(),
          countsFromSeconds: whole(0, 3600, 'From when it counts').optional(),
          limits: orAbsent(limitsSchema),
          numbers: array(exactly(object({ id: id('The number’s id'), limits: orAbsent(limitsSchema) })))
            .min(1)
            .required(),
          answer: orAbsent(durationSchema),
          handle: durationSchema,
        }),
      ),
    ).optional(),
  }),
);

const NONE: Duration = { kind: 'fixed', seconds: 0 };

/** Reads a scenario (already JSON) and fills in what was left out. Throws `not-valid` with what is wrong and where. */
export function readScenario(input: unknown): Scenario {
  const s = parse(scenarioSchema, input);
  const queues = s.queues.map((q) => {
    const full = queueFrom({ ...q, channels: q.channels ?? CHANNELS, name: q.name ?? q.id });
    return {
      ...full,
      hoursId: null,
      clocks: Object.fromEntries(Object.entries(full.clocks).map(([c, stages]) => [c, inOrder(stages ?? [])])),
    };
  });
  const ids = new Set(queues.map((q) => q.id));
  const refuse = (where: string, what: string): never => {
    throw new LaneError('not-valid', `${what}.`, [{ where, what }]);
  };
  if (ids.size !== queues.length) refuse('queues', 'Two queues have one id');
  s.pools.forEach((p, i) =>
    p.duty?.forEach((d) => {
      if (!ids.has(d.queue)) refuse(`pools[${i}].duty`, `There is no queue ${d.queue}`);
    }),
  );
  s.arrivals.forEach((a, i) => {
    if (!ids.has(a.queue)) refuse(`arrivals[${i}].queue`, `There is no queue ${a.queue}`);
  });
  if ((s.warmUpSeconds ?? 0) >= s.lengthSeconds) refuse('warmUpSeconds', 'The warm-up is as long as the whole');
  return {
    name: s.name ?? 'rehearsal',
    seed: s.seed ?? 1,
    runs: s.runs ?? 10,
    lengthSeconds: s.lengthSeconds,
    warmUpSeconds: s.warmUpSeconds ?? 0,
    zone: s.zone ?? 'UTC',
    startsAt: s.startsAt ? Date.parse(s.startsAt) : Date.UTC(2026, 0, 5),
    queues,
    pools: s.pools.map((p) => ({
      id: p.id,
      size: p.size ?? 1,
      skills: p.skills ?? {},
      duty: (p.duty ?? []).map((d) => ({
        queue: d.queue,
        channel: d.channel,
        band: d.band ?? 1,
        delaySeconds: d.delaySeconds ?? 0,
      })),
      load: p.load ?? {},
      shifts: p.shifts ?? [],
      answer: p.answer ?? NONE,
    })),
    arrivals: s.arrivals.map((a) => ({
      queue: a.queue,
      channel: a.channel,
      rates: a.rates ?? (a.perHour === undefined ? [] : [{ fromSeconds: 0, toSeconds: 1e12, perHour: a.perHour }]),
      listed: a.listed ?? [],
      needs: a.needs ?? [],
      priority: a.priority ?? 0,
      handle: a.handle,
      patience: a.patience ?? null,
    })),
    groups: (s.groups ?? []).map((g) => ({
      id: g.id,
      members: g.members ?? [],
      limits: g.limits ?? NO_LIMITS,
      instead: g.instead ?? [],
      weights: g.weights ?? {},
    })),
    partners: (s.partners ?? []).map((p) => ({
      id: p.id,
      way: p.way,
      ringSeconds: p.ringSeconds ?? 25,
      countsFromSeconds: p.countsFromSeconds ?? 0,
      limits: p.limits ?? NO_LIMITS,
      numbers: p.numbers.map((n) => ({ id: n.id, limits: n.limits ?? NO_LIMITS })),
      answer: p.answer ?? NONE,
      handle: p.handle,
    })),
  };
}
