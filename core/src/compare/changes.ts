import type { Node } from 'prosemirror-model';
import { countWords, plainText } from '../content/index.js';
import type { Lexicon } from './lexicon.js';
import type { Difference, Pair, Union } from './union.js';
import { sizeOf, walk } from './union.js';

/** What a change does. A `form` change leaves the text alone: bold, a heading's level, a link's target. */
export type ChangeKind = 'added' | 'removed' | 'replaced' | 'form';

/** A stretch of positions in one document. */
export interface Stretch {
  readonly from: number;
  readonly to: number;
}

/** One change between two documents. Ids count from 0 in document order and are the same for the same pair. */
export interface Change {
  readonly id: number;
  readonly kind: ChangeKind;
  /** Plain text on either side; empty where a side has none. */
  readonly earlier: string;
  readonly later: string;
  readonly place: { readonly earlier: Stretch; readonly later: Stretch };
  /** Whether whole blocks are concerned rather than words inside one. */
  readonly block: boolean;
  readonly wordsRemoved: number;
  readonly wordsAdded: number;
  /** For blocks that left here and came there unchanged: the other half. The two are decided together. */
  readonly moved: number | null;
  /** For a form change: what differs, as short names ("bold", "level"). */
  readonly form: readonly string[];
}

/** Words in and out of a comparison. Moved words count neither as added nor as removed. */
export interface Totals {
  readonly wordsAdded: number;
  readonly wordsRemoved: number;
  readonly wordsMoved: number;
  readonly formChanges: number;
}

/** Fewest words for which a block that left one place and came to another is called moved. */
const MOVE_WORDS = 3;

/** Numbers the changes of a union in document order and lists them. */
export function listChanges(union: Union, lexicon: Lexicon): Change[] {
  const changes: Change[] = [];
  const parts: (Difference | Pair)[] = [];
  walk(union, -1, -1, (part, a, b) => {
    if (part.kind === 'difference') {
      part.change = changes.length;
      parts.push(part);
      changes.push(differenceChange(part, a, b));
    } else if (part.kind === 'pair' && part.form !== null) {
      part.form = changes.length;
      parts.push(part);
      changes.push(formChange(part, a, b));
    }
  });
  return linkMoves(changes, parts, lexicon);
}

function differenceChange(part: Difference, a: number, b: number): Change {
  const [earlier, later] = [textOf(part.earlier), textOf(part.later)];
  return {
    id: part.change,
    kind: part.earlier.length === 0 ? 'added' : part.later.length === 0 ? 'removed' : 'replaced',
    earlier,
    later,
    place: {
      earlier: { from: a, to: a + sizeOf(part.earlier) },
      later: { from: b, to: b + sizeOf(part.later) },
    },
    block: [...part.earlier, ...part.later].some((node) => !node.isInline),
    wordsRemoved: countWords(earlier),
    wordsAdded: countWords(later),
    moved: null,
    form: [],
  };
}

function formChange(part: Pair, a: number, b: number): Change {
  const [earlier, later] = [plainText(part.earlier), plainText(part.later)];
  const inline = part.earlier.isInline;
  return {
    id: part.form ?? -1,
    kind: 'form',
    earlier,
    later,
    place: {
      earlier: { from: a, to: a + part.earlier.nodeSize },
      later: { from: b, to: b + part.later.nodeSize },
    },
    block: !inline,
    wordsRemoved: 0,
    wordsAdded: 0,
    moved: null,
    form: formNames(part.earlier, part.later),
  };
}

function formNames(a: Node, b: Node): string[] {
  const names = new Set<string>();
  if (a.type !== b.type) names.add(b.type.name);
  else
    for (const name of Object.keys(b.attrs))
      if (JSON.stringify(a.attrs[name]) !== JSON.stringify(b.attrs[name])) names.add(name);
  for (const mark of a.marks) if (!mark.isInSet(b.marks)) names.add(mark.type.name);
  for (const mark of b.marks) if (!mark.isInSet(a.marks)) names.add(mark.type.name);
  return [...names];
}

function textOf(nodes: readonly Node[]): string {
  return nodes.some((node) => !node.isInline)
    ? nodes.map(plainText).join('\n')
    : nodes.map((node) => (node.isText ? node.text : plainText(node))).join('');
}

/** Links removals and additions of the same blocks, the first unclaimed one each way. */
function linkMoves(
  changes: readonly Change[],
  parts: readonly (Difference | Pair)[],
  lexicon: Lexicon,
): Change[] {
  const leaving = new Map<string, number[]>();
  const key = (nodes: readonly Node[]): string => nodes.map((node) => lexicon.block(node)).join(' ');
  const linked = [...changes];
  for (const change of changes) {
    const part = parts[change.id];
    if (
      change.kind !== 'removed' ||
      !change.block ||
      change.wordsRemoved < MOVE_WORDS ||
      part?.kind !== 'difference'
    )
      continue;
    const at = key(part.earlier);
    leaving.set(at, [...(leaving.get(at) ?? []), change.id]);
  }
  for (const change of changes) {
    const part = parts[change.id];
    if (change.kind !== 'added' || !change.block || part?.kind !== 'difference') continue;
    const from = leaving.get(key(part.later))?.shift();
    if (from === undefined) continue;
    linked[from] = { ...(linked[from] as Change), moved: change.id };
    linked[change.id] = { ...change, moved: from };
  }
  return linked;
}

/** Words added, removed and moved, and the number of changes of form. */
export function totalsOf(changes: readonly Change[]): Totals {
  let [wordsAdded, wordsRemoved, wordsMoved, formChanges] = [0, 0, 0, 0];
  for (const change of changes) {
    if (change.kind === 'form') formChanges++;
    else if (change.moved !== null) wordsMoved += change.wordsAdded;
    else {
      wordsAdded += change.wordsAdded;
      wordsRemoved += change.wordsRemoved;
    }
  }
  return { wordsAdded, wordsRemoved, wordsMoved, formChanges };
}
