import type { Node, Schema } from 'prosemirror-model';
import { Fragment, Slice } from 'prosemirror-model';
import {
  AddMarkStep,
  AttrStep,
  RemoveMarkStep,
  ReplaceAroundStep,
  ReplaceStep,
  Step,
} from 'prosemirror-transform';
import { MAX_DEPTH, MAX_NODES, MAX_STEP_DEPTH } from '../bounds/index.js';
import {
  canonicalText,
  hasLoneSurrogate,
  brokenIn,
  faultOf,
  isBounded,
  mendingSteps,
  roleOf,
  sharedEnds,
} from '../content/index.js';
import type { Work } from '../content/index.js';

/** Steps are plain JSON from somebody's browser; this says why one is not taken, and where in the message it stood. */
export class Refusal extends RangeError {
  constructor(
    readonly path: string,
    message: string,
  ) {
    super(message);
    this.name = 'Refusal';
  }
}

const STEP_TYPES = [ReplaceStep, ReplaceAroundStep, AddMarkStep, RemoveMarkStep, AttrStep];

/**
 * Reads the steps of an edit. Bounds depth and size before anything is parsed, takes only the five step types that
 * change content or form, and lets the schema check every node, mark and attribute.
 * Throws `Refusal` whose path is relative to the edit, such as `steps/2`.
 */
export function readSteps(schema: Schema, json: readonly unknown[]): Step[] {
  if (!isBounded(json, MAX_STEP_DEPTH, MAX_NODES))
    throw new Refusal(
      'steps',
      `are nested too deeply, or hold too much (editDepth ${MAX_STEP_DEPTH}, editNodes ${MAX_NODES})`,
    );
  return json.map((item, i) => {
    const step = parseStep(schema, item, `steps/${i}`);
    if (!STEP_TYPES.some((type) => step instanceof type))
      throw new Refusal(`steps/${i}/stepType`, 'not a kind of step that is taken');
    checkOrder(step, `steps/${i}`);
    checkSlice(step, `steps/${i}`);
    return step;
  });
}

function parseStep(schema: Schema, json: unknown, path: string): Step {
  try {
    return Step.fromJSON(schema, json);
  } catch (error) {
    throw new Refusal(path, error instanceof Error ? error.message : 'not a step');
  }
}

function checkOrder(step: Step, path: string): void {
  let last = 0;
  for (const place of positionsOf(step)) {
    if (!Number.isInteger(place)) throw new Refusal(path, 'positions must be whole numbers');
    if (place < last) throw new Refusal(path, 'from must not lie behind to');
    last = place;
  }
}

function checkSlice(step: Step, path: string): void {
  const slice = step instanceof ReplaceStep || step instanceof ReplaceAroundStep ? step.slice : Slice.empty;
  const { content, openStart, openEnd } = slice;
  if (
    !Number.isInteger(openStart) ||
    !Number.isInteger(openEnd) ||
    openStart < 0 ||
    openEnd < 0 ||
    slice.size < 0
  ) {
    throw new Refusal(`${path}/slice`, 'open sides must be whole numbers that its content has');
  }
  if (sideDepth(content, 'firstChild') < openStart || sideDepth(content, 'lastChild') < openEnd) {
    throw new Refusal(`${path}/slice`, 'is open deeper than its content');
  }
  content.descendants((node) => {
    if (node.isText && hasLoneSurrogate(node.text ?? ''))
      throw new Refusal(`${path}/slice`, 'cuts a surrogate pair');
  });
}

function sideDepth(content: Fragment, side: 'firstChild' | 'lastChild'): number {
  let depth = 0;
  for (let node = content[side]; node && !node.isLeaf; node = node[side]) depth++;
  return depth;
}

/** Checks a step's positions against the document it is about to change. Throws `Refusal`. */
export function checkPlace(doc: Node, step: Step, path: string): void {
  for (const place of positionsOf(step)) {
    if (place > doc.content.size) throw new Refusal(path, `position ${place} lies outside the document`);
    if (cutsPair(doc, place)) throw new Refusal(path, `position ${place} cuts a surrogate pair`);
  }
  if (step instanceof AttrStep && !(step.attr in (doc.nodeAt(step.pos)?.attrs ?? {}))) {
    throw new Refusal(`${path}/attr`, `no node with an attribute ${step.attr} stands there`);
  }
}

function positionsOf(step: Step): number[] {
  if (step instanceof ReplaceAroundStep) return [step.from, step.gapFrom, step.gapTo, step.to];
  if (step instanceof AttrStep) return [step.pos];
  const { from, to } = step as ReplaceStep;
  return [from, to];
}

function cutsPair(doc: Node, position: number): boolean {
  const $position = doc.resolve(position);
  const text = $position.textOffset > 0 ? ($position.parent.child($position.index()).text ?? '') : '';
  return text !== '' && /[\ud800-\udbff]/.test(text.charAt($position.textOffset - 1));
}

/** What an edit touched of a document's top-level blocks. */
export interface Touched {
  /** Where the first block stands that differs. */
  readonly start: () => number;
  /** The blocks that were not there before, with their positions counted from there. */
  readonly blocks: readonly { readonly block: Node; readonly offset: number }[];
  /** Whether there are as many blocks as before, each of the type of the one in its place. */
  readonly isAlike: boolean;
}

