import type { Node } from 'prosemirror-model';
import { Mark } from 'prosemirror-model';
import { isWord, segments } from '../content/index.js';
import type { Lexicon } from './lexicon.js';
import type { Common } from './sequence.js';
import { commonRuns } from './sequence.js';
import type { Union } from './union.js';

interface Pieces {
  readonly numbers: Int32Array;
  readonly texts: readonly string[];
  /** Where each piece begins in the block's content; one more at the end. */
  readonly at: readonly number[];
}

/** Compares the inline content of two text blocks word by word. */
export function compareInline(a: Node, b: Node, lexicon: Lexicon): Union[] {
  const [one, other] = [piecesOf(a, lexicon), piecesOf(b, lexicon)];
  const runs = absorbIslands(commonRuns(one.numbers, other.numbers), one, other);
  const out: Union[] = [];
  let [x, y] = [0, 0];
  const place = (pieces: Pieces, index: number): number => pieces.at[index] as number;
  for (const run of [...runs, { a: one.texts.length, b: other.texts.length, length: 0 }]) {
    const earlier = nodesBetween(a, place(one, x), place(one, run.a));
    const later = nodesBetween(b, place(other, y), place(other, run.b));
    if (earlier.length > 0 || later.length > 0) out.push({ kind: 'difference', change: -1, earlier, later });
    x = run.a + run.length;
    y = run.b + run.length;
    if (run.length > 0) out.push(...kept(a, b, place(one, run.a), place(one, x), place(other, run.b)));
  }
  return out;
}

/** Words, spaces and signs of a block; marks do not cut a word in two. */
function piecesOf(block: Node, lexicon: Lexicon): Pieces {
  const texts: string[] = [];
  const numbers: number[] = [];
  const at: number[] = [];
  let text = '';
  let start = 0;
  const flush = (): void => {
    let position = start;
    for (const segment of segments(text)) {
      texts.push(segment);
      numbers.push(lexicon.piece(segment));
      at.push(position);
      position += segment.length;
    }
    text = '';
  };
  block.forEach((node, offset) => {
    if (node.isText) {
      if (!text) start = offset;
      text += node.text ?? '';
      return;
    }
    flush();
    const key = `\u0003${node.type.name}${String(node.attrs['hash'] ?? '')}`;
    texts.push(key);
    numbers.push(lexicon.piece(key));
    at.push(offset);
  });
  flush();
  at.push(block.content.size);
  return { numbers: Int32Array.from(numbers), texts, at };
}

/**
 * No confetti: equal pieces between two changes that hold no word (a space, a comma) become part of the change, so that
 * three replaced words read as one replacement.
 */
function absorbIslands(runs: readonly Common[], one: Pieces, other: Pieces): Common[] {
  return runs.filter((run, i) => {
    const before = runs[i - 1];
    const after = runs[i + 1];
    const [fromA, fromB] = before ? [before.a + before.length, before.b + before.length] : [0, 0];
    const [toA, toB] = after ? [after.a, after.b] : [one.texts.length, other.texts.length];
    const replacedBefore = run.a > fromA && run.b > fromB;
    const replacedAfter = toA > run.a + run.length && toB > run.b + run.length;
    if (!replacedBefore || !replacedAfter) return true;
    return one.texts
      .slice(run.a, run.a + run.length)
      .some((text) => isWord(text) || text.startsWith('\u0003'));
  });
}

function nodesBetween(block: Node, from: number, to: number): Node[] {
  if (from === to) return [];
  const nodes: Node[] = [];
  block.content.cut(from, to).forEach((node) => nodes.push(node));
  return nodes;
}

/** Text both blocks have, cut where the form on either side changes. */
function kept(a: Node, b: Node, from: number, to: number, fromB: number): Union[] {
  const earlier = nodesBetween(a, from, to);
  const later = nodesBetween(b, fromB, fromB + to - from);
  const out: Union[] = [];
  let [i, j, insideI, insideJ] = [0, 0, 0, 0];
  while (i < earlier.length && j < later.length) {
    const [p, q] = [earlier[i] as Node, later[j] as Node];
    const length = Math.min(p.nodeSize - insideI, q.nodeSize - insideJ);
    const [old, now] = [sub(p, insideI, length), sub(q, insideJ, length)];
    if (Mark.sameSet(old.marks, now.marks) && old.hasMarkup(now.type, now.attrs, now.marks))
      out.push({ kind: 'keep', node: now });
    else out.push({ kind: 'pair', earlier: old, later: now, form: -1, kids: [] });
    insideI += length;
    insideJ += length;
    if (insideI === p.nodeSize) [i, insideI] = [i + 1, 0];
    if (insideJ === q.nodeSize) [j, insideJ] = [j + 1, 0];
  }
  return out;
}

function sub(node: Node, from: number, length: number): Node {
  return node.isText ? node.cut(from, from + length) : node;
}
