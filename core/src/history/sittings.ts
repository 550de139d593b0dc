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
  return gathered(traces, gap, single, (trace) => trace.at);
}

/** Sittings with more edits behind them, as if all had been gathered at once. Only the last one is another. */
export function sittingsOn(held: readonly Sitting[], traces: readonly Trace[], gap: number): Sitting[] {
  const open = held.slice(-1);
  return [...held.slice(0, -1), ...longerSittings([...open, ...sittings(traces, gap)], gap)];
}

/** Sittings gathered into longer ones, at a gap no shorter than theirs: the same as gathering the edits. Linear. */
export function longerSittings(shorter: readonly Sitting[], gap: number): Sitting[] {
  return gathered(
    shorter,
    gap,
    (sitting) => sitting,
    ({ from }) => from,
  );
}

/** One edit as a sitting of its own. */
export function single({ seq, at, author, wordsIn, wordsOut }: Trace): Sitting {
  const shares = [{ author, wordsIn, wordsOut }];
  return { first: seq, last: seq, from: at, to: at, edits: 1, wordsIn, wordsOut, shares };
}

function gathered<T>(
  items: readonly T[],
  gap: number,
  sittingOf: (item: T) => Sitting,
  begins: (item: T) => number,
): Sitting[] {
  const out: Sitting[] = [];
  let open: Growing | null = null;
  for (const item of items) {
    if (open && begins(item) - open.to <= gap) grow(open, sittingOf(item));
    else {
      if (open) out.push({ ...open, shares: [...open.shares.values()] });
      const { shares, ...first } = sittingOf(item);
      open = { ...first, shares: new Map(shares.map((share) => [share.author, { ...share }])) };
    }
  }
  if (open) out.push({ ...open, shares: [...open.shares.values()] });
  return out;
}

type Writable<T> = { -readonly [K in keyof T]: T[K] };
type Growing = Writable<Omit<Sitting, 'shares'>> & { readonly shares: Map<string, Writable<Share>> };

function grow(open: Growing, { last, to, edits, wordsIn, wordsOut, shares }: Sitting): void {
  open.last = last;
  open.to = to;
  open.edits += edits;
  open.wordsIn += wordsIn;
  open.wordsOut += wordsOut;
  for (const share of shares) {
    const held = open.shares.get(share.author);
    if (held) {
      held.wordsIn += share.wordsIn;
      held.wordsOut += share.wordsOut;
    } else open.shares.set(share.author, { ...share });
  }
}
