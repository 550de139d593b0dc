import * as fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { tokensOf } from '../content/index.js';
import { FUZZ } from '../testing/budget.js';
import { eachKind } from '../testing/hands.js';
import { Random } from '../testing/random.js';
import { tokensOfEdits, writeHistory } from '../testing/writers.js';
import type { Run } from './placed.js';
import { decodeProvenance, encodeProvenance } from './provenance.js';

function characters(doc: Node): string[] {
  return tokensOf(doc.content).flatMap((token) => (token.kind === 'unit' ? [token.unit] : []));
}

eachKind('provenance', (hand) => {
  it('says rightly who wrote and who removed every character ever written', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const { edits, docs, provenance, wrote } = writeHistory(random, random.between(10, 40), { hand });
        const tokens = tokensOfEdits(edits, hand.kind);
        const author = (seq: number): string | undefined => edits[seq - 1]?.author;
        const present = docs.map((doc) => new Set(characters(doc)));
        const key = (born: number, run: Run, i: number): string =>
          `${born} ${run.origin.seq} ${run.origin.offset + i}`;
        const all = [...provenance.runs.all()];
        const returned = new Set(
          all.flatMap((run) => Array.from({ length: run.length }, (_, i) => key(run.seq, run, i))),
        );
        for (const run of all) {
          const born = tokens(run.seq).slice(run.offset, run.offset + run.length);
          for (const [i, token] of born.entries()) {
            if (token.kind !== 'unit') continue;
            expect(author(run.origin.seq)).toBe(wrote.get(token.unit));
            expect(present[run.seq]?.has(token.unit)).toBe(true);
            if (run.diedAt === 0) expect(present.at(-1)?.has(token.unit)).toBe(true);
            else expect(present[run.diedAt]?.has(token.unit)).toBe(returned.has(key(run.diedAt, run, i)));
          }
        }
      }),
      { numRuns: 500 * FUZZ },
    );
  });

  it('gives the positions of every run at every moment', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const { edits, docs, provenance } = writeHistory(random, 25, { hand });
        const tokens = tokensOfEdits(edits, hand.kind);
        for (const [moment, doc] of docs.entries()) {
          const there = tokensOf(doc.content);
          const placed = provenance.runs.at(moment);
          expect(placed.size).toBe(there.length);
          for (const run of placed.between(0, there.length)) {
            const born = tokens(run.seq).slice(run.offset, run.offset + run.length);
            const kinds = (list: typeof born): string[] =>
              list.map((token) => (token.kind === 'unit' ? token.unit : token.kind));
            expect(kinds(there.slice(run.from, run.to))).toEqual(kinds(born));
          }
        }
      }),
      { numRuns: 60 * FUZZ },
    );
  });

  it('comes back unchanged from its stored form', () => {
    const { provenance } = writeHistory(new Random(7), 400, { hand });
    const again = decodeProvenance(hand.kind.schema, encodeProvenance(provenance));
    expect([...again.runs.all()]).toEqual([...provenance.runs.all()]);
    expect(again.forms.length).toBe(provenance.forms.length);
    expect(again.runs.between(3, 30)).toEqual(provenance.runs.between(3, 30));
  });
});
