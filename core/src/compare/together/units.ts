import type { Node } from 'prosemirror-model';
import { alignBlocks } from '../align.js';
import type { Outlook } from '../align.js';
import { keyedPairs } from '../keyed.js';
import { movedAmong } from '../loose.js';
import type { BlockMatch } from '../seams.js';
import { single, withSeams } from '../seams.js';

/** From where up to where. */
export type Range = readonly [from: number, to: number];

/** Children of the base that are one thing for all: mostly one, more where a side joined them. */
export interface Unit {
  readonly key: number;
  /** Which children of each version it is, the base's first; null where that has it not. */
  readonly ranges: (Range | null)[];
  /** The versions that moved it. */
  readonly moved: Set<number>;
  /** For what a version has of another unit at a place of its own: that one. */
  readonly of: Unit | null;
}

/** Units of the base, and what versions have of them at places of their own. */
export interface Units {
  readonly whole: readonly Unit[];
  readonly strays: readonly Unit[];
}

/** Finds what answers to what in each version, and joins what any of them joined. `rows` are children of a node, the base's first. */
export function unitsOf(rows: readonly (readonly Node[])[], outlook: Outlook, moves: boolean): Units {
  const [base = [], ...sides] = rows;
  const found = sides.map((side) => {
    const named = keyedPairs(base, side)?.map(single);
    const matches = named ?? withSeams(alignBlocks(base, side, outlook), base, side, outlook.lexicon);
    return { matches, moved: moves ? movedAmong(base, side, matches, outlook.lexicon) : [] };
  });
  const goesOn = new Array<boolean>(base.length).fill(false);
  for (const { matches, moved } of found)
    for (const { a, aEnd } of [...matches, ...moved]) for (let i = a; i < aEnd - 1; i++) goesOn[i] = true;
  const whole: Unit[] = [];
  const at = base.map((_, i) => {
    const last = whole.at(-1);
    if (last && goesOn[i - 1]) last.ranges[0] = [last.ranges[0]?.[0] ?? i, i + 1];
    else {
      const ranges = rows.map((_, version): Range | null => (version === 0 ? [i, i + 1] : null));
      whole.push({ key: whole.length, ranges, moved: new Set(), of: null });
    }
    return whole.length - 1;
  });
  const strays: Unit[] = [];
  const stray = (of: Unit, version: number, range: Range): void => {
    const ranges = rows.map((_, i) => (i === 0 ? (of.ranges[0] ?? null) : i === version ? range : null));
    strays.push({ key: whole.length + strays.length, ranges, moved: new Set([version]), of });
  };
  found.forEach(({ matches, moved }, side) => {
    const version = side + 1;
    const places = new Map<Unit, Place[]>();
    const note = ({ a, b, bEnd }: BlockMatch, isMoved: boolean): void => {
      const unit = whole[at[a] as number] as Unit;
      places.set(unit, [...(places.get(unit) ?? []), { first: a, from: b, to: bEnd, isMoved }]);
    };
    for (const match of matches) note(match, false);
    for (const match of moved) note(match, true);
    const owned = new Set([...places.values()].flatMap((own) => own.map(({ from }) => from)));
    for (const [unit, own] of places) {
      const apart = joined(own, (from, to) => {
        for (let i = from; i < to; i++) if (owned.has(i)) return true;
        return false;
      });
      const main = apart.find(({ isMoved }) => !isMoved) ?? (apart[0] as Place);
      unit.ranges[version] = [main.from, main.to];
      if (main.isMoved) unit.moved.add(version);
      for (const place of apart) if (place !== main) stray(unit, version, [place.from, place.to]);
    }
  });
  for (const { of } of [...strays])
    for (const version of of?.moved ?? []) {
      stray(of as Unit, version, of?.ranges[version] as Range);
      (of as Unit).ranges[version] = null;
      of?.moved.delete(version);
    }
  return { whole, strays };
}

/** Where a version has a part of a unit. */
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
