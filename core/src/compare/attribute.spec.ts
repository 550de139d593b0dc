import * as fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import { finished, tokensOf } from '../content/index.js';
import { textSchema as schema } from '../kinds/text/index.js';
import { appendEdit, startProvenance } from '../history/index.js';
import { FUZZ } from '../testing/budget.js';
import { doc, p } from '../testing/build.js';
import { Random } from '../testing/random.js';
import { HANDS } from '../testing/hands.js';
import { writeHistory } from '../testing/writers.js';
import { creditChanges } from './attribute.js';
import { totalsOf } from './changes.js';
import { compare } from './compare.js';

const characters = (doc: Node, from: number, to: number): string[] =>
  tokensOf(doc.content)
    .slice(from, to)
    .flatMap((token) => (token.kind === 'unit' ? [token.unit] : []));

describe('who changed what', () => {
  for (const hand of HANDS)
    it(`is right for every character added or removed between any two moments, of the kind ${hand.kind.name}`, () => {
      fc.assert(
        fc.property(fc.integer(), (seed) => {
          const random = new Random(seed);
          const { docs, edits, provenance, wrote } = writeHistory(random, 30, { undo: false, hand });
          const earlier = random.between(0, 15);
          const later = random.between(earlier, 30);
          const [before, after] = [docs[earlier] as Node, docs[later] as Node];
          const { changes } = compare(before, after);
          const present = docs.map((doc) => new Set(characters(doc, 0, doc.content.size)));
          for (const [i, credits] of finished(creditChanges(changes, provenance, earlier, later)).entries()) {
            if (changes[i]?.kind === 'form') continue;
            for (const credit of credits) {
              const author = edits[credit.seq - 1]?.author;
              const texts = characters(credit.side === 'later' ? after : before, credit.from, credit.to);
              for (const character of texts) {
                if (credit.side === 'later') expect(author).toBe(wrote.get(character));
                else expect(present[credit.seq]?.has(character)).toBe(false);
              }
            }
          }
        }),
        { numRuns: 100 * FUZZ },
      );
    });

  it('credits every word that a comparison finds added', () => {
    const { docs, provenance } = writeHistory(new Random(4), 40, { undo: false, structure: false });
    const { changes } = compare(docs[0] as Node, docs[40] as Node);
    const credits = finished(creditChanges(changes, provenance, 0, 40));
    for (const change of changes) {
      const covered = (credits[change.id] ?? [])
        .filter((credit) => credit.side === 'later')
        .reduce((sum, credit) => sum + credit.to - credit.from, 0);
      if (change.kind === 'added') expect(covered).toBe(change.place.later.to - change.place.later.from);
    }
    expect(totalsOf(changes).wordsAdded).toBeGreaterThan(0);
  });

  it('credits bold to who made it bold, not to who did something else there since', () => {
    const start = doc(p('the tide mill'));
    const provenance = startProvenance(0, start);
    let now = start;
    const write = (seq: number, act: (tr: Transform) => void): void => {
      const tr = new Transform(now);
      act(tr);
      now = appendEdit(provenance, now, { seq, steps: tr.steps, sources: [] });
    };
    write(1, (tr) => tr.addMark(5, 9, schema.mark('bold')));
    write(2, (tr) => tr.addMark(1, 14, schema.mark('italic')));
    write(3, (tr) => tr.removeMark(1, 14, schema.mark('italic')));
    write(4, (tr) => tr.addMark(7, 9, schema.mark('underline')));
    const credited = (): string[] =>
      finished(creditChanges(compare(start, now).changes, provenance, 0, 4))
        .flat()
        .map(({ from, to, seq }) => `${from}-${to}: ${seq}`);
    expect(credited()).toEqual(['5-7: 1', '7-9: 1', '7-9: 4']);
  });
});