/**
 * What differs between two documents' blocks. Of a sheet's many rows nothing is read but which they are: where they stand is counted when it
 * is asked for, which it seldom is.
 */
export function touchedBlocks(before: Node, after: Node): Touched {
  const [was, is] = [before.children, after.children];
  const { head, tail } = sharedEnds(was, is);
  const held = new Set(was.slice(head, was.length - tail));
  const blocks: { readonly block: Node; readonly offset: number }[] = [];
  let offset = 0;
  let isAlike = was.length === is.length;
  for (let i = head; i < is.length - tail; i++) {
    const block = is[i] as Node;
    if (!held.has(block)) blocks.push({ block, offset });
    offset += block.nodeSize;
    isAlike &&= block.type === was[i]?.type;
  }
  const start = (): number => is.slice(0, head).reduce((sum, one) => sum + one.nodeSize, 0);
  return { start, blocks, isAlike };
}

/**
 * Checks what an edit made of a document that was valid: the schema's rules on every touched node, depth, wholeness. Rests after each block.
 * Throws `Refusal`.
 */
export function* checkOutcome(after: Node, { blocks, isAlike }: Touched): Work<void> {
  try {
    if (!isAlike && !after.type.validContent(after.content))
      throw new Refusal('steps', 'leaves a document without content');
    for (const { block } of blocks) {
      if (depthOf(block) > MAX_DEPTH) throw new Refusal('steps', 'nests blocks too deeply');
      block.check();
      const [broken] = brokenIn(block, 0);
      if (broken) throw new Refusal('steps', faultOf(broken.node) ?? '');
      yield;
    }
  } catch (error) {
    if (error instanceof Refusal) throw error;
    throw new Refusal('steps', error instanceof Error ? error.message : 'breaks the schema');
  }
}

function depthOf(node: Node): number {
  let deepest = 0;
  node.forEach((child) => (deepest = Math.max(deepest, depthOf(child))));
  return deepest + 1;
}

/** The cells in some blocks. */
function cellsIn(blocks: readonly Node[]): Set<Node> {
  const out = new Set<Node>();
  for (const block of blocks)
    block.descendants((node) => {
      if (roleOf(node) === 'cell') out.add(node);
      return !node.isTextblock;
    });
  return out;
}

/**
 * Steps that make whole again what a stale edit left broken, as a table in which one adds a row while another adds a column.
 * `unseen` gives the stretches of `before` that whoever made the edit did not know. Usually none.
 */
export function wholenessSteps(
  before: Node,
  { start, blocks }: Touched,
  unseen: () => readonly { readonly from: number; readonly to: number }[],
): Step[] {
  const found = blocks.flatMap(({ block, offset }) => brokenIn(block, offset));
  if (found.length === 0) return [];
  const first = start();
  const broken = found.map(({ node, at }) => ({ node, at: first + at }));
  const known = cellsIn(before.content.content);
  const stretches = unseen();
  before.descendants((node, position) => {
    const isUnseen = stretches.some(({ from, to }) => from <= position && position < to);
    if (roleOf(node) === 'cell' && isUnseen) known.delete(node);
    return !node.isTextblock;
  });
  return mendingSteps(broken, (cell) => !known.has(cell));
}

/** Steps that bring the text which an edit touched into canonical form; see `canonicalText`. Usually none. Rests after each block. */
export function* canonicalSteps({ start, blocks }: Touched): Work<Step[]> {
  const found: { node: Node; at: number; text: string; canonical: string }[] = [];
  for (const { block, offset } of blocks) {
    const visit = (node: Node, position: number, code: boolean): void => {
      if (!node.isText) {
        node.forEach((child, offset) => visit(child, position + 1 + offset, node.type.spec.code === true));
        return;
      }
      const text = node.text ?? '';
      const canonical = canonicalText(text, code);
      if (canonical !== text) found.push({ node, at: position, text, canonical });
    };
    visit(block, offset, false);
    yield;
  }
  if (found.length === 0) return [];
  const first = start();
  return found.map(({ node, at, text, canonical }) => retype(node, first + at, text, canonical)).reverse();
}

function retype(node: Node, position: number, text: string, canonical: string): Step {
  let head = 0;
  while (head < text.length && text[head] === canonical[head]) head++;
  if (cutsText(text, head) || cutsText(canonical, head)) head--;
  let tail = 0;
  while (
    tail < Math.min(text.length, canonical.length) - head &&
    text.at(-1 - tail) === canonical.at(-1 - tail)
  )
    tail++;
  if (cutsText(text, text.length - tail) || cutsText(canonical, canonical.length - tail)) tail--;
  const put = canonical.slice(head, canonical.length - tail);
  const content = put ? Fragment.from(node.type.schema.text(put, node.marks)) : Fragment.empty;
  return new ReplaceStep(position + head, position + text.length - tail, new Slice(content, 0, 0));
}

function cutsText(text: string, at: number): boolean {
  return at > 0 && at < text.length && /[\ud800-\udbff]/.test(text.charAt(at - 1));
}
