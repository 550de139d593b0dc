import * as fc from 'fast-check';
import { unitsOf } from '../content/index.js';
import { FUZZ } from '../testing/budget.js';
import { Random } from '../testing/random.js';
import { longestIncreasing, uniqueAnchors } from './anchors.js';
import { Rows } from './bits.js';
import { solveGreedy } from './greedy.js';
import { solvePairs } from './pairs.js';
import { commonRuns } from './sequence.js';
import { Vocabulary } from './vocabulary.js';

/** Lengths of longest common subsequences by the textbook's table. */
function lengthOf(a: ArrayLike<number>, b: ArrayLike<number>): number {
  let row = new Array<number>(b.length + 1).fill(0);
  for (let i = 0; i < a.length; i++) {
    const next = [0];
    for (let j = 0; j < b.length; j++)
      next.push(a[i] === b[j] ? (row[j] as number) + 1 : Math.max(row[j + 1] as number, next[j] as number));
    row = next;
  }
  return row.at(-1) ?? 0;
}

const items = (most: number, size: number) =>
  fc.array(fc.integer({ min: 0, max: most }), { maxLength: size }).map((list) => Int32Array.from(list));

describe('common runs', () => {
  it('stand in order on both sides, are equal, and never touch', () => {
    fc.assert(
      fc.property(items(6, 200), items(6, 200), (a, b) => {
        let [x, y] = [0, 0];
        for (const run of commonRuns(a, b)) {
          expect(run.length).toBeGreaterThan(0);
          expect(run.a > x || run.b > y || x === 0).toBe(true);
          expect(run.a >= x && run.b >= y).toBe(true);
          expect(a.slice(run.a, run.a + run.length)).toEqual(b.slice(run.b, run.b + run.length));
          [x, y] = [run.a + run.length, run.b + run.length];
        }
      }),
      { numRuns: 300 * FUZZ },
    );
  });

  it('are good beyond what is solved exactly: a long text of few words keeps nearly all that stayed', () => {
    const random = new Random(5);
    const a = Int32Array.from({ length: 60_000 }, () => random.between(0, 40));
    const b = a.map((item) => (random.chance(0.05) ? random.between(0, 40) : item));
    const kept = commonRuns(a, b).reduce((sum, run) => sum + run.length, 0);
    expect(kept).toBeGreaterThan(0.9 * a.length);
  });

  it('are found by matching pairs as by the table, or not at all', () => {
    fc.assert(
      fc.property(items(30, 60), items(30, 60), (a, b) => {
        let [x, y, length] = [-1, -1, 0];
        const solved = solvePairs(a, b, 0, a.length, 0, b.length, (i, j) => {
          expect(i > x && j > y && a[i] === b[j]).toBe(true);
          [x, y, length] = [i, j, length + 1];
        });
        if (solved) expect(length).toBe(lengthOf(a, b));
        else expect(length).toBe(0);
      }),
      { numRuns: 400 * FUZZ },
    );
    const same = new Int32Array(100);
    expect(solvePairs(same, same, 0, 100, 0, 100, () => fail('too many pairs'))).toBe(false);
  });

  it('are found greedily as by the table while little came and went, or not at all (Myers 1986)', () => {
    const edited = fc
      .tuple(items(6, 60), fc.array(fc.tuple(fc.nat(60), fc.integer({ min: -1, max: 6 })), { maxLength: 14 }))
      .map(([a, edits]): [Int32Array, Int32Array] => {
        const b = [...a];
        for (const [at, item] of edits) b.splice(at, item % 2 === 0 ? 1 : 0, ...(item < 0 ? [] : [item]));
        return [a, Int32Array.from(b)];
      });
    fc.assert(
      fc.property(edited, ([a, b]) => {
        let [x, y, length] = [-1, -1, 0];
        const solved = solveGreedy(a, b, 0, a.length, 0, b.length, (i, j) => {
          expect(i > x && j > y && a[i] === b[j]).toBe(true);
          [x, y, length] = [i, j, length + 1];
        });
        const most = lengthOf(a, b);
        expect(solved).toBe(a.length + b.length - 2 * most <= 20);
        expect(length).toBe(solved ? most : 0);
      }),
      { numRuns: 600 * FUZZ },
    );
    let script = 0;
    const [a, b] = ['ABCABBA', 'CBABAC'].map((text) => unitsOf(text, new Uint16Array(8)));
    if (a && b)
      solveGreedy(Int32Array.from(a), Int32Array.from(b), 0, 7, 0, 6, () => {
        script++;
      });
    expect(7 + 6 - 2 * script)
      .withContext('the worked example of the paper')
      .toBe(5);
  });

  it('are cut by rows of bits where both halves together keep most', () => {
    fc.assert(
      fc.property(items(3, 90), items(3, 40), (a, b) => {
        const middle = b.length >> 1;
        const cut = new Rows(a, b, 4).cut(0, a.length, 0, middle, b.length);
        const halves =
          lengthOf(a.slice(0, cut), b.slice(0, middle)) + lengthOf(a.slice(cut), b.slice(middle));
        expect(halves).toBe(lengthOf(a, b));
      }),
      { numRuns: 300 * FUZZ },
    );
  });
});

