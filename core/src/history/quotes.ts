import type { Step } from 'prosemirror-transform';
import type { Token, Work } from '../content/index.js';
import { finished, isWord, segments, tokensIn } from '../content/index.js';
import type { Edit, Instance, Source } from './edit.js';
import { insertedLengths, runsAfter } from './provenance.js';
import type { RunSequence } from './runs.js';
import type { RunSpot } from './run-index.js';
import { RunIndex } from './run-index.js';

/**
 * A source that is one run of what it names, with what is needed to tell whether its credit stands: whether a word begins
 * where it begins and ends where it ends, as it last stood, and whether it stood right behind the quote before it.
 */
export interface Quote extends Source {
  readonly begins: boolean;
  readonly ends: boolean;
  readonly follows: boolean;
}

/** A run of a source, where it was first written, and the instances beside it. */
export interface Quoted {
  readonly source: Source;
  readonly origin: Instance;
  readonly before: Instance | null | undefined;
  readonly behind: Instance | null | undefined;
  readonly follows: boolean;
}

/** Cuts sources at the runs of the sequence that they name, and finds what stood beside each part when it last stood. Rests. */
export function* quotedFrom(sources: readonly Source[], sequence: RunSequence): Work<Quoted[]> {
  if (sources.length === 0) return [];
  const stands = new RunIndex(sequence);
  stands.know(sources.map(({ seq }) => seq));
  const out: Quoted[] = [];
  let last: { readonly source: Source; readonly spot: RunSpot } | null = null;
  for (const source of sources) {
    for (let done = 0; done < source.length;) {
      const first = stands.find({ seq: source.seq, offset: source.offset + done });
      if (!first) break;
      const length = Math.min(source.length - done, stands.length(first.run) - first.inside);
      const end = { run: first.run, inside: first.inside + length - 1 };
      const part = { ...source, at: source.at + done, offset: source.offset + done, length };
      out.push({
        source: part,
        origin: stands.origin(first),
        before: stands.beside(first, -1),
        behind: stands.beside(end, 1),
        follows:
          last !== null &&
          last.source.step === part.step &&
          last.source.at + last.source.length === part.at &&
          stands.together(last.spot, first),
      });
      last = { source: part, spot: end };
      done += length;
    }
    yield;
  }
  return out;
}

/** The edits whose tokens `quotesOf` asks for, beside those that the sources name themselves. */
export function besides(quoted: readonly Quoted[]): number[] {
  return quoted.flatMap(({ before, behind }) => [
    ...(before ? [before.seq] : []),
    ...(behind ? [behind.seq] : []),
  ]);
}

/** The quotes among an edit's sources; `tokens` gives what an edit of the document they are of once inserted. Rests. */
export function* quotesOf(
  quoted: readonly Quoted[],
  tokens: (seq: number) => readonly Token[],
): Work<Quote[]> {
  const at = ({ seq, offset }: Instance): Token | undefined => tokens(seq)[offset];
  const out: Quote[] = [];
  for (const { source, before, behind, follows } of quoted) {
    const first = at(source);
    const last = at({ seq: source.seq, offset: source.offset + source.length - 1 });
    out.push({
      ...source,
      begins: before === null || (before !== undefined && isEdge(at(before), first)),
      ends: behind === null || (behind !== undefined && isEdge(last, at(behind))),
      follows,
    });
    yield;
  }
  return out;
}

/** A stretch of what stands after an edit, cut where quotes begin and end. */
interface Stretch {
  /** The run it is in. */
  readonly run: number;
  /** Of what the edit brought: where it is within all that the edit inserts. */
  readonly from: number;
  readonly to: number;
  readonly quote: Quote | null;
  /** Whether a word begins where it begins, and ends where it ends, as it was quoted. */
  readonly begins: boolean;
  readonly ends: boolean;
  /** Its first and last instance, as quoted; null for what is quoted from another document, or new. */
  readonly first: Instance | null;
  readonly last: Instance | null;
}

/** Quotes in order that stood together, and whether they are back where they stood, beside what they stood beside. */
interface Piece {
  readonly parts: Stretch[];
  attached: boolean;
}

/**
 * The sources of an edit whose credit stands, on top of the sequence as it was before. What is quoted keeps its writer where it
 * is back at its place, beside what it stood beside, and otherwise as far as it is whole words: letters of somebody's, picked
 * one by one, are whoever's who picked them. Rests now and then.
 */
