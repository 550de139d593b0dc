import { Fragment } from 'prosemirror-model';
import type { Node } from 'prosemirror-model';
import { brokenIn, childrenOf, mendingSteps } from '../../content/index.js';
import { applySteps } from '../../history/index.js';
import { repaired } from '../assemble.js';
import { textIn } from '../union.js';
import { withText } from './openings.js';

/**
 * Something that one side changed, or several. One that is whole is taken as one: what a cell holds, or something with a name, which is there or
 * not. One of form holds single nodes without their content, or text whose marks differ; one of place what stands before it. In one of text, blocks stand for text with breaks: the first goes on where text stood before it.
 */
export interface Passage {
  /** Counts from 0 in the order of reading. */
  id: number;
  readonly kind: 'text' | 'whole' | 'blocks' | 'form' | 'place';
  readonly base: readonly Node[];
  /** What each side has. */
  readonly sides: readonly (readonly Node[])[];
  /** What was made of it: what several sides made alike is one. */
  readonly forms: readonly Form[];
  /** What stands in one of several places, or has one of several forms. */
  readonly about?: readonly Node[];
}

/** What sides made of a passage, and which: by index. */
export interface Form {
  readonly nodes: readonly Node[];
  readonly by: readonly number[];
}

/**
 * What to take of a passage: what the base has, a form by index, or all, one behind the other; of what is whole, of forms and of places the
 * first.
 */
export type Take = 'base' | 'all' | number;

/** Documents that come from one, brought together: everything that any of them changed, to be decided passage by passage. */
export interface Together {
  readonly root: Part;
  readonly passages: readonly Passage[];
}

/** A part of the whole: the same for all, a passage, or a node whose content has parts of its own. */
export type Part = Same | Asked | Joined | Seamed | Placed | Choice;

export interface Same {
  readonly kind: 'same';
  readonly nodes: readonly Node[];
}

export interface Asked {
  readonly kind: 'asked';
  readonly passage: Passage;
}

export interface Joined {
  readonly kind: 'joined';
  readonly shape: Node | Passage;
  readonly kids: readonly Part[];
}

/** Text blocks that were split or joined: their text in a row, where blocks stand for text with breaks. */
export interface Seamed {
  readonly kind: 'seamed';
  readonly shape: Node | Passage;
  readonly kids: readonly Part[];
}

/** One of the places of what moved. */
export interface Placed {
  readonly kind: 'placed';
  readonly passage: Passage;
  /** Whether it is the place in the base; else the index of the form whose place it is. */
  readonly at: 'base' | number;
  readonly parts: readonly Part[];
}

/** One of several places that one passage decides about. */
export interface Choice {
  readonly kind: 'choice';
  readonly passage: Passage;
  /** What stands here: in the base, and in each form. */
  readonly base: readonly Node[];
  readonly forms: readonly (readonly Node[])[];
}

/** The document that decisions make; always valid, and its tables rectangular. */
export function assembleTogether({ root }: Together, decide: (passage: number) => Take): Node {
  const added = new Set<Node>();
  const note = (nodes: readonly Node[]): void => nodes.forEach((node) => noteCells(node, added));
  const pick = <T>(take: Take, base: readonly T[], forms: readonly (readonly T[])[]): readonly T[] => {
    if (take === 'base') return base;
    return take === 'all' ? forms.flat() : (forms[take] ?? base);
  };
  const taken = ({ id, kind, base, forms }: Passage): readonly Node[] => {
    const take = decide(id);
    const nodes = pick(
      take === 'all' && (kind === 'form' || kind === 'whole') ? 0 : take,
      base,
      forms.map((form) => form.nodes),
    );
    if (base.length === 0) note(nodes);
    return nodes;
  };
  const nodes = (part: Part): readonly Node[] => {
    switch (part.kind) {
      case 'same':
        return part.nodes;
      case 'asked':
        return taken(part.passage);
      case 'placed': {
        const take = decide(part.passage.id);
        return (take === 'all' ? 0 : take) === part.at ? part.parts.flatMap((kid) => [...nodes(kid)]) : [];
      }
      case 'choice':
        return pick(decide(part.passage.id), part.base, part.forms);
      default: {
        const shape = 'forms' in part.shape ? taken(part.shape)[0] : part.shape;
        if (!shape) return [];
        if (part.kind === 'seamed') return broken(shape, part.kids.map(nodes));
        const node = repaired(shape, Fragment.fromArray(part.kids.flatMap((kid) => [...nodes(kid)])));
        return node ? [node] : [];
      }
    }
  };
  const [doc] = nodes(root);
  if (!doc) throw new RangeError('a document always stands');
  return applySteps(
    doc,
    mendingSteps(brokenIn(doc, -1), (cell) => added.has(cell)),
  );
}

/** Passages in the order of reading, each once. */
export function passagesIn(root: Part): Passage[] {
  const out = new Set<Passage>();
  const visit = (part: Part): void => {
    if (part.kind === 'same') return;
    if (part.kind === 'joined' || part.kind === 'seamed') {
      if ('forms' in part.shape) out.add(part.shape);
      part.kids.forEach(visit);
    } else {
      out.add(part.passage);
      if (part.kind === 'placed') part.parts.forEach(visit);
    }
  };
  visit(root);
  return [...out];
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
