import { sized } from '../../../tests/helpers/size';
import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import {
  fitting,
  randomMove as move,
  randomScript as script,
  randomShared as shared,
  REPLIES,
} from '../../../tests/helpers/randomscripts';
import { checkBot } from './checks';
import { beginning, type BotInput, type Reply } from './conversation';
import { differences } from './difference';
import { runBot, STEP_LIMIT } from './interpreter';
import { mapOf } from './map';
import { prepare } from './program';

describe('any bot and any inputs', () => {
  it('end, hand over, ask or wait, within the step limit, and never throw; what is kept between inputs is plain data', () => {
    fc.assert(
      fc.property(
        script,
        shared,
        fc.constantFrom('voice', 'chat', 'sms'),
        fc.array(move, { maxLength: 14 }),
        fc.boolean(),
        (s, scene, channel, moves, right) => {
          const program = prepare(s, [scene], {
            book: 1,
            thing: () => 'cello',
            thingName: (_l, id) => id,
          });
          const world = { channel, local: '2026-11-17T10:20' } as const;
          let state = runBot(program, world, beginning('en'), { type: 'start' }).state;
          for (const m of moves) {
            const input: BotInput =
              'input' in m
                ? m.input
                : {
                    type: 'reply',
                    number: state.asked?.number ?? 1,
                    reply: right && state.asked ? fitting(state.asked.ask, m.reply) : (REPLIES[m.reply] as Reply),
                  };
            const before = JSON.stringify(state);
            const out = runBot(program, world, state, input);
            expect(JSON.stringify(state)).toBe(before);
            expect(runBot(program, world, JSON.parse(before) as typeof state, input)).toEqual(out);
            ({ state } = out);
            expect(state.ran).toBeLessThanOrEqual(STEP_LIMIT);
            expect(['listening', 'asking', 'handed-over', 'promised', 'ended']).toContain(state.status);
            expect(state.status === 'asking').toBe(state.asked !== null);
            // Nobody is dropped in silence: who is handed over because of a fault has been told something.
            const fault = out.acts.find((a) => a.type === 'hand-over' && a.because !== null);
            if (fault) expect(out.acts.some((a) => a.type === 'say')).toBe(true);
          }
        },
      ),
      { numRuns: sized({ quick: 200, usual: 1000, long: 3000 }) },
    );
  });
  it('can be checked, drawn and compared, whatever they are', () => {
    fc.assert(
      fc.property(script, script, shared, (a, b, scene) => {
        checkBot(a, {
          recorded: (_language, words) => (words.length % 2 === 0 ? { id: 'sound', seconds: 1 } : null),
          queues: new Map(),
          channels: ['voice', 'sms'],
          names: new Map(),
          shared: new Map([['sh', scene]]),
          fields: [],
        });
        const map = mapOf(a);
        expect(map.lines).toHaveLength(6);
        for (const l of map.lines) expect([l.x, l.y].every(Number.isFinite)).toBe(true);
        expect(differences(a, a)).toEqual([]);
        if (JSON.stringify(a.scenes) !== JSON.stringify(b.scenes)) expect(differences(a, b).length).toBeGreaterThan(0);
      }),
      { numRuns: sized({ quick: 60, usual: 200, long: 400 }) },
    );
  });
});
