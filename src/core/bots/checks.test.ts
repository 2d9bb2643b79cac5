import { describe, expect, it } from 'vitest';
import {
  callBack,
  choice,
  choose,
  end,
  hear,
  lookUp,
  NEXT,
  over,
  say,
  scriptOf,
  toLine,
  toScene,
} from '../../../tests/helpers/scripts';
import { checkBot, checkShared, mended } from './checks';
import { CHECKS, type Check, type CheckWorld } from './faults';
import type { Channel } from '../channels';
import type { Need } from '../routing/needs';
import type { BotScript, Step } from './model';

const queue = (
  name: string,
  more: Partial<CheckWorld['queues'] extends ReadonlyMap<string, infer Q> ? Q : never> = {},
) => ({
  name,
  channels: ['voice', 'chat', 'messaging', 'sms'] as const,
  able: (channel: Channel, needs: readonly Need[], groupId: string | null) =>
    groupId !== null || (channel !== 'sms' && needs.every((n) => n.atLeast < 5)),
  closedWhile: [],
  ...more,
});
const WORLD: CheckWorld = {
  recorded: () => null,
  queues: new Map([
    ['q', queue('Repairs')],
    ['fallback', queue('Front')],
    ['chat', queue('Chat only', { channels: ['chat'] })],
    ['nobody', queue('Empty', { able: () => false })],
    ['late', queue('Late', { closedWhile: ['Main number'] })],
  ]),
  channels: ['voice'],
  names: new Map([
    ['queue q', 'Repairs'],
    ['queue fallback', 'Front'],
    ['queue chat', 'Chat only'],
    ['queue nobody', 'Empty'],
    ['queue late', 'Late'],
    ['skill bow', 'Bowed'],
    ['connector c', 'Hire'],
    ['hours day', 'Day'],
    ['intent fix', 'Repair'],
    ['articles any', 'articles'],
    ['image label', 'a picture'],
  ]),
  shared: new Map(),
  fields: [
    { name: 'reason', label: 'Reason', shown: true, setElsewhere: false },
    { name: 'hidden', label: 'Hidden', shown: false, setElsewhere: true },
  ],
};
const es = (script: BotScript): BotScript => ({ ...script, languages: ['en', 'es'] });
const remember = (id: string, name: string, value = 'x', scope: 'scene' | 'conversation' = 'conversation'): Step => ({
  id,
  verb: 'remember',
  into: { name, scope },
  value,
});
const goTo = (id: string, lineId: string): Step => ({ id, verb: 'go-to', cue: toLine(lineId) });
const count = (id: string, queueId: string, figure: 'free' | 'onDuty' = 'free'): Step => ({
  id,
  verb: 'count',
  queue: { by: 'name', queueId },
  figure,
  into: { name: 'n', scope: 'conversation' },
});
const many = (n: number) => Array.from({ length: n }, (_, i) => choice(`choice ${i}`, String(i), NEXT));
const branch = (id: string, subject: string, cue = NEXT): Step => ({
  id,
  verb: 'branch',
  ways: [{ when: { '>': [{ var: subject }, 0] }, cue }],
  otherwise: NEXT,
});

/** Each check: a script that trips it, and a near twin that does not. */
/** Words that somebody recorded. */
const recorded = (...words: readonly string[]) => ({
  recorded: (_language: string, text: string) => (words.includes(text) ? { id: 'sound', seconds: 1 } : null),
});

