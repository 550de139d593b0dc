/** A run of equal items: `length` items from `a` in one sequence and from `b` in the other. */
export interface Common {
  readonly a: number;
  readonly b: number;
  readonly length: number;
}

/** Gathers runs in order; one that follows on the last in both sequences becomes part of it. */
export class CommonRuns {
  readonly runs: { a: number; b: number; length: number }[] = [];
  private endA = -1;
  private endB = -1;

  add(a: number, b: number, length: number): void {
    if (length === 0) return;
    const last = this.runs[this.runs.length - 1];
    if (last && this.endA === a && this.endB === b) last.length += length;
    else this.runs.push({ a, b, length });
    this.endA = a + length;
    this.endB = b + length;
  }
}
