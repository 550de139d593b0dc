import { slidesOf } from '@oxbow/core/kinds/deck';
import { drawDeck } from './drawn-deck';
import { deckWith, withPicture } from './testing/deck-room';

const titles = (element: HTMLElement): string[] =>
  [...element.querySelectorAll('h2')].map(({ textContent }) => textContent);

describe('a deck as it is drawn', () => {
  const many = deckWith(...Array.from({ length: 12 }, (_, i) => `Slide ${i}`));

  it('shows its slides in order, as many as are asked for: a share of the way, or round a mark', () => {
    expect(titles(drawDeck(many, [], { lines: Infinity })).length).toBe(12);
    expect(titles(drawDeck(many, [], { lines: 16, depth: 0.5 }))).toEqual(['Slide 6', 'Slide 7']);
    const { at, node } = slidesOf(many)[9] ?? { at: 0, node: many };
    const mark = { from: at, to: at + node.nodeSize, name: 'just-made', who: '' };
    const drawn = drawDeck(many, [mark], { lines: 16 });
    expect(titles(drawn)).toEqual(['Slide 9', 'Slide 10']);
    expect(drawn.querySelector('section.just-made h2')?.textContent).toBe('Slide 9');
  });

  it('marks a stretch of text, and says where each piece begins and ends', () => {
    const [first] = slidesOf(many);
    const from = (first?.at ?? 0) + 2;
    const drawn = drawDeck(many, [{ from, to: from + 5, name: 'was-added', who: 'red' }], { lines: 8 });
    expect(drawn.querySelector('h2 .was-added')?.textContent).toBe('Slide');
    for (const piece of drawn.querySelectorAll<HTMLElement>('[data-from]')) {
      const node = many.nodeAt(Number(piece.dataset['from']));
      expect(node?.nodeSize).toBe(Number(piece.dataset['to']) - Number(piece.dataset['from']));
    }
  });

  it('shows pictures of the document that is told, and none where none is', () => {
    const deck = withPicture(deckWith('Ebb'), 'A boat');
    const shown = drawDeck(deck, [], { lines: 8, document: 'd1' }).querySelector('img');
    expect(shown?.getAttribute('src')).toBe(`/api/documents/d1/images/${'a'.repeat(64)}`);
    expect(shown?.style.getPropertyValue('--x').trim()).toBe('8000');
    expect(drawDeck(deck, [], { lines: 8 }).querySelector('img')?.hasAttribute('src')).toBeFalse();
  });
});
