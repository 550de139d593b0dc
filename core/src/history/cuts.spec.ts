import * as fc from 'fast-check';
import { Transform } from 'prosemirror-transform';
import { finished, wordCount } from '../content/index.js';
import { textSchema as schema } from '../kinds/text/index.js';
import { doc, p } from '../testing/build.js';
import { Random } from '../testing/random.js';
import { writeHistory } from '../testing/writers.js';
import { applyBlockDelta, blockDelta } from './checkpoint.js';
import { dueCuts, nextLabel } from './cuts.js';
import { sittings } from './sittings.js';
import { tallyStep } from './tally.js';

const MINUTE = 60_000;
const at = (...minutes: number[]) =>
  minutes.map((minute, i) => ({ seq: i + 1, acceptedAt: minute * MINUTE }));

describe('cutting versions', () => {
  it('cuts at a pause, and the last stretch only when its pause has passed', () => {
    expect(dueCuts(at(0, 1, 2, 20, 21), 25 * MINUTE)).toEqual([{ seq: 3, at: 2 * MINUTE, cause: 'pause' }]);
    expect(dueCuts(at(0, 1, 2, 20, 21), 31 * MINUTE).map((cut) => cut.seq)).toEqual([3, 5]);
  });

  it('cuts a long run of writing', () => {
    const stamps = at(...Array.from({ length: 100 }, (_, i) => i));
    expect(dueCuts(stamps, 99 * MINUTE).map((cut) => [cut.seq, cut.cause])).toEqual([[60, 'run']]);
  });

  it('gives the same cuts however often it is asked', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 30 }), { maxLength: 60 }), (gaps) => {
        let minute = 0;
        const stamps = at(...gaps.map((gap) => (minute += gap)));
        const all = dueCuts(stamps, (minute + 60) * MINUTE).map((cut) => cut.seq);
        const cut: number[] = [];
        for (const [i, stamp] of stamps.entries()) {
          for (const due of dueCuts(
            stamps.slice(0, i + 1).filter((one) => one.seq > (cut.at(-1) ?? 0)),
            stamp.acceptedAt,
          ))
            cut.push(due.seq);
        }
        for (const due of dueCuts(
          stamps.filter((one) => one.seq > (cut.at(-1) ?? 0)),
          (minute + 60) * MINUTE,
        ))
          cut.push(due.seq);
        expect(cut).toEqual(all);
      }),
    );
  });

  it('numbers versions by major and minor', () => {
    expect([
      nextLabel(null, false),
      nextLabel('0.0', false),
      nextLabel('0.9', false),
      nextLabel('1.4', true),
    ]).toEqual(['0.0', '0.1', '0.10', '2.0']);
  });
});

describe('sittings', () => {
  it('add up to the whole at every grain', () => {
    const random = new Random(3);
    const traces = Array.from({ length: 300 }, (_, i) => ({
      seq: i + 1,
      at: i * random.between(1, 9) * MINUTE,
      author: random.pick(['a', 'b']),
      wordsIn: random.between(0, 3),
      wordsOut: random.between(0, 2),
    }))
      .sort((a, b) => a.at - b.at)
      .map((trace, i) => ({ ...trace, seq: i + 1 }));
    const words = traces.reduce((sum, trace) => sum + trace.wordsIn, 0);
    for (const gap of [-1, 0, MINUTE, 5 * MINUTE, 1e12]) {
      const list = sittings(traces, gap);
      expect(list.reduce((sum, sitting) => sum + sitting.wordsIn, 0)).toBe(words);
      expect(list.reduce((sum, sitting) => sum + sitting.edits, 0)).toBe(300);
      expect(list.map((sitting) => sitting.first).slice(1)).toEqual(
        list.map((sitting) => sitting.last + 1).slice(0, -1),
      );
      for (const { shares, wordsIn } of list)
        expect(shares.reduce((sum, share) => sum + share.wordsIn, 0)).toBe(wordsIn);
    }
    expect(sittings(traces, -1).length).toBe(300);
    expect(sittings(traces, 1e12).length).toBe(1);
  });
});

describe('tallies', () => {
  it('count a word once, whoever finishes it, and add up to the words that stand', () => {
    let now = doc(p(''));
    let words = 0;
    for (const [at, text] of [
      [1, 't'],
      [2, 'ide '],
      [6, 'mill'],
      [1, 'The '],
    ] as const) {
      const tr = new Transform(now).insert(at, schema.text(text));
      for (const [i, step] of tr.steps.entries()) {
        const tally = finished(tallyStep(tr.docs[i] ?? now, tr.docs[i + 1] ?? tr.doc, step));
        words += tally.wordsIn - tally.wordsOut;
      }
      now = tr.doc;
    }
    expect(words).toBe(wordCount(now));
  });
});

describe('checkpoints', () => {
  it('tell a later state by an earlier one, and are as small as the change', () => {
    const { docs } = writeHistory(new Random(11), 60);
    for (const [i, later] of docs.entries()) {
      const before = docs[Math.max(0, i - 5)] ?? later;
      const delta = JSON.parse(JSON.stringify(blockDelta(before, later))) as ReturnType<typeof blockDelta>;
      expect(applyBlockDelta(before, delta).eq(later)).toBe(true);
    }
    expect(blockDelta(docs[60] ?? doc(), docs[60] ?? doc()).length).toBeLessThanOrEqual(1);
  });
});
