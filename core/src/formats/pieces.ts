import type { Mark, Node } from 'prosemirror-model';
import { canonicalText } from '../content/index.js';
import { textSchema as schema } from '../kinds/text/index.js';

/** A part of a paragraph in a file: text with marks, an inline node, a check box, or something that parts the paragraph. */
export type ReadPiece =
  | { readonly text: string; readonly marks: readonly Mark[] }
  | { readonly node: Node }
  | { readonly parts: 'page_break' | 'rule' }
  | { readonly box: boolean };

/** Content between two things that part a paragraph. */
export interface ReadStretch {
  readonly content: Node[];
  /** Whether the check box in it is checked; null without one. */
  checked: boolean | null;
  /** What parts it from the next stretch. */
  parts: 'page_break' | 'rule' | null;
}

/** The content of a paragraph, in canonical form; in code without marks. At least one stretch. */
export function stretchesOf(pieces: readonly ReadPiece[], code: boolean): ReadStretch[] {
  let last: ReadStretch = { content: [], checked: null, parts: null };
  const out = [last];
  const run: { text: string; marks: readonly Mark[] } = { text: '', marks: [] };
  const flush = (): void => {
    last.content.push(...textNodes(run.text, code ? [] : run.marks, code));
    run.text = '';
  };
  for (const piece of pieces) {
    if ('text' in piece) {
      if (!sameMarks(run.marks, piece.marks)) flush();
      run.marks = piece.marks;
      run.text += piece.text;
      continue;
    }
    flush();
    if ('node' in piece) last.content.push(piece.node);
    else if ('box' in piece) last.checked = piece.box;
    else {
      last.parts = piece.parts;
      last = { content: [], checked: null, parts: null };
      out.push(last);
    }
  }
  flush();
  return out;
}

/** Text as documents hold it: canonical, no half of a surrogate pair; nothing for the empty text. */
export function textNodes(value: string, marks: readonly Mark[], code: boolean): Node[] {
  const text = canonicalText(value, code).replace(/\p{Surrogate}/gu, '\ufffd');
  return text ? [schema.text(text, marks)] : [];
}

function sameMarks(a: readonly Mark[], b: readonly Mark[]): boolean {
  return a.length === b.length && a.every((mark, i) => mark.eq(b[i] as Mark));
}

/**
 * A list item's leading check box and what follows it: a box that is one, or one drawn as a character with a space behind.
 * Null when there is none.
 */
export function takeBox(
  content: readonly Node[],
  checked: boolean | null,
): { readonly checked: boolean; readonly content: readonly Node[] } | null {
  const [first, ...rest] = content;
  const drawn = checked === null ? /^([\u2610\u2611\u2612]) /.exec(first?.text ?? '') : null;
  if (checked === null && !drawn) return null;
  const box = checked ?? drawn?.[1] !== '\u2610';
  if (!first?.isText) return { checked: box, content };
  const text = (first.text ?? '').replace(drawn ? /^. / : /^ /, '');
  return { checked: box, content: [...(text ? [schema.text(text, first.marks)] : []), ...rest] };
}

/** Content with a box drawn as a character, for an item of a list of which not all have one. */
export function drawBox(checked: boolean, content: readonly Node[]): readonly Node[] {
  return [schema.text(checked ? '\u2612 ' : '\u2610 '), ...content];
}

/** Code from paragraphs that are its lines. */
export function codeOf(lines: readonly (readonly Node[])[], language = ''): Node {
  const text = lines
    .map((content) => content.map((node) => (node.isText ? node.text : '\n')).join(''))
    .join('\n');
  return schema.node('code_block', { language }, text ? [schema.text(text)] : []);
}
