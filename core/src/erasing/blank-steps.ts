import { Fragment, Slice } from 'prosemirror-model';
import type { Attrs, Node } from 'prosemirror-model';
import { AddMarkStep, AttrStep, RemoveMarkStep, ReplaceAroundStep, ReplaceStep } from 'prosemirror-transform';
import type { Step } from 'prosemirror-transform';
import { FILLER, erasedAttrs, erasedLeaf, erasedMarks, saysSomething } from '../content/index.js';
import type { Span } from './instances.js';

/** What becomes of a stretch of inserted content. */
interface Change {
  text(node: Node, from: number, to: number): Node;
  leaf(node: Node): Node;
  attrs(node: Node): Attrs;
}

const ERASED: Change = {
  text: (node, from, to) => node.type.schema.text(FILLER.repeat(to - from), erasedMarks(node.marks)),
  leaf: erasedLeaf,
  attrs: (node) => ({ ...node.attrs, ...erasedAttrs(node.type) }),
};

/** What stands for a sign that cannot be told (Unicode: REPLACEMENT CHARACTER). */
const UNTOLD = '\ufffd';

/** Of text that says it was erased, and was not. */
const CLAIMED: Change = {
  text: (node, from, to) =>
    node.type.schema.text((node.text ?? '').slice(from, to).replaceAll(FILLER, UNTOLD), node.marks),
  leaf: (node) => node,
  attrs: ({ attrs }) => attrs,
};

/** A step that inserts content, with what of it is in some spans of what its edit inserts erased. `before` tokens came earlier in the edit. */
export function blankedInsertion(step: Step, spans: readonly Span[], before: number): Step {
  return changedInsertion(step, spans, before, ERASED);
}

/** The same with what stands for erased text there told as what cannot be told: nobody erases by writing. */
export function unclaimedInsertion(step: Step, spans: readonly Span[], before: number): Step {
  return changedInsertion(step, spans, before, CLAIMED);
}

function changedInsertion(step: Step, spans: readonly Span[], before: number, change: Change): Step {
  if (step instanceof ReplaceAroundStep) {
    const { from, to, gapFrom, gapTo, insert } = step;
    const slice = changedSlice(step.slice, spans, before, change);
    if (slice === step.slice) return step;
    return new ReplaceAroundStep(from, to, gapFrom, gapTo, slice, insert, isStructural(step));
  }
  if (!(step instanceof ReplaceStep)) return step;
  const slice = changedSlice(step.slice, spans, before, change);
  return slice === step.slice ? step : new ReplaceStep(step.from, step.to, slice, isStructural(step));
}

/** Whether a step says of itself that it only changes structure; not told by the library's types. */
function isStructural(step: ReplaceStep | ReplaceAroundStep): boolean {
  return (step.toJSON() as { structure?: boolean }).structure === true;
}

/**
 * A step that changes the form of an erased stretch of `doc`, silent about what it set. What says nothing stays; a link that lay over
 * any of it goes as a whole.
 */
export function blankedForm(step: Step, doc: Node): Step {
  if (step instanceof AttrStep) {
    const blank: unknown = erasedAttrs((doc.nodeAt(step.pos) as Node).type)?.[step.attr];
    return blank === undefined ? step : new AttrStep(step.pos, step.attr, blank);
  }
  if (!(step instanceof AddMarkStep || step instanceof RemoveMarkStep) || !saysSomething(step.mark))
    return step;
  return new RemoveMarkStep(step.from, step.to, step.mark.type.create({ href: '#' }));
}

/** Counts the tokens of a slice as they are walked, and tells which of them are in the spans. */
class Walk {
  private at: number;

  constructor(
    private readonly spans: readonly Span[],
    start: number,
  ) {
    this.at = start;
  }

  /** Whether any of the next tokens is in the spans, without going on. */
  touches(length: number): boolean {
    return this.spans.some(({ from, to }) => from < this.at + length && this.at < to);
  }

  /** Goes on by some tokens; answers which of them are in the spans, counted from where it was. */
  pass(length: number): Span[] {
    const start = this.at;
    this.at += length;
    return this.spans.flatMap(({ from, to }) => {
      const [first, last] = [Math.max(from, start), Math.min(to, this.at)];
      return first < last ? [{ from: first - start, to: last - start }] : [];
    });
  }
}

function changedSlice(slice: Slice, spans: readonly Span[], before: number, change: Change): Slice {
  const { content, openStart, openEnd } = slice;
  const walk = new Walk(spans, before - openStart);
  if (!walk.touches(content.size - openEnd)) return slice;
  const blanked = changedContent(content, walk, change);
  return blanked.eq(content) ? slice : new Slice(blanked, openStart, openEnd);
}

function changedContent(content: Fragment, walk: Walk, change: Change): Fragment {
  const out: Node[] = [];
  content.forEach((node) => out.push(...changedNode(node, walk, change)));
  return Fragment.fromArray(out);
}

function changedNode(node: Node, walk: Walk, change: Change): Node[] {
  if (!walk.touches(node.nodeSize)) {
    walk.pass(node.nodeSize);
    return [node];
  }
  if (node.isText) return changedText(node, walk.pass(node.nodeSize), change);
  if (node.isLeaf) return walk.pass(1).length > 0 ? [change.leaf(node)] : [node];
  const opens = walk.pass(1).length > 0;
  const content = changedContent(node.content, walk, change);
  walk.pass(1);
  const attrs = opens ? change.attrs(node) : node.attrs;
  return [node.type.create(attrs, content, node.marks)];
}

function changedText(node: Node, spans: readonly Span[], change: Change): Node[] {
  const text = node.text ?? '';
  const { schema } = node.type;
  const out: Node[] = [];
  let at = 0;
  const keep = (to: number): void => {
    if (to > at) out.push(schema.text(text.slice(at, to), node.marks));
  };
  for (const { from, to } of spans) {
    keep(from);
    out.push(change.text(node, from, to));
    at = to;
  }
  keep(text.length);
  return out;
}
