import type { Node } from 'prosemirror-model';
import type { Break, Pair, Side, Union } from '../../compare/union.js';
import { spans } from '../../compare/union.js';
import type { At, Whole } from './at.js';
import { standing } from './at.js';
import type { RunPiece } from './runs.js';
import type { Tracking } from './tracking.js';

/** What stands within the lines of a comparison, as pieces each with how it is tracked. */
export class DocxTrackedInline {
  constructor(private readonly tracking: Tracking) {}

  /** Inline content of a comparison. */
  parts(parts: readonly Union[], a: number, b: number): RunPiece[] {
    let [x, y] = [a, b];
    return parts.flatMap((part) => {
      const pieces = this.inlinePart(part, x, y);
      const [before, after] = spans(part);
      x += before;
      y += after;
      return pieces;
    });
  }

  private inlinePart(part: Union, a: number, b: number): RunPiece[] {
    switch (part.kind) {
      case 'keep':
        return [{ node: part.node, track: null }];
      case 'pair':
        return this.reformed(part, a, b);
      case 'difference': {
        const { id } = part.change;
        this.tracking.met(part.change);
        return [
          ...this.plain(part.earlier, { a, b: null }, { kind: 'del', change: id }),
          ...this.plain(part.later, { a: null, b }, { kind: 'ins', change: id }),
        ];
      }
      case 'move': {
        this.tracking.met(part.moved.change);
        const where = standing(part.at, a, b);
        const kind = this.tracking.moveKind(part.moved, part.at);
        return this.plain(part.moved[part.at], where, { kind, change: part.moved.change.id });
      }
      default:
        return [];
    }
  }

  /** Text that changed its form; a link or an image, which has no such tracking, is written as replaced. */
  private reformed({ earlier, later, form }: Pair, a: number, b: number): RunPiece[] {
    if (form === null) return [{ node: later, track: null }];
    this.tracking.met(form);
    const link = (node: Node): string =>
      JSON.stringify(node.marks.find((mark) => mark.type.name === 'link')?.toJSON() ?? null);
    if (later.isText && link(earlier) === link(later)) {
      const by = this.tracking.hand(form.id, 'later', b);
      return [{ node: later, track: null, before: { marks: earlier.marks, by } }];
    }
    return [
      ...this.plain([earlier], { a, b: null }, { kind: 'del', change: form.id }),
      ...this.plain([later], { a: null, b }, { kind: 'ins', change: form.id }),
    ];
  }

  /** Inline nodes that stand on both sides, or are tracked as a whole, text parted by who changed it. */
  plain(nodes: readonly Node[], where: At, whole: Whole | null): RunPiece[] {
    if (!whole) return nodes.map((node) => ({ node, track: null }));
    const side: Side = where.b === null ? 'earlier' : 'later';
    let position = (side === 'earlier' ? where.a : where.b) ?? 0;
    return nodes.flatMap((node): RunPiece[] => {
      const [from, to] = [position, position + node.nodeSize];
      position = to;
      const stretches = this.tracking.hands(whole.change, side, from, to);
      if (!node.isText || stretches.length <= 1)
        return [{ node, track: this.tracking.trackAt(whole.kind, whole.change, side, from) }];
      return stretches.map((stretch, i): RunPiece => {
        const start = i === 0 ? 0 : stretch.from - from;
        const end = i === stretches.length - 1 ? node.nodeSize : (stretches[i + 1]?.from ?? to) - from;
        const { author, at } = stretch;
        return { node: node.cut(start, end), track: { kind: whole.kind, author, at } };
      });
    });
  }

  /** What the other side has where one breaks. */
  gap({ side, gap, change }: Break, position: number): RunPiece[] {
    const where: At = side === 'later' ? { a: position, b: null } : { a: null, b: position };
    return this.plain(gap, where, { kind: side === 'later' ? 'del' : 'ins', change: change.id });
  }
}
