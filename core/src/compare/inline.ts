import type { Node } from 'prosemirror-model';
import { Mark } from 'prosemirror-model';
import type { Flow } from './flow.js';
import { flowOf, isBreak, nodesOf } from './flow.js';
import type { Lexicon } from './lexicon.js';
import { isBlank } from './lexicon.js';
import type { Common } from './sequence.js';
import { commonRuns } from './sequence.js';
import { tidied } from './tidy.js';
import type { Handle, Side, Union } from './union.js';

/** Compares the inline content of text blocks word by word; several on one side are read as one, with breaks. */
export function compareInline(a: readonly Node[], b: readonly Node[], lexicon: Lexicon): Union[] {
  const [one, other] = [flowOf(a, lexicon), flowOf(b, lexicon)];
  const runs = tidied(commonWords(one, other), one, other);
  const out: Union[] = [];
  let [x, y] = [0, 0];
  for (const run of [...runs, { a: one.texts.length, b: other.texts.length, length: 0 }]) {
    out.push(...differences(one, other, x, run.a, y, run.b));
    x = run.a + run.length;
    y = run.b + run.length;
    if (run.length > 0) out.push(...kept(nodesOf(one, run.a, x), nodesOf(other, run.b, y)));
  }
  return out;
}

/** A longest common subsequence of the pieces that are not blank, by their indices among all. */
export function commonWords(one: Flow, other: Flow): Common[] {
  const [a, b] = [solid(one), solid(other)];
  return commonRuns(
    a.map((i) => one.numbers[i] as number),
    b.map((i) => other.numbers[i] as number),
  ).flatMap((run) =>
    Array.from({ length: run.length }, (_, i) => ({
      a: a[run.a + i] as number,
      b: b[run.b + i] as number,
      length: 1,
    })),
  );
}

function solid(flow: Flow): Int32Array {
  const out = new Int32Array(flow.texts.length);
  let length = 0;
  flow.texts.forEach((text, i) => {
    if (!isBlank(text) || isBreak(text)) out[length++] = i;
  });
  return out.subarray(0, length);
}

/**
 * What lies between two kept stretches: one difference, or several with the breaks between them. What the unbroken side
 * has goes with the first of them, or, when it is only a space, into the break.
 */
function differences(one: Flow, other: Flow, a: number, aEnd: number, b: number, bEnd: number): Union[] {
  const out: Union[] = [];
  const plain = (fromA: number, toA: number, fromB: number, toB: number): void => {
    const [earlier, later] = [nodesOf(one, fromA, toA), nodesOf(other, fromB, toB)];
    if (earlier.length > 0 || later.length > 0)
      out.push({ kind: 'difference', change: { id: -1 }, earlier, later });
  };
  const [before, after] = [breaksIn(one, a, aEnd), breaksIn(other, b, bEnd)];
  if (before.length + after.length === 0) plain(a, aEnd, b, bEnd);
  else if (before.length > 0) cutAtBreaks('earlier', before, one, a, aEnd, other, b, bEnd);
  else cutAtBreaks('later', after, other, b, bEnd, one, a, aEnd);
  return out;

  function cutAtBreaks(
    side: Side,
    breaks: readonly number[],
    broken: Flow,
    from: number,
    to: number,
    whole: Flow,
    start: number,
    end: number,
  ): void {
    const space = end - start === 1 && isBlank(whole.texts[start] ?? '');
    const part = (low: number, high: number, left: number, right: number): void =>
      side === 'earlier' ? plain(low, high, left, right) : plain(left, right, low, high);
    breaks.forEach((at, i) => {
      const low = i === 0 ? from : (breaks[i - 1] as number) + 1;
      part(low, at, i === 0 ? start : end, i === 0 && space ? start : end);
      const gap = i === 0 && space ? nodesOf(whole, start, end) : [];
      const shape = broken.blocks[breakNumber(broken, at)] as Node;
      out.push({ kind: 'break', change: { id: -1 }, side, shape, gap });
    });
    part((breaks.at(-1) as number) + 1, to, end, end);
  }
}

function breaksIn(flow: Flow, from: number, to: number): number[] {
  const out: number[] = [];
  for (let i = from; i < to; i++) if (isBreak(flow.texts[i] as string)) out.push(i);
  return out;
}

/** Index of the block that begins after the break at piece `at`. */
function breakNumber(flow: Flow, at: number): number {
  let number = 0;
  for (let i = 0; i <= at; i++) if (isBreak(flow.texts[i] as string)) number++;
  return number;
}

/** Text both blocks have, cut where the form on either side changes. Neighbours whose form changes alike share a change. */
function kept(earlier: readonly Node[], later: readonly Node[]): Union[] {
  const out: Union[] = [];
  let [i, j, insideI, insideJ] = [0, 0, 0, 0];
  let last: { handle: Handle; what: string } | null = null;
  while (i < earlier.length && j < later.length) {
    const [p, q] = [earlier[i] as Node, later[j] as Node];
    const length = Math.min(p.nodeSize - insideI, q.nodeSize - insideJ);
    const [old, now] = [sub(p, insideI, length), sub(q, insideJ, length)];
    if (Mark.sameSet(old.marks, now.marks) && old.hasMarkup(now.type, now.attrs, now.marks)) {
      out.push({ kind: 'keep', node: now });
      last = null;
    } else {
      const what = formDifference(old, now);
      const handle: Handle = last?.what === what ? last.handle : { id: -1 };
      out.push({ kind: 'pair', earlier: old, later: now, form: handle, kids: [] });
      last = { handle, what };
    }
    insideI += length;
    insideJ += length;
    if (insideI === p.nodeSize) [i, insideI] = [i + 1, 0];
    if (insideJ === q.nodeSize) [j, insideJ] = [j + 1, 0];
  }
  return out;
}

/** What differs in the form of two stretches of text, as a key. */
function formDifference(a: Node, b: Node): string {
  const gone = a.marks.filter((mark) => !mark.isInSet(b.marks));
  const come = b.marks.filter((mark) => !mark.isInSet(a.marks));
  return JSON.stringify([
    a.isText ? null : [a.attrs, b.attrs],
    gone.map((mark) => mark.toJSON()),
    come.map((mark) => mark.toJSON()),
  ]);
}

function sub(node: Node, from: number, length: number): Node {
  return node.isText ? node.cut(from, from + length) : node;
}
