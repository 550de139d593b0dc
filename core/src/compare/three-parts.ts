import { Fragment } from 'prosemirror-model';
import type { Node } from 'prosemirror-model';
import { childrenOf, raggedIn, rectangleSteps } from '../content/index.js';
import { applySteps } from '../history/index.js';
import { repaired } from './assemble.js';
import { withText } from './openings.js';
import type { Version } from './three-units.js';
import { textIn } from './union.js';

/**
 * Something both sides changed, differently; all three forms of it. One of form holds single nodes without their content, one of
 * place what stands before it. In one of text, blocks stand for text with breaks: the first goes on where text stood before it.
 */
export interface Conflict {
  readonly id: number;
  readonly kind: 'text' | 'blocks' | 'form' | 'place';
  readonly base: readonly Node[];
  readonly ours: readonly Node[];
  readonly theirs: readonly Node[];
  /** What stands in one of three places, or has one of three forms. */
  readonly about?: readonly Node[];
}

/** What to take of a conflict. `both` puts theirs behind ours; of a form or a place it takes ours. */
export type Settlement = 'base' | 'ours' | 'theirs' | 'both';

/** Two documents that come from one, brought together: what only one side changed is taken, the rest are conflicts. */
export interface ThreeWay {
  readonly root: ThreePart;
  readonly conflicts: readonly Conflict[];
}

/** A part of the whole: settled, in conflict, or a node whose content has parts of its own. */
export type ThreePart = Settled | Conflict | Joined | Seamed | Placed | Choice;

export interface Settled {
  readonly kind: 'settled';
  readonly nodes: readonly Node[];
  /** Whether one side, or both, put it where the base has nothing. */
  readonly added?: boolean;
}

export interface Joined {
  readonly kind: 'joined';
  readonly shape: Node | Conflict;
  readonly kids: readonly ThreePart[];
}

/** Text blocks that were split or joined: their text in a row, where blocks stand for text with breaks. */
export interface Seamed {
  readonly kind: 'seamed';
  readonly shape: Node | Conflict;
  readonly kids: readonly ThreePart[];
}

/** One of the places of what both sides moved to places of their own. */
export interface Placed {
  readonly kind: 'placed';
  readonly at: Version;
  readonly conflict: Conflict;
  readonly part: ThreePart;
}

/** One of several places that one conflict decides about. */
export interface Choice {
  readonly kind: 'choice';
  readonly conflict: Conflict;
  /** What stands here, in each version. */
  readonly here: Readonly<Record<Version, readonly Node[]>>;
}

/** The document that settling each conflict makes; always valid, and its tables rectangular. */
export function assembleThree({ root }: ThreeWay, settle: (conflict: number) => Settlement): Node {
  const added = new Set<Node>();
  const taken = (
    conflict: Conflict,
    here: Readonly<Record<Version, readonly Node[]>> = conflict,
  ): readonly Node[] => {
    const settlement = settle(conflict.id);
    if (settlement !== 'both') return here[settlement];
    return conflict.kind === 'form' ? here.ours : [...here.ours, ...here.theirs];
  };
  const nodes = (part: ThreePart): readonly Node[] => {
    if (part.kind === 'settled') {
      for (const node of part.added ? part.nodes : []) noteCells(node, added);
      return part.nodes;
    }
    if (part.kind === 'placed') {
      const settlement = settle(part.conflict.id);
      return (settlement === 'both' ? 'ours' : settlement) === part.at ? nodes(part.part) : [];
    }
    if (part.kind === 'choice') return taken(part.conflict, part.here);
    if (part.kind !== 'joined' && part.kind !== 'seamed') return taken(part);
    const shape = 'id' in part.shape ? taken(part.shape)[0] : part.shape;
    if (shape && part.kind === 'seamed') return broken(shape, part.kids.map(nodes));
    const node = shape && repaired(shape, Fragment.fromArray(part.kids.flatMap((kid) => [...nodes(kid)])));
    return node ? [node] : [];
  };
  const [doc] = nodes(root);
  if (!doc) throw new RangeError('a document always stands');
  return applySteps(
    doc,
    rectangleSteps(raggedIn(doc, -1), (cell) => added.has(cell)),
  );
}

/** Text in a row as blocks, a new one at each break. */
function broken(shape: Node, rows: readonly (readonly Node[])[]): Node[] {
  const blocks: { shape: Node; text: Node[] }[] = [{ shape, text: [] }];
  const put = (nodes: readonly Node[]): void => {
    blocks.at(-1)?.text.push(...nodes);
  };
  for (const nodes of rows) {
    let goesOn = true;
    for (const node of nodes) {
      if (node.isInline) put([node]);
      else if (goesOn) put(childrenOf(textIn(node)));
      else blocks.push({ shape: node, text: [...childrenOf(textIn(node))] });
      goesOn = node.isInline;
    }
  }
  return blocks.map(({ shape, text }) => withText(shape, text));
}

/** The cells in a node, itself too if it is one. */
function noteCells(node: Node, cells: Set<Node>): void {
  if (/cell$/.test(String(node.type.spec['tableRole'] ?? ''))) cells.add(node);
  else if (!node.isTextblock) node.forEach((child) => noteCells(child, cells));
}
