import type { Node } from 'prosemirror-model';
import { traitsOf } from '../content/index.js';

/** A document as JSON in which what stands in no order that counts is in that of its names: what is equal to a reader is told alike. */
export function orderless(node: Node): unknown {
  const kids = [...node.children];
  const nameOf = ({ type, attrs }: Node): string => {
    const { key = '' } = traitsOf(type);
    return `${type.name} ${String(attrs[key])}`;
  };
  if (kids.every(({ type }) => traitsOf(type).free)) kids.sort((a, b) => (nameOf(a) < nameOf(b) ? -1 : 1));
  return {
    ...node.copy().toJSON(),
    content: kids.map(orderless),
    ...(node.isText ? { text: node.text } : {}),
  };
}
