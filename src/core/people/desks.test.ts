import { describe, expect, it } from 'vitest';
import { deskRuleFor, helperBar, PLAIN_DESK, type DeskRule } from './deskprofile';
import { wouldTake } from '../routing/wouldtake';
import { DEFAULT_LOAD } from './load';
import { fillReply, suggestReplies, summarise, unfilled, unknownPlaceholders } from '../messages/stockreplies';
import { QUEUE_DEFAULTS, type QueueSettings } from '../routing/queue';
import type { DutyRow } from './duty';

describe('who gets which desk profile', () => {
  const rules: DeskRule[] = [
    { who: { by: 'skill', id: 'brass', atLeast: 3 }, exceptIds: ['p2'], profileId: 'a' },
    { who: { by: 'team', id: 'front' }, exceptIds: [], profileId: 'b' },
    { who: { by: 'role', id: 'agent' }, exceptIds: [], profileId: 'c' },
    { who: { by: 'everyone' }, exceptIds: ['p9'], profileId: 'd' },
  ];
  const person = (id: string, brass: number, teamId = 'front', roleId = 'agent') => ({
    id,
    teamIds: [teamId],
    roleId,
    levels: new Map([['brass', brass]]),
  });
  it.each([
    ['the first match wins', person('p1', 3), 0],
    ['just below the level', person('p1', 2), 1],
    ['an exception falls to the next', person('p2', 5), 1],
    ['by role', person('p3', 0, 'evening'), 2],
    ['everyone', person('p4', 0, 'evening', 'lead'), 3],
    ['nobody', person('p9', 0, 'evening', 'lead'), null],
  ])('%s', (_what, who, rule) => expect(deskRuleFor(who, rules)).toBe(rule));
  it('a helper needs the workspace’s yes and the panel it works through', () => {
    expect(helperBar('suggest', PLAIN_DESK, new Set(['suggest']))).toBeNull();
    expect(helperBar('suggest', PLAIN_DESK, new Set())).toMatch(/off for the whole workspace/);
    expect(
      helperBar('suggest', { panels: { ...PLAIN_DESK.panels, talking: ['known'] } }, new Set(['suggest'])),
    ).toMatch(/needs the panel Stock replies/);
  });
});

describe('what a profile would take', () => {
  const queue = (id: string, needs: QueueSettings['needs'] = []): QueueSettings => ({
    ...QUEUE_DEFAULTS,
    id,
    name: id,
    channels: ['voice', 'chat'],
    needs,
  });
  const queues = new Map([
    ['a', queue('a')],
    ['b', queue('b', [{ skillId: 's', atLeast: 3 }])],
  ]);
  const row = (queueId: string, channel: DutyRow['channel'], band: number, delaySeconds = 0): DutyRow => ({
    queueId,
    channel,
    band,
    delaySeconds,
  });
  it('takes the lower band first, the longer wait within it, until nothing fits', () => {
    const { taken, left } = wouldTake(
      { rows: [row('a', 'chat', 2), row('b', 'chat', 1)], load: DEFAULT_LOAD },
      queues,
      [
        { queueId: 'a', channel: 'chat', count: 4, waitedSeconds: 300 },
        { queueId: 'b', channel: 'chat', count: 2, waitedSeconds: 5 },
      ],
      null,
    );
    expect(taken.map((t) => t.queueId)).toEqual(['b', 'b', 'a', 'a']);
    expect(left).toEqual([{ queueId: 'a', channel: 'chat', count: 2, waitedSeconds: 300, why: 'channel-most' }]);
  });
  it('a text in hand keeps a call away, and a delay not yet over keeps both', () => {
    const situation = [
      { queueId: 'a', channel: 'chat' as const, count: 1, waitedSeconds: 10 },
      { queueId: 'a', channel: 'voice' as const, count: 1, waitedSeconds: 9 },
    ];
    expect(
      wouldTake({ rows: [row('a', 'chat', 1), row('a', 'voice', 1)], load: DEFAULT_LOAD }, queues, situation, null),
    ).toMatchObject({ taken: [{ channel: 'chat' }], left: [{ channel: 'voice', why: 'load' }] });
    expect(
      wouldTake(
        { rows: [row('a', 'chat', 1, 60), row('a', 'voice', 1, 9)], load: DEFAULT_LOAD },
        queues,
        situation,
        null,
      ),
    ).toMatchObject({ taken: [{ channel: 'voice' }], left: [{ channel: 'chat', why: 'not-yet' }] });
  });
  it('asks for skills only when somebody’s are given', () => {
    const ask = (levels: ReadonlyMap<string, number> | null) =>
      wouldTake(
        { rows: [row('b', 'chat', 1)], load: DEFAULT_LOAD },
        queues,
        [{ queueId: 'b', channel: 'chat', count: 1, waitedSeconds: 0 }],
        levels,
      );
    expect(ask(null).taken).toHaveLength(1);
    expect(ask(new Map([['s', 2]])).left[0]?.why).toBe('skill');
    expect(ask(new Map([['s', 3]])).taken).toHaveLength(1);
  });
});

describe('stock replies', () => {
  it('fill what is known and leave the rest to be seen', () => {
    expect(fillReply('Hello {customer}, I am {agent} {who}', { customer: 'Ida', agent: '' })).toBe(
      'Hello Ida, I am {agent} {who}',
    );
    expect(unknownPlaceholders('Hi {customer}, {hire} {order number}', ['order number'])).toEqual(['hire']);
    expect(unfilled('{order number} {mine}', ['order number'])).toEqual(['order number']);
  });
  const replies = [
    { title: 'Broken string', text: 'A broken string is covered.' },
    { title: 'Payment', text: 'Your next payment is on the first.' },
    { title: 'Collection', text: 'The driver collects your broken instrument.' },
  ];
  it('puts those that share rarer words first and leaves out what shares none', () => {
    expect(suggestReplies(replies, 'two strings are broken').map((r) => r.title)).toEqual([
      'Broken string',
      'Collection',
    ]);
    expect(suggestReplies(replies, 'good morning')).toEqual([]);
  });
  it('a summary is made of the conversation’s own words', () => {
    const text = summarise(
      [{ label: 'Instrument', value: 'cello' }],
      [
        { from: 'customer', text: 'hi' },
        { from: 'customer', text: 'the bridge of my cello snapped' },
        { from: 'person', text: 'We collect it tomorrow.' },
        { from: 'customer', text: 'thank you' },
      ],
    );
    expect(text.split('\n')).toEqual([
      'Instrument: cello.',
      'The customer wrote: “the bridge of my cello snapped”',
      'We last said: “We collect it tomorrow.”',
      'They last said: “thank you”',
    ]);
  });
});
