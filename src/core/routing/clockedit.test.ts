import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { inOrder, type Stage, type StageAct } from './clock';
import { actAt, addAct, changeAct, copiedTo, moveAct, removeAct, spokenSeconds } from './clockedit';
import { clockEnd, hears, mayChoose, mustKnow, whoIsAdded } from './clocksegments';
import { LOOPS, loopSeconds, noteFrequency, renderLoop } from '../sound/loops';
import { QUEUE_DEFAULTS } from './queue';
import { queueSentences } from './queuesentence';

const say = (text: string): StageAct => ({ does: 'say', wording: { en: text }, everySeconds: null });
const lower = (by: number, skillId = 's'): StageAct => ({ does: 'lower', skillId, by });
const stage = (atSeconds: number, ...acts: StageAct[]): Stage => ({ atSeconds, early: false, acts });

describe('editing a wait clock', () => {
  const act = fc.constantFrom<StageAct>(
    say('one'),
    lower(1),
    { does: 'raise', by: 1 },
    { does: 'add-group', groupId: 'g' },
  );
  const stages = fc
    .uniqueArray(
      fc.record({ atSeconds: fc.nat(120), early: fc.boolean(), acts: fc.array(act, { minLength: 1, maxLength: 3 }) }),
      { selector: (s) => s.atSeconds, maxLength: 5 },
    )
    .map(inOrder);
  const tidy = (all: readonly Stage[]) =>
    all.every((s, i) => s.acts.length > 0 && (i === 0 || s.atSeconds > (all[i - 1]?.atSeconds ?? -1)));
  const count = (all: readonly Stage[]) => all.reduce((n, s) => n + s.acts.length, 0);
  it('keeps stages in order, each second once, and loses no act', () => {
    fc.assert(
      fc.property(stages, act, fc.integer({ min: -50, max: 200 }), fc.nat(), (before, one, at, pick) => {
        const added = addAct(before, at, one);
        expect(tidy(added.stages) && count(added.stages) === count(before) + 1).toBe(true);
        expect(actAt(added.stages, added.place)).toEqual(one);
        const s = pick % added.stages.length;
        const place = { stage: s, act: pick % (added.stages[s]?.acts.length ?? 1) };
        const what = actAt(added.stages, place);
        const moved = moveAct(added.stages, place, at + 13);
        expect(tidy(moved.stages) && count(moved.stages) === count(added.stages)).toBe(true);
        expect(actAt(moved.stages, moved.place)).toEqual(what);
        expect(count(removeAct(added.stages, place))).toBe(count(added.stages) - 1);
        expect(count(changeAct(added.stages, place, say('other')))).toBe(count(added.stages));
      }),
    );
  });
  it('an act alone in its stage takes along that it may come early', () => {
    expect(moveAct([{ atSeconds: 30, early: true, acts: [lower(1)] }], { stage: 0, act: 0 }, 45).stages).toEqual([
      { atSeconds: 45, early: true, acts: [lower(1)] },
    ]);
  });
});

