import type { Node } from 'prosemirror-model';
import type { PlacedRuns } from '../history/index.js';
import type { Makers } from './tape.js';

/** A stretch of the document that one person put there in one go. */
export interface Entry {
  readonly from: number;
  readonly to: number;
  /** The last edit that put some of it there, and who made it. */
  readonly seq: number;
  readonly by: string;
  readonly at: number;
  /** Who first wrote it: somebody else where it was brought back or copied. */
  readonly writer: string;
}

/** Idle time that parts two entries of one person. */
const GAP = 10 * 60_000;

/** Who put each stretch of a document's text there last, in order; entries end where blocks end. Linear. */
export function ledgerOf(doc: Node, runs: PlacedRuns, makers: Makers): Entry[] {
  const out: Entry[] = [];
  doc.descendants((block, position) => {
    if (!block.isTextblock) return true;
    const entries: Entry[] = [];
    for (const run of runs.between(position + 1, position + 1 + block.content.size)) {
      const { author: by, at } = makers(run.seq);
      const entry = {
        from: run.from,
        to: run.to,
        seq: run.seq,
        by,
        at,
        writer: makers(run.origin.seq).author,
      };
      const last = entries.at(-1);
      if (last && last.by === by && last.writer === entry.writer && Math.abs(at - last.at) <= GAP) {
        const newest = last.seq > run.seq ? last : entry;
        entries[entries.length - 1] = { ...newest, from: last.from, to: run.to };
      } else entries.push(entry);
    }
    out.push(...entries);
    return false;
  });
  return out;
}
