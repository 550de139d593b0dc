import type { Cause, Source } from './edit.js';
import type { PlacedRuns } from './placed.js';

/** A stretch of instances of one edit, and the position it had at the boundary. */
interface Stood {
  readonly offset: number;
  readonly length: number;
  readonly at: number;
}

/**
 * Where a document's history begins for somebody who may not know what was before. Told from there, the history is one like
 * any other: it begins with what stood at its first moment, as edit 0, and every number is counted from it. Whoever has it
 * learns nothing else: two histories that are the same from their boundaries on are told alike (non-interference, Goguen and
 * Meseguer 1982).
 */
export class Boundary {
  private readonly stood = new Map<number, Stood[]>();

  /**
   * `id` is the document's, `first` the last edit that is not told, and `runs` are those that stood behind it.
   */
  constructor(
    private readonly id: string,
    readonly first: number,
    runs: PlacedRuns,
  ) {
    for (const { seq, offset, length, from } of runs.between(0, runs.size)) {
      const stretches = this.stood.get(seq) ?? [];
      stretches.push({ offset, length, at: from });
      this.stood.set(seq, stretches);
    }
    for (const stretches of this.stood.values()) stretches.sort((a, b) => a.offset - b.offset);
  }

  /** Sources as they are told: what came back from before the boundary, and did not stand there, came from nowhere. */
  sources(sources: readonly Source[]): Source[] {
    const out: Source[] = [];
    for (const source of sources.flatMap((one) => this.source(one))) {
      const last = out.at(-1);
      if (last && goesOn(last, source))
        out[out.length - 1] = { ...last, length: last.length + source.length };
      else out.push(source);
    }
    return out;
  }

  private source(source: Source): Source[] {
    if (source.of) return [source];
    if (source.seq > this.first) return [{ ...source, seq: source.seq - this.first }];
    return (this.stood.get(source.seq) ?? []).flatMap(({ offset, length, at }) => {
      const from = Math.max(offset, source.offset);
      const to = Math.min(offset + length, source.offset + source.length);
      if (from >= to) return [];
      const placed = { at: source.at + from - source.offset, seq: 0, offset: at + from - offset };
      return [{ ...source, ...placed, length: to - from }];
    });
  }

  /** Why an edit was made, as it is told: what it says of a time before the boundary is left out. */
  cause(cause: Cause): Cause {
    switch (cause.kind) {
      case 'undo':
      case 'redo': {
        const of = this.seqs(cause.of);
        return of.length > 0 ? { ...cause, of } : WRITING;
      }
      case 'takeBack': {
        const of = this.seqs(cause.of);
        const { change } = cause;
        if (change && change.earlier >= this.first)
          return {
            kind: 'takeBack',
            of,
            change: { earlier: change.earlier - this.first, later: change.later - this.first },
          };
        return of.length > 0 ? { kind: 'takeBack', of } : WRITING;
      }
      case 'carry':
        return cause.moment < this.first ? WRITING : { ...cause, moment: cause.moment - this.first };
      case 'restore':
        return cause.moment < this.first ? WRITING : { kind: 'restore', moment: cause.moment - this.first };
      case 'assembly': {
        const later = cause.document === this.id ? cause.later - this.first : cause.later;
        const earlier = cause.other === this.id ? cause.earlier - this.first : cause.earlier;
        return later < 0 || earlier < 0 ? WRITING : { ...cause, earlier, later };
      }
      case 'erasure':
      case 'thinning': {
        const of = cause.of.flatMap(([first, last]): [number, number][] =>
          last > this.first ? [[Math.max(1, first - this.first), last - this.first]] : [],
        );
        return of.length > 0 ? { ...cause, of, letters: 0, digest: '' } : WRITING;
      }
      default:
        return cause;
    }
  }

  private seqs(seqs: readonly number[]): number[] {
    return seqs.filter((seq) => seq > this.first).map((seq) => seq - this.first);
  }
}

const WRITING: Cause = { kind: 'writing' };

/** Whether a source only goes on with the one before it. */
function goesOn(last: Source, next: Source): boolean {
  return (
    !last.of &&
    !next.of &&
    last.step === next.step &&
    last.seq === next.seq &&
    last.at + last.length === next.at &&
    last.offset + last.length === next.offset
  );
}
