import type { Layout, SlideView } from '@oxbow/core/kinds/deck';
import {
  blankSlide,
  deckSchema as schema,
  makePlaces,
  moveLines,
  removeLine,
  slidesOf,
} from '@oxbow/core/kinds/deck';
import type { Node } from 'prosemirror-model';
import { StepHand } from './step-hand.js';

/** Where something stands on a slide, in units of the slide. */
type Place = Partial<Record<'x' | 'y' | 'width' | 'height', number>>;

/** Somebody's hand on a deck: each slide, line and picture is one edit. Slides are known by their titles. */
export class DeckHand extends StepHand {
  /** Adds a slide behind the last one, or writes the first where it is still blank. */
  add(title: string, layout: Layout = 'text'): void {
    const slides = slidesOf(this.doc);
    const [first] = slides;
    if (slides.length === 1 && first?.node.textContent === '') return this.title('', title);
    const [id = ''] = this.ids(1);
    this.act((tr) => {
      const [place = 'a0'] = makePlaces(tr, slides, slides.length, 1);
      tr.insert(tr.doc.content.size, blankSlide(id, place, layout));
    });
    this.act((tr) => tr.insert(this.last().at + 2, schema.text(title)));
  }

  private last(): SlideView {
    return slidesOf(this.doc).at(-1) as SlideView;
  }

  private slide(title: string): SlideView {
    return slidesOf(this.doc).find((slide) => slide.title === title) ?? (slidesOf(this.doc)[0] as SlideView);
  }

  /** Calls a slide otherwise. */
  title(now: string, next: string): void {
    const { at, node } = this.slide(now);
    this.act((tr) =>
      tr.replaceWith(at + 2, at + 2 + (node.firstChild?.content.size ?? 0), schema.text(next)),
    );
  }

  /** Types lines into a box of a slide, counted from 0: a list of several, or a paragraph; what stands there makes way. */
  write(title: string, lines: readonly string[], box = 0): void {
    const paragraph = (line: string): Node => schema.node('paragraph', null, [schema.text(line)]);
    const list = (upTo: number): Node =>
      schema.node(
        'bullet_list',
        null,
        lines.slice(0, upTo).map((line) => schema.node('list_item', null, [paragraph(line)])),
      );
    for (let count = 1; count <= lines.length; count++)
      this.act((tr) => {
        const { from, to } = this.inside(title, box);
        tr.replaceWith(from, to, lines.length === 1 ? paragraph(lines[0] ?? '') : list(count));
      });
  }

  private inside(title: string, box: number): { from: number; to: number } {
    const { at, node } = this.slide(title);
    const found: { from: number; to: number }[] = [];
    node.forEach((child, offset) => {
      if (child.type.name === 'box') found.push({ from: at + 2 + offset, to: at + offset + child.nodeSize });
    });
    return found[box] ?? { from: at + 2, to: at + 2 };
  }

  /** Notes for whoever speaks. */
  notes(title: string, text: string): void {
    const { at, node } = this.slide(title);
    const size = node.lastChild?.nodeSize ?? 2;
    const from = at + node.nodeSize - 1 - size + 1;
    this.act((tr) =>
      tr.replaceWith(from, from + size - 2, schema.node('paragraph', null, [schema.text(text)])),
    );
  }

  /** Puts a picture on a slide. */
  picture(title: string, hash: string, alt: string, place: Place): void {
    const { at, node } = this.slide(title);
    const [id = ''] = this.ids(1);
    const end = at + node.nodeSize - 1 - (node.lastChild?.nodeSize ?? 0);
    this.act((tr) => tr.insert(end, schema.node('frame', { id, hash, alt, ...place })));
  }

  /** Moves or sizes the boxes of a slide, or its pictures. */
  put(title: string, what: 'box' | 'frame', place: Place): void {
    const { at, node } = this.slide(title);
    this.act((tr) =>
      node.forEach((child, offset) => {
        if (child.type.name !== what) return;
        for (const [name, value] of Object.entries(place)) tr.setNodeAttribute(at + 1 + offset, name, value);
      }),
    );
  }

  hide(title: string): void {
    this.act((tr) => tr.setNodeAttribute(this.slide(title).at, 'hidden', true));
  }

  /** Shows a slide at an index. */
  move(title: string, to: number): void {
    const slides = slidesOf(this.doc);
    this.act((tr) => moveLines(tr, slides, [this.slide(title)], to));
  }

  remove(title: string): void {
    this.act((tr) => removeLine(tr, this.slide(title)));
  }
}