const CASES: readonly (readonly [
  check: Check,
  about: string,
  trips: BotScript,
  twin: BotScript,
  world?: Partial<CheckWorld>,
])[] = [
  ['empty', 'no line', scriptOf([]), scriptOf([end('a', 'Bye')])],
  [
    'unreached',
    'a line below an end',
    scriptOf([end('a', 'Bye'), say('b', 'Hi')]),
    scriptOf([say('b', 'Hi'), end('a', 'Bye')]),
  ],
  [
    'endless',
    'a circle without a way out',
    scriptOf([say('a', 'Hi'), goTo('b', 'a')]),
    scriptOf([say('a', 'Hi'), choose('q', [choice('on', '1')]), goTo('b', 'a')]),
  ],
  [
    'loop',
    'a circle that may go on without the customer',
    scriptOf([remember('a', 'n', '1'), branch('b', 'values.n', toLine('a')), end('c', 'Bye')]),
    scriptOf([remember('a', 'n', '1'), branch('b', 'values.n'), end('c', 'Bye')]),
  ],
  ['silent-end', 'the last line of a scene is no end', scriptOf([say('a', 'Hi')]), scriptOf([end('a', 'Hi')])],
  [
    'silent-end',
    'what was looked up is not found, and nothing comes after it',
    scriptOf([remember('r', 'number'), lookUp('a', { notFound: NEXT })]),
    scriptOf([remember('r', 'number'), lookUp('a', { notFound: NEXT }), end('b', 'Bye')]),
  ],
  [
    'silent-end',
    'a choice leads to the end without words',
    scriptOf([choose('q', [choice('no', '1', { to: 'end' })]), end('b', 'Bye')]),
    scriptOf([choose('q', [choice('no', '1', toLine('b'))]), end('b', 'Bye')]),
  ],
  [
    'silent-end',
    'only the scene after the contact may end as it likes',
    { ...scriptOf([choose('q', [choice('no', '1')])]), afterSceneId: null },
    {
      ...scriptOf([end('a', 'Bye')]),
      scenes: [
        { id: 's1', name: 'S', steps: [end('a', 'Bye')] },
        { id: 'after', name: 'After', steps: [choose('r', [choice('good', '1')])] },
      ],
      afterSceneId: 'after',
    },
  ],
  [
    'wording',
    'a language is missing',
    es(scriptOf([end('a', 'Bye')])),
    es(scriptOf([{ id: 'a', verb: 'end', wording: { text: { en: 'Bye', es: 'Adiós' } } }])),
  ],
  [
    'wording',
    'a Say says nothing',
    scriptOf([say('a', ''), end('b', 'Bye')]),
    scriptOf([say('a', 'Hi'), end('b', 'Bye')]),
  ],
  [
    'unset',
    'read before it is set',
    scriptOf([say('a', '{n}'), end('b', 'Bye')]),
    scriptOf([remember('r', 'n'), say('a', '{n}'), end('b', 'Bye')]),
  ],
  [
    'unset',
    'set on one of two ways',
    scriptOf([
      choose('q', [choice('x', '1', toLine('r')), choice('y', '2', toLine('s'))], { otherwise: toLine('s') }),
      remember('r', 'n'),
      end('s', '{n}'),
    ]),
    scriptOf([remember('r', 'n'), choose('q', [choice('x', '1'), choice('y', '2')]), end('s', '{n}')]),
  ],
  [
    'unset',
    'lives in another scene',
    scriptOf([remember('r', 'n', 'x', 'scene'), { id: 'g', verb: 'go-to', cue: toScene('s2') }], [end('e', '{n}')]),
    scriptOf([remember('r', 'n'), { id: 'g', verb: 'go-to', cue: toScene('s2') }], [end('e', '{n}')]),
  ],
  [
    'set-twice',
    'the earlier is lost',
    scriptOf([remember('a', 'n', '1'), remember('b', 'n', '2'), end('e', '{n}')]),
    scriptOf([remember('a', 'n', '1'), say('s', '{n}'), remember('b', 'n', '2'), end('e', '{n}')]),
  ],
  [
    'left-over',
    'counts in another queue than it hands over to',
    scriptOf([count('c', 'fallback'), branch('b', 'values.n'), over('h', 'q')]),
    scriptOf([count('c', 'q'), branch('b', 'values.n'), over('h', 'q')]),
  ],
  ['gone', 'a queue that was deleted', scriptOf([over('h', 'vanished')]), scriptOf([over('h', 'q')])],
  [
    'gone',
    'a picture that is not there',
    scriptOf([{ ...say('a', 'Look'), image: { imageId: 'none', alt: { en: 'A label' } } } as Step, end('b', 'Bye')]),
    scriptOf([{ ...say('a', 'Look'), image: { imageId: 'label', alt: { en: 'A label' } } } as Step, end('b', 'Bye')]),
  ],
  [
    'wording',
    'a picture that is not said in words',
    scriptOf([{ ...say('a', 'Look'), image: { imageId: 'label', alt: {} } } as Step, end('b', 'Bye')]),
    scriptOf([{ ...say('a', 'Look'), image: { imageId: 'label', alt: { en: 'A label' } } } as Step, end('b', 'Bye')]),
  ],
  [
    'gone',
    'a scene that was deleted',
    scriptOf([choose('q', [choice('x', '1', toScene('vanished'))]), end('e', 'Bye')]),
    scriptOf([choose('q', [choice('x', '1', toScene('s1'))]), end('e', 'Bye')]),
  ],
  [
    'choices',
    'two with one key',
    scriptOf([choose('q', [choice('x', '1'), choice('y', '1')]), end('e', 'Bye')]),
    scriptOf([choose('q', [choice('x', '1'), choice('y', '2')]), end('e', 'Bye')]),
  ],
  [
    'choices',
    'two with one synonym',
    scriptOf([
      choose('q', [
        choice('x', '1', NEXT, { synonyms: { en: ['Both'] } }),
        choice('y', '2', NEXT, { synonyms: { en: ['both'] } }),
      ]),
      end('e', 'Bye'),
    ]),
    scriptOf([
      choose('q', [
        choice('x', '1', NEXT, { synonyms: { en: ['One'] } }),
        choice('y', '2', NEXT, { synonyms: { en: ['both'] } }),
      ]),
      end('e', 'Bye'),
    ]),
  ],
  [
    'choices',
    'none at all',
    scriptOf([choose('q', []), end('e', 'Bye')]),
    scriptOf([choose('q', [choice('x', '1')]), end('e', 'Bye')]),
  ],
  [
    'choices',
    'one that nothing leads to',
    scriptOf([choose('q', [{ ...choice('x', ''), label: {} }, choice('y', '2')]), end('e', 'Bye')]),
    scriptOf([choose('q', [{ ...choice('x', ''), label: {}, intentId: 'fix' }, choice('y', '2')]), end('e', 'Bye')]),
  ],
  [
    'choices',
    'a comparison with nothing',
    scriptOf([
      { id: 'b', verb: 'branch', ways: [{ when: { '==': [{ var: 'channel' }, ''] }, cue: NEXT }], otherwise: NEXT },
      end('e', 'Bye'),
    ]),
    scriptOf([
      { id: 'b', verb: 'branch', ways: [{ when: { '==': [{ var: 'channel' }, 'sms'] }, cue: NEXT }], otherwise: NEXT },
      end('e', 'Bye'),
    ]),
  ],
  [
    'no-catch-all',
    'no way for anything else',
    scriptOf([choose('q', [choice('x', '1')], { otherwise: null }), end('e', 'Bye')]),
    scriptOf([choose('q', [choice('x', '1')]), end('e', 'Bye')]),
  ],
  [
    'too-many-choices',
    'eight by voice',
    scriptOf([choose('q', many(8)), end('e', 'Bye')]),
    scriptOf([choose('q', many(7)), end('e', 'Bye')]),
  ],
  [
    'no-failed-cue',
    'a look-up',
    scriptOf([remember('r', 'number'), lookUp('l', { failed: null }), end('e', 'Bye')]),
    scriptOf([remember('r', 'number'), lookUp('l'), end('e', 'Bye')]),
  ],
  [
    'on-duty-for-free',
    'a hand-over guarded by on duty',
    scriptOf([count('c', 'q', 'onDuty'), branch('b', 'values.n'), over('h', 'q')]),
    scriptOf([count('c', 'q', 'free'), branch('b', 'values.n'), over('h', 'q')]),
  ],
  [
    'on-duty-for-free',
    'by a condition',
    scriptOf([branch('b', 'queue.q.onDuty'), over('h', 'q')]),
    scriptOf([branch('b', 'queue.q.free'), over('h', 'q')]),
  ],
  [
    'field-unshown',
    'passed, shown nowhere',
    scriptOf([over('h', 'q', { fields: ['hidden'] })]),
    scriptOf([remember('r', 'reason'), over('h', 'q', { fields: ['reason'] })]),
  ],
  [
    'field-unset',
    'passed, set by nothing',
    scriptOf([over('h', 'q', { fields: ['reason'] })]),
    scriptOf([remember('r', 'reason'), over('h', 'q', { fields: ['reason'] })]),
  ],
  [
    'long-text',
    'over three segments',
    scriptOf([end('a', 'x'.repeat(460))]),
    scriptOf([end('a', 'x'.repeat(459))]),
    { channels: ['sms'] },
  ],
  [
    'long-speech',
    'over twenty seconds',
    scriptOf([end('a', 'seven words that take a while to say. '.repeat(9))]),
    scriptOf([end('a', 'seven words that take a while to say. '.repeat(5))]),
  ],
  ['hand-over', 'a queue that does not take the channel', scriptOf([over('h', 'chat')]), scriptOf([over('h', 'q')])],
  ['hand-over', 'nobody is able at any stage', scriptOf([over('h', 'nobody')]), scriptOf([over('h', 'q')])],
  [
    'hand-over',
    'nobody is able on the door’s channel',
    scriptOf([over('h', 'q')]),
    scriptOf([over('h', 'q', { target: { to: 'group', groupId: 'g', queueId: 'q' } })]),
    { channels: ['sms'] },
  ],
  [
    'hand-over',
    'nobody is able with what the line needs',
    scriptOf([over('h', 'q', { needs: [{ skillId: 'bow', atLeast: 5 }] })]),
    scriptOf([over('h', 'q', { needs: [{ skillId: 'bow', atLeast: 4 }] })]),
  ],
  [
    'hand-over',
    'a message where nobody is able',
    scriptOf([{ id: 'm', verb: 'take-message', wording: { text: { en: 'Say it' } }, queueId: 'nobody' }]),
    scriptOf([{ id: 'm', verb: 'take-message', wording: { text: { en: 'Say it' } }, queueId: 'q' }]),
  ],
  [
    'hand-over',
    'a message on a channel that is not taken',
    scriptOf([{ id: 'm', verb: 'take-message', wording: { text: { en: 'Say it' } }, queueId: 'chat' }]),
    scriptOf([{ id: 'm', verb: 'take-message', wording: { text: { en: 'Say it' } }, queueId: 'q' }]),
  ],
  ...(
    [
      ['hand-over', 'promises calls of a queue where nobody is able', { queueId: 'nobody' }],
      ['choices', 'offers no time to call', { soon: false, windows: 0 }],
      ['no-catch-all', 'has no way for when nothing comes of a call back', { otherwise: null }],
      ['gone', 'passes a field that is gone along with a call back', { fields: ['gone'] }],
    ] as const
  ).map(([check, name, more]): (typeof CASES)[number] => [
    check,
    name,
    scriptOf([callBack(more), end('z', 'bye')]),
    scriptOf([callBack(), end('z', 'bye')]),
  ]),
  ['hand-over', 'closed while the door is open', scriptOf([over('h', 'late')]), scriptOf([over('h', 'q')])],
  [
    'tags',
    'tags that do not fit together',
    scriptOf([end('a', 'wait <break time="1s">')]),
    scriptOf([end('a', 'wait <break time="1s"/>')]),
  ],
  [
    'mixed-voices',
    'one sentence recorded and another spoken',
    scriptOf([say('a', 'Hello.'), end('b', 'Bye.')]),
    scriptOf([say('a', 'Hello.'), end('b', 'Hello.')]),
    recorded('Hello.'),
  ],
];

