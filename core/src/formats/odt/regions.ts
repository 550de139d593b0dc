import type { Node } from 'prosemirror-model';
import type { Side } from '../../compare/union.js';
import type { Element } from '../packed/xml.js';
import { el } from '../packed/xml.js';
import type { Hand, Hands } from '../writing.js';

/** The regions of a file in which changes are tracked, and who made each (ODF 1.2 Part 1, 5.5). */
export class Regions {
  private readonly regions: Element[] = [];

  constructor(private readonly hands: Hands) {}

  /** What was tracked (5.5.1), or null when nothing was. */
  get tracked(): Element | null {
    return this.regions.length > 0 ? el('text:tracked-changes', {}, this.regions) : null;
  }

  /** Inline nodes by who changed them. */
  stretches(nodes: readonly Node[], change: number, side: Side, at: number): { nodes: Node[]; hand: Hand }[] {
    const out: { nodes: Node[]; hand: Hand }[] = [];
    let position = at;
    for (const node of nodes) {
      const [from, to] = [position, position + node.nodeSize];
      position = to;
      const hands = this.hands(change, side, from, to);
      const pieces = node.isText && hands.length > 1 ? hands : hands.slice(0, 1);
      const all = pieces.length > 0 ? pieces : [{ author: '', at: '', from, to }];
      all.forEach((hand, i) => {
        const cut = node.isText
          ? node.cut(
              i === 0 ? 0 : hand.from - from,
              i === all.length - 1 ? node.nodeSize : (all[i + 1]?.from ?? to) - from,
            )
          : node;
        const previous = out.at(-1);
        if (previous?.hand.author === hand.author && previous.hand.at === hand.at) previous.nodes.push(cut);
        else out.push({ nodes: [cut], hand });
      });
    }
    return out;
  }

  /** Who made what one side has at a position. */
  hand(change: number, side: Side, at: number): Hand {
    return this.hands(change, side, at, at + 1)[0] ?? { author: '', at: '' };
  }

  /** Adds a region of tracked changes (5.5.2); answers its id. */
  add(kind: 'insertion' | 'deletion', { author, at }: Hand, content: readonly Element[]): string {
    const id = `ct${this.regions.length + 1}`;
    const info = el('office:change-info', {}, [
      el('dc:creator', {}, [author]),
      el('dc:date', {}, [at ? at.slice(0, 19) : '1970-01-01T00:00:00']),
    ]);
    this.regions.push(
      el('text:changed-region', { 'xml:id': id, 'text:id': id }, [
        el(`text:${kind}`, {}, [info, ...content]),
      ]),
    );
    return id;
  }
}
