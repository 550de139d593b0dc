import { Fragment, Mark, Slice } from 'prosemirror-model';
import type { Attrs, Node, NodeType, Schema } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';
import { ReplaceAroundStep, ReplaceStep } from 'prosemirror-transform';
import { traitsOf } from './traits.js';
import { finished } from './work.js';
import type { Work } from './work.js';

/** One ProseMirror position's worth of content: a UTF-16 unit, a leaf, or one boundary of a node. */
export type Token =
  | { readonly kind: 'unit'; readonly unit: string; readonly marks: readonly Mark[] }
  | { readonly kind: 'leaf'; readonly node: Node }
  | { readonly kind: 'open'; readonly type: NodeType; readonly attrs: Attrs; readonly marks: readonly Mark[] }
  | { readonly kind: 'close' };

const CLOSE: Token = { kind: 'close' };

/** Letters after which collecting tokens rests. */
const REST = 4096;

/** The tokens of a fragment, one per position, in order. */
export function tokensOf(content: Fragment): Token[] {
  const out: Token[] = [];
  finished(collect(content, out));
  return out;
}

/** Rests after each node, and within long texts. */
function* collect(content: Fragment, out: Token[]): Work<void> {
  for (const node of content.content) {
    if (node.isText) {
      const text = node.text ?? '';
      for (let i = 0; i < text.length; i++) {
        out.push({ kind: 'unit', unit: text.charAt(i), marks: node.marks });
        if (i % REST === REST - 1) yield;
      }
    } else if (node.isLeaf) {
      out.push({ kind: 'leaf', node });
    } else {
      out.push({ kind: 'open', type: node.type, attrs: node.attrs, marks: node.marks });
      yield* collect(node.content, out);
      out.push(CLOSE);
      yield;
    }
  }
}

/** The tokens a slice inserts: those of its content without the boundaries it leaves open. */
export function sliceTokens(slice: Slice): Token[] {
  const all = tokensOf(slice.content);
  return slice.openStart || slice.openEnd ? all.slice(slice.openStart, all.length - slice.openEnd) : all;
}

/** All tokens that a list of steps inserts, in the order in which their maps count them. */
export function insertedTokens(steps: readonly Step[]): Token[] {
  return finished(tokensIn(steps));
}

/** The same. Rests now and then. */
export function* tokensIn(steps: readonly Step[]): Work<Token[]> {
  const out: Token[] = [];
  for (const step of steps) {
    if (!(step instanceof ReplaceStep || step instanceof ReplaceAroundStep)) continue;
    const { content, openStart, openEnd } = step.slice;
    const first = out.length;
    yield* collect(content, out);
    out.length -= openEnd;
    out.splice(first, openStart);
  }
  return out;
}

/** Whether two tokens are the same content, form (marks, attributes) left aside. */
export function sameContent(a: Token, b: Token): boolean {
  if (a.kind === 'unit') return b.kind === 'unit' && a.unit === b.unit;
  if (a.kind === 'leaf')
    return b.kind === 'leaf' && a.node.type === b.node.type && identityOf(a.node) === identityOf(b.node);
  if (a.kind === 'open') return b.kind === 'open' && a.type === b.type;
  return b.kind === 'close';
}

/** What makes a leaf the one it is, by its trait: of an image, which one. The rest of its attributes is form. */
export function identityOf({ type, attrs }: Node): string {
  const { identity } = traitsOf(type);
  return identity === undefined ? '' : String(attrs[identity]);
}

interface Frame {
  readonly open: Extract<Token, { kind: 'open' }> | null;
  readonly nodes: Node[];
}

/**
 * The slice that a list of tokens stands for. Boundaries whose other half is missing become its open sides; where
 * the missing half was at the start, `ancestors` (innermost first) say what the open nodes are.
 * Null when the tokens need an ancestor that is not given.
 */
export function sliceFromTokens(
  schema: Schema,
  tokens: readonly Token[],
  ancestors: readonly Node[] = [],
): Slice | null {
  const stack: Frame[] = [{ open: null, nodes: [] }];
  let openStart = 0;
  let text = '';
  let textMarks: readonly Mark[] = Mark.none;
  const top = (): Frame => stack[stack.length - 1] as Frame;
  const flush = (): void => {
    if (text) top().nodes.push(schema.text(text, textMarks));
    text = '';
  };
  const close = (frame: Frame): Node | null => {
    if (!frame.open) return null;
    return frame.open.type.create(frame.open.attrs, Fragment.fromArray(frame.nodes), frame.open.marks);
  };
  for (const token of tokens) {
    if (token.kind === 'unit') {
      if (text && !Mark.sameSet(textMarks, token.marks)) flush();
      text += token.unit;
      textMarks = token.marks;
      continue;
    }
    flush();
    if (token.kind === 'leaf') top().nodes.push(token.node);
    else if (token.kind === 'open') stack.push({ open: token, nodes: [] });
    else {
      const frame = stack.pop() as Frame;
      if (frame.open) {
        const node = close(frame);
        if (node) top().nodes.push(node);
      } else {
        const around = ancestors[openStart];
        if (!around) return null;
        openStart++;
        stack.push({ open: null, nodes: [around.copy(Fragment.fromArray(frame.nodes))] });
      }
    }
  }
  flush();
  let openEnd = 0;
  while (stack.length > 1) {
    const node = close(stack.pop() as Frame);
    if (node) top().nodes.push(node);
    openEnd++;
  }
  return new Slice(Fragment.fromArray(top().nodes), openStart, openEnd);
}