describe('anchors', () => {
  it('are the items that occur once on both sides, in a longest increasing run', () => {
    expect(uniqueAnchors(Int32Array.of(1, 2, 3, 3, 4), Int32Array.of(4, 1, 5, 2, 3))).toEqual([
      { a: 0, b: 1 },
      { a: 1, b: 3 },
    ]);
  });

  it('increase in both, and weigh as much as any such run does', () => {
    const pair = fc.record({ a: fc.nat(12), b: fc.nat(12), weight: fc.integer({ min: 1, max: 9 }) });
    fc.assert(
      fc.property(fc.uniqueArray(pair, { maxLength: 12, selector: ({ a }) => a }), (pairs) => {
        pairs.sort((x, y) => x.a - y.a || y.b - x.b);
        const best = pairs.map(() => 0);
        pairs.forEach((one, i) => {
          const before = pairs.slice(0, i).map((other, j) => (other.b < one.b ? (best[j] as number) : 0));
          best[i] = one.weight + Math.max(0, ...before);
        });
        const found = longestIncreasing(pairs, ({ weight }) => weight);
        for (let i = 1; i < found.length; i++) expect((found[i]?.b ?? 0) > (found[i - 1]?.b ?? 0)).toBe(true);
        expect(found.reduce((sum, { weight }) => sum + weight, 0)).toBe(Math.max(0, ...best));
      }),
      { numRuns: 400 * FUZZ },
    );
  });
});

describe('the vocabulary', () => {
  it('leaves nothing but room to the next one', () => {
    const units = unitsOf('weir, mill', new Uint16Array(16));
    const first = new Vocabulary();
    expect([first.number(units, 0, 4), first.number(units, 4, 5), first.number(units, 6, 10)]).toEqual([
      0, 1, 2,
    ]);
    first.close();
    const next = new Vocabulary();
    expect([next.number(units, 6, 10), next.number(units, 4, 5), next.size]).toEqual([0, 1, 2]);
    expect([next.text(0), next.text(1)]).toEqual(['mill', ',']);
  });

  it('numbers equal stretches alike and others apart, as it grows', () => {
    const vocabulary = new Vocabulary();
    let units = new Uint16Array(4);
    const numbers = new Map<string, number>();
    const random = new Random(9);
    for (let i = 0; i < 20_000; i++) {
      const text = `word${random.between(0, 6_000)} `;
      units = unitsOf(`x${text}`, units);
      const number = vocabulary.number(units, 1, text.length);
      const word = text.slice(0, -1);
      expect(numbers.get(word) ?? number).toBe(number);
      numbers.set(word, number);
      expect(vocabulary.text(number)).toBe(word);
    }
    expect(new Set(numbers.values()).size).toBe(numbers.size);
  });
});
