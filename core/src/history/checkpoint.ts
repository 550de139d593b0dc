import type { Node } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';

/** Work a replay may cost before the next checkpoint is due; a step of ordinary text costs about 1. */
export const REPLAY_BUDGET = 200;

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

const AVERAGE = 24;
const LONGEST = 96;

/**
 * Cuts a document's top-level blocks into groups whose borders depend on content alone: a group ends behind a block
 * whose text hash says so. An edit therefore changes one or two groups, and all others are stored once.
 * Source: content-defined chunking after Muthitacharoen, Chen and Mazières, "A Low-bandwidth Network File System" (2001).
 */
export function blockGroups(doc: Node): Node[][] {
  const groups: Node[][] = [];
  let group: Node[] = [];
  doc.forEach((block) => {
    group.push(block);
    if (hashOf(block) % AVERAGE === 0 || group.length >= LONGEST) {
      groups.push(group);
      group = [];
    }
  });
  if (group.length > 0) groups.push(group);
  return groups;
}

const known = new WeakMap<Node, number>();

/** A 32-bit FNV-1a hash of a block's text, remembered per node. */
function hashOf(block: Node): number {
  const held = known.get(block);
  if (held !== undefined) return held;
  let hash = 0x811c9dc5;
  const text = block.textContent;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
  const value = (hash ^ (hash >>> 15)) >>> 0;
  known.set(block, value);
  return value;
}