describe('the rows of a clock', () => {
  it('music goes on after each message, until the end', () => {
    const rows = hears(
      [
        stage(0, say('Please wait a moment'), { does: 'play', music: 'cello' }),
        stage(30, say('Thank you for waiting')),
      ],
      60,
      'en',
    );
    expect(rows.map((r) => [r.kind, r.from, r.to])).toEqual([
      ['say', 0, 3],
      ['music', 3, 30],
      ['say', 30, 33],
      ['music', 33, 60],
    ]);
  });
  it('levels fall with each stage and drop away below 1', () => {
    expect(
      mustKnow(
        [
          { skillId: 's', atLeast: 3 },
          { skillId: 'f', atLeast: 2, firm: true },
        ],
        [stage(30, lower(1)), stage(60, lower(3), lower(1, 'f'))],
        90,
      ),
    ).toMatchObject([
      {
        skillId: 's',
        segments: [
          { from: 0, to: 30, atLeast: 3, place: null },
          { from: 30, to: 60, atLeast: 2, place: { stage: 0, act: 0 } },
          { from: 60, to: 90, atLeast: 0 },
        ],
      },
      {
        skillId: 'f',
        segments: [
          { from: 0, to: 60, atLeast: 2 },
          { from: 60, to: 90, atLeast: 2 },
        ],
      },
    ]);
  });
  it('a question stands until the next; who is added stays', () => {
    const ask: StageAct = { does: 'ask', wording: {}, choices: [{ key: '1', what: 'callback' }], everySeconds: null };
    expect(mayChoose([stage(20, ask), stage(50, ask)], 80).map((s) => [s.from, s.to])).toEqual([
      [20, 50],
      [50, 80],
    ]);
    expect(whoIsAdded([stage(20, { does: 'add-partner', partnerId: 'p' })], 80)).toMatchObject([{ from: 20, to: 80 }]);
    expect([clockEnd([], 20), clockEnd([stage(120, lower(1))], 20), clockEnd([], 300)]).toEqual([60, 180, 600]);
  });
  it.each([
    ['Wait', 2],
    ['one two three four five six seven eight nine ten', 5],
  ])('%s takes %i s to speak', (text, seconds) => expect(spokenSeconds(text)).toBe(seconds));
});

describe('a queue in sentences', () => {
  it('says what happens when', () => {
    const names = {
      skill: () => 'French',
      queue: () => 'Billing',
      group: () => 'Helpers',
      partner: () => 'Bench partner',
    };
    expect(
      queueSentences(
        {
          ...QUEUE_DEFAULTS,
          id: 'q',
          name: 'Q',
          channels: ['voice'],
          goals: { voice: { percent: 80, seconds: 30 } },
          needs: [{ skillId: 'fr', atLeast: 3, firm: true }],
          entryRules: [{ if: { when: 'waiting', atLeast: 40 }, then: { to: 'queue', queueId: 'b' } }],
          clocks: { voice: [{ atSeconds: 45, early: true, acts: [lower(1), { does: 'add-group', groupId: 'g' }] }] },
          wrapUp: { seconds: 45, mayFinishEarly: true, needsOutcome: false },
        },
        names,
      ),
    ).toEqual([
      'Takes voice; 80% of them should be answered within 30 s.',
      'Whoever is asked must have French 3 (firm) or better.',
      'One person is asked at a time, by longest since the last contact.',
      'On entering, if 40 or more waiting: move to Billing, keeping the wait.',
      'Voice: once everybody asked is full, or after 45 s, French may be 1 level lower and Helpers is asked as well.',
      'Wrap-up lasts 45 s at most.',
    ]);
  });
});

describe('a clock copied from another channel', () => {
  it('is as it was, but for what only callers have; a stage with nothing left goes', () => {
    const stages = [
      stage(0, { does: 'play', music: 'cello' }),
      stage(20, { does: 'play', music: 'cello' }, lower(1)),
      stage(40, { does: 'add-partner', partnerId: 'p' }),
      stage(60, { does: 'add-group', groupId: 'g' }),
    ];
    expect(copiedTo('voice', stages)).toEqual(stages);
    expect(copiedTo('chat', stages)).toEqual([stage(20, lower(1)), stage(60, { does: 'add-group', groupId: 'g' })]);
  });
});

describe('waiting music', () => {
  it.each(LOOPS.map((l) => [l.name, l] as const))(
    '%s is sound without clipping, as long as it says, and joins without a click',
    (_name, loop) => {
      const samples = renderLoop(loop, 8000);
      expect(samples.length).toBe(Math.round(loopSeconds(loop) * 8000));
      const loudest = samples.reduce((most, s) => Math.max(most, Math.abs(s)), 0);
      expect(loudest).toBeGreaterThan(0.2);
      expect(loudest).toBeLessThanOrEqual(0.8001);
      expect(Math.abs((samples.at(-1) ?? 0) - (samples[0] ?? 0))).toBeLessThan(0.05);
    },
  );
  it('a is 440 Hz', () => expect([noteFrequency(69), noteFrequency(57)]).toEqual([440, 220]));
});
