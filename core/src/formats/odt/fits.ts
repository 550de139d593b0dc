import type { Node } from 'prosemirror-model';
import type { Pair, Union } from '../../compare/union.js';
import { childrenOf } from '../../content/index.js';

/**
 * Whether a part of a comparison can be written where it stands. ODF marks what was removed at a place between blocks, which a
 * list or a table has none of, and tracks no change of form that could be rejected (1.2 Part 1, 5.5): what changed so is
 * written as the earlier content removed and the later inserted.
 */
export function fits(part: Union): boolean {
  switch (part.kind) {
    case 'pair':
      return fitsPair(part);
    case 'seams':
    case 'sole':
      return false;
    default:
      return true;
  }
}

function fitsPair({ earlier, later, form, kids, grid }: Pair): boolean {
  if (form !== null || grid) return false;
  if (later.isTextblock || later.type.name === 'quote') return true;
  if (later.type.name === 'table')
    return kids.every(
      (row) =>
        row.kind === 'keep' ||
        (isSame(row) && row.kids.every((cell) => cell.kind === 'keep' || isSame(cell))),
    );
  const plain = isPlainList(later);
  return (
    plain === isPlainList(earlier) &&
    kids.every((item) => item.kind === 'keep' || (isSame(item) && (!plain || isStill(item))))
  );
}

function isSame(part: Union): part is Pair {
  return part.kind === 'pair' && part.form === null;
}

/** Whether nothing but text changed in a part. */
function isStill(part: Union): boolean {
  if (part.kind === 'keep') return true;
  return isSame(part) && (part.later.isTextblock || part.kids.every(isStill));
}

/** Whether an item can hold all that those of a list do: paragraphs, headings and lists (5.3.3). */
export function isPlainList(list: Node): boolean {
  return childrenOf(list).every((item) =>
    childrenOf(item).every((block, i) => {
      if (list.type.name === 'check_list' && i === 0 && block.type.name !== 'paragraph') return false;
      if (/_list$/.test(block.type.name)) return isPlainList(block);
      return block.type.name !== 'table' && block.type.name !== 'quote';
    }),
  );
}
