import type { Node } from 'prosemirror-model';
import { countWords, inlineText } from '../content/index.js';
import type { Credit } from './attribute.js';
import type { Change, ChangeKind } from './changes.js';

/** What a reader chooses between: changes of the text, of form only, and what moved or was copied. */
export type Family = 'text' | 'form' | 'moved';

const FAMILIES: Record<ChangeKind, Family> = {
  added: 'text',
  removed: 'text',
  replaced: 'text',
  moved: 'moved',
  copied: 'moved',
  split: 'form',
  joined: 'form',
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
    if (block.type.name === 'heading') starts.push({ title: inlineText(block), from });
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

/** Words that each edit brought and took away, by its seq: what the share of each person adds up from. */
export function wordsByEdit(
  credits: readonly (readonly Credit[])[],
  changes: readonly Change[],
  earlier: Node,
  later: Node,
): Map<number, { added: number; removed: number }> {
  const out = new Map<number, { added: number; removed: number }>();
  credits.forEach((list, i) => {
    const kind = changes[i]?.kind;
    if (kind === undefined || (familyOf(kind) !== 'text' && kind !== 'copied')) return;
    for (const { seq, side, from, to } of list) {
      const sum = out.get(seq) ?? { added: 0, removed: 0 };
      const words = countWords((side === 'later' ? later : earlier).textBetween(from, to, '\n', '\n'));
      out.set(
        seq,
        side === 'later' ? { ...sum, added: sum.added + words } : { ...sum, removed: sum.removed + words },
      );
    }
  });
  return out;
}
