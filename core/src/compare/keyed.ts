import type { Node } from 'prosemirror-model';
import { traitsOf } from '../content/index.js';
import type { Paired } from './align.js';
import { longestIncreasing } from './anchors.js';

/**
 * Pairs the children of two nodes by their keys, those that kept their order. Null where some have no key, or none is on both sides, as in
 * documents that share no history.
 */
export function keyedPairs(a: readonly Node[], b: readonly Node[]): Paired[] | null {
  const homes = new Map<string, number>();
  for (const [i, node] of b.entries()) {
    const key = keyOf(node);
    if (key === null) return null;
    if (!homes.has(key)) homes.set(key, i);
  }
  const pairs: Paired[] = [];
  for (const [i, node] of a.entries()) {
    const key = keyOf(node);
    if (key === null) return null;
    const j = homes.get(key);
    if (j === undefined) continue;
    homes.delete(key);
    pairs.push({ a: i, b: j, equal: node.eq(b[j] as Node) });
  }
  return pairs.length > 0 ? longestIncreasing(pairs) : null;
}

/** Which one a node is among its siblings, whatever it holds; null where its type has no names. */
export function keyOf(node: Node): string | null {
  const { key } = traitsOf(node.type);
  return key === undefined ? null : `${node.type.name} ${key === '' ? '' : String(node.attrs[key])}`;
}
