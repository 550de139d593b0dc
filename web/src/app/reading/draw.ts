import type { Mark as Style, Node } from 'prosemirror-model';
import { DOMSerializer } from 'prosemirror-model';
import { FILLER } from '@oxbow/core/content';
import { drawErased, erasedRuns } from '../document/erased';
import { drawFrame, drawImage, drawPaper, noteNumber } from '../document/drawn';
import type { Ghost, Mark, SideMarks } from './sheet';

/** One document of a comparison as it is drawn: its marks, and the other one for what it lacks. */
export interface Sheet extends SideMarks {
  readonly doc: Node;
  /** The other side; null where ghosts are not shown. */
  readonly other: Sheet | null;
  /** Address of a stored image. */
  readonly image: (hash: string) => string;
  /** Whether blocks say where they begin and end. */
  readonly placed?: boolean;
}

/** Draws the top-level blocks of a stretch with its marks and ghosts. Cost follows the stretch, not the document. */
export function draw(sheet: Sheet, from: number, to: number): DocumentFragment {
  const fragment = document.createDocumentFragment();
  new Drawing(sheet, from, to).blocks(sheet.doc, 0, fragment, from, to);
  return fragment;
}

/** A stretch of text, all of it erased or none. */
function drawText(text: string): globalThis.Node {
  return text.startsWith(FILLER) ? drawErased(text) : document.createTextNode(text);
}

class Drawing {
  private readonly marks: readonly Mark[];
  private readonly ghosts: readonly Ghost[];

  constructor(
    private readonly sheet: Sheet,
    from: number,
    to: number,
  ) {
    this.marks = sheet.marks.filter((mark) => mark.from < to && mark.to > from);
    this.ghosts = sheet.other ? sheet.ghosts.filter(({ at }) => at >= from && at <= to) : [];
  }

  /** Draws the children of a node whose content starts at `start`, as far as they lie between `from` and `to`. */
  blocks(parent: Node, start: number, into: globalThis.Node, from: number, to: number): void {
    const top = parent === this.sheet.doc;
    let at = start;
    parent.forEach((child) => {
      const end = at + child.nodeSize;
      if (end > from && at < to) {
        if (!top) this.ghostsAt(at, into, true);
        into.appendChild(this.node(child, at));
      }
      at = end;
    });
    if (!top) this.ghostsAt(at, into, true);
  }

  private node(node: Node, at: number): HTMLElement {
    const { element, contentDOM } = this.shell(node);
    const number = noteNumber(this.sheet.doc, node);
    if (number !== null) element.dataset['number'] = String(number);
    if (this.sheet.placed && node.isBlock) {
      element.dataset['from'] = String(at);
      element.dataset['to'] = String(at + node.nodeSize);
    }
    if (node.isTextblock) this.text(node, at + 1, contentDOM ?? element);
    else if (!node.isLeaf) this.blocks(node, at + 1, contentDOM ?? element, -1, Infinity);
    for (const mark of this.marks)
      if (
        mark.block &&
        node.isBlock &&
        mark.from <= at &&
        mark.to >= at + node.nodeSize &&
        !this.outside(mark, at)
      )
        dress(
          element,
          // Of several blocks that moved together, the first says where from.
          mark.from < at ? { ...mark, where: null } : mark,
          mark.name.replace(/^was-/, 'block-').replace(' was-added', ''),
        );
    return element;
  }

  private shell(node: Node): { element: HTMLElement; contentDOM?: HTMLElement } {
    if (node.type.name === 'image')
      return { element: drawImage(node, this.sheet.image(String(node.attrs['hash']))) };
    if (node.type.name === 'frame')
      return { element: drawFrame(node, this.sheet.image(String(node.attrs['hash']))) };
    if (node.type.name === 'page_setup') return { element: drawPaper(node) };
    const { dom, contentDOM } = DOMSerializer.renderSpec(
      document,
      node.type.spec.toDOM?.(node) ?? ['div', 0],
    );
    return { element: dom as HTMLElement, contentDOM };
  }

  /** Whether what is round the node at a position is part of the mark too, and carries it. */
  private outside(mark: Mark, at: number): boolean {
    const $at = this.sheet.doc.resolve(at);
    return $at.depth > 0 && mark.from <= $at.before() && mark.to >= $at.after();
  }

