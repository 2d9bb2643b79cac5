import { describe, expect, it } from 'vitest';
import { choice, choose, end, say, scriptOf, toScene } from '../../../tests/helpers/scripts';
import { leftShare, sceneTraffic, type Traffic } from './traffic';

/**
 * 100 begin; 60 take the first choice and 30 the second, which both lead to scene 2; 8 left at the question, 9 in
 * scene 2.
 */
const script = scriptOf(
  [say('a', 'Hi'), choose('q', [choice('x', '1', toScene('s2')), choice('y', '2', toScene('s2'))])],
  [choose('r', [choice('again', '1', toScene('s2'))]), end('e', 'Bye')],
);
const traffic: Traffic = {
  ways: { 'q>x': 60, 'q>y': 30, 'q>otherwise': 2, 'r>again': 40, 'r>otherwise': 41 },
  left: { q: 8, r: 9 },
  of: 100,
};

describe('how customers went', () => {
  it('a scene tells what leads to it from elsewhere, how many came and how many left within; its own circle does not count', () => {
    expect(sceneTraffic(script, traffic).get('s1')).toEqual({ from: [], came: 100, left: 8 });
    expect(sceneTraffic(script, traffic).get('s2')).toEqual({ from: ['q'], came: 90, left: 9 });
  });
  it('without history it still tells what leads there', () =>
    expect(sceneTraffic(script, null).get('s2')).toEqual({ from: ['q'], came: 0, left: 0 }));
  it('a line’s share is of those who came to it, and is not known where nobody did', () => {
    expect(leftShare(traffic, 'q')).toBeCloseTo(8 / 100);
    expect(leftShare(traffic, 'r')).toBeCloseTo(9 / 90);
    expect(leftShare(traffic, 'e')).toBeNull();
  });
});
