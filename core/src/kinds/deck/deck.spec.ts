import * as fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import { plainText } from '../../content/index.js';
import { mapsOf, orderBatch } from '../../history/index.js';
import { DECK_HAND } from '../../testing/decks.js';
import { FUZZ } from '../../testing/budget.js';
import { Random, freshLetters } from '../../testing/random.js';
import { compare } from '../../compare/index.js';
import { toldGist, toldRows, toldSections } from '../told/index.js';
import type { SlideView } from './index.js';
import {
  LAYOUTS,
  blankDeck,
  blankSlide,
  deckSchema as schema,
  moveLines,
  placesAt,
  removeLine,
  slideChanges,
  slidesOf,
} from './index.js';

const slide = (id: string, place: string, title: string): Node => {
  const blank = blankSlide(id, place);
  return blank.copy(blank.content.replaceChild(0, schema.node('title', null, [schema.text(title)])));
};
const three = (): Node =>
  schema.node('deck', null, [slide('a', 'a0', 'Ebb'), slide('b', 'a1', 'Flood'), slide('c', 'a2', 'Slack')]);
const titles = (deck: Node): string[] => slidesOf(deck).map(({ title }) => title);

function done(deck: Node, act: (tr: Transform, slides: SlideView[]) => void): Node {
  const tr = new Transform(deck);
  act(tr, slidesOf(deck));
  tr.doc.check();
  return tr.doc;
}

/** How often each letter that is written once ever stands in a deck. */
function lettersIn(deck: Node): Map<string, number> {
  const out = new Map<string, number>();
  for (const letter of deck.textContent) if (letter >= '\u4e00') out.set(letter, (out.get(letter) ?? 0) + 1);
  return out;
}

