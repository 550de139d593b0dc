import type { Node } from 'prosemirror-model';
import type { Outlook } from './align.js';
import type { Range, Side, Unit, Units, Version } from './three-units.js';
import { unitsOf } from './three-units.js';

/** A row of children in the order in which the three are brought together; what has one key is one thing. */
export interface Item {
  readonly key: number;
  readonly nodes: readonly Node[];
}

/** Where something stands that both sides moved, each to a place of its own: one of three places to choose from. */
export interface Spot {
  readonly at: Version;
  /** What stands there, in each version. */
  readonly nodes: Readonly<Record<Version, readonly Node[]>>;
  /** What it stands behind, in each version. */
  readonly behind: Readonly<Record<Version, readonly Node[]>>;
  /** Its number among what was moved so; what moved together has one. */
  readonly number: number;
  /** What is decided with it. */
  readonly moved: readonly Node[];
}

/**
 * What one side joined and the other put in several places: it cannot be brought together, and is chosen as a whole. One of the
 * places is that of the item; at the others only one side has something.
 */
export interface Torn {
  /** All of it, in each version. */
  readonly whole: Readonly<Record<Version, readonly Node[]>>;
  /** What stands at this place, in each version. */
  readonly here: Readonly<Record<Version, readonly Node[]>>;
}

/** Three rows of children whose common items stand in one order. */
export interface InOrder extends Readonly<Record<Version, readonly Item[]>> {
  readonly spots: ReadonlyMap<number, Spot>;
  readonly torn: ReadonlyMap<number, Torn>;
}

const START = -1;

/**
 * Puts the children of three nodes in one order. What one side moved stands where it moved it to on all three, so that what the
 * other side did to it is found there; what both moved elsewhere stands in three spots, of which one is chosen later. Children
 * that a side joined are one item. `moves` false for children whose order carries their meaning, as that of cells.
 */
export function inOneOrder(
  rows: Readonly<Record<Version, readonly Node[]>>,
  outlook: Outlook,
  moves: boolean,
): InOrder {
  const order = new Order(rows, unitsOf(rows, outlook, moves));
  const { spots, torn } = order;
  return { base: order.row('base'), ours: order.row('ours'), theirs: order.row('theirs'), spots, torn };
}

function each<T>(of: (version: Version) => T): Record<Version, T> {
  return { base: of('base'), ours: of('ours'), theirs: of('theirs') };
}

/** What stands behind what, and the rows that follow from it. */
class Order {
  readonly spots = new Map<number, Spot>();
  readonly torn = new Map<number, Torn>();
  /** Keys in the order in which all three have them. */
  private readonly keys: number[] = [START];
  private readonly units: ReadonlyMap<number, Unit>;
  /** Units of each version in its own order. */
  private readonly own: Readonly<Record<Version, readonly Unit[]>>;
  /** The keys of what moved, by the versions whose place they stand for. */
  private readonly placed = new Map<Unit, Partial<Record<Version, number>>>();
  private readonly after: Readonly<Record<Version, ReadonlyMap<number, readonly Node[]>>>;

  constructor(
    private readonly rows: Readonly<Record<Version, readonly Node[]>>,
    { whole, strays }: Units,
  ) {
    this.units = new Map(whole.map((unit) => [unit.key, unit]));
    const ordered = (version: Side): Unit[] =>
      [...whole, ...strays]
        .filter((unit) => unit[version] !== null)
        .sort((x, y) => (x[version] as Range)[0] - (y[version] as Range)[0]);
    this.own = { base: whole, ours: ordered('ours'), theirs: ordered('theirs') };
    this.arrange(whole, strays);
    for (const unit of new Set(strays.map(({ of }) => of as Unit)))
      this.tear(
        unit,
        strays.filter((stray) => stray.of === unit),
      );
    const place = new Map(this.keys.map((key, i) => [key, i]));
    this.after = {
      base: new Map(),
      ours: this.additions('ours', place),
      theirs: this.additions('theirs', place),
    };
  }

  /** A row of items: what all three may have, each followed by what only this version has behind it. */
  row(version: Version): Item[] {
    const out: Item[] = [];
    let fresh = -2;
    for (const key of this.keys) {
      const range = this.units.get(key)?.[version];
      if (range) out.push({ key, nodes: this.rows[version].slice(...range) });
      else if (this.spots.has(key) || this.torn.has(key)) out.push({ key, nodes: [] });
      for (const node of this.after[version].get(key) ?? []) out.push({ key: fresh--, nodes: [node] });
    }
    return out;
  }

