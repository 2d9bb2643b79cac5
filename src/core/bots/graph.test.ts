import { XMLValidator } from 'fast-xml-parser';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fitting, randomMove, randomScript, randomShared, REPLIES } from '../../../tests/helpers/randomscripts';
import { choice, choose, END, end, say, scriptOf, toLine } from '../../../tests/helpers/scripts';
import { sized } from '../../../tests/helpers/size';
import { beginning, type BotInput, type Reply } from './conversation';
import { endlessLines, graphOf, loopsWithoutInput, reachable } from './graph';
import { runBot } from './interpreter';
import { LINE_HEIGHT, LINE_WIDTH, mapOf, mapSvg } from './map';
import { allSteps, type BotScript, type Step } from './model';
import { prepare } from './program';

const RUNS = { numRuns: sized({ quick: 60, usual: 300, long: 3000 }) };
const NOTHING = {
  book: 1,
  thing: () => null,
  thingName: (_l: string, id: string) => id,
};

describe('what a script is said to do, against what it does', () => {
  it('no conversation comes to a line that is said to be out of reach', () => {
    fc.assert(
      fc.property(randomScript, randomShared, fc.array(randomMove, { maxLength: 12 }), (script, scene, moves) => {
        const program = prepare(script, [scene], NOTHING);
        const reached = reachable(graphOf(script));
        const world = { channel: 'chat', local: '2026-11-17T10:20' } as const;
        const own = new Set(allSteps(script).map((s) => s.id));
        let state = runBot(program, world, beginning('en'), { type: 'start' }).state;
        for (const m of moves) {
          if (state.lineId !== null && own.has(state.lineId) && state.frames.length <= 1)
            expect([...reached]).toContain(state.lineId);
          const input: BotInput =
            'input' in m
              ? m.input
              : {
                  type: 'reply',
                  number: state.asked?.number ?? 1,
                  reply: state.asked ? fitting(state.asked.ask, m.reply) : (REPLIES[m.reply] as Reply),
                };
          if (input.type === 'scene') continue;
          ({ state } = runBot(program, world, state, input));
        }
      }),
      RUNS,
    );
  });
  it('a line in a circle without input is reached, and an endless one leads on to nothing that waits or ends', () => {
    fc.assert(
      fc.property(randomScript, (script) => {
        const graph = graphOf(script);
        const reached = reachable(graph);
        for (const id of loopsWithoutInput(graph)) expect(reached.has(id)).toBe(true);
        const endless = endlessLines(graph);
        for (const start of endless) {
          const seen = new Set([start]);
          for (const id of seen)
            for (const arrow of graph.out.get(id) ?? []) {
              expect(arrow.input).toBe(false);
              expect(['end', 'back', 'person']).not.toContain(arrow.to);
              if (typeof arrow.to === 'object') seen.add(arrow.to.line);
            }
        }
      }),
      RUNS,
    );
  });
  it('an endless circle is found, one with a question in it is none, and one with a way out may go round', () => {
    const round = (middle: readonly Step[]) => scriptOf([say('a', 'A'), ...middle, say('z', 'Z')]);
    const back: Step = { id: 'j', verb: 'go-to', cue: toLine('a') };
    const endless = graphOf(round([back]));
    expect([...endlessLines(endless)].sort()).toEqual(['a', 'j']);
    expect([...loopsWithoutInput(endless)].sort()).toEqual(['a', 'j']);
    expect(reachable(endless).has('z')).toBe(false);
    const asked = graphOf(round([choose('q', [choice('x', '1', toLine('a'))], { otherwise: toLine('a') })]));
    expect([endlessLines(asked).size, loopsWithoutInput(asked).size]).toEqual([0, 0]);
    const may = graphOf(
      round([
        { id: 'b', verb: 'branch', ways: [{ when: { '==': [{ var: 'x' }, 1] }, cue: toLine('a') }], otherwise: END },
      ]),
    );
    expect(endlessLines(may).size).toBe(0);
    expect([...loopsWithoutInput(may)].sort()).toEqual(['a', 'b']);
  });
  it('a cue to what is gone leads nowhere, and is no way on', () => {
    const graph = graphOf(scriptOf([{ id: 'j', verb: 'go-to', cue: toLine('nowhere') }, end('z')]));
    expect(graph.arrows.find((a) => a.from === 'j')?.to).toBe('gone');
    expect(reachable(graph).has('z')).toBe(false);
  });
});

describe('the map', () => {
  it('no two lines stand over one another, each within its scene; arrows join what they say', () => {
    fc.assert(
      fc.property(randomScript, (script) => {
        const map = mapOf(script);
        const boxes = map.lines.map((l) => ({ ...l, right: l.x + LINE_WIDTH, bottom: l.y + LINE_HEIGHT }));
        boxes.forEach((a, i) =>
          boxes.slice(i + 1).forEach((b) => {
            expect([a.id, b.id, a.x < b.right && b.x < a.right && a.y < b.bottom && b.y < a.bottom]).toEqual([
              a.id,
              b.id,
              false,
            ]);
          }),
        );
        for (const box of boxes) {
          const scene = script.scenes.findIndex((s) => s.steps.some((step) => step.id === box.id));
          const region = map.regions[scene];
          expect(region && box.x >= region.x && box.right <= region.x + region.width).toBe(true);
          expect(region && box.y >= region.y && box.bottom <= region.y + region.height).toBe(true);
        }
        const ids = new Set([...map.lines.map((l) => l.id), ...map.ends.map((e) => e.id)]);
        for (const arrow of map.arrows) {
          expect(ids.has(arrow.from) && ids.has(arrow.to)).toBe(true);
          expect(arrow.points.length).toBeGreaterThan(1);
          expect(arrow.points.flatMap((p) => [p.x, p.y]).every(Number.isFinite)).toBe(true);
        }
        expect(mapOf(script)).toEqual(map);
      }),
      { numRuns: sized({ quick: 30, usual: 100, long: 600 }) },
    );
  });
  it('as a picture it is well-formed, whatever the words', () => {
    const nasty = `</text><script>alert(1)</script> & "quoted" <b>`;
    const script: BotScript = {
      ...scriptOf([say('a', nasty), choose('q', [choice('x', '1')]), end('z', nasty)]),
    };
    const named = { ...script, scenes: script.scenes.map((s) => ({ ...s, name: nasty })) };
    const svg = mapSvg(named, () => nasty);
    expect(XMLValidator.validate(svg)).toBe(true);
    expect(svg).not.toContain('<script>');
  });
});
