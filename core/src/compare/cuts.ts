import type { Node } from 'prosemirror-model';
import type { Difference, Handle, Keep, Side } from './union.js';
import { textOf } from './union.js';

/** A stretch of the inline content of a text block, by positions from its start. */
export interface BlockCut {
  readonly block: Node;
  readonly from: number;
  readonly to: number;
}

/** The text node that is all of a block, or null. */
export function onlyText(block: Node): Node | null {
  const only = block.firstChild;
  return only?.isText && block.childCount === 1 ? only : null;
}

/** The inline nodes of a stretch. */
export function nodesIn({ block, from, to }: BlockCut): Node[] {
  const only = onlyText(block);
  if (only) return [only.cut(from, to)];
  const nodes: Node[] = [];
  block.content.cut(from, to).forEach((node) => nodes.push(node));
  return nodes;
}

/** Text that both sides have, held as places: of a long comparison most parts are such, and few are asked for at once. */
export class KeptText implements Keep {
  constructor(
    private readonly text: Node,
    private readonly from: number,
    readonly size: number,
  ) {}

  get kind(): 'keep' {
    return 'keep';
  }

  get node(): Node {
    return this.text.cut(this.from, this.from + this.size);
  }
}

/** Inline content that came, went or took the place of other, held as places. It is the handle of its own change. */
export class CutDifference implements Difference, Handle {
  id = -1;
  private readonly a: Node | null;
  private readonly b: Node | null;
  private readonly aFrom: number;
  private readonly aTo: number;
  private readonly bFrom: number;
  private readonly bTo: number;

  constructor(earlier: BlockCut | null, later: BlockCut | null) {
    this.a = earlier?.block ?? null;
    this.b = later?.block ?? null;
    this.aFrom = earlier?.from ?? 0;
    this.aTo = earlier?.to ?? 0;
    this.bFrom = later?.from ?? 0;
    this.bTo = later?.to ?? 0;
  }

  get kind(): 'difference' {
    return 'difference';
  }

  get change(): Handle {
    return this;
  }

  get earlier(): readonly Node[] {
    return this.a ? nodesIn({ block: this.a, from: this.aFrom, to: this.aTo }) : [];
  }

  get later(): readonly Node[] {
    return this.b ? nodesIn({ block: this.b, from: this.bFrom, to: this.bTo }) : [];
  }

  get inline(): boolean {
    return true;
  }

  text(side: Side): string {
    const [block, from, to] =
      side === 'earlier' ? [this.a, this.aFrom, this.aTo] : [this.b, this.bFrom, this.bTo];
    if (!block) return '';
    const only = onlyText(block);
    return only ? (only.text ?? '').slice(from, to) : textOf(nodesIn({ block, from, to }));
  }

  get sizes(): readonly [number, number] {
    return [this.aTo - this.aFrom, this.bTo - this.bFrom];
  }
}
