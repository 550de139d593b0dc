import type { Node, NodeType } from 'prosemirror-model';
import { Fragment, Slice } from 'prosemirror-model';
import { Transform, canJoin, canSplit, findWrapping, liftTarget } from 'prosemirror-transform';
import { insertedTokens, tokensOf } from '../content/index.js';
import type { Kind } from '../kinds/index.js';
import { text, textSchema as schema } from '../kinds/text/index.js';
import type { Token } from '../content/index.js';
import type { Edit, Proposal, Provenance } from '../history/index.js';
import {
  appendEdit,
  cloneProvenance,
  earnedFrom,
  mapsOf,
  orderBatch,
  startProvenance,
  undoEdits,
} from '../history/index.js';
import type { Random } from './random.js';

/** A made-up history with the truth beside it: every character is used once ever, so it tells who wrote it by itself. */
export interface History {
  readonly edits: Edit[];
  /** The document after each edit; index 0 is the blank beginning. */
  readonly docs: Node[];
  readonly provenance: Provenance;
  /** Who first wrote each character. */
  readonly wrote: Map<string, string>;
  readonly conflicts: number;
  /** The edits that were undone on the way. */
  readonly spent: ReadonlySet<number>;
}

/** How documents of a kind are written by people who do anything. */
export interface Hand {
  readonly kind: Kind;
  /**
   * One random act of writing. `fresh` gives letters that were never used; with `structure` blocks are made, moved and taken away too,
   * with `leaves` what stands in the text and is no letter.
   */
  readonly act: (
    random: Random,
    doc: Node,
    fresh: (count: number) => string,
    structure: boolean,
    leaves?: boolean,
  ) => Transform;
}

export interface Mix {
  /** Who writes: text, unless it is said. */
  readonly hand?: Hand;
  readonly authors?: readonly string[];
  readonly structure?: boolean;
  readonly undo?: boolean;
  readonly stale?: boolean;
  /** Whether footnotes and the set-up of the page are written too: what stands in the text and is no letter. */
  readonly leaves?: boolean;
  /** Text to write instead of characters used once ever. */
  readonly text?: (random: Random, length: number) => string;
  /** Milliseconds between two edits. */
  readonly gap?: (random: Random) => number;
}

/** Who writes, where nobody is named. */
const AUTHORS = ['ines', 'tobias', 'mairead'];

/** Writes a random history of `length` edits by several authors, some from a stale base. */
export function writeHistory(random: Random, length: number, mix: Mix = {}): History {
  const {
    hand = TEXT_HAND,
    authors = AUTHORS,
    structure = true,
    undo = true,
    stale = true,
    leaves = false,
    gap = () => 1000,
  } = mix;
  let clock = 0;
  const { kind } = hand;
  const blank = kind.blank();
  const edits: Edit[] = [];
  const docs = [blank];
  const provenances = [startProvenance(0, blank)];
  const wrote = new Map<string, string>();
  let next = 0x4e00;
  const spent = new Set<number>();
  let conflicts = 0;
  const fresh = (author: string, count: number): string => {
    if (mix.text) return mix.text(random, count);
    let text = '';
    for (let i = 0; i < count; i++) {
      const character = String.fromCharCode(next++);
      wrote.set(character, author);
      text += character;
    }
    return text;
  };
  while (edits.length < length) {
    const author = random.pick(authors);
    const lag = stale && random.chance(0.4) ? random.between(0, Math.min(4, edits.length)) : 0;
    const base = edits.length - lag;
    const doc = docs[base] as Node;
    const undoing = undo && lag === 0 && edits.length > 2 && random.chance(0.12);
    const proposal = undoing
      ? undoSome(random, doc, provenances[base] as Provenance, edits, spent, kind)
      : { steps: hand.act(random, doc, (n) => fresh(author, n), structure, leaves).steps, sources: [] };
    if (!proposal) {
      conflicts++;
      continue;
    }
    const between = edits.slice(base).flatMap((edit) => mapsOf(edit.steps));
    const [verdict] = orderBatch(docs.at(-1) as Node, [proposal], between);
    if (!verdict?.taken || verdict.steps.length === 0) continue;
    const seq = edits.length + 1;
    clock += gap(random);
    const edit: Edit = {
      seq,
      author,
      acceptedAt: clock,
      writtenAt: clock,
      client: author,
      counter: seq,
      schema: kind.version,
      steps: verdict.steps,
      sources: earnedFrom(
        { seq, ...verdict },
        (provenances.at(-1) as Provenance).runs,
        tokensOfEdits(edits, kind),
      ),
      cause: { kind: 'writing' },
    };
    const provenance = cloneProvenance(provenances.at(-1) as Provenance);
    const after = appendEdit(provenance, docs.at(-1) as Node, edit);
    edits.push(edit);
    docs.push(after);
    provenances.push(provenance);
  }
  return { edits, docs, provenance: provenances.at(-1) as Provenance, wrote, conflicts, spent };
}

