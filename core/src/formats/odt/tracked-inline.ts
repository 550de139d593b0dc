import type { Node } from 'prosemirror-model';
import type { Union } from '../../compare/union.js';
import { spans } from '../../compare/union.js';
import type { Element } from '../packed/xml.js';
import { el } from '../packed/xml.js';
import type { Beside } from './inline.js';
import { inlineOf } from './inline.js';
import type { Regions } from './regions.js';

export type Content = Element | string;

/** What stands within the lines of a comparison. A change of form is written as text replaced: ODF tracks none that could be rejected. */
export class OdtTrackedInline {
  constructor(
    private readonly regions: Regions,
    private readonly beside: Beside,
  ) {}

  /** Inline nodes that stand on both sides. */
  plain(nodes: readonly Node[]): Content[] {
    return inlineOf(nodes, this.beside);
  }

  /** Inline content of a comparison, at positions of the two documents. */
  parts(parts: readonly Union[], a: number, b: number): Content[] {
    let [x, y] = [a, b];
    return parts.flatMap((part) => {
      const content = this.inlinePart(part, x, y);
      const [one, other] = spans(part);
      x += one;
      y += other;
      return content;
    });
  }

  private inlinePart(part: Union, a: number, b: number): Content[] {
    switch (part.kind) {
      case 'keep':
        return this.plain([part.node]);
      case 'pair':
        return part.form === null
          ? this.plain([part.later])
          : this.replaced([part.earlier], [part.later], part.form.id, a, b);
      case 'difference':
        return this.replaced(part.earlier, part.later, part.change.id, a, b);
      case 'move':
        return part.at === 'earlier'
          ? this.replaced(part.moved.earlier, [], part.moved.change.id, a, b)
          : this.replaced([], part.moved.later, part.moved.change.id, a, b);
      default:
        return [];
    }
  }

  private replaced(
    earlier: readonly Node[],
    later: readonly Node[],
    change: number,
    a: number,
    b: number,
  ): Content[] {
    const gone = this.regions.stretches(earlier, change, 'earlier', a).map(({ nodes, hand }) => {
      const paragraph = el('text:p', {}, this.plain(nodes));
      return el('text:change', { 'text:change-id': this.regions.add('deletion', hand, [paragraph]) });
    });
    const come = this.regions.stretches(later, change, 'later', b).flatMap(({ nodes, hand }) => {
      const id = this.regions.add('insertion', hand, []);
      return [
        el('text:change-start', { 'text:change-id': id }),
        ...this.plain(nodes),
        el('text:change-end', { 'text:change-id': id }),
      ];
    });
    return [...gone, ...come];
  }
}
