import { CHANNEL_NAMES, type Channel } from '../channels';
import { widest } from '../routing/horizon';
import { type MergedNeed, unmetNeed, type Need } from '../routing/needs';
import type { QueueSettings } from '../routing/queue';
import type { DutyRow, DutyState } from './duty';
import type { LoadRules } from './load';

/** What an invitation came to. `none` was never sent. */
export type InvitationState = 'accepted' | 'sent' | 'expired' | 'withdrawn' | 'none';
export const CONDITIONS = ['active', 'invitation', 'role', 'reach', 'duty', 'skills', 'shift', 'state'] as const;
export type ConditionId = (typeof CONDITIONS)[number];
export type Fix =
  'switch-on' | 'invite' | 'change-person' | 'verify-way' | 'open-profile' | 'set-levels' | 'open-shift' | 'go-ready';

/**
 * One thing that must hold before a contact can reach somebody. `stops` keeps contacts away; `advice` does not, or
 * not for long.
 */
export type Condition = {
  readonly id: ConditionId;
  readonly state: 'ok' | 'stops' | 'advice';
  readonly says: string;
  readonly fix: { readonly act: Fix; readonly words: string } | null;
};

export type ReadinessFacts = {
  readonly active: boolean;
  readonly invitation: InvitationState;
  readonly role: { readonly name: string; readonly works: boolean };
  /** Today's way for voice; null is the Desk, which needs no verification. */
  readonly voiceWay: { readonly address: string; readonly verified: boolean } | null;
  /** Other ways that wait for their code. */
  readonly unverified: readonly string[];
  readonly profile: { readonly name: string; readonly rows: readonly DutyRow[] };
  readonly load: LoadRules;
  readonly queues: readonly {
    readonly id: string;
    readonly name: string;
    readonly channels: readonly Channel[];
    readonly needs: readonly Need[];
    readonly clocks: QueueSettings['clocks'];
  }[];
  /** The groups they are in. */
  readonly groups: ReadonlySet<string>;
  readonly levels: ReadonlyMap<string, number>;
  readonly skillName: (id: string) => string;
  /** Whether a shift is known, whether it is on now, and when the next begins, in words. */
  readonly shift: { readonly known: boolean; readonly on: boolean; readonly next: string | null };
  readonly duty: DutyState;
  readonly dutyReason: string | null;
  readonly reachable: boolean;
};

/** Somebody is ready when nothing stops contacts. */
export const isReady = (conditions: readonly Condition[]): boolean => conditions.every((c) => c.state !== 'stops');

/**
 * Everything from sign-in to "a contact can reach them", in order. Each condition is judged by itself, so that the list
 * names all that is missing at once, not only the first.
 */
export function readiness(f: ReadinessFacts): Condition[] {
  const ok = (id: ConditionId, says: string): Condition => ({ id, state: 'ok', says, fix: null });
  const fault = (id: ConditionId, state: 'stops' | 'advice', says: string, act: Fix, words: string): Condition => ({
    id,
    state,
    says,
    fix: { act, words },
  });

  // Whoever a stage of the wait clock reaches is reached: by a group that it adds, or with less than the queue asks at first.
  const open = f.queues.flatMap((queue) =>
    queue.channels.flatMap((channel): Open[] => {
      const last = widest(queue, channel);
      const row = f.profile.rows.find((r) => r.queueId === queue.id && r.channel === channel);
      const asked = row ? row.delaySeconds * 1000 <= last.elapsedMs : last.groups.some((id) => f.groups.has(id));
      return asked && f.load[channel].most > 0 ? [{ queue, channel, lacks: unmetNeed(last.needs, f.levels) }] : [];
    }),
  );
  const openQueues = f.queues.filter((q) => open.some(({ queue }) => queue === q));
  const met = openQueues.filter((q) => open.some(({ queue, lacks: need }) => queue === q && need === null));
  return [
    f.active
      ? ok('active', 'The account is switched on')
      : fault(
          'active',
          'stops',
          'The account is switched off, so nobody can sign in with it',
          'switch-on',
          'Switch the account on',
        ),
    invitation(f.invitation),
    f.role.works
      ? ok('role', `The role ${f.role.name} works with contacts`)
      : fault(
          'role',
          'stops',
          `The role ${f.role.name} does not work with contacts`,
          'change-person',
          'Give another role',
        ),
    voice(f, open),
    duty(f, open, openQueues.length),
    open.length > 0 && met.length === 0
      ? fault(
          'skills',
          'stops',
          `No queue’s needs are met: ${openQueues
            .slice(0, 3)
            .map((q) => lacks(q, open.find(({ queue }) => queue === q)?.lacks ?? null, f))
            .join('; ')}`,
          'set-levels',
          'Set the skills',
        )
      : open.length === 0
        ? ok('skills', 'Skills cannot be judged without a queue')
        : ok(
            'skills',
            met.length === openQueues.length
              ? `Skills meet all ${met.length} queues`
              : `Skills meet ${met.length} of ${openQueues.length} queues: ${met.map((q) => q.name).join(', ')}`,
          ),
    !f.shift.known
      ? fault(
          'shift',
          'advice',
          'No shift is known, so coverage does not count this person',
          'open-shift',
          'Enter a shift',
        )
      : f.shift.on
        ? ok('shift', 'On shift now')
        : fault(
            'shift',
            'advice',
            f.shift.next === null ? 'No shift ahead' : `Not on shift now; next ${f.shift.next}`,
            'open-shift',
            'See the shift',
          ),
    state(f),
  ];
}

