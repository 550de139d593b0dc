import { Fragment } from 'prosemirror-model';
import type { Node } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';

/** Work a replay may cost before the next checkpoint is due; a step of ordinary text costs about 1. */
export const REPLAY_BUDGET = 100;

/**
 * What replaying a step costs, in steps of ordinary text: a step copies the text block it touches, so one in an enormous
 * paragraph counts for many.
 */
export function replayCost(doc: Node, step: Step): number {
  let cost = 1;
  step.getMap().forEach((oldStart) => {
    const $start = doc.resolve(Math.min(oldStart, doc.content.size));
    cost += ($start.depth > 0 ? $start.node(1).nodeSize : 0) / 20_000;
  });
  return cost;
}

/**
 * A document's top-level blocks told in terms of an earlier state: `[from, count]` is a stretch of blocks taken over, an
 * object is a new block as JSON.
 */
export type BlockDelta = readonly (readonly [from: number, count: number] | object)[];

/**
 * What `after` has of `before`'s blocks, and what is new. Blocks are known by identity, which editing keeps for all it
 * does not touch, so the cost is linear and a delta is about as large as what changed.
 */
export function blockDelta(before: Node, after: Node): BlockDelta {
  const places = new Map<Node, number>();
  before.forEach((block, _offset, index) => places.set(block, index));
  const delta: ([number, number] | object)[] = [];
  after.forEach((block) => {
    const place = places.get(block);
    const last = delta.at(-1);
    if (place === undefined) delta.push(block.toJSON() as object);
    else if (Array.isArray(last) && last[0] + last[1] === place) last[1]++;
    else delta.push([place, 1]);
  });
  return delta;
}

/** The document that a delta makes of the state it was taken against. */
export function applyBlockDelta(before: Node, delta: BlockDelta): Node {
  const blocks: Node[] = [];
  for (const part of delta) {
    if (isStretch(part)) for (let i = 0; i < part[1]; i++) blocks.push(before.child(part[0] + i));
    else blocks.push(before.type.schema.nodeFromJSON(part));
  }
  return before.copy(Fragment.fromArray(blocks));
}

function isStretch(part: BlockDelta[number]): part is readonly [number, number] {
  return Array.isArray(part);
}
