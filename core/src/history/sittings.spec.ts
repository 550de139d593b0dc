import fc from 'fast-check';
import type { Sitting, Trace } from './sittings.js';
import { longerSittings, single, sittings } from './sittings.js';

/** Edits with random gaps, often none, sometimes of days. */
const histories = fc
  .array(
    fc.record({
      gap: fc.oneof(fc.constant(0), fc.nat(5_000), fc.nat(900_000), fc.nat(3 * 86_400_000)),
      author: fc.constantFrom('ines', 'tobias', 'jun'),
      wordsIn: fc.nat(9),
      wordsOut: fc.nat(5),
    }),
    { maxLength: 120 },
  )
  .map((edits) => {
    let at = 1.7e12;
    return edits.map(({ gap, ...rest }, i): Trace => ({ seq: i + 1, at: (at += gap), ...rest }));
  });
const gaps = fc.constantFrom(-1, 0, 1_000, 20_000, 600_000, 86_400_000);

/** The plain model: groups of edits, each told by looking at all of them again. */
function byBruteForce(traces: readonly Trace[], gap: number): Sitting[] {
  const groups: Trace[][] = [];
  for (const [i, trace] of traces.entries()) {
    if (i > 0 && trace.at - (traces[i - 1] as Trace).at <= gap) groups.at(-1)?.push(trace);
    else groups.push([trace]);
  }
  const sum = (group: readonly Trace[], side: 'wordsIn' | 'wordsOut'): number =>
    group.reduce((total, trace) => total + trace[side], 0);
  return groups.map((group) => ({
    first: group[0]?.seq ?? 0,
    last: group.at(-1)?.seq ?? 0,
    from: group[0]?.at ?? 0,
    to: group.at(-1)?.at ?? 0,
    edits: group.length,
    wordsIn: sum(group, 'wordsIn'),
    wordsOut: sum(group, 'wordsOut'),
    shares: [...new Set(group.map(({ author }) => author))].map((author) => {
      const own = group.filter((trace) => trace.author === author);
      return { author, wordsIn: sum(own, 'wordsIn'), wordsOut: sum(own, 'wordsOut') };
    }),
  }));
}

describe('sittings', () => {
  it('are what grouping by gaps gives, at any grain', () => {
    fc.assert(
      fc.property(histories, gaps, (traces, gap) => {
        expect(sittings(traces, gap)).toEqual(byBruteForce(traces, gap));
      }),
      { numRuns: 300 },
    );
  });

  it('gathered from shorter ones are those of the edits, and leave the shorter ones as they were', () => {
    fc.assert(
      fc.property(histories, gaps, gaps, (traces, one, other) => {
        const [short, long] = [Math.min(one, other), Math.max(one, other)];
        const shorter = sittings(traces, short);
        expect(longerSittings(shorter, long)).toEqual(sittings(traces, long));
        expect(shorter).toEqual(byBruteForce(traces, short));
        expect(longerSittings(traces.map(single), long)).toEqual(sittings(traces, long));
      }),
      { numRuns: 300 },
    );
  });
});