function invitation(is: InvitationState): Condition {
  const fix = (says: string, words: string): Condition => ({
    id: 'invitation',
    state: 'stops',
    says,
    fix: { act: 'invite', words },
  });
  switch (is) {
    case 'accepted':
      return { id: 'invitation', state: 'ok', says: 'The invitation was accepted', fix: null };
    case 'sent':
      return fix('The invitation has not been accepted yet', 'Send it again');
    case 'expired':
      return fix('The invitation ran out before it was accepted', 'Send a new one');
    case 'withdrawn':
      return fix('The invitation was withdrawn', 'Send a new one');
    case 'none':
      return fix('No invitation was sent', 'Send an invitation');
  }
}

/** A queue and channel that asks somebody at some stage, and what they lack even then. */
type Open = {
  readonly queue: ReadinessFacts['queues'][number];
  readonly channel: Channel;
  readonly lacks: MergedNeed | null;
};

function voice(f: ReadinessFacts, open: readonly Open[]): Condition {
  const waiting = f.unverified[0];
  if (waiting !== undefined && (f.voiceWay === null || f.voiceWay.verified)) {
    return {
      id: 'reach',
      state: 'advice',
      says: `Calls come to ${f.voiceWay?.address ?? 'the Desk'}; ${waiting} is not verified, so it cannot be chosen`,
      fix: { act: 'verify-way', words: 'Verify it' },
    };
  }
  if (f.voiceWay === null)
    return { id: 'reach', state: 'ok', says: 'Calls come to the Desk in the browser', fix: null };
  if (f.voiceWay.verified)
    return { id: 'reach', state: 'ok', says: `Calls come to ${f.voiceWay.address}, which is verified`, fix: null };
  const onlyVoice = open.length > 0 && open.every((row) => row.channel === 'voice');
  return {
    id: 'reach',
    state: onlyVoice ? 'stops' : 'advice',
    says: `${f.voiceWay.address} is not verified, so calls do not go there`,
    fix: { act: 'verify-way', words: 'Verify it' },
  };
}

function duty(f: ReadinessFacts, open: readonly Open[], queues: number): Condition {
  const fault = (says: string, act: Fix, words: string): Condition => ({
    id: 'duty',
    state: 'stops',
    says,
    fix: { act, words },
  });
  if (open.length > 0)
    return {
      id: 'duty',
      state: 'ok',
      says:
        `${f.profile.name} gives ${queues} ${queues === 1 ? 'queue' : 'queues'} on ` +
        `${[...new Set(open.map((r) => CHANNEL_NAMES[r.channel].name))].join(', ')}`,
      fix: null,
    };
  if (f.profile.rows.length === 0)
    return fault(`${f.profile.name} takes no queue`, 'open-profile', 'Add a queue to the profile');
  const off = [...new Set(f.profile.rows.map((r) => r.channel))].filter((c) => f.load[c].most === 0);
  if (off.length > 0)
    return fault(`Every channel that ${f.profile.name} takes is set to 0 at once`, 'change-person', 'Allow a channel');
  return fault(
    `The queues of ${f.profile.name} do not take its channels any more`,
    'open-profile',
    'Change the profile',
  );
}

function lacks(queue: Open['queue'], need: MergedNeed | null, f: ReadinessFacts): string {
  if (!need) return queue.name;
  const has = f.levels.get(need.skillId);
  return `${queue.name} needs ${f.skillName(need.skillId)} ${need.atLeast}${has === undefined ? '' : `, has ${has}`}`;
}

function state(f: ReadinessFacts): Condition {
  const advice = (says: string): Condition => ({
    id: 'state',
    state: 'advice',
    says,
    fix: { act: 'go-ready', words: 'They go ready at their Desk' },
  });
  if (f.duty !== 'off' && !f.reachable) return advice('Out of reach: the Desk has sent no sign for 45 s');
  switch (f.duty) {
    case 'ready':
      return { id: 'state', state: 'ok', says: 'Ready', fix: null };
    case 'away':
      return advice(`Away${f.dutyReason ? ` (${f.dutyReason})` : ''}`);
    case 'away-when-empty':
      return advice('Finishes what is open and gets nothing new');
    case 'off':
      return advice('Off duty');
  }
}