export function* earnedSources(
  seq: number,
  steps: readonly Step[],
  quotes: readonly Quote[],
  sequence: RunSequence,
): Work<Source[]> {
  if (quotes.length === 0) return [];
  const stands = new RunIndex(yield* runsAfter(sequence, { seq, steps, sources: quotes }));
  yield;
  stands.know([seq, ...quotes.flatMap((quote) => (quote.of ? [] : [quote.seq]))]);
  const starts = startsOf(steps);
  const placed = quotes
    .map((quote) => ({ quote, from: (starts[quote.step] ?? 0) + quote.at }))
    .sort((a, b) => a.from - b.from);
  const pieces = yield* piecesOf(yield* stretchesOf(stands, seq, placed), stands);
  const tokens = yield* tokensIn(steps);
  const earned: Source[] = [];
  for (const { parts, attached } of pieces) {
    for (const { from, to, quote } of attached ? parts : wholeWords(parts, tokens)) {
      const { step, at, offset, of, seq: named } = quote as Quote;
      const start = from - (starts[step] ?? 0);
      const source = { step, at: start, seq: named, offset: offset + start - at, length: to - from };
      earned.push(of ? { ...source, of } : source);
    }
    yield;
  }
  return byWriter(earned.sort((a, b) => a.step - b.step || a.at - b.at));
}

/** Of an edit's sources within its document those whose credit stands, all at once; `tokens` gives what an edit once inserted. */
export function earnedFrom(
  { seq, steps, sources }: Pick<Edit, 'seq' | 'steps' | 'sources'>,
  sequence: RunSequence,
  tokens: (seq: number) => readonly Token[],
): Source[] {
  const quotes = finished(quotesOf(finished(quotedFrom(sources, sequence)), tokens));
  return finished(earnedSources(seq, steps, quotes, sequence));
}

/** Sources in order, what one person wrote in another document as one: only where it begins there is told. */
function byWriter(sources: readonly Source[]): Source[] {
  const out: Source[] = [];
  for (const source of sources) {
    const last = out.at(-1);
    const goesOn =
      last?.of &&
      source.of &&
      last.step === source.step &&
      last.at + last.length === source.at &&
      last.of.document === source.of.document &&
      last.of.writer === source.of.writer;
    if (goesOn) out[out.length - 1] = { ...last, length: last.length + source.length };
    else out.push(source);
  }
  return out;
}

/** How many tokens the steps before each insert. */
function startsOf(steps: readonly Step[]): number[] {
  let sum = 0;
  return insertedLengths(steps).map((length) => (sum += length) - length);
}

/** A quote, and where it begins within all that its edit inserts. */
interface Placed {
  readonly quote: Quote;
  readonly from: number;
}

