import type { Node } from 'prosemirror-model';
import { eachSegment, inlineText, isWord, roleOf } from '../content/index.js';
import type { Credit } from './attribute.js';
import type { Change, ChangeKind } from './changes.js';
import { standsOf } from './changes.js';

/** What a reader chooses between: changes of the text, of typography or form only, and what moved or was copied. */
export type Family = 'text' | 'form' | 'moved' | 'typography';

const FAMILIES: Record<ChangeKind, Family> = {
  added: 'text',
  removed: 'text',
  replaced: 'text',
  moved: 'moved',
  copied: 'moved',
  split: 'form',
  joined: 'form',
  typography: 'typography',
  form: 'form',
};

export function familyOf(kind: ChangeKind): Family {
  return FAMILIES[kind];
}

/** A heading and what stands under it, up to the next one, by positions. The first has no title when text comes first. */
export interface Section {
  readonly title: string;
  readonly from: number;
  readonly to: number;
}

/** The sections of a document, in order; together they are all of it. */
export function sectionsOf(doc: Node): Section[] {
  const starts: { title: string; from: number }[] = [];
  doc.forEach((block, from) => {
    if (roleOf(block) === 'heading') starts.push({ title: inlineText(block), from });
    else if (starts.length === 0) starts.push({ title: '', from });
  });
  return starts.map((start, i) => ({ ...start, to: starts[i + 1]?.from ?? doc.content.size }));
}

/** Index of the section of the later document that a change belongs to, or -1. */
export function sectionOf(sections: readonly Section[], change: Pick<Change, 'place'>): number {
  const at = change.place.later.from;
  return Math.max(
    sections.findIndex(({ from, to }) => at >= from && at < to),
    at >= (sections.at(-1)?.to ?? Infinity) ? sections.length - 1 : -1,
  );
}

/**
 * Words that each edit brought and took away, by its seq: what the share of each person adds up from. A word that several
 * edits made is counted for the one that made its first letter, so that the sums are those of the changes.
 */
export function wordsByEdit(
  credits: readonly (readonly Credit[])[],
  changes: readonly Change[],
  earlier: Node,
  later: Node,
): Map<number, { added: number; removed: number }> {
  const out = new Map<number, { added: number; removed: number }>();
  changes.forEach((change, i) => {
    if (change.wordsAdded + change.wordsRemoved === 0) return;
    for (const side of ['earlier', 'later'] as const) {
      const own = (credits[i] ?? []).filter((credit) => credit.side === side).sort((a, b) => a.from - b.from);
      let next = 0;
      for (const { from, to } of standsOf(change)[side])
        for (const at of wordsBetween(side === 'later' ? later : earlier, from, to)) {
          while (own[next] && (own[next]?.to ?? 0) <= at) next++;
          const credit = own[next];
          const seq = credit && credit.from <= at ? credit.seq : undefined;
          if (seq === undefined) continue;
          const sum = out.get(seq) ?? { added: 0, removed: 0 };
          if (side === 'later') sum.added++;
          else sum.removed++;
          out.set(seq, sum);
        }
    }
  });
  return out;
}

/** What stands for a leaf inside a text block, so that text and positions run alike. */
const LEAF = '\ufffc';

/** The positions at which words begin in a stretch of a document. */
function wordsBetween(doc: Node, from: number, to: number): number[] {
  const out: number[] = [];
  doc.nodesBetween(from, to, (node, position) => {
    if (!node.isTextblock) return true;
    const start = Math.max(0, from - position - 1);
    const end = Math.min(node.content.size, to - position - 1);
    if (end <= start) return false;
    const text = node.textBetween(start, end, undefined, LEAF);
    eachSegment(text, (low, high) => {
      if (isWord(text.slice(low, high))) out.push(position + 1 + start + low);
    });
    return false;
  });
  return out;
}
