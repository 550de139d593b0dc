import type { Node } from 'prosemirror-model';
import { traitsOf } from '../../content/index.js';
import { keyOf } from '../keyed.js';

/** Nodes by version, the base's first. */
export type ByVersion = readonly (readonly Node[])[];

/**
 * Children of several nodes that say which they are: for each name what each version has of it, one node or none. What the base has keeps its
 * order; what came stands behind what it came behind. Null where some say nothing, one name stands twice, or the versions have what they
 * share in different orders that count.
 */
export function namedChildren(parents: readonly Node[]): ByVersion[] | null {
  const versions = parents.map(byName);
  const [base, ...sides] = versions;
  if (!base) return null;
  const came = new Map<string | null, Set<string>>();
  for (const side of sides) {
    if (!side) return null;
    let [behind, last]: [string | null, number] = [null, -1];
    for (const [name, { node }] of side) {
      const at = base.get(name)?.at;
      if (at === undefined) came.set(behind, (came.get(behind) ?? new Set()).add(name));
      else if (at >= last) [behind, last] = [name, at];
      else if (!traitsOf(node.type).free) return null;
    }
  }
  const order: string[] = [];
  const known = new Set<string>(base.keys());
  for (const name of [null, ...base.keys()]) {
    if (name !== null) order.push(name);
    for (const one of came.get(name) ?? []) {
      if (!known.has(one)) order.push(one);
      known.add(one);
    }
  }
  return order.map((name) =>
    versions.map((version) => {
      const node = version?.get(name)?.node;
      return node ? [node] : [];
    }),
  );
}

/** Whether two nodes are equal, but for the order of what stands in none that counts. */
export function isSame(one: Node, other: Node): boolean {
  if (one.eq(other)) return true;
  if (one.childCount === 0 || one.childCount !== other.childCount) return false;
  if (!one.hasMarkup(other.type, other.attrs, other.marks)) return false;
  if (!one.children.every(({ type }) => traitsOf(type).free)) return false;
  const named = byName(other);
  return one.children.every((child) => {
    const like = named?.get(keyOf(child) ?? '')?.node;
    return like !== undefined && isSame(child, like);
  });
}

/** The children of a node by their names, in order; null where one has none, or two are called alike. */
function byName(parent: Node): Map<string, { readonly node: Node; readonly at: number }> | null {
  const out = new Map<string, { node: Node; at: number }>();
  for (const [at, node] of parent.children.entries()) {
    const name = keyOf(node);
    if (name === null || out.has(name)) return null;
    out.set(name, { node, at });
  }
  return out;
}
