import { Fragment } from 'prosemirror-model';
import type { Node } from 'prosemirror-model';
import { roleOf } from '../content/index.js';
import type { Comparison } from './compare.js';
import type { Grid, Handle, Line, Moved, Pair, Seams, Sole, Union } from './union.js';
import { textIn } from './union.js';

/**
 * Which side of a change to take. `both` keeps the earlier content and puts the later behind it; a change of form, a move,
 * a split or a join has no both, and takes it for `later`.
 */
export type Decision = 'earlier' | 'later' | 'both';

/**
 * The document that decisions about each change make of a comparison. Only nodes whose content came from both sides are
 * repaired, so taking every change gives the later document node for node, and taking none the earlier. What moved into
 * a container that is not taken stays at its earlier place.
 */
export function assemble({ union, earlier }: Comparison, decide: (change: number) => Decision): Node {
  const assembler = new Assembler(decide);
  assembler.place(union, true);
  const [doc] = assembler.part(union).nodes;
  return doc ?? earlier.type.createAndFill() ?? earlier;
}

/** Nodes and the sides they came from: 1 earlier, 2 later, 3 both, 0 neither in particular. */
interface Part {
  readonly nodes: readonly Node[];
  readonly sides: number;
}

const EARLIER = 1;
const LATER = 2;
const BOTH = 3;

class Assembler {
  /** What moved and is shown at its later place. */
  private readonly arrived = new Set<Moved>();

  constructor(private readonly decide: (change: number) => Decision) {}

  private takes(change: Handle): Decision {
    return this.decide(change.id);
  }

  /** Settles for everything that moved at which of its two places it stands. */
  place(union: Union, present: boolean): void {
    if (union.kind === 'move') {
      if (union.at === 'later' && present && this.takes(union.moved.change) !== 'earlier')
        this.arrived.add(union.moved);
      return;
    }
    if (!('kids' in union)) return;
    const stands =
      union.kind !== 'sole' || union.side === 'earlier' || this.takes(union.change) !== 'earlier';
    for (const kid of union.kids) this.place(kid, present && stands);
  }

  part(union: Union): Part {
    switch (union.kind) {
      case 'keep':
        return { nodes: [union.node], sides: 0 };
      case 'pair':
        return this.pair(union);
      case 'seams':
        return this.seams(union);
      case 'sole':
        return this.sole(union);
      case 'move': {
        const { moved, at } = union;
        if (this.arrived.has(moved) !== (at === 'later'))
          return { nodes: [], sides: at === 'later' ? EARLIER : LATER };
        const sides = at === 'later' ? LATER : EARLIER;
        if (moved.words) return this.row(moved.words, sides);
        if (!moved.body) return { nodes: at === 'later' ? moved.later : moved.earlier, sides };
        const body = this.part(moved.body);
        return { nodes: body.nodes, sides: sides | body.sides };
      }
      case 'difference': {
        const decision = this.takes(union.change);
        if (decision === 'both') return { nodes: [...union.earlier, ...union.later], sides: BOTH };
        return decision === 'earlier'
          ? { nodes: union.earlier, sides: EARLIER }
          : { nodes: union.later, sides: LATER };
      }
      case 'break':
        return { nodes: union.gap, sides: BOTH };
    }
  }

  private row(parts: readonly Union[], own: number): Part {
    const kids = parts.map((kid) => this.part(kid));
    return {
      nodes: kids.flatMap((kid) => [...kid.nodes]),
      sides: kids.reduce((sum, kid) => sum | kid.sides, own),
    };
  }

  private shape(form: Handle | null, earlier: Node, later: Node): { shape: Node; sides: number } {
    if (form === null) return { shape: later, sides: 0 };
    return this.takes(form) === 'earlier'
      ? { shape: earlier, sides: EARLIER }
      : { shape: later, sides: LATER };
  }

  private pair(pair: Pair): Part {
    const { shape, sides: own } = this.shape(pair.form, pair.earlier, pair.later);
    if (pair.kids.length === 0 && pair.earlier.isInline) return { nodes: [shape], sides: own };
    if (pair.grid) return this.table(shape, own, pair.grid);
    const { nodes, sides } = this.row(pair.kids, own);
    return this.whole(shape, Fragment.fromArray([...nodes]), sides);
  }

  private whole(shape: Node, content: Fragment, sides: number): Part {
    if (sides !== BOTH) return { nodes: [shape.copy(content)], sides };
    const node = repaired(shape, content);
    return { nodes: node ? [node] : [], sides };
  }