  private text(block: Node, start: number, into: HTMLElement): void {
    this.stretch(block, start, into, start, start + block.content.size);
    if (block.content.size === 0) into.appendChild(document.createElement('br'));
  }

  /** Draws the inline content of a text block between two positions, cut where a mark, a ghost or a style begins or ends. */
  stretch(block: Node, start: number, into: globalThis.Node, from: number, to: number): void {
    const marks = this.marks.filter((mark) => mark.from < to && mark.to > from && this.drawsText(mark));
    const cuts = new Set([from, to, ...marks.flatMap((mark) => [mark.from, mark.to])]);
    for (const { at, block: whole } of this.ghosts) if (!whole) cuts.add(at);
    block.forEach((child, offset) => {
      cuts.add(start + offset).add(start + offset + child.nodeSize);
      for (const run of child.isText ? erasedRuns(child.text ?? '') : [])
        for (const edge of run) cuts.add(start + offset + edge);
    });
    const places = [...cuts].filter((cut) => cut >= from && cut <= to).sort((a, b) => a - b);
    places.forEach((place, i) => {
      this.seams(place, into, start + block.content.size);
      this.ghostsAt(place, into, false);
      const next = places[i + 1];
      if (next !== undefined) into.appendChild(this.piece(block, start, place, next, marks));
    });
  }

  /** Additions and removals of blocks show in their text too. */
  private drawsText(mark: Mark): boolean {
    return !mark.block || mark.tag !== 'span';
  }

  private piece(
    block: Node,
    start: number,
    from: number,
    to: number,
    marks: readonly Mark[],
  ): globalThis.Node {
    const { node, offset } = block.childAfter(from - start);
    let dom: globalThis.Node = node?.isText
      ? drawText((node.text ?? '').slice(from - start - offset, to - start - offset))
      : node
        ? this.node(node, from)
        : document.createTextNode('');
    for (const style of [...(node?.marks ?? [])].reverse()) dom = styled(style, dom);
    for (const mark of [...marks].reverse()) {
      if (mark.from > from || mark.to < to) continue;
      const element = document.createElement(mark.tag);
      dress(element, mark, mark.block ? (mark.name.split(' ').at(-1) ?? '') : mark.name);
      element.appendChild(dom);
      dom = element;
    }
    return dom;
  }

  /** The sign of a paragraph's end: where one was split, and, struck, where two were joined. */
  private seams(at: number, into: globalThis.Node, end: number): void {
    for (const mark of this.marks) {
      if (mark.from !== at || (mark.name !== 'was-joined' && (mark.name !== 'was-split' || at !== end)))
        continue;
      const element = document.createElement('span');
      element.textContent = '¶';
      dress(element, mark, mark.name);
      into.appendChild(element);
    }
  }

  private ghostsAt(at: number, into: globalThis.Node, block: boolean): void {
    const { other, doc } = this.sheet;
    if (!other) return;
    for (const ghost of this.ghosts) {
      if (ghost.at !== at || ghost.block !== block) continue;
      if (block && doc.resolve(at).depth !== other.doc.resolve(ghost.from).depth) continue;
      into.appendChild(drawGhost(other, ghost));
    }
  }
}

/** A stretch of the other document, drawn with its own marks; blocks one by one, text as it runs. */
/** Content of the other side, marked by the change that it is shown for and no other. */
function drawGhost(other: Sheet, { change, from, to, block }: Ghost): DocumentFragment {
  const fragment = document.createDocumentFragment();
  const $from = other.doc.resolve(from);
  const marks = other.marks.filter((mark) => mark.change === change);
  const drawing = new Drawing({ ...other, marks, other: null }, from, to);
  if (block) drawing.blocks($from.parent, $from.start(), fragment, from, to);
  else drawing.stretch($from.parent, $from.start(), fragment, from, to);
  return fragment;
}

function styled(style: Style, dom: globalThis.Node): globalThis.Node {
  const spec = style.type.spec.toDOM?.(style, true);
  if (!spec) return dom;
  const rendered = DOMSerializer.renderSpec(document, spec);
  (rendered.contentDOM ?? rendered.dom).appendChild(dom);
  return rendered.dom;
}

function dress(element: HTMLElement, mark: Mark, name: string): void {
  element.classList.add(...name.split(' ').filter(Boolean));
  element.style.setProperty('--who', mark.colour);
  if (mark.change !== null) element.dataset['change'] = String(mark.change);
  if (mark.where) element.dataset['where'] = mark.where;
}