/** What every edit inserted, the blank beginning included, as `undoEdits` asks for it. */
export function tokensOfEdits(
  edits: readonly Edit[],
  { blank }: Kind = text,
): (seq: number) => readonly Token[] {
  return (seq) => (seq === 0 ? tokensOf(blank().content) : insertedTokens((edits[seq - 1] as Edit).steps));
}

/** Undoes one or two edits that were not undone before: what is undone twice comes back twice. */
function undoSome(
  random: Random,
  doc: Node,
  provenance: Provenance,
  edits: readonly Edit[],
  spent: Set<number>,
  kind: Kind,
): Proposal | null {
  const picked = Array.from({ length: random.between(1, 2) }, () => random.between(1, edits.length));
  const undone = new Set(picked.filter((seq) => !spent.has(seq)));
  for (const seq of undone) spent.add(seq);
  const undo = undoEdits(doc, provenance, undone, tokensOfEdits(edits, kind));
  return undo.kind === 'conflict' ? null : undo.kind === 'nothing' ? { steps: [], sources: [] } : undo;
}

/** One random act of writing on a document. */
export function change(
  random: Random,
  doc: Node,
  fresh: (count: number) => string,
  structure: boolean,
  leaves = false,
): Transform {
  for (let tries = 0; tries < 50; tries++) {
    const tr = new Transform(doc);
    const acts = [...TEXT_ACTS, ...(structure ? STRUCTURE_ACTS : []), ...(leaves ? LEAF_ACTS : [])];
    try {
      random.pick(acts)(random, tr, fresh);
      tr.doc.check();
    } catch (error) {
      if (error instanceof Error && /RangeError|TransformError/.test(error.name)) continue;
      throw error;
    }
    if (tr.docChanged) return tr;
  }
  return new Transform(doc).insert(0, schema.node('paragraph', null, [schema.text(fresh(2))]));
}

type Act = (random: Random, tr: Transform, fresh: (count: number) => string) => void;

function textPlace(random: Random, doc: Node): number {
  const blocks: { at: number; size: number }[] = [];
  doc.descendants((node, position) => {
    if (node.isTextblock) blocks.push({ at: position + 1, size: node.content.size });
  });
  const block = blocks.length > 0 ? random.pick(blocks) : { at: 0, size: 0 };
  return block.at + random.between(0, block.size);
}

function range(random: Random, doc: Node, most: number): [number, number] {
  const from = textPlace(random, doc);
  return [from, Math.min(doc.content.size, from + random.between(1, most))];
}

const type: Act = (random, tr, fresh) =>
  void tr.insert(textPlace(random, tr.doc), schema.text(fresh(random.between(1, 6))));
const erase: Act = (random, tr) => void tr.deleteRange(...range(random, tr.doc, random.chance(0.1) ? 40 : 6));
const replace: Act = (random, tr, fresh) =>
  void tr.replaceRangeWith(...range(random, tr.doc, 6), schema.text(fresh(3)));
const split: Act = (random, tr) => {
  const at = textPlace(random, tr.doc);
  if (canSplit(tr.doc, at)) tr.split(at);
};
const join: Act = (random, tr) => {
  const $at = tr.doc.resolve(textPlace(random, tr.doc));
  if ($at.depth > 0 && canJoin(tr.doc, $at.before())) tr.join($at.before());
};
const mark: Act = (random, tr) => {
  const [from, to] = range(random, tr.doc, 12);
  const name = random.pick(['bold', 'italic', 'superscript', 'subscript'] as const);
  if (random.chance(0.3)) tr.removeMark(from, to, schema.marks[name]);
  else tr.addMark(from, to, schema.mark(name));
};
const TEXT_ACTS: Act[] = [type, type, type, type, erase, erase, replace, split, join, mark];

