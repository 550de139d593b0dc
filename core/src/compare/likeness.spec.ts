import { Random, prose } from '../testing/index.js';
import { resemblance, shinglesOf } from './likeness.js';

describe('how alike two texts are', () => {
  it('counts runs of words once, as in the worked example of Broder 1997 (from memory)', () => {
    expect(shinglesOf('a rose is a rose is a rose', 4).size).toBe(3);
    expect(shinglesOf('A rose, is: a ROSE is a rose!', 4)).toEqual(
      shinglesOf('a rose is a rose is a rose', 4),
    );
    expect(shinglesOf('too few words', 4).size).toBe(0);
  });

  it('is 1 for the same, 0 for strangers and for nothing, and the same both ways', () => {
    const [one, other] = [
      shinglesOf(prose(new Random(1), 30)),
      shinglesOf('the mill turns at the ebb every day'),
    ];
    expect(resemblance(one, one)).toBe(1);
    expect(resemblance(one, other)).toBe(0);
    expect(resemblance(new Set(), new Set())).toBe(0);
    const half = shinglesOf(prose(new Random(1), 15));
    expect(resemblance(one, half)).toBe(resemblance(half, one));
    expect(resemblance(one, half)).toBeGreaterThan(0.3);
    expect(resemblance(one, half)).toBeLessThan(0.7);
  });
});
