import { describe, expect, it } from 'vitest';
import type { Hours } from '../hours/weekly';
import { NO_LIMITS } from '../routing/limits';
import { QUEUE_DEFAULTS, type QueueSettings } from '../routing/queue';
import { checkQueues, circleFrom, type QueueWorld } from './queuechecks';

const queue = (id: string, change: Partial<QueueSettings> = {}): QueueSettings => ({
  ...QUEUE_DEFAULTS,
  id,
  name: id.toUpperCase(),
  channels: ['voice', 'chat'],
  goals: { voice: { percent: 80, seconds: 20 } },
  ...change,
});
const SHOP: Hours = {
  id: 'shop',
  name: 'Shop',
  zone: 'UTC',
  weekly: [1, 2, 3, 4, 5].map((day) => ({ day, from: '09:00', to: '17:00' })),
  exceptions: [],
};
const LATE: Hours = { ...SHOP, id: 'late', name: 'Late' };
const NEVER: Hours = { ...SHOP, id: 'never', name: 'Never', weekly: [] };
const enough = [{ atSeconds: 0, asked: 5, skilled: 3, onDuty: 2, able: 1, busiest: 2 }];
const world = (change: Partial<QueueWorld> = {}): QueueWorld => ({
  queues: [],
  hours: [SHOP],
  groups: [],
  partners: [],
  doors: [],
  said: (q) => (q.clocks.voice ?? []).flatMap((s) => s.acts.flatMap((a) => (a.does === 'say' ? [a.wording] : []))),
  recorded: () => null,
  counts: () => enough,
  now: Date.UTC(2026, 10, 23, 10),
  ...change,
});
const ids = (change: Partial<QueueWorld>): string[] => checkQueues(world(change)).map((f) => `${f.weight} ${f.id}`);
const stage = (atSeconds: number, ...acts: NonNullable<QueueSettings['clocks']['voice']>[number]['acts']) => ({
  atSeconds,
  early: false,
  acts,
});
const saying = (...words: string[]) =>
  words.map((text) => ({ does: 'say' as const, wording: { en: text }, everySeconds: null }));
const fr = { skillId: 'fr', atLeast: 2 } as const;
const to = (queueId: string) => [{ if: { when: 'nobody' as const }, then: { to: 'queue' as const, queueId } }];
const group = (change: object = {}) => ({ id: 'g', name: 'Helpers', limits: NO_LIMITS, members: 3, ...change });
const desk = (change: object = {}) => ({
  ...{ id: 'p', name: 'P', hoursId: null, limits: NO_LIMITS, numbers: [] },
  ...change,
});

