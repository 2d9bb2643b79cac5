import { describe, expect, it } from 'vitest';
import { choice, choose, end, over, say, scriptOf, toLine, toScene } from '../../../tests/helpers/scripts';
import { botFile, type BotFile, settled } from './file';
import { mapOf, mapSvg } from './map';
import { scriptFrom } from './upgrade';

describe('a bot as a file', () => {
  const script = scriptOf([over('h', 'queue_1', { needs: [{ skillId: 'skill_1', atLeast: 2 }] })]);
  it('carries names, by which references are found again in another workspace', () => {
    const file = JSON.parse(
      botFile(
        { name: 'Front', script, shared: [], tests: [] },
        (key) => ({ 'queue queue_1': 'Repairs', 'skill skill_1': 'Bowed' })[key],
      ),
    ) as BotFile;
    expect(file.names).toEqual({ 'queue queue_1': 'Repairs', 'skill skill_1': 'Bowed' });
    const here = settled(
      file,
      new Map([
        ['queue other', 'repairs'],
        ['skill skill_1', 'Something else here'],
      ]),
    );
    expect(here.script.scenes[0]?.steps[0]).toMatchObject({
      target: { queueId: 'other' },
      needs: [{ skillId: 'skill_1' }],
    });
    expect(settled(file, new Map()).script.scenes).toEqual(script.scenes);
  });
  it('a script kept by an earlier step of the product reads as before', () => {
    const old = {
      shownName: 'B',
      languages: ['en'],
      fallbackQueueId: 'q',
      scenes: [
        {
          id: 's',
          name: 'S',
          steps: [
            { id: 'a', verb: 'say', wording: { en: 'Hi' } },
            {
              id: 'l',
              verb: 'listen',
              wording: { en: 'Name?' },
              hears: { kind: 'text' },
              remember: 'name',
              tries: 2,
              again: {},
              otherwise: { to: 'next' },
            },
            { id: 'h', verb: 'hand-over', queueId: 'q', needs: [], priority: 1, wording: {} },
          ],
        },
      ],
    };
    expect(scriptFrom(old).scenes[0]?.steps).toMatchObject([
      { wording: { text: { en: 'Hi' } }, mayInterrupt: true },
      { hears: { kind: 'value', asked: { type: 'text' } }, into: { name: 'name', scope: 'conversation' } },
      { target: { to: 'queue', queueId: 'q' }, fields: ['name'] },
    ]);
    const now = scriptFrom(old);
    expect(scriptFrom(JSON.parse(JSON.stringify(now)))).toEqual(now);
  });
});

describe('the map', () => {
  const script = scriptOf(
    [
      say('a', 'Hello & <you>'),
      choose('q', [choice('x', '1', toScene('s2')), choice('y', '2', toLine('a'))]),
      over('h', 'repairs'),
    ],
    [end('e', 'Bye')],
  );
  it('has each line within its scene, lines below one another, and an arrow a way', () => {
    const map = mapOf(script);
    for (const scene of script.scenes) {
      const region = map.regions.find((r) => r.id === scene.id);
      for (const step of scene.steps) {
        const l = map.lines.find((x) => x.id === step.id);
        expect(l && region && l.x > region.x && l.y > region.y && l.y < region.y + region.height).toBe(true);
      }
    }
    expect(map.arrows.map((a) => a.id).sort()).toEqual(['a>next', 'e>end', 'h>person', 'q>otherwise', 'q>x', 'q>y']);
    expect(mapOf(script)).toEqual(map);
  });
  it('regions do not lie on one another', () => {
    const { regions } = mapOf(
      scriptOf(
        ...Array.from({ length: 9 }, (_, i) => [
          choose(`q${i}`, [
            choice(`x${i}`, '1', toScene(`s${((i * 3) % 9) + 1}`)),
            choice(`y${i}`, '2', toScene(`s${((i * 5 + 1) % 9) + 1}`)),
          ]),
        ]),
      ),
    );
    for (const a of regions)
      for (const b of regions)
        if (a !== b)
          expect(a.x + a.width <= b.x || b.x + b.width <= a.x || a.y + a.height <= b.y || b.y + b.height <= a.y).toBe(
            true,
          );
  });
  it('ways alongside one another do not lie on one another', () => {
    const { arrows } = mapOf(
      scriptOf(
        [
          choose(
            'q',
            Array.from({ length: 6 }, (_, i) => choice(`x${i}`, `${i}`, toScene('s2'))),
          ),
          say('n', 'Next'),
        ],
        [end('e', 'Bye')],
      ),
    );
    const tips = arrows
      .filter((a) => a.to === 'e')
      .map((a) => a.points.at(-1)?.y ?? 0)
      .sort((a, b) => a - b);
    expect(tips).toHaveLength(6);
    for (const [i, y] of tips.entries()) if (i > 0) expect(y - (tips[i - 1] ?? 0)).toBeGreaterThan(3);
    expect((tips[5] ?? 0) - (tips[0] ?? 0)).toBeLessThan(34);
  });
  it('is a drawing by itself, with wording that cannot break it', () => {
    const svg = mapSvg(script, () => 'Repairs');
    expect(svg).toMatch(/^<svg xmlns="http:\/\/www\.w3\.org\/2000\/svg"/);
    expect(svg).toContain('Hello &amp; &lt;you&gt;');
    expect(svg).toContain('Repairs');
  });
});
