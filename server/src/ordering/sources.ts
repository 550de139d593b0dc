import { BUDGETS } from '@oxbow/contract';
import type { SourceRef } from '@oxbow/contract';
import { tokensOf } from '@oxbow/core/content';
import { withErased } from '@oxbow/core/erasing';
import type { Token, Work } from '@oxbow/core/content';
import { Refusal, besides, checkSources, insertedLengths, quotedFrom, quotesOf } from '@oxbow/core/history';
import type { PlacedRuns, Proposal, Quote, Quoted, RunSequence, Source } from '@oxbow/core/history';
import type { Log } from '../store/log.js';
import type { Slices } from '../threads/slices.js';
import type { Wanted } from './batch.js';
import type { Elsewhere, OtherDocument } from './elsewhere.js';

/** The document that is written in, and what is known of the writer's own edits by counter. */
export interface Known {
  readonly document: number;
  readonly author: number;
  readonly client: string;
  readonly seq: number;
  readonly runs: RunSequence;
  readonly log: Log;
  readonly elsewhere: Elsewhere;
  /** The seq of one of the client's accepted edits, if it is at hand. */
  readonly counter: (counter: number) => number | undefined;
}

/** A document that sources are looked up in: the one that is written in, or another. */
interface Shelf {
  readonly key: number;
  readonly seq: number;
  readonly runs: RunSequence;
  readonly other: OtherDocument | null;
  readonly moments: Map<number, PlacedRuns>;
}

/** Sources of one edit that are of one document. */
interface FoundThere {
  readonly shelf: Shelf;
  readonly sources: readonly Source[];
  readonly quoted: readonly Quoted[];
}

/** An edit's sources as instances, not yet held against what stands there. */
interface Found {
  readonly edit: Wanted;
  readonly parts: readonly FoundThere[];
}

/** What has to be read to check sources: tokens of edits, and for other documents who wrote them. By document. */
interface Reading {
  readonly tokens: (seq: number) => readonly Token[];
  readonly writers: ReadonlyMap<number, string>;
}

/**
 * Finds the instances that the sources of a batch name and checks them token by token. Answers a proposal for each edit, or
 * why it is not taken. What is needed of the logs is read once for all of them.
 */
export async function proposalsOf(
  wanted: readonly Wanted[],
  known: Known,
  slices: Slices,
): Promise<(Proposal<Quote> | Refusal)[]> {
  await checkReversals(wanted, known);
  if (wanted.every(({ sources, cause }) => sources.length === 0 && cause.kind !== 'carry'))
    return Promise.all(
      wanted.map(async ({ steps }) => ({
        steps: await slices.through(withErased(steps, [], none)),
        sources: [],
      })),
    );
  const counters = await countersOf(wanted, known);
  const shelves = await shelvesOf(wanted, known);
  const found: (Found | Refusal)[] = [];
  for (const [i, edit] of wanted.entries()) {
    found.push(await refusing(() => slices.through(resolved(edit, wanted.slice(0, i), shelves, counters))));
    await slices.rest();
  }
  const readings = await readingsOf(found, known, slices);
  const out: (Proposal<Quote> | Refusal)[] = [];
  for (const one of found)
    out.push(
      one instanceof Refusal
        ? one
        : await refusing(() => slices.through(proposalOf(one, (shelf) => readings.get(shelf) as Reading))),
    );
  return out;
}

/** Nobody says of another's edit that they undid it: what a taking back goes by is what was undone. Throws `Refusal`. */
async function checkReversals(wanted: readonly Wanted[], { document, author, log }: Known): Promise<void> {
  const undone = wanted.flatMap(({ cause }) =>
    cause.kind === 'undo' || cause.kind === 'redo' ? cause.of : [],
  );
  if (undone.length === 0) return;
  const others = new Set(await log.byOthers(document, author, undone));
  const at = wanted.findIndex(
    ({ cause }) =>
      (cause.kind === 'undo' || cause.kind === 'redo') && cause.of.some((seq) => others.has(seq)),
  );
  if (at >= 0) throw new Refusal(`edits/${at}/cause/of`, 'names edits of somebody else');
}

