import * as fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { FUZZ } from '../testing/budget.js';
import { eachKind } from '../testing/hands.js';
import { blockTexts, writePast } from '../testing/pasts.js';
import { Random } from '../testing/random.js';
import { lossesBy } from './lost.js';

const SPACED = '\u3000';

eachKind('losses', (hand) => {
  it('are the words that some edits took out and that are not back, by who wrote them', () => {
    fc.assert(
      fc.property(fc.integer(), fc.nat(30), fc.nat(10), (seed, start, length) => {
        let next = 0x4e00;
        const text = (random: Random, count: number): string =>
          Array.from({ length: count }, () =>
            random.chance(0.3) ? SPACED : String.fromCharCode(next++),
          ).join('');
        const past = writePast(new Random(seed), 40, { hand, text });
        const seqs = new Set(Array.from({ length }, (_, i) => start + i + 1).filter((seq) => seq <= 40));
        const present = new Set((past.docs.at(-1) as Node).textContent);
        const writer = new Map<string, string>();
        const truth = new Map<string, Set<string>>();
        past.docs.forEach((doc, seq) => {
          for (const sign of doc.textContent)
            if (!writer.has(sign)) writer.set(sign, past.makers(seq).author);
          if (!seqs.has(seq)) return;
          const now = new Set(doc.textContent);
          for (const block of blockTexts(past.docs[seq - 1] as Node))
            [...block].forEach((sign, i) => {
              const begins = sign !== SPACED && (i === 0 || block.charAt(i - 1) === SPACED);
              if (!begins || now.has(sign) || present.has(sign)) return;
              const author = writer.get(sign) ?? '';
              truth.set(author, (truth.get(author) ?? new Set()).add(`${sign} ${seq}`));
            });
        });
        const found = lossesBy(past.tape, past.makers, seqs);
        expect(new Map(found.map(({ writer: who, words }) => [who, words]))).toEqual(
          new Map([...truth].map(([who, words]) => [who, words.size])),
        );
        for (const loss of found) expect(loss.seqs.every((seq) => seqs.has(seq))).toBeTrue();
      }),
      { numRuns: 150 * FUZZ },
    );
  });
});
