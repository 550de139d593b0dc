import type { Instance, InstanceRange } from '../history/index.js';

/** A stretch of what one edit inserted. */
export interface Span {
  readonly from: number;
  readonly to: number;
}

/** A set of instances of one document, as stretches of what its edits inserted. */
export class Instances {
  private readonly spans = new Map<number, Span[]>();

  /** The set of all instances in some stretches, which may overlap. */
  static of(ranges: Iterable<InstanceRange>): Instances {
    const set = new Instances();
    for (const { seq, offset, length } of ranges) {
      if (length <= 0) continue;
      const held = set.spans.get(seq);
      const span = { from: offset, to: offset + length };
      if (held) held.push(span);
      else set.spans.set(seq, [span]);
    }
    for (const [seq, spans] of set.spans) set.spans.set(seq, joined(spans));
    return set;
  }

  /** All that is in this set or in another. */
  with(other: Instances): Instances {
    return Instances.of([...this.ranges(), ...other.ranges()]);
  }

  /** The edits that inserted any of it, in order. */
  get seqs(): number[] {
    return [...this.spans.keys()].sort((a, b) => a - b);
  }

  /** How many instances it holds. */
  get size(): number {
    let size = 0;
    for (const spans of this.spans.values()) for (const { from, to } of spans) size += to - from;
    return size;
  }

  /** Its stretches of what one edit inserted, in order and apart from each other. */
  of(seq: number): readonly Span[] {
    return this.spans.get(seq) ?? [];
  }

  has({ seq, offset }: Instance): boolean {
    return this.within({ seq, offset, length: 1 }).length > 0;
  }

  /** What of a stretch it holds, in order. */
  within({ seq, offset, length }: InstanceRange): Span[] {
    const spans = this.of(seq);
    const [out, end]: [Span[], number] = [[], offset + length];
    for (let i = firstBehind(spans, offset); i < spans.length; i++) {
      const { from, to } = spans[i] as Span;
      if (from >= end) break;
      out.push({ from: Math.max(from, offset), to: Math.min(to, end) });
    }
    return out;
  }

  /** Its stretches, by edit and place. */
  ranges(): InstanceRange[] {
    return this.seqs.flatMap((seq) =>
      this.of(seq).map(({ from, to }) => ({ seq, offset: from, length: to - from })),
    );
  }
}

/** The index of the first span, of some in order, that ends behind a place. */
function firstBehind(spans: readonly Span[], offset: number): number {
  let [low, high] = [0, spans.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((spans[middle] as Span).to > offset) high = middle;
    else low = middle + 1;
  }
  return low;
}

function joined(spans: readonly Span[]): Span[] {
  const out: { from: number; to: number }[] = [];
  for (const { from, to } of [...spans].sort((a, b) => a.from - b.from)) {
    const last = out.at(-1);
    if (last && from <= last.to) last.to = Math.max(last.to, to);
    else out.push({ from, to });
  }
  return out;
}
