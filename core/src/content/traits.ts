import type { Attrs, Node, NodeType, Schema } from 'prosemirror-model';
import type { ReplaceStep, Step } from 'prosemirror-transform';
import { AttrStep } from 'prosemirror-transform';

/**
 * What a node is to those who do not know its kind of document: a table that must stay whole, of rows and cells; a list of items; a
 * heading that begins a section; a block of plain text; a break of the line; a picture; a record, whose cells name their columns.
 */
export type Role =
  'table' | 'row' | 'cell' | 'list' | 'item' | 'heading' | 'prose' | 'line' | 'picture' | 'record';

/** A node that is not as its kind wants it, and its position in its document. */
export interface Standing {
  readonly node: Node;
  readonly at: number;
}

/** Which nodes were added, where what several people did at once is mended. */
export type Added = (node: Node) => boolean;

/** How a node stays whole where several people change it at once. */
export interface Wholeness {
  /** What is wrong with a node, for a person; null when it is whole. */
  readonly fault: (node: Node) => string | null;
  /** Steps on its document as it stands that make a node whole again, in order: replacing and setting attributes. */
  readonly mend: (broken: Standing, added: Added) => Step[];
}

/** What the type of a node says of itself, beside what ProseMirror asks: traits, so that nothing outside its kind needs its name. */
export interface Traits {
  readonly role?: Role;
  /** What it can be another form of: types of one family. Alone in its own, where none is given. */
  readonly family?: string;
  /** The plain text that stands for it: of a leaf, which has none else, or instead of what is in it. */
  readonly plain?: (node: Node) => string;
  /** Of a leaf: the attribute that makes it the one it is; all others are its form. */
  readonly identity?: string;
  /** The attribute that says which one it is among its siblings, whatever it holds and wherever it stands; '' for the only one of its type. */
  readonly key?: string;
  /** Whether it stands among its siblings in no order that counts: it says itself where it is shown, or beside what. */
  readonly free?: boolean;
  /** Of a leaf: whether two of them are one in two forms, whatever their attributes. */
  readonly formed?: boolean;
  /** What the attributes that say what somebody wrote become when it is erased. */
  readonly erased?: Attrs;
  /** Whether all blocks in it stay where it stays though what made them is undone: cells of a table, title and notes of a slide. */
  readonly intact?: boolean;
  readonly whole?: Wholeness;
}

/** The traits of a type of node. */
export function traitsOf(type: NodeType): Traits {
  return type.spec as Traits;
}

/** The role of a node, or none. */
export function roleOf(node: Node): Role | null {
  return traitsOf(node.type).role ?? null;
}

/** What a node can be another form of. */
export function familyOf(node: Node): string {
  return traitsOf(node.type).family ?? node.type.name;
}

/** The pictures that are in a node, each by what makes it the one it is: the SHA-256 of a stored image. */
export function picturesIn(node: Node): Set<string> {
  const out = new Set<string>();
  node.descendants((child) => {
    const { role, identity = '' } = traitsOf(child.type);
    const hash: unknown = role === 'picture' ? child.attrs[identity] : null;
    if (typeof hash === 'string' && hash) out.add(hash);
  });
  return out;
}

/** The type of blocks that text stands in when nothing says otherwise. Throws `RangeError` for a schema without text. */
export function proseOf(schema: Schema): NodeType {
  const types = Object.values(schema.nodes);
  const prose =
    types.find((type) => traitsOf(type).role === 'prose') ?? types.find(({ isTextblock }) => isTextblock);
  if (!prose) throw new RangeError('a schema without blocks of text');
  return prose;
}

/** The nodes in a node that are not whole, in order; `at` is the position of the node in its document, -1 for that itself. */
export function brokenIn(node: Node, at: number): Standing[] {
  const out: Standing[] = [];
  if (faultOf(node) !== null) out.push({ node, at });
  if (!node.isTextblock) node.forEach((child, offset) => out.push(...brokenIn(child, at + 1 + offset)));
  return out;
}

/** What is wrong with a node itself, or null. */
export function faultOf(node: Node): string | null {
  return traitsOf(node.type).whole?.fault(node) ?? null;
}

/**
 * Steps that make nodes whole again, last first, so that none moves what another is about. `added` tells of which nodes in them it is
 * true that they came anew.
 */
export function mendingSteps(broken: readonly Standing[], added: Added = () => false): Step[] {
  return broken
    .flatMap((one) => traitsOf(one.node.type).whole?.mend(one, added) ?? [])
    .sort((one, other) => placeOf(one) - placeOf(other))
    .reverse();
}

function placeOf(step: Step): number {
  return step instanceof AttrStep ? step.pos : (step as ReplaceStep).from;
}