  /** Puts everything that moved behind what it came to stand behind. */
  private arrange(units: readonly Unit[], strays: readonly Unit[]): void {
    const behind = new Map<number, { key: number; base: number }[]>();
    const split = this.split(units.length + strays.length);
    for (const unit of [...units, ...strays]) {
      if (unit.moved.size === 0 || this.placed.has(unit)) continue;
      this.placed.set(unit, Object.fromEntries([...unit.moved].map((side) => [side, unit.key])));
    }
    const put = new Set<number>();
    for (const version of ['base', ...this.sides()] as const) {
      let anchor = START;
      for (const unit of this.own[version]) {
        const key = this.keyOf(unit, version);
        if (key === undefined) continue;
        if (unit.moved.size > 0 && !put.has(key)) {
          put.add(key);
          behind.set(anchor, [...(behind.get(anchor) ?? []), { key, base: unit.base[0] }]);
        }
        anchor = key;
      }
    }
    split.forEach((together, number) => this.spotsOf(together, number));
    const follow = (key: number): void => {
      const list = [...(behind.get(key) ?? [])].sort((x, y) => x.base - y.base);
      for (const one of list) {
        this.keys.push(one.key);
        follow(one.key);
      }
    };
    follow(START);
    for (const unit of units) {
      if (unit.moved.size > 0) continue;
      this.keys.push(unit.key);
      follow(unit.key);
    }
  }

  /**
   * What both moved to places of their own, each with what it took along on both; it gets keys of its own for its places. Keys from
   * `next` on are free.
   */
  private split(next: number): Unit[][] {
    const [ours, theirs] = [this.befores('ours'), this.befores('theirs')];
    const groups: Unit[][] = [];
    const home = new Map<number, Unit[]>();
    for (const unit of this.own.ours) {
      if (unit.moved.size < 2) continue;
      const before = ours.get(unit) ?? START;
      const isTogether = before === theirs.get(unit);
      const group = isTogether ? home.get(before) : [];
      if (!group) continue;
      if (!isTogether) groups.push(group);
      group.push(unit);
      home.set(unit.key, group);
      this.placed.set(unit, { base: next++, ours: next++, theirs: next++ });
    }
    return groups;
  }

  /** What stands in several places is chosen as a whole. */
  private tear(unit: Unit, strays: readonly Unit[]): void {
    const parts = [unit, ...strays];
    const of = (some: readonly Unit[], version: Version): readonly Node[] =>
      some.flatMap((part) => {
        const range = part.of && version === 'base' ? null : part[version];
        return range ? this.rows[version].slice(...range) : [];
      });
    const whole = each((version) => of(parts, version));
    for (const part of parts)
      this.torn.set(part.key, { whole, here: each((version) => of([part], version)) });
  }

  private spotsOf(together: readonly Unit[], number: number): void {
    const of = (unit: Unit, version: Version): readonly Node[] =>
      this.rows[version].slice(...(unit[version] as Range));
    const behind = each((version) => {
      const [from] = together[0]?.[version] as Range;
      return this.rows[version].slice(Math.max(0, from - 1), from);
    });
    const moved = together.flatMap((unit) => of(unit, 'base'));
    for (const unit of together) {
      const nodes = each((version) => of(unit, version));
      for (const at of ['base', 'ours', 'theirs'] as const)
        this.spots.set(this.placed.get(unit)?.[at] as number, { at, nodes, behind, number, moved });
    }
  }

  /** The sides, first the one that decides between equals: whichever name it has. */
  private sides(): readonly [Side, Side] {
    const { ours, theirs } = this.own;
    const differs = ours.findIndex((unit, i) => unit.base[0] !== theirs[i]?.base[0]);
    const isFirst = (ours[differs]?.base[0] ?? 0) <= (theirs[differs]?.base[0] ?? 0);
    return isFirst ? ['ours', 'theirs'] : ['theirs', 'ours'];
  }

  /** The key of what stands where a version has a unit; undefined where that is not the place it was moved to. */
  private keyOf(unit: Unit, version: Version): number | undefined {
    return unit.moved.size === 0 ? unit.key : this.placed.get(unit)?.[version];
  }

  /** The key of the unit before each in a side's own order. */
  private befores(side: Side): Map<Unit, number> {
    const own = this.own[side];
    return new Map(own.map((unit, i) => [unit, own[i - 1]?.key ?? START]));
  }

  /**
   * What only a side has, by the key that it stands behind. Behind something that the other side moved away it stays behind,
   * unless what follows it went along.
   */
  private additions(side: Side, place: ReadonlyMap<number, number>): Map<number, Node[]> {
    const out = new Map<number, Node[]>();
    const own = this.own[side];
    let end = 0;
    let stays = START;
    const add = (key: number, to: number): void => {
      if (to > end) out.set(key, [...(out.get(key) ?? []), ...this.rows[side].slice(end, to)]);
    };
    own.forEach((unit, i) => {
      const [from, to] = unit[side] as Range;
      const last = own[i - 1];
      const before = last ? (this.keyOf(last, side) ?? last.key) : START;
      const key = this.keyOf(unit, side);
      add(place.get(key ?? unit.key) === (place.get(before) ?? 0) + 1 ? before : stays, from);
      end = to;
      if (key !== undefined) stays = key;
    });
    add(stays, this.rows[side].length);
    return out;
  }
}
