import { originsOf } from './origins.js';
import type { AtomPart } from './origins.js';
import type { Tape } from './tape.js';

/** What became of a stretch of an earlier moment, and where in the present document it stands, or would stand. */
export interface Whereabouts {
  /** Whether all its text stands in the present document, where it was or elsewhere; some of it where it was; or neither. */
  readonly kind: 'stands' | 'changed' | 'gone';
  /** Where that text stands now; for what is gone, the place between its old neighbours, `from` and `to` alike. */
  readonly from: number;
  readonly to: number;
}

/**
 * Where the content of positions `from` to `to` of a moment is now. A stretch without text is told by its boundaries.
 * Linear in the tape.
 */
export function whereaboutsOf(tape: Tape, moment: number, from: number, to: number): Whereabouts {
  const parts = partsOf(tape, moment, from, to);
  const texts = parts.filter(({ atom }) => tape.isText(atom));
  const counted = texts.length > 0 ? texts : parts;
  const places = placesNow(tape);
  const standing = counted.filter(({ atom }) => tape.aliveAt(atom, tape.now));
  const origins = originsOf(tape);
  const elsewhere: AtomPart[] = [];
  let missing = 0;
  for (const part of counted) {
    if (tape.aliveAt(part.atom, tape.now)) continue;
    const others = origins.others(part).filter(({ atom }) => tape.aliveAt(atom, tape.now));
    elsewhere.push(...others);
    missing += part.to - part.from - covered(tape, part, others);
  }
  const hull = (found: readonly AtomPart[]): { from: number; to: number } => ({
    from: Math.min(...found.map((part) => (places[part.atom] as number) + part.from)),
    to: Math.max(...found.map((part) => (places[part.atom] as number) + part.to)),
  });
  if (standing.length > 0) return { kind: missing === 0 ? 'stands' : 'changed', ...hull(standing) };
  if (missing === 0 && elsewhere.length > 0) return { kind: 'stands', ...hull(elsewhere) };
  const gap = gapAt(tape, places, counted[0]?.atom ?? tape.at(from, moment).atom);
  return { kind: 'gone', from: gap, to: gap };
}

/** The stretches of atoms that filled positions `from` to `to` of a moment. */
function partsOf(tape: Tape, moment: number, from: number, to: number): AtomPart[] {
  const out: AtomPart[] = [];
  let { atom, inside } = tape.at(from, moment);
  for (let left = to - from; left > 0 && atom >= 0 && atom < tape.size;) {
    const length = Math.min(left, tape.length(atom) - inside);
    out.push({ atom, from: inside, to: inside + length });
    left -= length;
    inside = 0;
    atom = tape.neighbour(atom, 1, moment);
  }
  return out;
}

/** For each atom the present position of its first instance, or, when it is gone, where it would stand. */
function placesNow(tape: Tape): Int32Array {
  const places = new Int32Array(tape.size + 1);
  for (let atom = 0; atom < tape.size; atom++)
    places[atom + 1] = (places[atom] as number) + (tape.aliveAt(atom, tape.now) ? tape.length(atom) : 0);
  return places;
}

function gapAt(tape: Tape, places: Int32Array, atom: number): number {
  return places[Math.min(Math.max(0, atom), tape.size)] as number;
}

/** How much of a part some other stretches with the same content hold together. */
function covered(tape: Tape, part: AtomPart, others: readonly AtomPart[]): number {
  const start = tape.originOffset(part.atom);
  let [sum, at] = [0, part.from];
  const spans = others.map((other) => {
    const from = tape.originOffset(other.atom) + other.from - start;
    return { from, to: from + other.to - other.from };
  });
  for (const span of spans.sort((a, b) => a.from - b.from)) {
    sum += Math.max(0, Math.min(span.to, part.to) - Math.max(at, span.from));
    at = Math.max(at, span.to);
  }
  return sum;
}
