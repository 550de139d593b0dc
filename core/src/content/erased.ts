import { Fragment } from 'prosemirror-model';
import type { Attrs, Mark, Node, NodeType } from 'prosemirror-model';
import type { Token } from './tokens.js';
import { traitsOf } from './traits.js';

/**
 * The UTF-16 unit that stands for an erased one: the control character DELETE (ISO/IEC 6429), of one byte in UTF-8, which nobody's text
 * may bring.
 */
export const FILLER = '\u007f';

/** What an erased unit is shown as where nothing can be drawn: part of a bar as long as what was there (Unicode: FULL BLOCK). */
const BAR = '\u2588';
const BAR_RUN = new RegExp(`${BAR}+`, 'g');
const BARS = new RegExp(` *${BAR}+ *`, 'g');

/** A text as it is told to people: what was erased as a bar of its length. */
export function told(text: string): string {
  return text.includes(FILLER) ? text.replaceAll(FILLER, BAR) : text;
}

/** A text that was told, changed by somebody and put in place of one: the bars in it are again what was erased there. */
export function untold(text: string, before: string): string {
  return before.includes(FILLER) ? text.replaceAll(BAR, FILLER) : text;
}

/** A text as it is read aloud: what was erased in it as a word for that. */
export function spoken(text: string, erased: string): string {
  return text.replace(BARS, ` ${erased} `).trim();
}

/** A document as it is told in files: what was erased in it as bars, of the same length. */
export function asTold(node: Node): Node {
  if (node.isText)
    return (node.text ?? '').includes(FILLER)
      ? node.type.schema.text(told(node.text ?? ''), node.marks)
      : node;
  if (node.attrs['hash'] === ERASED_IMAGE)
    return node.type.create({ ...node.attrs, alt: 'erased image' }, null, node.marks);
  if (node.isLeaf) return node;
  const children = node.children.map(asTold);
  return children.every((child, i) => child === node.child(i))
    ? node
    : node.copy(Fragment.fromArray(children));
}

/**
 * A document that was read from a file, with what was erased in another erased in it too: for each bar there one of its length, from the first on. Bars
 * beyond those are what somebody typed.
 */
export function withErased(read: Node, of: Node): Node {
  const left = new Map<number, number>();
  of.descendants((node) => {
    for (const [run] of (node.text ?? '').matchAll(ERASED_RUN))
      left.set(run.length, (left.get(run.length) ?? 0) + 1);
  });
  const erased = (bar: string): string => {
    const count = left.get(bar.length) ?? 0;
    if (count > 0) left.set(bar.length, count - 1);
    return count > 0 ? FILLER.repeat(bar.length) : bar;
  };
  const visit = (node: Node): Node => {
    if (node.isText) return node.type.schema.text((node.text ?? '').replace(BAR_RUN, erased), node.marks);
    return node.isLeaf ? node : node.copy(Fragment.fromArray(node.children.map(visit)));
  };
  return left.size > 0 ? visit(read) : read;
}

/** What an erased image is named: the hash of nothing. */
export const ERASED_IMAGE = '0'.repeat(64);

/** One or more erased units side by side. */
export const ERASED_RUN = new RegExp(`${FILLER}+`, 'g');

/** What the attributes of a node that say what somebody wrote become when it is erased, by name; the node's `erased` trait. */
export function erasedAttrs(type: NodeType): Attrs | null {
  return traitsOf(type).erased ?? null;
}

/** Marks without those that say what somebody wrote, such as the address of a link. */
export function erasedMarks(marks: readonly Mark[]): readonly Mark[] {
  return marks.some(saysSomething) ? marks.filter((mark) => !saysSomething(mark)) : marks;
}

/** Whether a mark carries words of somebody's; its `says` trait. */
export function saysSomething(mark: Mark): boolean {
  return mark.type.spec['says'] === true;
}

/** A token as it stands after erasing: as long, of the same kind, and silent about what it was. */
export function erasedToken(token: Token): Token {
  if (token.kind === 'unit') return { kind: 'unit', unit: FILLER, marks: erasedMarks(token.marks) };
  if (token.kind === 'leaf') return { kind: 'leaf', node: erasedLeaf(token.node) };
  if (token.kind !== 'open') return token;
  const attrs = erasedAttrs(token.type);
  return attrs ? { ...token, attrs: { ...token.attrs, ...attrs } } : token;
}

/** A leaf as it stands after erasing. */
export function erasedLeaf(node: Node): Node {
  return node.type.create({ ...node.attrs, ...erasedAttrs(node.type) }, null, erasedMarks(node.marks));
}

/** Whether a token is what erasing leaves of text or an image: nothing that could come back. */
export function isErased(token: Token): boolean {
  if (token.kind === 'unit') return token.unit === FILLER;
  return token.kind === 'leaf' && token.node.attrs['hash'] === ERASED_IMAGE;
}
