import type { Mark, Node } from 'prosemirror-model';
import { Fragment } from 'prosemirror-model';
import { deckSchema as schema } from '../../kinds/deck/index.js';

/** How a line of a box begins. */
export type Bullet = 'none' | 'bullet' | 'number';

/** A line of text as presentations know it: flat, with a level, and what stands before it. */
export interface SlideLine {
  readonly bullet: Bullet;
  /** How deep it is nested, from 0. */
  readonly level: number;
  /** The first number of a numbered list. */
  readonly start: number;
  readonly align: string;
  readonly content: readonly Node[];
}

/** The blocks of a box as flat lines; what stands below the first line of an item and has no sign of its own is a line of its level. */
export function linesOf(blocks: readonly Node[], bullet: Bullet = 'none', level = 0, start = 1): SlideLine[] {
  return blocks.flatMap((block): SlideLine[] => {
    const { name } = block.type;
    if (name === 'paragraph') {
      const align = String(block.attrs['align'] ?? '');
      return [{ bullet, level, start, align, content: block.children }];
    }
    const kind: Bullet = name === 'ordered_list' ? 'number' : 'bullet';
    const inner = bullet === 'none' ? level : level + 1;
    const from = Number(block.attrs['start'] ?? 1);
    return block.children.flatMap((item) =>
      item.children.flatMap((child, i) =>
        child.type.name === 'paragraph'
          ? linesOf([child], i === 0 ? kind : 'none', i === 0 ? inner : inner + 1, from)
          : linesOf([child], kind, inner, from),
      ),
    );
  });
}

/** Blocks of flat lines: lines with a sign are items of lists, nested by their levels. */
export function blocksOf(lines: readonly SlideLine[]): Node[] {
  const { blocks } = read(lines, 0, 0);
  return blocks.length > 0 ? blocks : [schema.node('paragraph')];
}

/** Reads lines from one on, as long as they are of a level or deeper. */
function read(lines: readonly SlideLine[], from: number, level: number): { blocks: Node[]; next: number } {
  const blocks: Node[] = [];
  let at = from;
  for (let line = lines[at]; line && line.level >= level; line = lines[at]) {
    if (line.bullet === 'none') {
      // A line without a sign that stands deeper than the list it is in belongs to its last item; here it stands by itself.
      if (line.level > level && level > 0) break;
      blocks.push(paragraphOf(line));
      at++;
      continue;
    }
    const { bullet, start } = line;
    const own = line.level;
    const items: Node[] = [];
    for (let item = lines[at]; item?.bullet === bullet && item.level === own; item = lines[at]) {
      at++;
      const inside = read(lines, at, own + 1);
      at = inside.next;
      items.push(schema.node('list_item', null, [paragraphOf(item), ...inside.blocks]));
    }
    blocks.push(
      bullet === 'number'
        ? schema.node('ordered_list', { start }, items)
        : schema.node('bullet_list', null, items),
    );
  }
  return { blocks, next: at };
}

function paragraphOf({ content, align }: SlideLine): Node {
  return schema.node('paragraph', align ? { align } : null, Fragment.fromArray([...content]));
}

/** A mark of a name, where text has one. */
export function markOf(node: Node, name: string): Mark | undefined {
  return node.marks.find(({ type }) => type.name === name);
}
