import * as fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import {
  deckSchema as schema,
  moveLines,
  removeLine,
  slideChanges,
  slidesOf,
} from '../../kinds/deck/index.js';
import type { SlideView } from '../../kinds/deck/index.js';
import { FUZZ } from '../../testing/budget.js';
import { HANDS, PICTURES, Random, writeHistory } from '../../testing/index.js';
import type { Hand } from '../../testing/index.js';
import { adopted } from './adopted.js';
import { readPptx, writePptx } from './index.js';

const hand = HANDS.find(({ kind }) => kind.name === 'deck') as Hand;
const ABOUT = {
  title: 'Boat day',
  author: 'Mairead Quill',
  at: '2026-11-30T09:00:00Z',
  picture: (hash: string) => PICTURES.find((picture) => picture.hash === hash) ?? null,
};
const out = (deck: Node): Node => readPptx(writePptx(deck, ABOUT)).doc;

/** A deck of slides that each have words of their own. */
function deckOf(seed: number): Node {
  const { docs } = writeHistory(new Random(seed), 40, { hand });
  const doc = docs.at(-1) as Node;
  const tr = new Transform(doc);
  slidesOf(doc).forEach(({ at }, i) =>
    tr.insert(
      tr.mapping.map(at + 2),
      schema.text(['ebb', 'flood', 'slack', 'race'].map((word) => `${word}${seed}of${i} `).join('')),
    ),
  );
  return tr.doc;
}

describe('a presentation that comes back', () => {
  it('keeps the slides that it had, wherever they went; what was written in it is told, and no more', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1 << 20 }), (seed) => {
        const random = new Random(seed);
        const now = deckOf(seed);
        const tr = new Transform(out(now));
        const slides = slidesOf(tr.doc);
        const gone = slides.length > 2 ? (random.pick(slides) as SlideView) : null;
        const stays = slides.filter((slide) => slide !== gone);
        const moved = random.pick(stays);
        const written = random.pick(stays);
        moveLines(tr, slides, [moved], random.chance(0.5) ? 0 : slides.length);
        tr.insert(written.at + 2, schema.text('once more '));
        if (gone) removeLine(tr, { ...gone, at: tr.mapping.map(gone.at) });
        const back = adopted(tr.doc, now, () => random.next());
        back.check();
        const turns = slideChanges(now, back).filter(({ turn }) => turn !== 'form');
        const of = (turn: string): string[] =>
          turns.filter((change) => change.turn === turn).map(({ slide }) => slide);
        const idAt = (slide: SlideView): string | undefined => slidesOf(now)[slides.indexOf(slide)]?.id;
        expect(of('added')).withContext('added').toEqual([]);
        expect(of('removed'))
          .withContext('removed')
          .toEqual(gone ? [idAt(gone) ?? ''] : []);
        expect(of('text'))
          .withContext('text')
          .toContain(idAt(written) ?? '');
        expect(of('moved').length).toBeLessThanOrEqual(1);
      }),
      { numRuns: 60 * FUZZ },
    );
  });

  it('is the same deck where nothing was changed, but for pictures that were erased', () => {
    const now = deckOf(7);
    const back = adopted(out(now), now, Math.random);
    expect(slideChanges(now, back).filter(({ turn }) => turn !== 'form' && turn !== 'text')).toEqual([]);
    expect(slidesOf(back).map(({ title }) => title)).toEqual(slidesOf(now).map(({ title }) => title));
    expect(slidesOf(back).map(({ node }) => node.attrs['layout'])).toEqual(
      slidesOf(now).map(({ node }) => node.attrs['layout']),
    );
  });

  it('is a new deck where it has nothing of the other', () => {
    const back = adopted(out(deckOf(3)), deckOf(11), Math.random);
    expect(slideChanges(deckOf(11), back).filter(({ turn }) => turn === 'added').length).toBe(
      slidesOf(deckOf(3)).length,
    );
  });
});
