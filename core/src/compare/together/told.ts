import type { Node } from 'prosemirror-model';
import { plainText } from '../../content/index.js';
import { textOf } from '../union.js';
import type { Part, Passage, Together } from './parts.js';

/** A passage as people are told it. */
export interface ToldPassage {
  readonly id: number;
  readonly kind: Passage['kind'];
  /** What the base has, in words: its text, its form, or what it stands behind. */
  readonly base: string;
  readonly forms: readonly { readonly text: string; readonly by: readonly number[] }[];
  /** What stands in one of several places, or has one of several forms. */
  readonly about?: string;
  /** Where it stands, in documents that are not read from the first line to the last. */
  readonly where?: string;
}

/** A stretch of a line: text that all have, a passage, one of the places of what moved, or the form of the block: without text before the text of
 * one, alone where blocks stand in it. */
export type Piece =
  | { readonly text: string }
  | { readonly passage: number }
  | { readonly passage: number; readonly at?: 'base' | number; readonly text: string };

/** A text block, or what stands in the place of some: what it is as the schema names it, and what stands in it. */
export interface Line {
  readonly kind: string;
  readonly pieces: readonly Piece[];
}

/** A passage in words. */
export function toldPassage({ id, kind, base, sides, forms, about }: Passage): ToldPassage {
  const all = [base, ...sides];
  const words = (nodes: readonly Node[]): string => (kind === 'form' ? formOf(nodes, all) : textOf(nodes));
  return {
    id,
    kind,
    base: words(base),
    forms: forms.map(({ nodes, by }) => ({ text: words(nodes), by })),
    ...(about ? { about: textOf(about) } : kind === 'form' ? { about: textOf(base) } : {}),
  };
}

/** The form of the first of some nodes in words: its kind, its marks, and what else about it differs among all. */
export function formOf([node]: readonly Node[], all: readonly (readonly Node[])[]): string {
  if (!node) return '';
  const differs = (name: string): boolean =>
    all.some(
      ([other]) => JSON.stringify(other?.attrs[name] ?? null) !== JSON.stringify(node.attrs[name] ?? null),
    );
  const attrs = Object.entries(node.attrs).filter(([name]) => differs(name));
  const kind = node.isText ? [] : [node.type.name.replace(/_/g, ' ')];
  const marks = node.marks.map(({ type, attrs: { href } }) =>
    href ? `${type.name} ${String(href)}` : type.name,
  );
  const said = [...kind, ...marks, ...attrs.map(([name, value]) => `${name} ${String(value)}`)];
  return said.length > 0 ? said.join(', ') : 'plain';
}

/** Documents brought together as lines of text in which the passages stand, in the order of reading. */
export function linesOf({ root }: Together): Line[] {
  const out: Line[] = [];
  const block = (part: Part, kind: string): void => {
    switch (part.kind) {
      case 'same':
        return part.nodes.forEach((node) => textBlocks(node, out));
      case 'asked':
        return void out.push({ kind, pieces: [{ passage: part.passage.id }] });
      case 'placed': {
        const text = part.parts.map(firstText).join('\n');
        out.push({ kind, pieces: [{ passage: part.passage.id, at: part.at, text }] });
        return part.parts
          .filter((kid) => kid.kind !== 'same' && part.at === 'base')
          .forEach((kid) => block(kid, kind));
      }
      case 'choice':
        return void out.push({ kind, pieces: [{ passage: part.passage.id }] });
      default: {
        const shape = 'forms' in part.shape ? (part.shape.base[0] as Node) : part.shape;
        const form = 'forms' in part.shape ? [part.shape.id] : [];
        const own = form.map((passage): Piece => ({ passage, text: '' }));
        if (part.kind === 'seamed' || shape.isTextblock)
          return void out.push({ kind: shape.type.name, pieces: [...own, ...part.kids.map(piece)] });
        out.push(...form.map((passage) => ({ kind: shape.type.name, pieces: [{ passage }] })));
        part.kids.forEach((kid) => block(kid, shape.type.name));
      }
    }
  };
  block(root, '');
  return out;
}

function piece(part: Part): Piece {
  return part.kind === 'asked' ? { passage: part.passage.id } : { text: firstText(part) };
}

/** What a part says in the base. */
function firstText(part: Part): string {
  switch (part.kind) {
    case 'same':
      return textOf(part.nodes);
    case 'asked':
    case 'choice':
      return textOf(part.passage.base);
    case 'placed':
      return part.parts.map(firstText).join('\n');
    default:
      return part.kids.map(firstText).join(part.kids.some((kid) => kid.kind === 'joined') ? '\n' : '');
  }
}

function textBlocks(node: Node, out: Line[]): void {
  if (node.isTextblock || node.isLeaf)
    out.push({ kind: node.type.name, pieces: [{ text: plainText(node) }] });
  else node.forEach((child) => textBlocks(child, out));
}
