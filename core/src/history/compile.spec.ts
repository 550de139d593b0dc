import * as fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import { returning, turning } from '../compare/index.js';
import { textSchema as schema } from '../kinds/text/index.js';
import { FUZZ } from '../testing/budget.js';
import { bold, doc, h, li, ol, p, quote, table, td, tr, ul } from '../testing/build.js';
import { Random } from '../testing/random.js';
import { HANDS } from '../testing/hands.js';
import { writeHistory } from '../testing/writers.js';
import { orderBatch } from './authority.js';
import { mapsOf } from './step-maps.js';
import { applySteps } from './edit.js';
import { insertedLengths } from './provenance.js';

/** How many tokens the steps from one document to another insert: what loses its identity. */
function inserted(now: Node, target: Node): number {
  const { steps } = turning(now, target);
  expect(applySteps(now, steps).eq(target)).toBe(true);
  return insertedLengths(steps).reduce((sum, length) => sum + length, 0);
}

const long = 'The mill stands where the creek meets the marsh, and has done so since before the oldest map.';

describe('compiling a difference into steps', () => {
  it('inserts no more than what is new', () => {
    expect(inserted(doc(p(long)), doc(p(`${long} Nobody knows more.`)))).toBe(19);
    expect(inserted(doc(p(long), p('a')), doc(p('a')))).toBe(0);
    expect(inserted(doc(h(1, long)), doc(h(3, long)))).toBe(0);
    expect(inserted(doc(p(long)), doc(p(bold(long))))).toBe(0);
    expect(inserted(doc(ul(li(p(long)), li(p('x')))), doc(ul(li(p(long)))))).toBe(0);
    expect(inserted(doc(ul(li(p(long)))), doc(ol(li(p(long)))))).toBe(1);
    expect(inserted(doc(h(1, long)), doc(p(long)))).toBe(1);
    expect(inserted(doc(table(tr(td(p(long))))), doc(table(tr(td(p(long))), tr(td(p('b'))))))).toBe(7);
  });

  it('says where in the target each insertion comes from', () => {
    const provenance = writeHistory(new Random(1), 40);
    const now = provenance.docs.at(-1) as Node;
    const past = provenance.docs[20] as Node;
    const { steps, inserted: put } = turning(now, past);
    const sources = returning(put, null);
    const lengths = insertedLengths(steps);
    for (const source of sources)
      expect(source.at + source.length).toBeLessThanOrEqual(lengths[source.step] ?? 0);
    expect(sources.reduce((sum, source) => sum + source.length, 0)).toBe(
      lengths.reduce((sum, length) => sum + length, 0),
    );
  });

  for (const hand of HANDS)
    it(`makes any moment of any other, exactly, of the kind ${hand.kind.name}`, () => {
      fc.assert(
        fc.property(fc.integer(), (seed) => {
          const random = new Random(seed);
          const { docs } = writeHistory(random, 20, { hand });
          const [now, target] = [random.pick(docs), random.pick(docs)];
          expect(applySteps(now, turning(now, target).steps).eq(target)).toBeTrue();
        }),
        { numRuns: 100 * FUZZ },
      );
    });

  it('lets what others typed meanwhile survive a restore', () => {
    let [lost, all] = [0, 0];
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const words = Array.from({ length: 60 }, () =>
          random.pick(['tide', 'mill', 'ebb', 'flood', 'sluice', 'gate']),
        );
        const past = words
          .filter(() => random.chance(0.95))
          .map((word) => (random.chance(0.1) ? `${word}s` : word));
        const now = doc(p(words.join(' ')));
        const typed = new Transform(now).insert(
          random.between(1, now.content.size - 1),
          schema.text('\u{1f9a6}'),
        );
        const [verdict] = orderBatch(
          typed.doc,
          [{ steps: turning(now, doc(p(past.join(' ')))).steps, sources: [] }],
          mapsOf(typed.steps),
        );
        all++;
        if (verdict?.taken && !verdict.doc.textContent.includes('\u{1f9a6}')) lost++;
      }),
      { numRuns: 200 * FUZZ },
    );
    expect(lost / all).toBeLessThan(0.1);
  });

  it('falls back to whole blocks where structure does not fit piece by piece, and is still exact', () => {
    const pairs: [Node, Node][] = [
      [doc(p('a'), p('b')), doc(quote(p('a')), p('b'))],
      [doc(quote(quote(p(long)))), doc(p(long))],
      [doc(ul(li(p('a'), ul(li(p('b')))))), doc(ul(li(p('a')), li(p('b'))))],
      [doc(table(tr(td(p('a')), td(p('b'))))), doc(p('a'), p('b'))],
      [doc(p()), doc(table(tr(td(p()))))],
    ];
    for (const [one, other] of pairs) {
      inserted(one, other);
      inserted(other, one);
    }
  });
});
