import { BUDGETS } from '@oxbow/contract';
import type { SourceRef } from '@oxbow/contract';
import { blankDocument, tokensOf } from '@oxbow/core/content';
import { Refusal, checkSources, insertedLengths } from '@oxbow/core/history';
import type { PlacedRuns, Proposal, RunSequence, Source } from '@oxbow/core/history';
import type { Log } from '../store/log.js';
import type { Slices } from '../threads/slices.js';
import type { Wanted } from './batch.js';

/** A document that sources are looked up in, and what is known of the writer's own edits by counter. */
export interface Known {
  readonly document: number;
  readonly client: string;
  readonly seq: number;
  readonly runs: RunSequence;
  readonly log: Log;
  /** The seq of one of the client's accepted edits, if it is at hand. */
  readonly counter: (counter: number) => number | undefined;
}

/** An edit's sources as instances, not yet held against what stands there. */
interface Found {
  readonly edit: Wanted;
  readonly sources: readonly Source[];
}

/**
 * Finds the instances that the sources of a batch name and checks them token by token. Answers a proposal for each edit, or
 * why it is not taken. What is needed of the log is read once for all of them.
 */
export async function proposalsOf(
  wanted: readonly Wanted[],
  known: Known,
  slices: Slices,
): Promise<(Proposal | Refusal)[]> {
  const counters = await countersOf(wanted, known);
  const moments = new Map<number, PlacedRuns>();
  const found: (Found | Refusal)[] = [];
  for (const [i, edit] of wanted.entries()) {
    found.push(refusing(() => resolved(edit, wanted.slice(0, i), known, counters, moments)));
    await slices.rest();
  }
  const seqs = new Set(
    found.flatMap((one) => (one instanceof Refusal ? [] : one.sources.map(({ seq }) => seq))),
  );
  if (seqs.size === 0) return found.map((one) => (one instanceof Refusal ? one : plain(one.edit)));
  if ((await known.log.bytes(known.document, seqs)) > BUDGETS.sourceBytes)
    throw new Refusal(
      'edits',
      `name edits of more than ${BUDGETS.sourceBytes} bytes as their sources (sourceBytes)`,
    );
  const tokens = await known.log.tokens(known.document, seqs, slices);
  const blank = seqs.has(0) ? tokensOf(blankDocument().content) : [];
  return found.map((one) =>
    one instanceof Refusal
      ? one
      : refusing(() => {
          const proposal = { steps: one.edit.steps, sources: one.sources };
          checkSources(proposal, (seq) => tokens.get(seq) ?? (seq === 0 ? blank : []));
          return proposal;
        }),
  );
}

function plain({ steps }: Wanted): Proposal {
  return { steps, sources: [] };
}

function refusing<T>(act: () => T): T | Refusal {
  try {
    return act();
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

function resolved(
  edit: Wanted,
  before: readonly Wanted[],
  known: Known,
  counters: ReadonlyMap<number, number>,
  moments: Map<number, PlacedRuns>,
): Found {
  if (edit.cause.kind === 'carry' && edit.cause.moment > known.seq)
    throw new Refusal('cause/moment', 'is a moment that has not been yet');
  if (edit.sources.length === 0) return { edit, sources: [] };
  const own = new Set(before.map(({ counter }) => counter));
  if (edit.sources.some((ref) => 'counter' in ref && own.has(ref.counter))) return { edit, sources: [] };
  const sources = edit.sources.flatMap((ref, i) => sourcesOf(ref, i, known, counters, moments));
  const lengths = insertedLengths(edit.steps);
  if (sources.some((source) => source.at + source.length > (lengths[source.step] ?? 0)))
    throw new Refusal('sources', 'reach beyond what the step inserts');
  return { edit, sources };
}

function sourcesOf(
  ref: SourceRef,
  index: number,
  { seq, runs }: Known,
  counters: ReadonlyMap<number, number>,
  moments: Map<number, PlacedRuns>,
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
