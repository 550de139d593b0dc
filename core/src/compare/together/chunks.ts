import type { Range } from './units.js';

/** A stretch of the base and what each side has in its place, the base's first. */
export interface Chunk {
  /** Whether it is one item that all have. */
  readonly stable: boolean;
  readonly ranges: readonly Range[];
}

/** Cuts sequences at what is stable. `matches` holds for each side, by item of the base, the index of its counterpart or -1, in order. */
export function chunksOf(matches: readonly (readonly number[])[], lengths: readonly number[]): Chunk[] {
  const out: Chunk[] = [];
  let last = lengths.map(() => 0);
  const upTo = (next: readonly number[]): void => {
    if (next.some((at, version) => at > (last[version] ?? 0)))
      out.push({ stable: false, ranges: next.map((at, version) => [last[version] ?? 0, at]) });
  };
  for (let i = 0; i < (lengths[0] ?? 0); i++) {
    const at = [i, ...matches.map((side) => side[i] ?? -1)];
    if (at.includes(-1)) continue;
    upTo(at);
    out.push({ stable: true, ranges: at.map((from) => [from, from + 1]) });
    last = at.map((from) => from + 1);
  }
  upTo(lengths);
  return out;
}
