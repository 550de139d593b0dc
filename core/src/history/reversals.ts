/** An edit that undid others: an undo, a redo, a taking back. */
export interface Reversal {
  readonly seq: number;
  readonly of: readonly number[];
}

/** The edits that are without effect: undone by something that was not itself undone. `reversals` in order. */
export function cancelled(reversals: readonly Reversal[], undone: readonly number[] = []): Set<number> {
  const out = new Set(undone);
  for (const { seq, of } of [...reversals].reverse()) if (!out.has(seq)) for (const one of of) out.add(one);
  return out;
}

/**
 * What has to be undone together so that some edits are: they, and each pair of edit and reversal since that comes to nothing,
 * or else what such a reversal brought back of theirs would stay behind as if it were written by itself.
 */
export function undoneWith(undone: readonly number[], reversals: readonly Reversal[]): Set<number> {
  const out = new Set(undone);
  const first = Math.min(...undone);
  const gone = cancelled(reversals, undone);
  for (const { seq, of } of reversals)
    if (!gone.has(seq) && of.some((one) => one >= first)) for (const one of [seq, ...of]) out.add(one);
  return out;
}
