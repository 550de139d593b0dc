import { signal } from '@angular/core';
import { blankSlide, deckSchema as schema, firstPlaces, slidesOf } from '@oxbow/core/kinds/deck';
import type { SlideView } from '@oxbow/core/kinds/deck';
import type { Node } from 'prosemirror-model';
import { NodeSelection, TextSelection } from 'prosemirror-state';
import { DeskHistory } from '../../../document/history';
import { Comparing } from '../../../reading/comparing';
import { PageRoom } from '../../testing/page-room';
import { DeckEditor } from '../editor';

/** A deck of slides with these titles, each with a box for text. */
export function deckWith(...titles: string[]): Node {
  const places = firstPlaces(titles.length);
  const slides = titles.map((title, i) => {
    const blank = blankSlide(`s${i}`, places[i] ?? 'a0');
    return title
      ? blank.copy(blank.content.replaceChild(0, schema.node('title', null, schema.text(title))))
      : blank;
  });
  return schema.node('deck', null, slides);
}

/** A picture of a name, on the first slide of a deck. */
export function withPicture(deck: Node, alt: string): Node {
  const frame = schema.node('frame', {
    id: 'p',
    hash: 'a'.repeat(64),
    alt,
    x: 8000,
    y: 3000,
    width: 4000,
    height: 3000,
  });
  const first = deck.child(0);
  const content = first.content.cut(0, first.content.size - (first.lastChild?.nodeSize ?? 0));
  const slide = first.copy(content.addToEnd(frame).addToEnd(first.lastChild as Node));
  return deck.copy(deck.content.replaceChild(0, slide));
}

/** An open deck with nobody else in it. */
export class DeckRoom extends PageRoom<DeckEditor> {
  readonly landmarks = signal<readonly unknown[]>([]);
  readonly look = signal<unknown>(null);

  static async open(deck: Node, writable = true): Promise<DeckRoom> {
    const room = new DeckRoom();
    await room.openPage(DeckEditor, deck, writable, [
      { provide: DeskHistory, useValue: { landmarks: room.landmarks } },
      { provide: Comparing, useValue: { look: room.look } },
    ]);
    return room;
  }

  protected override get focused(): HTMLElement {
    return this.one('.deck-page');
  }

  get slides(): SlideView[] {
    return slidesOf(this.page.state.doc);
  }

  /** The titles of the slides, in their order; those that are hidden in brackets. */
  get titles(): string[] {
    return this.slides.map(({ title, hidden }) => (hidden ? `(${title})` : title));
  }

  /** The title of the slide that is seen. */
  get seen(): string {
    const shown = [...this.element.querySelectorAll('.deck-page > section.in-hand')];
    return shown.map((slide) => slide.querySelector('h2')?.textContent ?? '').join(', ');
  }

  /** Puts the caret at a position of the deck. */
  async caret(at: number): Promise<void> {
    const { doc, tr } = this.page.state;
    this.page.dispatch(tr.setSelection(TextSelection.near(doc.resolve(at))));
    await this.settle();
  }

  /** Selects the first box or picture of the slide in hand. */
  async pick(type: 'box' | 'frame'): Promise<Node> {
    const { doc, tr } = this.page.state;
    let at = -1;
    doc.descendants((node, position) => {
      if (at < 0 && node.type.name === type) at = position;
    });
    this.page.dispatch(tr.setSelection(NodeSelection.create(doc, at)));
    await this.settle();
    return doc.nodeAt(at) as Node;
  }

  async type(text: string): Promise<void> {
    this.page.dispatch(this.page.state.tr.insertText(text));
    await this.settle();
  }
}