describe('a deck', () => {
  it('begins with a slide for its title, and has slides of each layout', () => {
    blankDeck().check();
    expect(slidesOf(blankDeck()).map(({ id, node }) => [id, node.attrs['layout']])).toEqual([
      ['first', 'title'],
    ]);
    for (const layout of LAYOUTS) blankSlide('x', 'a0', layout).check();
    expect(plainText(three())).toContain('Ebb\n');
  });

  it('shows its slides by their keys of order, wherever they stand', () => {
    const moved = done(three(), (tr, slides) => moveLines(tr, slides, slides.slice(2), 0));
    expect(titles(moved)).toEqual(['Slack', 'Ebb', 'Flood']);
    const more = done(moved, (tr, slides) => {
      const [place = ''] = placesAt(slides, 1, 1);
      tr.insert(tr.doc.content.size, slide('d', place, 'Race'));
    });
    expect(titles(more)).toEqual(['Slack', 'Race', 'Ebb', 'Flood']);
    expect(titles(done(more, (tr, slides) => removeLine(tr, slides[0] as SlideView)))).toEqual([
      'Race',
      'Ebb',
      'Flood',
    ]);
  });

  it('is told slide by slide: which came, went, moved, were hidden, and on which what differs', () => {
    const later = done(three(), (tr, [ebb, flood, slack]) => {
      const all = [ebb, flood, slack] as SlideView[];
      moveLines(tr, all, all.slice(2), 0);
      tr.setNodeAttribute((flood as SlideView).at, 'hidden', true);
      tr.insert((ebb as SlideView).at + 2, schema.text('Low '));
    });
    const added = done(later, (tr) => tr.insert(tr.doc.content.size, slide('d', 'a9', 'Race')));
    expect(slideChanges(three(), added).map(({ turn, title }) => `${turn} ${title}`)).toEqual([
      'moved Slack',
      'text Low Ebb',
      'hidden Flood',
      'added Race',
    ]);
    expect(slideChanges(added, three()).map(({ turn, title }) => `${turn} ${title}`)).toContain(
      'removed Race',
    );
    const placed = done(three(), (tr, slides) => {
      const { node, at } = slides[0] as SlideView;
      tr.setNodeAttribute(at + 1 + (node.firstChild?.nodeSize ?? 0), 'x', 4000);
    });
    expect(slideChanges(three(), placed)).toEqual([{ turn: 'form', slide: 'a', title: 'Ebb' }]);
    expect(slideChanges(three(), three())).toEqual([]);
  });

  it('is told in a line: which slides, and what was written where that is on one', () => {
    const gist = (act: (tr: Transform, slides: SlideView[]) => void): string => {
      const [before, after] = [three(), done(three(), act)];
      return toldGist(before, after, compare(before, after).changes);
    };
    expect(gist((tr, slides) => moveLines(tr, slides, slides.slice(2), 0))).toBe('Moved “Slack”');
    expect(
      gist((tr, slides) => {
        tr.setNodeAttribute((slides[1] as SlideView).at, 'hidden', true);
        tr.insert(tr.doc.content.size, blankSlide('d', 'a9'));
      }),
    ).toBe('Added a slide; hid “Flood”');
    expect(gist((tr, slides) => tr.insert((slides[0] as SlideView).at + 2, schema.text('Low ')))).toBe(
      'Added “Low”, on “Low Ebb”',
    );
    expect(gist(() => undefined)).toBe('No change');
  });

  it('has its slides for sections, as they are shown', () => {
    const moved = done(three(), (tr, slides) => moveLines(tr, slides, slides.slice(2), 0));
    expect(toldSections(moved).map(({ title }) => title)).toEqual(['1 Slack', '2 Ebb', '3 Flood']);
    for (const { from, to } of toldSections(moved)) expect(moved.nodeAt(from)?.nodeSize).toBe(to - from);
  });

  it('is read slide beside slide, as the later deck shows them, what is gone where it stood', () => {
    const later = done(three(), (tr, slides) => {
      moveLines(tr, slides, slides.slice(2), 0);
      removeLine(tr, slides[0] as SlideView);
      tr.insert(tr.doc.content.size, slide('d', 'a9', 'Race'));
    });
    const rows = toldRows(three(), later, []).map(({ earlier, later: is, paired }) => [
      earlier.from < earlier.to ? three().nodeAt(earlier.from)?.firstChild?.textContent : null,
      is.from < is.to ? later.nodeAt(is.from)?.firstChild?.textContent : null,
      paired,
    ]);
    expect(rows).toEqual([
      ['Ebb', null, false],
      ['Slack', 'Slack', true],
      ['Flood', 'Flood', true],
      [null, 'Race', false],
    ]);
  });

  it('under several hands at once loses and doubles no letter, and each slide keeps its title and its notes', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const fresh = freshLetters();
        let base = three();
        for (let i = 0; i < random.between(0, 6); i++) base = DECK_HAND.act(random, base, fresh, true).doc;
        const docs: Node[] = [];
        let now = base;
        const between = [...mapsOf([])];
        for (let i = 0; i < random.between(2, 4); i++) {
          const tr = DECK_HAND.act(random, base, fresh, true);
          docs.push(tr.doc);
          const [verdict] = orderBatch(now, [{ steps: tr.steps, sources: [] }], between);
          if (!verdict?.taken) {
            expect(verdict?.refusal?.message).toBe('leaves a document without content');
            return;
          }
          for (const step of verdict.steps) now = step.apply(now).doc as Node;
          between.push(...mapsOf(verdict.steps));
        }
        now.check();
        const found = lettersIn(now);
        for (const [letter, count] of found) expect(count).withContext(letter).toBe(1);
        const gone = new Set(
          docs.flatMap((doc) => [...lettersIn(base).keys()].filter((letter) => !lettersIn(doc).has(letter))),
        );
        for (const doc of docs)
          for (const { id, node } of slidesOf(doc))
            node.forEach((thing) => {
              const there = slidesOf(now)
                .find((view) => view.id === id)
                ?.node.children.find(
                  ({ type, attrs }) => type.name === thing.type.name && attrs['id'] === thing.attrs['id'],
                );
              // What was written in a box, or on a slide, that somebody took away meanwhile went with it.
              for (const letter of thing.textContent)
                if (there && letter >= '\u4e00' && !gone.has(letter))
                  expect(found.get(letter)).withContext(letter).toBe(1);
            });
        for (const { node } of slidesOf(now)) {
          const types = node.children.map(({ type }) => type.name);
          expect(types.filter((name) => name === 'title' || name === 'notes')).toEqual(['title', 'notes']);
        }
      }),
      { numRuns: 1000 * FUZZ },
    );
  });
});