function* proposalOf({ edit, parts }: Found, read: (shelf: Shelf) => Reading): Work<Proposal<Quote>> {
  const quotes: Quote[] = [];
  const of = new Map(parts.flatMap(({ shelf, sources }) => sources.map((source) => [source, read(shelf)])));
  const steps = yield* withErased(
    edit.steps,
    [...of.keys()],
    (source) => of.get(source)?.tokens(source.seq) ?? [],
  );
  for (const { shelf, sources, quoted } of parts) {
    const { tokens, writers } = read(shelf);
    yield* checkSources({ steps, sources }, ({ seq }) => tokens(seq));
    const { other } = shelf;
    for (const [i, quote] of (yield* quotesOf(quoted, tokens)).entries()) {
      const writer = other && writers.get(quoted[i]?.origin.seq ?? 0);
      if (!other) quotes.push(quote);
      else if (writer !== undefined && writer !== null)
        quotes.push({ ...quote, of: { document: other.id, writer } });
    }
  }
  return { steps, sources: quotes.sort((a, b) => a.step - b.step || a.at - b.at) };
}

/** The documents that sources name, by id; null stands for the one that is written in. */
async function shelvesOf(
  wanted: readonly Wanted[],
  known: Known,
): Promise<ReadonlyMap<string | null, Shelf>> {
  const { document: key, seq, runs } = known;
  const shelves = new Map<string | null, Shelf>([
    [null, { key, seq, runs, other: null, moments: new Map() }],
  ]);
  for (const { sources } of wanted)
    for (const ref of sources) {
      const id = 'document' in ref ? ref.document : undefined;
      if (id === undefined || shelves.has(id)) continue;
      if (shelves.size > BUDGETS.messageDocuments)
        throw new Refusal(
          'edits',
          `name more than ${BUDGETS.messageDocuments} other documents as their sources (messageDocuments)`,
        );
      const other = await known.elsewhere.open(id, known.author);
      if (other)
        shelves.set(id, {
          key: other.key,
          seq: other.seq,
          runs: other.provenance.runs,
          other,
          moments: new Map(),
        });
    }
  return shelves;
}

/** Reads what is needed of each document, within the budget for all of them. */
async function readingsOf(
  found: readonly (Found | Refusal)[],
  { document, log, elsewhere }: Known,
  slices: Slices,
): Promise<ReadonlyMap<Shelf, Reading>> {
  const named = new Map<Shelf, { seqs: Set<number>; origins: Set<number> }>();
  for (const one of found)
    for (const { shelf, sources, quoted } of one instanceof Refusal ? [] : one.parts) {
      const { seqs, origins } = named.get(shelf) ?? { seqs: new Set(), origins: new Set() };
      named.set(shelf, { seqs, origins });
      for (const seq of [...sources.map((source) => source.seq), ...besides(quoted)]) seqs.add(seq);
      for (const { origin } of quoted) origins.add(origin.seq);
    }
  let bytes = 0;
  const out = new Map<Shelf, Reading>();
  const blank = tokensOf((await log.kinds.of(document)).blank().content);
  for (const [shelf, { seqs, origins }] of named) {
    const first = shelf.other?.first ?? 0;
    bytes += await log.bytes(shelf.key, new Set([...seqs].map((seq) => seq + first)));
    if (bytes > BUDGETS.sourceBytes)
      throw new Refusal(
        'edits',
        `name edits of more than ${BUDGETS.sourceBytes} bytes as their sources (sourceBytes)`,
      );
    const own = shelf.other ? null : await log.tokens(shelf.key, seqs, slices);
    out.set(shelf, {
      tokens: shelf.other
        ? await elsewhere.tokens(shelf.other, seqs)
        : (seq) => own?.get(seq) ?? (seq === 0 ? blank : []),
      writers: shelf.other ? await elsewhere.writers(shelf.other, origins) : new Map(),
    });
  }
  return out;
}

