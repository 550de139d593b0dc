import { noteNumbers, paperTold } from '@oxbow/core/kinds/text';
import type { Paper } from '@oxbow/core/kinds/text';
import type { Node } from 'prosemirror-model';
import { DOMSerializer } from 'prosemirror-model';
import { drawErasedImage, isErasedImage } from './erased';
import type { NodeViewConstructor } from 'prosemirror-view';

/** An image as it stands on a page: at its place and width, its caption below it. `address` is where the stored image is. */
export function drawImage(node: Node, address: string): HTMLElement {
  if (isErasedImage(node)) return drawErasedImage();
  const { hash, alt, width, place, caption } = node.attrs as Record<string, string | number | null>;
  const picture = document.createElement('img');
  picture.src = address;
  picture.alt = String(alt);
  picture.dataset['image'] = String(hash);
  if (width !== null) picture.width = Number(width);
  if (place === 'line' && !caption) return picture;
  const figure = document.createElement('span');
  figure.className = 'figure';
  figure.dataset['place'] = String(place);
  figure.append(picture);
  if (caption) {
    const line = document.createElement('span');
    line.className = 'caption';
    line.textContent = String(caption);
    figure.append(line);
  }
  return figure;
}

/** A picture as it stands on a slide, at its place and size. `address` is where the stored image is. */
export function drawFrame(node: Node, address: string): HTMLElement {
  const { dom } = DOMSerializer.renderSpec(document, node.type.spec.toDOM?.(node) ?? ['img']);
  const picture = dom as HTMLImageElement;
  if (!isErasedImage(node)) {
    picture.src = address;
    return picture;
  }
  const bar = drawErasedImage();
  for (const { name, value } of picture.attributes)
    if (name.startsWith('data-')) bar.setAttribute(name, value);
  bar.style.cssText = picture.style.cssText;
  return bar;
}

/** The set-up of the page, in words. */
export function drawPaper(node: Node): HTMLElement {
  const line = document.createElement('div');
  line.className = 'paper';
  line.dataset['paper'] = '';
  line.textContent = $localize`Page: ${paperTold(node.attrs as Paper)}`;
  return line;
}

/** Where an image that a document shows is stored. */
export function imageAddress(document: string, hash: string): string {
  return `/api/documents/${document}/images/${hash}`;
}

/** How nodes are drawn that the schema does not draw as a page shows them, in an editor of a document. */
export function nodeViews(id: string): Record<string, NodeViewConstructor> {
  const address = ({ attrs }: Node): string => imageAddress(id, String(attrs['hash']));
  return {
    image: (node) => ({ dom: drawImage(node, address(node)) }),
    frame: (node) => ({ dom: drawFrame(node, address(node)) }),
    page_setup: (node) => ({ dom: drawPaper(node) }),
  };
}

const numbered = new WeakMap<Node, ReadonlyMap<string, number>>();

/** The number of the footnote that a sign or a footnote is of, where it stands in a document; null for other nodes. */
export function noteNumber(doc: Node, { attrs }: Node): number | null {
  const name: unknown = attrs['note'];
  if (typeof name !== 'string') return null;
  const numbers = numbered.get(doc) ?? noteNumbers(doc);
  numbered.set(doc, numbers);
  return numbers.get(name) ?? null;
}
