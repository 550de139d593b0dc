/** One edit of a history, without its content: what the tideline and its figures need. */
export interface Trace {
  readonly seq: number;
  readonly at: number;
  readonly author: string;
  readonly wordsIn: number;
  readonly wordsOut: number;
}

/** What one person did in a sitting. */
export interface Share {
  readonly author: string;
  readonly wordsIn: number;
  readonly wordsOut: number;
}

/** A stretch of edits with no gap longer than the grain between them. `first` and `last` are seqs. */
export interface Sitting {
  readonly first: number;
  readonly last: number;
  readonly from: number;
  readonly to: number;
  readonly edits: number;
  readonly wordsIn: number;
  readonly wordsOut: number;
  /** By person, in order of first edit. */
  readonly shares: readonly Share[];
}

/** Gathers edits, in order, into sittings: a new one begins after a gap of more than `gap` milliseconds. Linear. */
export function sittings(traces: readonly Trace[], gap: number): Sitting[] {
  const out: Sitting[] = [];
  let start = 0;
  for (let i = 1; i <= traces.length; i++) {
    const here = traces[i];
    if (here && here.at - (traces[i - 1] as Trace).at <= gap) continue;
    out.push(sittingOf(traces, start, i));
    start = i;
  }
  return out;
}

function sittingOf(traces: readonly Trace[], start: number, end: number): Sitting {
  const shares = new Map<string, { author: string; wordsIn: number; wordsOut: number }>();
  let [wordsIn, wordsOut] = [0, 0];
  for (let i = start; i < end; i++) {
    const trace = traces[i] as Trace;
    const share = shares.get(trace.author) ?? { author: trace.author, wordsIn: 0, wordsOut: 0 };
    share.wordsIn += trace.wordsIn;
    share.wordsOut += trace.wordsOut;
    wordsIn += trace.wordsIn;
    wordsOut += trace.wordsOut;
    shares.set(trace.author, share);
  }
  const [first, last] = [traces[start] as Trace, traces[end - 1] as Trace];
  return {
    first: first.seq,
    last: last.seq,
    from: first.at,
    to: last.at,
    edits: end - start,
    wordsIn,
    wordsOut,
    shares: [...shares.values()],
  };
}
