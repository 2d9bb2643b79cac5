import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CHANNELS } from '../channels';
import { effectiveLevel, effectiveLevels, type Level } from './levels';
import { DEFAULT_LOAD, FULL, misfit, roomFor, usedLoad, withOverrides, type Held } from './load';
import { mayDo, RIGHTS, ROLES, rolesGivenBy } from './rights';

const chat: Held = { channel: 'chat', cost: 25 };

describe('load', () => {
  it('fits exactly up to 100', () => {
    const rules = { ...DEFAULT_LOAD, chat: { cost: 25, most: 9 } };
    expect(misfit(rules, [chat, chat, chat], 'chat')).toBeNull();
    expect(misfit(rules, [chat, chat, chat, chat], 'chat')).toBe('load');
  });
  it('a call needs an empty desk', () => {
    expect(misfit(DEFAULT_LOAD, [], 'voice')).toBeNull();
    expect(misfit(DEFAULT_LOAD, [{ channel: 'sms', cost: 10 }], 'voice')).toBe('load');
  });
  it('names the channel’s most before the load, and a channel that is off before both', () => {
    const four = [chat, chat, chat, chat];
    expect(misfit(DEFAULT_LOAD, four, 'chat')).toBe('channel-most');
    expect(misfit(withOverrides(DEFAULT_LOAD, { chat: 0 }), four, 'chat')).toBe('channel-off');
  });
  it('keeps the profile where the person sets nothing', () => {
    const own = withOverrides(DEFAULT_LOAD, { sms: 2 });
    expect(own.sms).toEqual({ cost: 10, most: 2 });
    expect(own.chat).toEqual(DEFAULT_LOAD.chat);
  });
  it('says in words what still fits', () => {
    expect(roomFor(DEFAULT_LOAD, [chat])).toBe('room for 3 chats, 3 messages, 7 SMS; no call until empty');
    expect(roomFor(DEFAULT_LOAD, [{ channel: 'voice', cost: 100 }])).toBe('full');
    expect(roomFor(withOverrides(DEFAULT_LOAD, { voice: 0, chat: 0, messaging: 0, sms: 0 }), [])).toBe('takes no channel');
  });
  it('never lets anybody hold over 100 or a channel’s most, whatever is offered', () => {
    fc.assert(fc.property(fc.array(fc.constantFrom(...CHANNELS), { maxLength: 60 }), (offered) => {
      const held: Held[] = [];
      for (const channel of offered) if (misfit(DEFAULT_LOAD, held, channel) === null) held.push({ channel, cost: DEFAULT_LOAD[channel].cost });
      return usedLoad(held) <= FULL && CHANNELS.every((c) => held.filter((h) => h.channel === c).length <= DEFAULT_LOAD[c].most);
    }));
  });
});

describe('effective level', () => {
  it('takes the person’s own over the team’s, even when lower', () => {
    expect(effectiveLevel(2, 5)).toEqual({ level: 2, from: 'own' });
    expect(effectiveLevel(undefined, 3)).toEqual({ level: 3, from: 'team' });
    expect(effectiveLevel(undefined, undefined)).toBeNull();
  });
  it('covers every skill of either side, and no other', () => {
    const levels = fc.dictionary(fc.constantFrom('a', 'b', 'c', 'd'), fc.constantFrom<Level>(1, 2, 3, 4, 5)).map((d) => new Map(Object.entries(d)));
    fc.assert(fc.property(levels, levels, (own, team) => {
      const all = effectiveLevels(own, team);
      return all.size === new Set([...own.keys(), ...team.keys()]).size && [...all].every(([skill, e]) => e.level === (own.get(skill) ?? team.get(skill)));
    }));
  });
});

describe('roles', () => {
  const TABLE = {
    owner: RIGHTS, lead: RIGHTS, agent: ['desk.work'],
    supervisor: ['settings.view', 'people.change-own-teams', 'floor.view', 'review.view', 'conversations.view', 'desk.work'],
  } as const;
  it.each(ROLES.flatMap((role) => RIGHTS.map((right) => [role, right] as const)))('%s and %s', (role, right) => {
    expect(mayDo(role, right)).toBe((TABLE[role] as readonly string[]).includes(right));
  });
  it('nobody gives a role that holds more than their own, and nobody makes a second owner', () => {
    expect(rolesGivenBy('supervisor')).toEqual(['supervisor', 'agent']);
    expect(rolesGivenBy('owner')).toEqual(['lead', 'supervisor', 'agent']);
    expect(rolesGivenBy('agent')).toEqual(['agent']);
  });
});
