import type { Trace } from '@oxbow/core/history';
import { Levels, layOut, momentAt, placeOf, rangeBetween, shifted, stepFrom, usual, zoomed } from './layout';
import type { Range } from './layout';

const MINUTE = 60_000;
const DAY = 24 * 60 * MINUTE;

/** A history of `days` days with `each` edits a day, ten seconds apart. */
function history(days: number, each: number): Trace[] {
  return Array.from({ length: days * each }, (_, i) => ({
    seq: i + 1,
    at: 1.7e12 + Math.floor(i / each) * DAY + (i % each) * 10_000,
    author: 'ines',
    wordsIn: 1,
    wordsOut: 0,
  }));
}

const laidOut = (traces: readonly Trace[], range: Range, width: number) =>
  layOut(new Levels(traces), range, width);
const whole = (traces: readonly Trace[]) => ({ first: 1, last: traces.length });

describe('the layout of the tideline', () => {
  it('shows every edit of the range exactly once, at the finest grain that fits', () => {
    for (const [days, each, width] of [
      [1, 12, 900],
      [40, 30, 900],
      [365, 60, 900],
      [365, 60, 320],
    ] as const) {
      const traces = history(days, each);
      const { bars } = laidOut(traces, whole(traces), width);
      expect(bars.reduce((sum, bar) => sum + bar.sitting.edits, 0)).toBe(traces.length);
      const end = bars.at(-1);
      expect((end?.x ?? 0) + (end?.width ?? 0)).toBeLessThanOrEqual(width + 0.01);
    }
    expect(laidOut(history(1, 12), { first: 1, last: 12 }, 900).grain).toBe(0);
    expect(laidOut(history(365, 60), { first: 1, last: 365 * 60 }, 900).grain).toBeGreaterThan(MINUTE);
  });

  it('never lets bars or breaks overlap, and writes the length of a gap on it', () => {
    const traces = [
      ...history(2, 10),
      ...history(2, 10).map((trace) => ({ ...trace, seq: trace.seq + 20, at: trace.at + 21 * DAY })),
    ];
    const { bars, folds } = laidOut(traces, whole(traces), 900);
    const parts = [...bars, ...folds].sort((a, b) => a.x - b.x);
    for (const [i, part] of parts.entries())
      expect(part.x).toBeGreaterThanOrEqual(
        i === 0 ? 0 : (parts[i - 1]?.x ?? 0) + (parts[i - 1]?.width ?? 0) - 0.01,
      );
    expect(folds.map((fold) => fold.label)).toContain('3w');
  });

  it('steps through the ends of its bars, and finds the place of each again', () => {
    const traces = history(30, 20);
    const layout = laidOut(traces, whole(traces), 700);
    const seen: number[] = [];
    for (let seq = stepFrom(layout, 0, 1); seq !== null; seq = stepFrom(layout, seq, 1)) {
      seen.push(seq);
      expect(momentAt(layout, placeOf(layout, seq))).toBe(seq);
    }
    expect(seen).toEqual(layout.bars.map((bar) => bar.sitting.last));
    expect(stepFrom(layout, seen.at(-1) ?? 0, 1)).toBeNull();
    expect(stepFrom(layout, seen[0] ?? 0, -1)).toBe(0);
  });

  it('zooms round a moment and stays within the history', () => {
    expect(zoomed({ first: 1, last: 100 }, 0.5, 100, 100)).toEqual({ first: 51, last: 100 });
    expect(zoomed({ first: 51, last: 100 }, 2, 60, 100)).toEqual({ first: 1, last: 100 });
    const range = zoomed({ first: 1, last: 1000 }, 0.1, 400, 1000);
    expect(range.first).toBeLessThanOrEqual(400);
    expect(range.last).toBeGreaterThanOrEqual(400);
  });

  it('tells a bar that reaches out of the range only as far as the range goes', () => {
    const traces = history(60, 40);
    const range = { first: 30, last: 1610 };
    const { bars } = laidOut(traces, range, 500);
    expect(bars[0]?.sitting.first).toBe(30);
    expect(bars.at(-1)?.sitting.last).toBe(1610);
    expect(bars.reduce((sum, bar) => sum + bar.sitting.edits, 0)).toBe(1581);
    for (const [i, bar] of bars.entries())
      if (i > 0) expect(bar.sitting.first).toBe((bars[i - 1]?.sitting.last ?? 0) + 1);
  });

  it('finds the range under a brush, and moves a range along no further than the history goes', () => {
    const traces = history(30, 20);
    const layout = laidOut(traces, whole(traces), 700);
    const [one, other] = [layout.bars[3], layout.bars[6]];
    const brushed = rangeBetween(layout, (other?.x ?? 0) + (other?.width ?? 0), one?.x ?? 0);
    expect(brushed).toEqual({ first: one?.sitting.first ?? 0, last: other?.sitting.last ?? 0 });
    expect(rangeBetween(layout, -20, -10)).toBeNull();
    expect(shifted({ first: 10, last: 20 }, -50, 100)).toEqual({ first: 1, last: 11 });
    expect(shifted({ first: 10, last: 20 }, 500, 100)).toEqual({ first: 90, last: 100 });
  });

  it('is not flattened by one enormous paste', () => {
    expect(
      usual([3, 4, 5, 4, 3, 5, 4, 6, 3, 4, 5, 4, 3, 5, 4, 6, 3, 4, 5, 4, 3, 5, 4, 6, 4000]),
    ).toBeLessThan(20);
  });

  it('has nothing to draw for a blank document', () => {
    expect(laidOut([], { first: 1, last: 1 }, 900).bars).toEqual([]);
  });
});
