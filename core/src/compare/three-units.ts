import type { Node } from 'prosemirror-model';
import { alignBlocks } from './align.js';
import type { Outlook } from './align.js';
import { movedAmong } from './loose.js';
import type { BlockMatch } from './seams.js';
import { withSeams } from './seams.js';

/** One of three documents that are brought together. */
export type Version = 'base' | 'ours' | 'theirs';

/** Children of the base that are one thing for both sides: mostly one, more where a side joined them. */
export interface Unit {
  readonly key: number;
  /** Which children of each version it is; null where that has it not. */
  readonly base: Range;
  ours: Range | null;
  theirs: Range | null;
  /** Which sides moved it. */
  readonly moved: Set<Side>;
  /** For what a side has of another unit at a place of its own: that one. */
  readonly of: Unit | null;
}

export type Range = readonly [from: number, to: number];
export type Side = 'ours' | 'theirs';

/** Units of the base, and what either side has of them at places of its own. */
export interface Units {
  readonly whole: readonly Unit[];
  readonly strays: readonly Unit[];
}

/** Finds what answers to what on either side, and joins what either of them joined. */
export function unitsOf(
  rows: Readonly<Record<Version, readonly Node[]>>,
  outlook: Outlook,
  moves: boolean,
): Units {
  const sides = (['ours', 'theirs'] as const).map((side) => {
    const pairs = alignBlocks(rows.base, rows[side], outlook);
    const matches = withSeams(pairs, rows.base, rows[side], outlook.lexicon);
    const moved = moves ? movedAmong(rows.base, rows[side], matches, outlook.lexicon) : [];
    return { side, matches, moved };
  });
  const goesOn = new Array<boolean>(rows.base.length).fill(false);
  for (const { matches, moved } of sides)
    for (const { a, aEnd } of [...matches, ...moved]) for (let i = a; i < aEnd - 1; i++) goesOn[i] = true;
  const whole: Unit[] = [];
  const at = rows.base.map((_, i) => {
    const last = whole.at(-1);
    if (last && goesOn[i - 1]) (last as { base: Range }).base = [last.base[0], i + 1];
    else
      whole.push({
        key: whole.length,
        base: [i, i + 1],
        ours: null,
        theirs: null,
        moved: new Set(),
        of: null,
      });
    return whole.length - 1;
  });
  const strays: Unit[] = [];
  const stray = (of: Unit, side: Side, range: Range): void => {
    const key = whole.length + strays.length;
    strays.push({ ...of, key, ours: null, theirs: null, [side]: range, moved: new Set([side]), of });
  };
  for (const { side, matches, moved } of sides) {
    const found = new Map<Unit, Place[]>();
    const note = ({ a, b, bEnd }: BlockMatch, isMoved: boolean): void => {
      const unit = whole[at[a] as number] as Unit;
      found.set(unit, [...(found.get(unit) ?? []), { first: a, from: b, to: bEnd, isMoved }]);
    };
    for (const match of matches) note(match, false);
    for (const match of moved) note(match, true);
    const owner = new Map([...found].flatMap(([unit, places]) => places.map(({ from }) => [from, unit])));
    for (const [unit, places] of found) {
      const apart = joined(places, (from, to) => {
        for (let i = from; i < to; i++) if (owner.has(i)) return true;
        return false;
      });
      const main = apart.find(({ isMoved }) => !isMoved) ?? (apart[0] as Place);
      unit[side] = [main.from, main.to];
      if (main.isMoved) unit.moved.add(side);
      for (const place of apart) if (place !== main) stray(unit, side, [place.from, place.to]);
    }
  }
  for (const { of } of [...strays])
    for (const side of of?.moved ?? []) {
      stray(of as Unit, side, of?.[side] as Range);
      (of as Unit)[side] = null;
      of?.moved.delete(side);
    }
  return { whole, strays };
}

/** Where a side has a part of a unit. */
interface Place {
  /** The first child of the base that it is. */
  readonly first: number;
  readonly from: number;
  readonly to: number;
  readonly isMoved: boolean;
}

/** Places in order, those as one that stand as in the base with nothing of another unit between. */
function joined(places: readonly Place[], isBetween: (from: number, to: number) => boolean): Place[] {
  const out: Place[] = [];
  for (const place of [...places].sort((x, y) => x.from - y.from)) {
    const last = out.at(-1);
    if (!last || last.first > place.first || isBetween(last.to, place.from)) out.push(place);
    else out[out.length - 1] = { ...place, from: last.from, isMoved: last.isMoved && place.isMoved };
  }
  return out;
}
