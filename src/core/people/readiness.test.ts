import { describe, expect, it } from 'vitest';
import type { Stage, StageAct } from '../routing/clock';
import { DEFAULT_LOAD } from './load';
import { CONDITIONS, isReady, readiness, type ConditionId, type ReadinessFacts } from './readiness';

const fine: ReadinessFacts = {
  active: true,
  invitation: 'accepted',
  role: { name: 'agent', works: true },
  voiceWay: null,
  unverified: [],
  profile: { name: 'Front desk', rows: [{ queueId: 'q', channel: 'chat', band: 1, delaySeconds: 0 }] },
  load: DEFAULT_LOAD,
  queues: [
    { id: 'q', name: 'New hire', channels: ['voice', 'chat'], needs: [{ skillId: 's', atLeast: 2 }], clocks: {} },
  ],
  groups: new Set(),
  levels: new Map([['s', 2]]),
  skillName: () => 'Brass',
  shift: { known: true, on: true, next: null },
  duty: 'ready',
  dutyReason: null,
  reachable: true,
};
const of = (change: Partial<ReadinessFacts>) => readiness({ ...fine, ...change });
const notOk = (change: Partial<ReadinessFacts>) =>
  of(change)
    .filter((c) => c.state !== 'ok')
    .map((c) => [c.id, c.state, c.fix?.act]);

describe('readiness', () => {
  it('names every condition in order, all of them met', () => {
    expect(of({}).map((c) => c.id)).toEqual(CONDITIONS);
    expect(notOk({})).toEqual([]);
  });
  it('counts whoever a stage of the wait clock reaches, until one moves contacts on', () => {
    const queue = { id: 'q', name: 'New hire', channels: ['chat'], needs: [{ skillId: 's', atLeast: 3 }] } as const;
    const at = (atSeconds: number, ...acts: StageAct[]) => ({ atSeconds, early: false, acts });
    const withClock = (...chat: Stage[]) => notOk({ queues: [{ ...queue, clocks: { chat } }] });
    const lower: StageAct = { does: 'lower', skillId: 's', by: 1 };
    const move: StageAct = { does: 'move', onward: { to: 'queue', queueId: 'other' } };
    expect(withClock()).toEqual([['skills', 'stops', 'set-levels']]);
    expect(withClock(at(60, lower))).toEqual([]);
    expect(withClock(at(30, move), at(60, lower))).toEqual([['skills', 'stops', 'set-levels']]);
    // By a group that is added later; a delay that never passes keeps them out.
    const added = { chat: [at(20, { does: 'add-group', groupId: 'g' }, lower)] };
    const inGroup = { profile: { name: 'None', rows: [] }, queues: [{ ...queue, clocks: added }] };
    expect(notOk({ ...inGroup, groups: new Set(['g']) })).toEqual([]);
    expect(notOk(inGroup)).toEqual([['duty', 'stops', 'open-profile']]);
    const late = {
      name: 'Late',
      rows: [{ queueId: 'q', channel: 'chat' as const, band: 1 as const, delaySeconds: 45 }],
    };
    const soonGone = [{ ...queue, needs: [], clocks: { chat: [at(30, move)] } }];
    expect(notOk({ profile: late, queues: [{ ...queue, needs: [], clocks: {} }] })).toEqual([]);
    expect(notOk({ profile: late, queues: soonGone })).toEqual([['duty', 'stops', 'open-profile']]);
  });
  it.each<[ConditionId, 'stops' | 'advice', string, Partial<ReadinessFacts>]>([
    ['active', 'stops', 'switch-on', { active: false }],
    ['invitation', 'stops', 'invite', { invitation: 'expired' }],
    ['invitation', 'stops', 'invite', { invitation: 'none' }],
    ['role', 'stops', 'change-person', { role: { name: 'reader', works: false } }],
    ['reach', 'advice', 'verify-way', { voiceWay: { address: '+353', verified: false } }],
    ['reach', 'advice', 'verify-way', { unverified: ['+353'] }],
    ['shift', 'advice', 'open-shift', { shift: { known: false, on: false, next: null } }],
    ['shift', 'advice', 'open-shift', { shift: { known: true, on: false, next: 'Mon 09:00' } }],
    ['state', 'advice', 'go-ready', { duty: 'off' }],
    ['state', 'advice', 'go-ready', { reachable: false }],
    ['skills', 'stops', 'set-levels', { levels: new Map([['s', 1]]) }],
    ['duty', 'stops', 'change-person', { load: { ...DEFAULT_LOAD, chat: { cost: 25, most: 0 } } }],
    ['duty', 'stops', 'open-profile', { profile: { name: 'Empty', rows: [] } }],
    [
      'duty',
      'stops',
      'open-profile',
      { queues: [{ id: 'q', name: 'New hire', channels: ['voice'], needs: [], clocks: {} }] },
    ],
  ])('names %s alone as %s with the fix %s', (id, state, act, change) => {
    expect(notOk(change)).toEqual([[id, state, act]]);
    expect(isReady(of(change))).toBe(state !== 'stops');
  });
  it('an unverified number stops somebody who only takes calls', () => {
    const rows = [{ queueId: 'q', channel: 'voice' as const, band: 1, delaySeconds: 0 }];
    expect(notOk({ profile: { name: 'Calls', rows }, voiceWay: { address: '+353', verified: false } })).toEqual([
      ['reach', 'stops', 'verify-way'],
    ]);
  });
  it('says which level is missing', () => {
    expect(of({ levels: new Map([['s', 1]]) }).find((c) => c.id === 'skills')?.says).toBe(
      'No queue’s needs are met: New hire needs Brass 2, has 1',
    );
  });
  it('one queue whose needs are met is enough', () => {
    const queues = [
      ...fine.queues,
      {
        id: 'r',
        name: 'Repairs',
        channels: ['chat' as const],
        needs: [{ skillId: 't', atLeast: 3 as const }],
        clocks: {},
      },
    ];
    const rows = [...fine.profile.rows, { queueId: 'r', channel: 'chat' as const, band: 2, delaySeconds: 0 }];
    expect(of({ queues, profile: { name: 'Both', rows } }).find((c) => c.id === 'skills')).toMatchObject({
      state: 'ok',
      says: 'Skills meet 1 of 2 queues: New hire',
    });
  });
});