const none = (): readonly Token[] => [];

async function refusing<T>(act: () => Promise<T>): Promise<T | Refusal> {
  try {
    return await act();
  } catch (error) {
    if (error instanceof Refusal) return error;
    throw error;
  }
}

/** The seqs of the client's own edits that sources name by counter. */
async function countersOf(wanted: readonly Wanted[], known: Known): Promise<ReadonlyMap<number, number>> {
  const seqs = new Map<number, number>();
  const unknown = new Set<number>();
  for (const { sources } of wanted)
    for (const ref of sources) {
      if (!('counter' in ref)) continue;
      const seq = known.counter(ref.counter);
      if (seq === undefined) unknown.add(ref.counter);
      else seqs.set(ref.counter, seq);
    }
  if (unknown.size > 0)
    for (const { counter, seq } of await known.log.byCounter(known.document, known.client, [...unknown]))
      seqs.set(counter, seq);
  return seqs;
}

function* resolved(
  edit: Wanted,
  before: readonly Wanted[],
  shelves: ReadonlyMap<string | null, Shelf>,
  counters: ReadonlyMap<number, number>,
): Work<Found> {
  const here = shelves.get(null) as Shelf;
  if (edit.cause.kind === 'carry' && edit.cause.moment > here.seq)
    throw new Refusal('cause/moment', 'is a moment that has not been yet');
  const own = new Set(before.map(({ counter }) => counter));
  if (edit.sources.some((ref) => 'counter' in ref && own.has(ref.counter))) return { edit, parts: [] };
  const byShelf = new Map<Shelf, Source[]>();
  for (const [i, ref] of edit.sources.entries()) {
    const id = 'document' in ref ? ref.document : undefined;
    const shelf = shelves.get(id ?? null);
    if (!shelf) throw new Refusal(`sources/${i}/document`, 'is no document that you may read');
    const sources = byShelf.get(shelf) ?? [];
    byShelf.set(shelf, sources);
    sources.push(...sourcesOf(ref, i, shelf, counters));
    yield;
  }
  const lengths = insertedLengths(edit.steps);
  const parts: FoundThere[] = [];
  for (const [shelf, sources] of byShelf) {
    if (sources.some((source) => source.at + source.length > (lengths[source.step] ?? 0)))
      throw new Refusal('sources', 'reach beyond what the step inserts');
    parts.push({ shelf, sources, quoted: yield* quotedFrom(sources, shelf.runs) });
  }
  return { edit, parts };
}

function sourcesOf(
  ref: SourceRef,
  index: number,
  { seq, runs, moments }: Shelf,
  counters: ReadonlyMap<number, number>,
): Source[] {
  const { step, at, length } = ref;
  if ('seq' in ref) return [{ step, at, length, seq: ref.seq, offset: ref.offset }];
  if ('counter' in ref) {
    const named = counters.get(ref.counter);
    return named === undefined ? [] : [{ step, at, length, seq: named, offset: ref.offset }];
  }
  if (ref.moment > seq) throw new Refusal(`sources/${index}/moment`, 'is a moment that has not been yet');
  const placed = moments.get(ref.moment) ?? runs.at(ref.moment);
  moments.set(ref.moment, placed);
  if (moments.size > BUDGETS.messageMoments)
    throw new Refusal(
      `sources/${index}/moment`,
      `is one of more than ${BUDGETS.messageMoments} moments named at once (messageMoments)`,
    );
  return placed.between(ref.position, ref.position + length).map((run) => ({
    step,
    at: at + run.from - ref.position,
    length: run.length,
    seq: run.seq,
    offset: run.offset,
  }));
}
