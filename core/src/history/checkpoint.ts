import { Fragment } from 'prosemirror-model';
import type { Node } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';
import { sharedEnds } from '../content/index.js';

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
 * does not touch, so the cost is linear and a delta is about as large as what changed; those at both ends, where nothing
 * changed, are only counted.
 */
export function blockDelta(before: Node, after: Node): BlockDelta {
  const [was, is] = [before.children, after.children];
  const { head, tail } = sharedEnds(was, is);
  const places = new Map<Node, number>();
  for (let i = head; i < was.length - tail; i++) places.set(was[i] as Node, i);
  const delta: ([number, number] | object)[] = head > 0 ? [[0, head]] : [];
  const take = (place: number, count: number): void => {
    const last = delta.at(-1);
    if (Array.isArray(last) && last[0] + last[1] === place) last[1] += count;
    else if (count > 0) delta.push([place, count]);
  };
  for (const block of is.slice(head, is.length - tail)) {
    const place = places.get(block);
    if (place === undefined) delta.push(block.toJSON() as object);
    else take(place, 1);
  }
  take(was.length - tail, tail);
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