const door = (change: Partial<QueueWorld['doors'][number]> = {}) => ({
  ...{ id: 'd', name: 'D', hoursId: 'shop', channel: 'voice' as const, queueIds: [], bots: [], people: null },
  ...change,
});
/** Each check has a world that trips it and a near twin that does not. */
const CASES: readonly (readonly [string, Partial<QueueWorld>, Partial<QueueWorld>])[] = [
  [
    'stops queue|q|nobody-voice',
    { queues: [queue('q')], counts: (_q, c) => enough.map((x) => ({ ...x, skilled: c === 'voice' ? 0 : 3 })) },
    { queues: [queue('q')] },
  ],
  [
    'advice queue|q|late-voice',
    {
      queues: [queue('q')],
      counts: (_q, c) => [
        { ...(enough[0] as (typeof enough)[0]), skilled: c === 'voice' ? 0 : 3 },
        { ...(enough[0] as (typeof enough)[0]), atSeconds: 30 },
      ],
    },
    { queues: [queue('q')] },
  ],
  [
    'advice queue|q|idle-voice-60',
    {
      queues: [
        queue('q', {
          needs: [fr],
          clocks: {
            voice: [
              stage(30, { does: 'lower', skillId: 'fr', by: 2 }),
              stage(60, { does: 'lower', skillId: 'fr', by: 1 }),
            ],
          },
        }),
      ],
    },
    {
      queues: [
        queue('q', {
          needs: [fr],
          clocks: {
            voice: [
              stage(30, { does: 'lower', skillId: 'fr', by: 1 }),
              stage(60, { does: 'lower', skillId: 'fr', by: 1 }),
            ],
          },
        }),
      ],
    },
  ],
  [
    'advice queue|q|idle-voice-20',
    {
      queues: [
        queue('q', {
          needs: [{ ...fr, firm: true }],
          clocks: { voice: [stage(20, { does: 'lower', skillId: 'fr', by: 1 })] },
        }),
      ],
    },
    { queues: [queue('q', { needs: [fr], clocks: { voice: [stage(20, { does: 'lower', skillId: 'fr', by: 1 })] } })] },
  ],
  [
    'advice queue|q|early-voice-40',
    { queues: [queue('q', { clocks: { voice: [{ ...stage(40, { does: 'play', music: 'cello' }), early: true }] } })] },
    { queues: [queue('q', { clocks: { voice: [stage(40, { does: 'play', music: 'cello' })] } })] },
  ],
  [
    'advice queue|q|callback-voice-20',
    {
      queues: [
        queue('q', {
          clocks: {
            voice: [
              stage(20, { does: 'ask', wording: {}, choices: [{ key: '1', what: 'callback' }], everySeconds: null }),
            ],
          },
        }),
      ],
    },
    {
      queues: [
        queue('q', {
          clocks: {
            voice: [
              stage(30, { does: 'ask', wording: {}, choices: [{ key: '1', what: 'callback' }], everySeconds: null }),
            ],
          },
        }),
      ],
    },
  ],
  [
    'advice queue|q|after-voice-90',
    {
      queues: [
        queue('q', {
          clocks: {
            voice: [
              stage(60, { does: 'move', onward: { to: 'message', wording: {} } }),
              stage(90, { does: 'raise', by: 1 }),
            ],
          },
        }),
      ],
    },
    {
      queues: [
        queue('q', {
          clocks: {
            voice: [
              stage(60, { does: 'raise', by: 1 }),
              stage(90, { does: 'move', onward: { to: 'message', wording: {} } }),
            ],
          },
        }),
      ],
    },
  ],
  [
    'advice queue|q|wrap-up',
    { queues: [queue('q', { wrapUp: { seconds: 81, mayFinishEarly: false, needsOutcome: false } })] },
    { queues: [queue('q', { wrapUp: { seconds: 80, mayFinishEarly: false, needsOutcome: false } })] },
  ],
  [
    'advice queue|a|circle',
    { queues: [queue('a', { entryRules: to('b') }), queue('b', { entryRules: to('a') })] },
    { queues: [queue('a', { entryRules: to('b') }), queue('b')] },
  ],
  [
    'advice queue|q|closed-0',
    { queues: [queue('q', { entryRules: [{ if: { when: 'closed' }, then: { to: 'callback' } }] })] },
    { queues: [queue('q', { hoursId: 'shop', entryRules: [{ if: { when: 'closed' }, then: { to: 'callback' } }] })] },
  ],
  [
    'advice queue|a|channel-0',
    { queues: [queue('a', { entryRules: to('b') }), queue('b', { channels: ['voice'] })] },
    { queues: [queue('a', { entryRules: to('b') }), queue('b')] },
  ],
  [
    'advice queue|q|twice-1',
    {
      queues: [
        queue('q', {
          entryRules: [
            { if: { when: 'nobody' }, then: { to: 'callback' } },
            { if: { when: 'nobody' }, then: { to: 'message', wording: {} } },
          ],
        }),
      ],
    },
    {
      queues: [
        queue('q', {
          entryRules: [
            { if: { when: 'nobody' }, then: { to: 'callback' } },
            { if: { when: 'waiting', atLeast: 3 }, then: { to: 'message', wording: {} } },
          ],
        }),
      ],
    },
  ],
  [
    'stops queue|q|hours',
    { queues: [queue('q', { hoursId: 'never' })], hours: [SHOP, NEVER] },
    { queues: [queue('q', { hoursId: 'shop' })] },
  ],
  ['advice hours|never|never', { hours: [NEVER] }, {}],
  [
    'stops group|g|zero-perDay',
    { groups: [group({ limits: { ...NO_LIMITS, perDay: 0 } })] },
    { groups: [group({ limits: { ...NO_LIMITS, perDay: 1 } })] },
  ],
  ['stops group|g|empty', { groups: [group({ members: 0 })] }, { groups: [group()] }],
  [
    'advice group|g|unused',
    { groups: [group()] },
    {
      groups: [group()],
      queues: [queue('q', { clocks: { voice: [stage(30, { does: 'add-group', groupId: 'g' })] } })],
    },
  ],
  [
    'stops partner|p|zero-n-atOnce',
    { partners: [desk({ numbers: [{ id: 'n', name: 'N', limits: { ...NO_LIMITS, atOnce: 0 } }] })] },
    { partners: [desk({ numbers: [{ id: 'n', name: 'N', limits: { ...NO_LIMITS, atOnce: 1 } }] })] },
  ],
  [
    'stops partner|p|zero-perDay',
    { partners: [desk({ limits: { ...NO_LIMITS, perDay: 0 } })] },
    { partners: [desk({ limits: { ...NO_LIMITS, perDay: 1 } })] },
  ],
  [
    'stops partner|p|never',
    { hours: [NEVER], partners: [desk({ hoursId: NEVER.id })] },
    { hours: [NEVER], partners: [desk({ hoursId: null })] },
  ],
  [
    'stops door|d|never',
    {
      hours: [NEVER],
      doors: [door({ hoursId: 'never' })],
    },
    { doors: [door()] },
  ],
  // Dated in both; in another zone; on a day on which they are closed in any week; too far ahead.
  ...(
    [
      [{ ...LATE, exceptions: [{ date: '2026-12-08', note: '', intervals: [{ from: '09:00', to: '10:00' }] }] }],
      [{ ...LATE, zone: 'Europe/Madrid' }],
      [{ ...LATE, weekly: LATE.weekly.filter((w) => w.day !== 2) }],
      [LATE, Date.UTC(2026, 10, 7, 10)],
    ] as const
  ).map(([twin, now = Date.UTC(2026, 10, 23, 10)]): (typeof CASES)[number] => {
    const closed = { ...SHOP, exceptions: [{ date: '2026-12-08', note: 'Feast', intervals: [] }] };
    const doors = [door({ hoursId: 'late' })];
    return [
      'advice hours|late|dated-2026-12-08',
      { hours: [closed, LATE], doors },
      { hours: [closed, twin], doors, now },
    ];
  }),
  [
    'advice door|d|unpublished-B',
    {
      doors: [door({ bots: [{ when: 'When it is closed', name: 'B', live: false }] })],
    },
    {
      doors: [door({ bots: [{ when: 'When it is closed', name: 'B', live: true }] })],
    },
  ],
  [
    'advice queue|q|voices-en',
    {
      queues: [queue('q', { clocks: { voice: [stage(9, ...saying('Hello.', 'Bye.'))] } })],
      recorded: (_l, text) => (text === 'Hello.' ? { id: 's', seconds: 1 } : null),
    },
    {
      queues: [queue('q', { clocks: { voice: [stage(9, ...saying('Hello.', 'Bye.'))] } })],
      recorded: () => ({ id: 's', seconds: 1 }),
    },
  ],
  [
    'stops door|d|people',
    { doors: [door({ people: { named: 2, asked: 0, queue: 'Q' } })] },
    { doors: [door({ people: { named: 2, asked: 2, queue: 'Q' } })] },
  ],
  [
    'advice door|d|people',
    { doors: [door({ people: { named: 2, asked: 1, queue: 'Q' } })] },
    { doors: [door({ people: { named: 1, asked: 1, queue: 'Q' } })] },
  ],
  [
    'advice door|d|closed-q',
    {
      hours: [SHOP, { ...SHOP, id: 'short', weekly: [{ day: 2, from: '09:00', to: '12:00' }] }],
      queues: [queue('q', { hoursId: 'short' })],
      doors: [door({ queueIds: ['q'] })],
    },
    {
      queues: [queue('q', { hoursId: 'shop' })],
      doors: [door({ queueIds: ['q'] })],
    },
  ],
];

describe('what keeps contacts away, and advice', () => {
  it.each(CASES)('%s', (id, trips, twin) => {
    expect(ids(trips)).toContain(id);
    expect(ids(twin)).not.toContain(id);
  });
  it('a circle names the queues in order', () => {
    const [a, b, c] = [
      queue('a', { entryRules: to('b') }),
      queue('b', { entryRules: to('c') }),
      queue('c', { clocks: { voice: [stage(60, { does: 'move', onward: { to: 'queue', queueId: 'a' } })] } }),
    ];
    expect(circleFrom(a, new Map([a, b, c].map((q) => [q.id, q])))).toEqual(['a', 'b', 'c', 'a']);
  });
  it('a queue in order has no finding', () =>
    expect(
      ids({
        queues: [
          queue('q', {
            hoursId: 'shop',
            needs: [fr],
            clocks: {
              voice: [
                stage(
                  30,
                  { does: 'lower', skillId: 'fr', by: 1 },
                  { does: 'say', wording: { en: 'Thank you' }, everySeconds: 30 },
                ),
              ],
            },
          }),
        ],
      }),
    ).toEqual([]));
});
