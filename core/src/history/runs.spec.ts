import * as fc from 'fast-check';
import { StepMap } from 'prosemirror-transform';
import { FUZZ } from '../testing/budget.js';
import { Random } from '../testing/random.js';
import type { Run } from './placed.js';
import { RunSequence } from './runs.js';

/** One token in the plain model: the whole sequence is a list of these, departed ones too. */
interface Cell {
  readonly seq: number;
  readonly offset: number;
  diedAt: number;
}

/** The run sequence done by brute force, a cell a token. */
class Model {
  readonly cells: Cell[];

  constructor(length: number) {
    this.cells = Array.from({ length }, (_, offset) => ({ seq: 0, offset, diedAt: 0 }));
  }

  private index(position: number): number {
    let left = position;
    for (const [i, cell] of this.cells.entries()) {
      if (cell.diedAt !== 0) continue;
      if (left === 0) return i;
      left--;
    }
    return this.cells.length;
  }

  replace(seq: number, from: number, removed: number, inserted: number): void {
    for (let i = 0; i < removed; i++) (this.cells[this.index(from)] as Cell).diedAt = seq;
    const at = from === 0 ? 0 : this.index(from - 1) + 1;
    this.cells.splice(
      at,
      0,
      ...Array.from({ length: inserted }, (_, offset) => ({ seq, offset, diedAt: 0 })),
    );
  }

  alive(moment = Infinity): string[] {
    return this.cells
      .filter((cell) => cell.seq <= moment && (cell.diedAt === 0 || cell.diedAt > moment))
      .map((cell) => `${cell.seq}.${cell.offset}`);
  }
}

const names = (runs: Iterable<Run>): string[] =>
  [...runs].flatMap((run) => Array.from({ length: run.length }, (_, i) => `${run.seq}.${run.offset + i}`));

describe('the run sequence', () => {
  it('equals a plain list with a cell for every token, at every moment', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const runs = RunSequence.starting(0, 5);
        const model = new Model(5);
        for (let seq = 1; seq <= 60; seq++) {
          const size = runs.alive;
          const from = random.between(0, size);
          const removed = Math.min(size - from, random.chance(0.4) ? random.between(0, 6) : 0);
          const inserted = random.between(0, 5);
          runs.append(seq, [new StepMap([from, removed, inserted])]);
          model.replace(seq, from, removed, inserted);
        }
        expect(names(runs.all())).toEqual(model.cells.map((cell) => `${cell.seq}.${cell.offset}`));
        for (const moment of [0, 1, 17, 40, 60]) {
          const placed = runs.at(moment);
          expect(names(placed.between(0, placed.size))).toEqual(model.alive(moment));
        }
        const from = random.between(0, runs.alive);
        const to = random.between(from, runs.alive);
        expect(names(runs.between(from, to))).toEqual(model.alive().slice(from, to));
      }),
      { numRuns: 150 * FUZZ },
    );
  });

  it('stays right when it grows far beyond its chunks and pages', () => {
    const random = new Random(9);
    const runs = RunSequence.starting(0, 2);
    let size = 2;
    for (let seq = 1; seq <= 30_000; seq++) {
      const from = random.between(0, size);
      const removed = random.chance(0.3) ? Math.min(size - from, 2) : 0;
      runs.append(seq, [new StepMap([from, removed, 2])]);
      size += 2 - removed;
    }
    expect(runs.alive).toBe(size);
    expect(runs.at().size).toBe(size);
    const copy = RunSequence.decode(runs.encode());
    expect(names(copy.between(1000, 1200))).toEqual(names(runs.between(1000, 1200)));
    copy.append(30_001, [new StepMap([500, 40, 3])]);
    expect([copy.alive, runs.alive]).toEqual([size - 37, size]);
  });

  it('leads a return back to where it was first written', () => {
    const runs = RunSequence.starting(0, 0);
    runs.append(1, [new StepMap([0, 0, 6])]);
    runs.append(2, [new StepMap([0, 6, 0])]);
    runs.append(
      3,
      [new StepMap([0, 0, 4])],
      [{ at: 1, seq: 1, offset: 2, length: 2, named: { seq: 1, offset: 2 } }],
    );
    expect(
      runs.between(0, 4).map((run) => [run.offset, run.length, run.origin.seq, run.origin.offset]),
    ).toEqual([
      [0, 1, 3, 0],
      [1, 2, 1, 2],
      [3, 1, 3, 3],
    ]);
  });

  it('refuses to remove more than there is', () => {
    expect(() => RunSequence.starting(0, 3).append(1, [new StepMap([1, 9, 0])])).toThrowError(RangeError);
  });
});
