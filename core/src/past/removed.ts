import { countWords } from '../content/index.js';
import type { InstanceRange } from '../history/index.js';
import type { AtomPart } from './origins.js';
import { originsOf } from './origins.js';
import type { Makers, Tape } from './tape.js';

/** Something that left the document and is nowhere in it now. */
export interface RemovedPassage {
  /** Its text as it last stood whole; blocks on lines of their own. */
  readonly text: string;
  readonly words: number;
  /** Who took it out: the edits of the first and the last piece that went. */
  readonly by: string;
  readonly first: number;
  readonly last: number;
  /** The last moment at which all of it stood, and the stretch of the document it filled then. */
  readonly moment: number;
  readonly from: number;
  readonly to: number;
  /** The position in the present document where it would stand. */
  readonly place: number;
  /** Who first wrote it, most of it first. */
  readonly writers: readonly string[];
  /** Its instances. */
  readonly ranges: readonly InstanceRange[];
}

/** Milliseconds within which pieces that one person took out count as one passage. */
export const TOGETHER = 30 * 60_000;
/** Fewest words of a passage that is listed. */
export const FEW = 4;

/** A piece of text that is gone, with its death. */
interface Piece extends AtomPart {
  readonly died: number;
}

/**
 * Everything of at least `words` words that has left the document for good, newest first. What only moved, came back, or
 * stands in the document word for word is not listed. Pieces that stood side by side and that one person took out within
 * half an hour are one passage. Linear but for the walk from each piece to its neighbours.
 */
export function removedPassages(
  tape: Tape,
  makers: Makers,
  present: string,
  words: number = FEW,
): RemovedPassage[] {
  const gone = gonePieces(tape);
  const byAtom = new Map<number, Piece[]>();
  for (const piece of gone) byAtom.set(piece.atom, [...(byAtom.get(piece.atom) ?? []), piece]);
  const taken = new Set<Piece>();
  const out: RemovedPassage[] = [];
  for (const seed of [...gone].sort((a, b) => a.died - b.died || a.atom - b.atom || a.from - b.from)) {
    if (taken.has(seed)) continue;
    const pieces = gather(tape, makers, byAtom, taken, seed);
    for (const piece of pieces) if (piece !== null) taken.add(piece);
    const text = pieces
      .map((piece) => (piece ? tape.text(piece.atom).slice(piece.from, piece.to) : '\n'))
      .join('');
    const count = countWords(text);
    if (count < words || present.includes(text.trim())) continue;
    out.push(told(tape, makers, pieces, text, count, seed.died));
  }
  return out.sort((a, b) => b.last - a.last || a.from - b.from);
}

/** Pieces whose content no longer stands anywhere, each at the place it was last. */
function gonePieces(tape: Tape): Piece[] {
  const origins = originsOf(tape);
  const out: Piece[] = [];
  for (let atom = 0; atom < tape.size; atom++) {
    const died = tape.died(atom);
    if (died === 0 || !tape.isText(atom)) continue;
    const later = (other: number): boolean => {
      const end = tape.died(other);
      return end === 0 || end > died || (end === died && other > atom);
    };
    for (const part of origins.without(atom, later)) out.push({ ...part, died });
  }
  return out;
}

/** The pieces that stood beside a first one when it went, and went with it; null stands for the boundaries between blocks. */
function gather(
  tape: Tape,
  makers: Makers,
  byAtom: ReadonlyMap<number, readonly Piece[]>,
  taken: ReadonlySet<Piece>,
  seed: Piece,
): (Piece | null)[] {
  const moment = seed.died - 1;
  const { author, at } = makers(seed.died);
  const joins = (piece: Piece): boolean => {
    if (taken.has(piece)) return false;
    const death = makers(piece.died);
    return death.author === author && death.at - at <= TOGETHER;
  };
  const walk = (direction: 1 | -1): (Piece | null)[] => {
    const found: (Piece | null)[] = [];
    let boundary = false;
    let edge = direction === 1 ? seed.to : seed.from;
    for (let atom = seed.atom; atom >= 0; atom = tape.neighbour(atom, direction, moment)) {
      if (!tape.isText(atom)) {
        boundary = true;
        continue;
      }
      if (atom !== seed.atom) edge = direction === 1 ? 0 : tape.length(atom);
      const pieces = [...(byAtom.get(atom) ?? [])].sort((a, b) => direction * (a.from - b.from));
      for (const piece of pieces) {
        const near = direction === 1 ? piece.from : piece.to;
        if (near !== edge || !joins(piece)) continue;
        if (boundary) found.push(null);
        boundary = false;
        found.push(piece);
        edge = direction === 1 ? piece.to : piece.from;
      }
      if (edge !== (direction === 1 ? tape.length(atom) : 0)) break;
    }
    return found;
  };
  return [...walk(-1).reverse(), seed, ...walk(1)];
}

function told(
  tape: Tape,
  makers: Makers,
  pieces: readonly (Piece | null)[],
  text: string,
  words: number,
  first: number,
): RemovedPassage {
  const parts = pieces.filter((piece) => piece !== null);
  const [start, end] = [parts[0] as Piece, parts.at(-1) as Piece];
  const writers = new Map<string, number>();
  for (const { atom, from, to } of parts) {
    const { author } = makers(tape.origin(atom));
    writers.set(author, (writers.get(author) ?? 0) + to - from);
  }
  return {
    text,
    words,
    by: makers(first).author,
    first,
    last: Math.max(...parts.map(({ died }) => died)),
    moment: first - 1,
    from: tape.position(start.atom, first - 1) + start.from,
    to: tape.position(end.atom, first - 1) + end.to,
    place: tape.position(start.atom, tape.now),
    writers: [...writers].sort((a, b) => b[1] - a[1]).map(([author]) => author),
    ranges: parts.map(({ atom, from, to }) => ({
      seq: tape.born(atom),
      offset: tape.offset(atom) + from,
      length: to - from,
    })),
  };
}
