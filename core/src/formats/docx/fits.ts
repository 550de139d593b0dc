import type { Node } from 'prosemirror-model';
import type { Pair, Union } from '../../compare/union.js';
import { spans } from '../../compare/union.js';
import type { Container } from '../container.js';
import type { Layout } from './layout.js';

/**
 * Whether a part of a comparison can be written where it stands, its changes tracked one by one. What cannot, such as a
 * quote in a list that came round paragraphs, is written as the earlier content removed and the later inserted.
 */
export function fits(part: Union, a: number, b: number, earlier: Layout, later: Layout): boolean {
  const inside = (kids: readonly Union[], x: number, y: number): boolean => {
    let [p, q] = [x, y];
    return kids.every((kid) => {
      const fit = fits(kid, p, q, earlier, later);
      const [before, after] = spans(kid);
      p += before;
      q += after;
      return fit;
    });
  };
  const [one, other] = [earlier.named.get(a), later.named.get(b)];
  switch (part.kind) {
    case 'keep':
      return fitsWhole(part.node, a, b, earlier, later);
    case 'pair': {
      const [x, y] = [part.earlier, part.later];
      if (!alike(one, other) || ((one || other) && part.form)) return false;
      if (x.attrs['note'] !== y.attrs['note']) return false;
      if (x.isTextblock || y.isTextblock) return fitsText(part);
      if (x.type.name === 'table') return fitsTable(part);
      return part.earlier.isInline || inside(part.kids, a + 1, b + 1);
    }
    case 'sole': {
      const own = part.side === 'earlier';
      if (part.shape.type.name === 'table' || (own ? one : other)) return false;
      return inside(part.kids, a + Number(own), b + Number(!own));
    }
    case 'seams':
      return ![...part.earlier, ...part.later].some(
        (node) => !node.isTextblock || isCodeOrSized(node) || isFootnote(node),
      );
    default:
      return true;
  }
}

function isFootnote(node: Node): boolean {
  return node.type.name === 'footnote';
}

function isCodeOrSized(node: Node): boolean {
  return node.type.spec.code === true || isSized(node);
}

/** Whether text has a size of its own, which a file gives in points, so that it means another in another style. */
function isSized(node: Node): boolean {
  return node.rangeHasMark(0, node.content.size, node.type.schema.marks['size'] as never);
}

function alike(one: Container | undefined, other: Container | undefined): boolean {
  return one?.kind === other?.kind;
}

/** Whether everything in an equal node is named on both sides or on neither. */
function fitsWhole(node: Node, a: number, b: number, earlier: Layout, later: Layout): boolean {
  let fit = alike(earlier.named.get(a), later.named.get(b));
  node.descendants((child, offset) => {
    if (child.isInline) return false;
    fit &&= alike(earlier.named.get(a + 1 + offset), later.named.get(b + 1 + offset));
    return fit;
  });
  return fit;
}

function fitsText({ earlier, later, form }: Pair): boolean {
  if (form === null) return true;
  const code = earlier.type.spec.code === true || later.type.spec.code === true;
  return earlier.isTextblock && later.isTextblock && !code && !isSized(earlier) && !isSized(later);
}

/** A table whose rows change but not its cells: formats of files track neither columns nor spans. */
function fitsTable({ earlier, later, form, kids, grid }: Pair): boolean {
  if (form || grid) return false;
  const spans = [earlier, later].some((table) => {
    let down = false;
    table.descendants((node) => {
      down ||= Number(node.attrs['rowspan'] ?? 1) > 1;
      return node.type.name === 'table_row' || node.type.name === 'table';
    });
    return down;
  });
  return kids.every((row) => {
    if (row.kind === 'keep') return true;
    if (row.kind === 'difference' || row.kind === 'move') return !spans;
    return (
      row.kind === 'pair' &&
      row.form === null &&
      row.kids.every((cell) => cell.kind === 'keep' || (cell.kind === 'pair' && cell.form === null))
    );
  });
}