describe('each check has a bot that trips it and a near twin that does not', () => {
  it('every check is here', () => expect(new Set(CASES.map(([check]) => check))).toEqual(new Set(CHECKS)));
  it.each(CASES.map((c) => ({ name: `${c[0]}: ${c[1]}`, check: c[0], trips: c[2], twin: c[3], world: c[4] ?? {} })))(
    '$name',
    ({ check, trips, twin, world }) => {
      const of = (script: BotScript) => checkBot(script, { ...WORLD, ...world }).filter((f) => f.check === check);
      const found = of(trips);
      expect(found.length).toBeGreaterThan(0);
      expect(of(twin)).toEqual([]);
      for (const fault of found) {
        expect(fault.sentence).toMatch(/^[^ ].*\.$/);
        // What can be mended by one press is mended by it.
        if (fault.fix)
          expect(
            of(mended(trips, fault.fix)).filter((f) => f.lineId === fault.lineId && f.sentence === fault.sentence),
          ).toEqual([]);
      }
    },
  );
});

describe('what a fault says', () => {
  it('names the line, and the queue it looks left over from', () => {
    const [fault] = checkBot(scriptOf([count('c', 'fallback'), branch('b', 'values.n'), over('h', 'q')]), WORLD).filter(
      (f) => f.check === 'left-over',
    );
    expect(fault).toMatchObject({
      lineId: 'c',
      weight: 'advice',
      sentence: '1.1 still asks about Front, while this scene hands over to Repairs: it looks left over from a copy.',
    });
    expect(fault?.fix?.label).toBe('Use Repairs');
  });
  it('a sound script has none', () =>
    expect(
      checkBot(
        scriptOf([
          say('a', 'Hi'),
          hear('n', { type: 'whole', least: null, most: null }, 'n'),
          over('h', 'q', { needs: [{ skillId: 'bow', atLeast: 2 }] }),
        ]),
        WORLD,
      ),
    ).toEqual([]));
  it('a shared scene may read its inputs and nothing else that is not set', () => {
    const scene = { id: 's', name: 'Shared', inputs: ['who'], steps: [say('a', '{who}'), say('b', '{where}')] };
    expect(checkShared(scene, WORLD, ['en']).map((f) => f.lineId)).toEqual(['b']);
  });
  it('what a shared scene has set counts after it', () => {
    const shared = new Map([
      [
        's',
        {
          id: 's',
          name: 'Shared',
          inputs: [],
          steps: [hear('x', { type: 'text' }, 'n', { otherwise: { to: 'end' } })],
        },
      ],
    ]);
    const script = scriptOf([{ id: 'p', verb: 'play', sharedId: 's', inputs: [] }, end('e', '{n}')]);
    expect(checkBot(script, { ...WORLD, shared, names: new Map([...WORLD.names, ['shared s', 'Shared']]) })).toEqual(
      [],
    );
  });
});
