import type { Tape } from './tape.js';

/** A stretch of an atom. */
export interface AtomPart {
  readonly atom: number;
  readonly from: number;
  readonly to: number;
}

/** The atoms that hold something of one root edit, by place in it, each with the furthest end of those up to it. */
interface Group {
  readonly atoms: readonly number[];
  readonly reach: readonly number[];
}

/** Finds, for what an atom holds, every instance of the same content: what came back, moved or was copied. */
export class Origins {
  /** By root edit: what holds something of it, where some of it is not in its first place. */
  private readonly groups = new Map<number, Group>();

  constructor(private readonly tape: Tape) {
    const returned = new Set<number>();
    for (let atom = 0; atom < tape.size; atom++)
      if (tape.origin(atom) !== tape.born(atom)) returned.add(tape.origin(atom));
    const members = new Map<number, number[]>();
    for (let atom = 0; atom < tape.size; atom++) {
      const origin = tape.origin(atom);
      if (!returned.has(origin)) continue;
      const group = members.get(origin);
      if (group) group.push(atom);
      else members.set(origin, [atom]);
    }
    for (const [origin, atoms] of members) {
      atoms.sort((a, b) => tape.originOffset(a) - tape.originOffset(b) || a - b);
      let far = 0;
      const reach = atoms.map((atom) => (far = Math.max(far, tape.originOffset(atom) + tape.length(atom))));
      this.groups.set(origin, { atoms, reach });
    }
  }

  /** The other stretches with the same content as part of an atom, cut to what they share with it. */
  others({ atom, from, to }: AtomPart): AtomPart[] {
    const { tape } = this;
    const start = tape.originOffset(atom) + from;
    const end = tape.originOffset(atom) + to;
    const out: AtomPart[] = [];
    const { atoms = [], reach = [] } = this.groups.get(tape.origin(atom)) ?? {};
    let [first, last] = [0, atoms.length];
    while (first < last) {
      const middle = (first + last) >> 1;
      if ((reach[middle] as number) <= start) first = middle + 1;
      else last = middle;
    }
    for (let i = first; i < atoms.length; i++) {
      const other = atoms[i] as number;
      if (tape.originOffset(other) >= end) break;
      if (other === atom) continue;
      const base = tape.originOffset(other);
      const [low, high] = [Math.max(start, base), Math.min(end, base + tape.length(other))];
      if (low < high) out.push({ atom: other, from: low - base, to: high - base });
    }
    return out.sort((a, b) => a.atom - b.atom);
  }

  /** The parts of an atom for which `holds` is true of no other instance of the same content. */
  without(atom: number, holds: (other: number) => boolean): AtomPart[] {
    const whole = { atom, from: 0, to: this.tape.length(atom) };
    const taken = this.others(whole)
      .filter((other) => holds(other.atom))
      .map((other) => {
        const from = this.tape.originOffset(other.atom) + other.from - this.tape.originOffset(atom);
        return { from, to: from + other.to - other.from };
      })
      .sort((a, b) => a.from - b.from);
    const out: AtomPart[] = [];
    let at = 0;
    for (const { from, to } of taken) {
      if (from > at) out.push({ atom, from: at, to: from });
      at = Math.max(at, to);
    }
    if (at < whole.to) out.push({ atom, from: at, to: whole.to });
    return out;
  }
}

const known = new WeakMap<Tape, Origins>();

/** The origins of a tape, gathered once for whoever asks. */
export function originsOf(tape: Tape): Origins {
  const held = known.get(tape) ?? new Origins(tape);
  known.set(tape, held);
  return held;
}