const wrap =
  (pick: (random: Random) => NodeType): Act =>
  (random, tr) => {
    const $from = tr.doc.resolve(textPlace(random, tr.doc));
    const block = $from.blockRange();
    const wrapping = block && findWrapping(block, pick(random));
    if (block && wrapping) tr.wrap(block, wrapping);
  };
const lift: Act = (random, tr) => {
  const block = tr.doc.resolve(textPlace(random, tr.doc)).blockRange();
  const target = block && liftTarget(block);
  if (block && target !== null && target !== undefined) tr.lift(block, target);
};
const heading: Act = (random, tr) => {
  const at = textPlace(random, tr.doc);
  if (random.chance(0.5)) tr.setBlockType(at, at, schema.nodes.heading, { level: random.between(1, 3) });
  else tr.setBlockType(at, at, schema.nodes.paragraph);
};
const attribute: Act = (random, tr) => {
  const $at = tr.doc.resolve(textPlace(random, tr.doc));
  if ('align' in $at.parent.attrs)
    tr.setNodeAttribute($at.before(), 'align', random.pick(['start', 'center', 'end']));
};
const paste: Act = (random, tr, fresh) => {
  const block = (): Node => schema.node('paragraph', null, [schema.text(fresh(random.between(1, 5)))]);
  tr.replace(
    textPlace(random, tr.doc),
    undefined,
    new Slice(Fragment.fromArray([block(), block(), block()]), 1, 1),
  );
};
const insertTable: Act = (random, tr, fresh) => {
  const cell = (): Node =>
    schema.node('table_cell', null, [schema.node('paragraph', null, [schema.text(fresh(1))])]);
  const row = (): Node => schema.node('table_row', null, [cell(), cell()]);
  tr.insert(0, schema.node('table', null, [row(), row()]));
};
const row: Act = (random, tr, fresh) => {
  const rows: { at: number; node: Node; alone: boolean }[] = [];
  tr.doc.descendants((node, position, parent) => {
    if (node.type.name === 'table_row') rows.push({ at: position, node, alone: parent?.childCount === 1 });
  });
  if (rows.length === 0) return;
  const { at, node, alone } = random.pick(rows);
  if (random.chance(0.5) && !alone) tr.delete(at, at + node.nodeSize);
  else {
    const cells: Node[] = [];
    node.forEach(() =>
      cells.push(schema.node('table_cell', null, [schema.node('paragraph', null, [schema.text(fresh(1))])])),
    );
    tr.insert(at + node.nodeSize, schema.node('table_row', null, cells));
  }
};
/** A footnote at the end, its sign in the text. */
const note: Act = (random, tr, fresh) => {
  const name = `n${random.between(1, 1e9)}`;
  const at = textPlace(random, tr.doc);
  tr.insert(tr.doc.content.size, schema.node('footnote', { note: name }, [schema.text(fresh(2))]));
  tr.insert(at, schema.node('footnote_mark', { note: name }));
};
/** The set-up of the page, made or changed. */
const setUp: Act = (random, tr) => {
  const landscape = random.chance(0.5);
  if (tr.doc.firstChild?.type.name === 'page_setup') tr.setNodeAttribute(0, 'landscape', landscape);
  else tr.insert(0, schema.node('page_setup', { landscape, header: 'The mill' }));
};
const STRUCTURE_ACTS: Act[] = [
  wrap((random) =>
    random.pick([
      schema.nodes.quote,
      schema.nodes.bullet_list,
      schema.nodes.ordered_list,
      schema.nodes.check_list,
    ]),
  ),
  lift,
  heading,
  attribute,
  paste,
  insertTable,
  row,
];
const LEAF_ACTS: Act[] = [note, note, setUp];

/** Writes text. */
export const TEXT_HAND: Hand = { kind: text, act: change };