  /** Text blocks in a row: a new one begins at each break that is taken. */
  private seams(seams: Seams): Part {
    const { shape, sides: own } = this.shape(seams.form, seams.earlier[0] as Node, seams.later[0] as Node);
    const blocks: { shape: Node; nodes: Node[]; sides: number }[] = [{ shape, nodes: [], sides: own }];
    for (const kid of seams.kids) {
      const block = blocks.at(-1) as (typeof blocks)[number];
      if (kid.kind === 'break') {
        const later = this.takes(kid.change) !== 'earlier';
        const side = later ? LATER : EARLIER;
        block.sides |= side;
        if (later === (kid.side === 'later')) blocks.push({ shape: kid.shape, nodes: [], sides: side });
        else block.nodes.push(...kid.gap);
      } else {
        const part = this.part(kid);
        block.nodes.push(...part.nodes);
        block.sides |= part.sides;
      }
    }
    const parts = blocks.map(({ shape, nodes, sides }) => {
      const text = this.whole(textIn(shape), Fragment.fromArray(nodes), sides);
      return shape.isTextblock
        ? text
        : { ...text, nodes: text.nodes.map((node) => shape.copy(Fragment.from(node))) };
    });
    return {
      nodes: parts.flatMap((part) => [...part.nodes]),
      sides: parts.reduce((sum, part) => sum | part.sides, 0),
    };
  }

  /** A container of one side; where it goes but something in it stays, it stays round that. */
  private sole({ change, side, shape, kids }: Sole): Part {
    const own = side === 'earlier' ? EARLIER : LATER;
    const decision = this.takes(change);
    const stands = decision === 'both' || decision === side;
    if (side === 'later' && !stands) return { nodes: [], sides: EARLIER };
    const parts = kids.map((kid) => this.part(kid));
    const nodes = parts.flatMap((part) => [...part.nodes]);
    if (nodes.length === 0) return { nodes: [], sides: stands ? BOTH : EARLIER + LATER - own };
    const sides = parts.reduce((sum, part) => sum | part.sides, stands ? own : BOTH);
    return this.whole(shape, Fragment.fromArray(nodes), sides);
  }

  /** A table of the rows and columns taken; a cell that neither side has there is an empty one. */
  private table(shape: Node, own: number, { columns, rows }: Grid): Part {
    let sides = own;
    const stands = ({ change, side, moved }: Line): boolean => {
      if (change === null || side === null) return true;
      const taken = this.takes(change);
      const decision = moved && taken === 'both' ? 'later' : taken;
      sides |= decision === 'both' ? BOTH : decision === 'earlier' ? EARLIER : LATER;
      return decision === 'both' || decision === side;
    };
    const shown = columns.map(stands);
    const out: Node[] = [];
    for (const row of rows) {
      if (!stands(row)) continue;
      const cells: Node[] = [];
      row.cells.forEach(({ earlier, later, both }, i) => {
        if (!shown[i]) return;
        if (both) {
          const part = this.part(both);
          sides |= part.sides;
          cells.push(...part.nodes);
        } else {
          const empty = shape.firstChild?.type.contentMatch.defaultType?.createAndFill();
          const cell = later ?? earlier ?? empty;
          if (cell) cells.push(cell);
        }
      });
      const like = shape.firstChild as Node;
      if (cells.length > 0) out.push(like.copy(Fragment.fromArray(cells)));
    }
    return out.length === 0
      ? { nodes: [], sides: BOTH }
      : { nodes: [shape.copy(Fragment.fromArray(out))], sides };
  }
}

/** A node of a mixed origin made valid: what is missing is filled in; a list or table that lost all it had is left out, a cell is not. */
export function repaired(shape: Node, content: Fragment): Node | null {
  if (shape.type.validContent(content)) return shape.copy(content);
  const stays = shape.type === shape.type.schema.topNodeType || roleOf(shape) === 'cell';
  if (content.childCount === 0 && !stays) return null;
  const filled = shape.type.createAndFill(shape.attrs, content, shape.marks);
  if (filled) return filled;
  const fitting: Node[] = [];
  content.forEach((child) => {
    const fits = fitted(shape, child);
    if (fits) fitting.push(fits);
  });
  return shape.type.createAndFill(shape.attrs, Fragment.fromArray(fitting), shape.marks);
}

/** A child as a node may hold it: an item of one kind of list becomes one of another. */
function fitted(shape: Node, child: Node): Node | null {
  const { contentMatch } = shape.type;
  if (contentMatch.matchType(child.type)) return child.mark(shape.type.allowedMarks(child.marks));
  const type = contentMatch.defaultType;
  return type?.validContent(child.content) ? type.create(null, child.content) : null;
}
