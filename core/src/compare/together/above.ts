import type { Node } from 'prosemirror-model';
import type { Part, Together } from './parts.js';

/** What stands round each passage in the base, the document first. */
export function aboveOf({ root }: Together): ReadonlyMap<number, readonly Node[]> {
  const out = new Map<number, readonly Node[]>();
  const visit = (part: Part, above: readonly Node[]): void => {
    if (part.kind === 'same') return;
    if (part.kind === 'joined' || part.kind === 'seamed') {
      const { shape: of } = part;
      if ('forms' in of) out.set(of.id, above);
      const shape = 'forms' in of ? of.about?.[0] : of;
      part.kids.forEach((kid) => visit(kid, shape ? [...above, shape] : above));
    } else {
      out.set(part.passage.id, above);
      if (part.kind === 'placed') part.parts.forEach((kid) => visit(kid, above));
    }
  };
  visit(root, []);
  return out;
}