/** The first of some quotes in order that ends behind a place. Binary search. */
function firstBehind(placed: readonly Placed[], at: number): number {
  let [low, high] = [0, placed.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    const { quote, from } = placed[middle] as Placed;
    if (from + quote.length <= at) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** What the edit brought that stands, in order, each stretch with its neighbours. */
function* stretchesOf(stands: RunIndex, seq: number, placed: readonly Placed[]): Work<Stretch[]> {
  const out: Stretch[] = [];
  for (let run = 0; run < stands.size; run++) {
    if (!stands.isAlive(run)) continue;
    yield;
    const length = stands.length(run);
    const [first, last] = [stands.instance({ run, inside: 0 }), stands.instance({ run, inside: length - 1 })];
    if (stands.seq(run) !== seq) {
      out.push({ run, from: 0, to: length, quote: null, begins: false, ends: false, first, last });
      continue;
    }
    let at = first.offset;
    const added = (to: number): void => {
      if (to > at)
        out.push({ run, from: at, to, quote: null, begins: false, ends: false, first: null, last: null });
      at = Math.max(at, to);
    };
    for (let i = firstBehind(placed, at); i < placed.length; i++) {
      const { quote, from } = placed[i] as Placed;
      if (from > last.offset) break;
      const [start, end] = [Math.max(from, at), Math.min(from + quote.length, last.offset + 1)];
      if (start >= end) continue;
      added(start);
      const named = (offset: number): Instance | null =>
        quote.of ? null : { seq: quote.seq, offset: quote.offset + offset - from };
      const begins = quote.begins && start === from;
      const ends = quote.ends && end === from + quote.length;
      out.push({ run, from: start, to: end, quote, begins, ends, first: named(start), last: named(end - 1) });
      at = end;
    }
    added(last.offset + 1);
  }
  return out;
}

/** The quotes among some stretches, those together that stood together. */
function* piecesOf(stretches: readonly Stretch[], stands: RunIndex): Work<Piece[]> {
  const pairs = stretches.slice(1).map((next, i) => [stretches[i] as Stretch, next] as const);
  const near = pairs.filter(([one, next]) => one.quote !== null || next.quote !== null);
  const instances = near.flatMap(([one, next]) => [one.last, next.first].filter((edge) => edge !== null));
  stands.know(instances.map(({ seq }) => seq));
  stands.know(instances.flatMap((instance) => rootOf(instance, stands)?.seq ?? []));
  const out: Piece[] = [];
  let piece: Piece | null = null;
  let before: Stretch | null = null;
  for (const stretch of stretches) {
    const joined =
      before !== null && (before.quote ?? stretch.quote) !== null && stood(before, stretch, stands);
    if (!stretch.quote) {
      if (piece && before && joined) piece.attached ||= isBack(before, before.last, stands);
      piece = null;
    } else if (piece && joined) piece.parts.push(stretch);
    else out.push((piece = { parts: [stretch], attached: joined && isBack(stretch, stretch.first, stands) }));
    before = stretch;
    yield;
  }
  return out;
}

/** Whether the end of one stretch and the beginning of the next stood side by side, where they were quoted from or first written. */
function stood(one: Stretch, next: Stretch, stands: RunIndex): boolean {
  const [a, b] = [one.quote, next.quote];
  if (a && b && b.follows && a.step === b.step && a.at + a.length === b.at && one.to === next.from)
    return true;
  if (!one.last || !next.first) return false;
  const together = (x: Instance | null, y: Instance | null): boolean => {
    const [from, to] = [x && stands.find(x), y && stands.find(y)];
    return from !== null && to !== null && stands.together(from, to);
  };
  return together(one.last, next.first) || together(rootOf(one.last, stands), rootOf(next.first, stands));
}

/** Whether a quote stands where its instance did before it departed. */
function isBack({ run }: Stretch, instance: Instance | null, stands: RunIndex): boolean {
  const gone = instance && stands.find(instance);
  return gone !== null && stands.isPlaceOf(gone, run);
}

function rootOf(instance: Instance, stands: RunIndex): Instance | null {
  const spot = stands.find(instance);
  return spot && stands.origin(spot);
}

/** Of a piece that stands apart from what it stood beside, what is whole words or no text. */
function wholeWords(parts: readonly Stretch[], tokens: readonly Token[]): Stretch[] {
  const at = parts.flatMap(({ from, to }) => Array.from({ length: to - from }, (_, i) => from + i));
  const text = at.map((place) => letterOf(tokens[place])).join('');
  const ends: number[] = [];
  let end = 0;
  for (const segment of segments(text)) ends.push((end += segment.length));
  const [first, last] = [parts[0] as Stretch, parts.at(-1) as Stretch];
  const low = first.begins || !isWord(text.slice(0, ends[0])) ? 0 : (ends[0] ?? 0);
  const tail = ends.at(-2) ?? 0;
  const high = last.ends || !isWord(text.slice(tail)) ? text.length : tail;
  let seen = 0;
  return parts.flatMap((part) => {
    const [start, stop] = [Math.max(low - seen, 0), Math.min(high - seen, part.to - part.from)];
    seen += part.to - part.from;
    return start < stop ? [{ ...part, from: part.from + start, to: part.from + stop }] : [];
  });
}

/** A token as a letter of a text; what is no letter stands apart from any. */
function letterOf(token: Token | undefined): string {
  return token?.kind === 'unit' ? token.unit : '\n';
}

const SURROGATE = /[\ud800-\udfff]/;
const LETTERS = /^[A-Za-z]{2}$/;

/** Whether no word goes on from one token to the next. Halves of a sign are taken for letters. */
function isEdge(one: Token | undefined, next: Token | undefined): boolean {
  if (!one || !next) return false;
  const [a, b] = [letterOf(one), letterOf(next)];
  if (LETTERS.test(a + b)) return false;
  const inWord = (unit: string): boolean => SURROGATE.test(unit) || isWord(unit);
  if (SURROGATE.test(a) || SURROGATE.test(b)) return !inWord(a) || !inWord(b);
  return segments(a + b).length > 1 || !isWord(a + b);
}
