import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CHANNELS } from '../channels';
import { putInBand, profileIdAt } from './duty';
import {
  effectiveLevel,
  effectiveLevels,
  giftsTo,
  levelSentence,
  type Gift,
  type Givers,
  type Level,
  type Levels,
  type OwnLevel,
} from './levels';
import { DEFAULT_LOAD, FULL, misfit, roomFor, usedLoad, withOverrides, type Held } from './load';
import { answersFrom, fullMixes, rulesFromAnswers } from './loadquestions';
import { BUILT_IN_ROLES, mayGive, RIGHTS, standingOf, type Role } from './rights';

const chat: Held = { channel: 'chat', cost: 25 };

describe('load', () => {
  it('fits exactly up to 100', () => {
    const rules = { ...DEFAULT_LOAD, chat: { cost: 25, most: 9 } };
    expect(misfit(rules, [chat, chat, chat], 'chat')).toBeNull();
    expect(misfit(rules, [chat, chat, chat, chat], 'chat')).toBe('load');
    expect(misfit({ ...rules, sms: { cost: 1, most: 9 } }, [chat, chat, chat, chat], 'sms')).toBe('load');
    expect(misfit({ ...rules, sms: { cost: 0, most: 9 } }, [chat, chat, chat, chat], 'sms')).toBeNull();
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
  it('a resting conversation costs nothing and does not count, and counts again when it wakes', () => {
    const resting = { ...chat, resting: true };
    expect(usedLoad([chat, resting])).toBe(25);
    expect(misfit(DEFAULT_LOAD, [chat, chat, chat, resting], 'chat')).toBeNull();
    expect(misfit(DEFAULT_LOAD, [chat, chat, chat, chat], 'chat')).toBe('channel-most');
    expect(misfit(DEFAULT_LOAD, [resting], 'voice')).toBeNull();
  });
  it('keeps the profile where the person sets nothing', () => {
    const own = withOverrides(DEFAULT_LOAD, { sms: 2 });
    expect(own.sms).toEqual({ cost: 10, most: 2 });
    expect(own.chat).toEqual(DEFAULT_LOAD.chat);
  });
  it('says in words what still fits', () => {
    expect(roomFor(DEFAULT_LOAD, [chat])).toBe('room for 3 chats, 3 messages, 7 SMS; no call until empty');
    expect(roomFor(DEFAULT_LOAD, [{ channel: 'voice', cost: 100 }])).toBe('full');
    expect(roomFor(withOverrides(DEFAULT_LOAD, { voice: 0, chat: 0, messaging: 0, sms: 0 }), [])).toBe(
      'takes no channel',
    );
  });
  it('never lets anybody hold over 100 or a channel’s most, whatever is offered and whatever rules', () => {
    const rule = fc.record({ cost: fc.integer({ min: 0, max: 100 }), most: fc.integer({ min: 0, max: 12 }) });
    fc.assert(
      fc.property(
        fc.record({ voice: rule, chat: rule, messaging: rule, sms: rule }),
        fc.array(fc.constantFrom(...CHANNELS), { maxLength: 60 }),
        (rules, offered) => {
          const held: Held[] = [];
          for (const channel of offered)
            if (misfit(rules, held, channel) === null) held.push({ channel, cost: rules[channel].cost });
          return (
            usedLoad(held) <= FULL && CHANNELS.every((c) => held.filter((h) => h.channel === c).length <= rules[c].most)
          );
        },
      ),
    );
  });
});

describe('the plain questions behind the load', () => {
  it('give the usual rules for the usual answers', () => {
    expect(rulesFromAnswers({ atOnce: { voice: 1, chat: 4, messaging: 5, sms: 10 }, smsDuringCall: 0 })).toEqual({
      voice: { cost: 100, most: 1 },
      chat: { cost: 25, most: 4 },
      messaging: { cost: 20, most: 5 },
      sms: { cost: 10, most: 10 },
    });
    expect(rulesFromAnswers({ atOnce: { voice: 1, chat: 3, messaging: 0, sms: 10 }, smsDuringCall: 2 })).toMatchObject({
      voice: { cost: 80, most: 1 },
      chat: { cost: 33 },
      messaging: { cost: 100, most: 0 },
    });
  });
  it('are answered by the rules they gave', () => {
    const n = fc.integer({ min: 0, max: 12 });
    fc.assert(
      fc.property(
        fc.record({ voice: fc.integer({ min: 0, max: 1 }), chat: n, messaging: n, sms: n }),
        n,
        (atOnce, wanted) => {
          const smsDuringCall = atOnce.voice === 0 ? 0 : Math.min(wanted, atOnce.sms);
          const back = answersFrom(rulesFromAnswers({ atOnce, smsDuringCall }));
          expect(back.atOnce).toEqual(atOnce);
          // As many texts as fill a person alone leave a call no load: 12 of ⌊100 / 12⌋ leave 4, so one more never
          // fits.
          expect(back.smsDuringCall).toBe(smsDuringCall);
        },
      ),
    );
  });
  it('the picture shows full loads that fit, none of them over 100', () => {
    const mixes = fullMixes(DEFAULT_LOAD);
    expect(mixes).toContainEqual({ voice: 0, chat: 4, messaging: 0, sms: 0 });
    expect(mixes).toContainEqual({ voice: 0, chat: 1, messaging: 0, sms: 7 });
    expect(mixes.every((m) => CHANNELS.reduce((sum, c) => sum + m[c] * DEFAULT_LOAD[c].cost, 0) <= FULL)).toBe(true);
    expect(mixes.some((m) => m.voice > 0 && m.chat > 0)).toBe(false);
  });
});

const own = (level: Level | 'never', until: string | null = null): OwnLevel => ({ level, until, note: '' });
const team = (level: Level, id = 'team_a'): Gift => ({ level, from: 'team', id });
const set = (level: Level, viaTeamId: string | null = null): Gift => ({ level, from: 'set', id: 'set_a', viaTeamId });
const TODAY = '2026-11-23';

describe('effective level', () => {
  it('takes the person’s own over the team’s, even when lower', () => {
    expect(effectiveLevel(own(2), [team(5)], TODAY)).toEqual({ level: 2, from: 'own', until: null });
    expect(effectiveLevel(undefined, [team(3)], TODAY)).toMatchObject({ level: 3, from: 'team', id: 'team_a' });
    expect(effectiveLevel(undefined, [], TODAY)).toBeNull();
  });
  it('never bars whatever teams and sets give', () => {
    expect(effectiveLevel(own('never'), [team(5), set(4)], TODAY)).toBeNull();
  });
  it('counts through its last day and falls back to what is given after it', () => {
    const licence = own(4, TODAY);
    expect(effectiveLevel(licence, [team(2)], TODAY)).toMatchObject({ level: 4, from: 'own', until: TODAY });
    expect(effectiveLevel(licence, [team(2)], '2026-11-24')).toMatchObject({ level: 2, from: 'team' });
    expect(effectiveLevel(licence, [], '2026-11-24')).toBeNull();
    expect(effectiveLevel(own('never', TODAY), [team(2)], '2026-11-24')).toMatchObject({ level: 2 });
  });
  it('takes the highest of two teams and of sets; a team before a set when they give the same', () => {
    expect(effectiveLevel(undefined, [team(2), team(4, 'team_b')], TODAY)).toMatchObject({ level: 4, id: 'team_b' });
    expect(effectiveLevel(undefined, [team(2), set(3)], TODAY)).toMatchObject({ level: 3, from: 'set' });
    expect(effectiveLevel(undefined, [team(3), set(3)], TODAY)).toMatchObject({ from: 'team' });
  });
  const givers: Givers = {
    teams: new Map<string, { levels: Levels; setIds: readonly string[] }>([
      ['team_a', { levels: { brass: 2 }, setIds: ['set_a'] }],
      ['team_b', { levels: { brass: 4, keys: 1 }, setIds: [] }],
    ]),
    sets: new Map<string, Levels>([
      ['set_a', { keys: 3 }],
      ['set_b', { polish: 5 }],
    ]),
  };
  it('gathers what both teams and all sets give, and says through which team a set came', () => {
    const gifts = giftsTo({ teamIds: ['team_a', 'team_b'], setIds: ['set_b'] }, givers);
    expect(effectiveLevels(new Map(), gifts, TODAY)).toEqual(
      new Map([
        ['brass', { level: 4, from: 'team', id: 'team_b', until: null }],
        ['keys', { level: 3, from: 'set', id: 'set_a', viaTeamId: 'team_a', until: null }],
        ['polish', { level: 5, from: 'set', id: 'set_b', viaTeamId: null, until: null }],
      ]),
    );
  });
  it('is explained in a sentence', () => {
    const names = { team: () => 'Front desk', set: () => 'Basics' };
    expect(levelSentence(own(4, '2026-12-31'), [team(2)], TODAY, names)).toBe(
      'Level 4 is set on the person, through 2026-12-31 (Front desk would give 2).',
    );
    expect(levelSentence(own('never'), [team(2)], TODAY, names)).toBe(
      'Marked never on the person (Front desk would give 2).',
    );
    expect(levelSentence(undefined, [team(2), set(3, 'team_a')], TODAY, names)).toBe(
      'Level 3 comes from the set Basics, given to Front desk; Front desk gives 2.',
    );
    expect(levelSentence(own(4, '2026-11-01'), [team(2)], TODAY, names)).toBe(
      'Level 4 set on the person ended on 2026-11-01. Level 2 now comes from Front desk.',
    );
    expect(levelSentence(own(4, '2026-11-01'), [], TODAY, names)).toBe(
      'Level 4 set on the person ended on 2026-11-01. Nothing else gives this skill.',
    );
  });
  it('is own where own counts, else the maximum given, and nothing else (property)', () => {
    const level = fc.constantFrom<Level>(1, 2, 3, 4, 5);
    const date = fc.constantFrom('2026-11-22', '2026-11-23', '2026-11-24');
    const anyOwn = fc.record({
      level: fc.oneof(level, fc.constant('never' as const)),
      until: fc.option(date),
      note: fc.constant(''),
    });
    const gifts = fc.array(
      fc.oneof(
        level.map((l) => team(l)),
        level.map((l) => set(l)),
      ),
      { maxLength: 6 },
    );
    fc.assert(
      fc.property(fc.option(anyOwn, { nil: undefined }), gifts, date, (mine, given, today) => {
        const counts = mine && (mine.until === null || today <= mine.until);
        const expected = counts
          ? mine.level === 'never'
            ? undefined
            : mine.level
          : given.length > 0
            ? Math.max(...given.map((g) => g.level))
            : undefined;
        expect(effectiveLevel(mine, given, today)?.level).toBe(expected);
        expect(
          effectiveLevels(new Map(mine ? [['s', mine]] : []), new Map([['s', given]]), today).get('s')?.level,
        ).toBe(expected);
      }),
    );
  });
});

describe('duty profile', () => {
  it('another profile counts up to its instant, not at it', () => {
    const person = { dutyProfileId: 'own', forNow: { profileId: 'other', until: 1000 } };
    expect([profileIdAt(person, 999), profileIdAt(person, 1000), profileIdAt({ ...person, forNow: null }, 0)]).toEqual([
      'other',
      'own',
      'own',
    ]);
  });
  it('a row moved to another band keeps its delay; band 0 takes it out', () => {
    const rows = [{ queueId: 'q', channel: 'chat' as const, band: 1, delaySeconds: 60 }];
    expect(putInBand(rows, 'q', 'chat', 3)).toEqual([{ queueId: 'q', channel: 'chat', band: 3, delaySeconds: 60 }]);
    expect(putInBand(rows, 'q', 'voice', 1)).toHaveLength(2);
    expect(putInBand(rows, 'q', 'chat', 0)).toEqual([]);
  });
});

describe('roles', () => {
  const [owner, lead, supervisor, agent] = BUILT_IN_ROLES;
  const holder = (role: Role, teams: string[] = []) => standingOf(role, teams);
  it('owner and lead hold everything, an agent only the Desk', () => {
    expect(owner.rights).toEqual(RIGHTS);
    expect(lead.rights).toEqual(RIGHTS);
    expect(agent.rights).toEqual(['desk.work']);
    expect(supervisor.rights).not.toContain('roles.change');
  });
  it('nobody makes a second owner, and nobody gives a right or a team they do not have', () => {
    expect(mayGive(holder(owner), owner)).toBe(false);
    expect(mayGive(holder(owner), lead)).toBe(true);
    expect(mayGive(holder(supervisor, ['a']), lead)).toBe(false);
    expect(mayGive(holder(supervisor, ['a']), supervisor)).toBe(true);
    const reader: Role = { id: 'r', name: 'reader', rights: ['floor.view'], teams: ['a', 'b'] };
    expect(mayGive(holder(supervisor, ['a', 'b']), reader)).toBe(true);
    expect(mayGive(holder(supervisor, ['a']), reader)).toBe(false);
    expect(mayGive(holder(supervisor, ['a']), { ...reader, teams: 'all' })).toBe(false);
  });
});
