import type { Node } from 'prosemirror-model';
import type { Outlook } from '../align.js';
import type { Range, Unit, Units } from './units.js';
import { unitsOf } from './units.js';

/** A row of children in the order in which all versions are brought together; what has one key is one thing. */
export interface Item {
  readonly key: number;
  readonly nodes: readonly Node[];
}

/** What moved together: one decision. */
export interface Moving {
  /** What moved, as in the base. */
  readonly about: readonly Node[];
  /** What it stands behind, by version. */
  readonly behind: readonly (readonly Node[])[];
  /** The versions that moved it to the same place, for each place. */
  readonly places: readonly (readonly number[])[];
}

/** One of the places of something that moved. */
export interface Spot {
  readonly moving: Moving;
  /** The versions whose place this is; the base's stands for all that did not move it. */
  readonly at: readonly number[];
  /** What stands there, by version. */
  readonly nodes: readonly (readonly Node[])[];
  /** What a version alone has behind it, where that went along. */
  readonly trail: readonly (readonly Node[])[];
}

/**
 * What one side joined and another put in several places: it cannot be brought together, and is chosen as a whole. One of the
 * places is that of the item; at the others only one version has something.
 */
export interface Torn {
  /** What stands at each of its places, by version. */
  readonly places: readonly (readonly (readonly Node[])[])[];
  /** Which of them this is. */
  readonly place: number;
}

/** Rows of children, the base's first, whose common items stand in one order. */
export interface InOrder {
  readonly rows: readonly (readonly Item[])[];
  readonly spots: ReadonlyMap<number, Spot>;
  readonly torn: ReadonlyMap<number, Torn>;
}

const START = -1;

/**
 * Puts the children of several nodes, the base's first, in one order. What moved has a spot at each of its places, of which one
 * is chosen later, and is brought together in one; what a side put inside a section that others moved goes along. Children that a
 * side joined are one item. `moves` false for children whose order carries their meaning, as that of cells.
 */
export function inOneOrder(rows: readonly (readonly Node[])[], outlook: Outlook, moves: boolean): InOrder {
  const order = new Order(rows, unitsOf(rows, outlook, moves));
  return { rows: rows.map((_, version) => order.row(version)), spots: order.spots, torn: order.torn };
}

/** What stands behind what, and the rows that follow from it. */
class Order {
  readonly spots = new Map<number, Spot>();
  readonly torn = new Map<number, Torn>();
  /** Keys in the order in which all have them. */
  private readonly keys: number[] = [];
  private readonly whole: ReadonlyMap<number, Unit>;
  /** Units of each version in its own order. */
  private readonly own: readonly (readonly Unit[])[];
  /** The keys of what moved, by version: that of its place there. */
  private readonly placed = new Map<Unit, number[]>();
  /** What moved together, by each of it. */
  private readonly groups = new Map<Unit, Group>();
  /** What a version alone has, by the key that it stands behind. */
  private readonly after: readonly ReadonlyMap<number, readonly Node[]>[];

  constructor(
    private readonly rows: readonly (readonly Node[])[],
    { whole, strays }: Units,
  ) {
    this.whole = new Map(whole.map((unit) => [unit.key, unit]));
    this.own = rows.map((_, version) =>
      [...whole, ...(version === 0 ? [] : strays)]
        .filter(({ ranges }) => ranges[version])
        .sort((x, y) => startOf(x, version) - startOf(y, version)),
    );
    this.arrange(whole, strays);
    this.gather(whole);
    const trails = new Map<Unit, Node[][]>();
    this.after = rows.map((_, version) => this.additions(version, trails));
    for (const group of new Set(this.groups.values())) this.showSpots(group, trails);
    for (const unit of new Set(strays.map(({ of }) => of as Unit)))
      this.tear(
        unit,
        strays.filter((stray) => stray.of === unit),
      );
  }

  /** A row of items: what all may have, each followed by what only this version has behind it. */
  row(version: number): Item[] {
    const out: Item[] = [];
    let fresh = -2;
    const { keys, whole, spots, torn } = this;
    for (const key of keys) {
      const unit = whole.get(key);
      const range = unit && !this.placed.has(unit) ? unit.ranges[version] : null;
      if (range) out.push({ key, nodes: this.nodes(version, range) });
      else if (spots.has(key) || torn.has(key)) out.push({ key, nodes: [] });
      for (const node of this.after[version]?.get(key) ?? []) out.push({ key: fresh--, nodes: [node] });
    }
    return out;
  }

  private nodes(version: number, range: Range | null | undefined): readonly Node[] {
    return range ? (this.rows[version]?.slice(...range) ?? []) : [];
  }

  /**
   * Gives what moved a key for each of its places, and puts it behind what it came to stand behind there: a place is one for two
   * versions where both have it behind the same, which is at one place as well.
   */
  private arrange(whole: readonly Unit[], strays: readonly Unit[]): void {
    let next = whole.length + strays.length;
    const behind = new Map<number, { key: number; base: number }[]>();
    const known = new Map<string, number>();
    for (const unit of whole)
      if (unit.moved.size > 0) {
        const key = next++;
        const keys = this.rows.map(() => key);
        this.placed.set(unit, keys);
      }
    for (const unit of strays) this.placed.set(unit, []);
    this.own.forEach((own, version) => {
      let anchor = START;
      for (const unit of own) {
        const keys = this.placed.get(unit);
        if (keys && unit.moved.has(version)) {
          const place = `${unit.of ? `of ${unit.of.key}` : unit.key} ${anchor}`;
          const key = known.get(place) ?? next++;
          if (!known.has(place))
            behind.set(anchor, [...(behind.get(anchor) ?? []), { key, base: startOf(unit, 0) }]);
          known.set(place, key);
          keys[version] = key;
        }
        anchor = this.keyOf(unit, version);
      }
    });
    const follow = (start: number): void => {
      const open = [start];
      for (let key = open.pop(); key !== undefined; key = open.pop()) {
        this.keys.push(key);
        const next = [...(behind.get(key) ?? [])].sort((x, y) => y.base - x.base);
        open.push(...next.map((one) => one.key));
      }
    };
    follow(START);
    for (const unit of whole) follow(this.keyOf(unit, 0));
  }

  /** Finds what moved together: what stands behind the same in the base and at each place it was moved to. */
  private gather(whole: readonly Unit[]): void {
    const before = this.own.map((own) => new Map(own.map((unit, i) => [unit, own[i - 1]])));
    for (const unit of whole) {
      if (unit.moved.size === 0) continue;
      const lead = whole[unit.key - 1];
      const group = lead && this.groups.get(lead);
      const isAlong =
        group &&
        sameSet(lead.moved, unit.moved) &&
        [...unit.moved].every((version) => before[version]?.get(unit) === lead);
      if (isAlong) group.units.push(unit);
      this.groups.set(unit, isAlong ? group : { units: [unit] });
    }
  }

  /** The key of the place that a version has a unit at. */
  private keyOf(unit: Unit, version: number): number {
    return this.placed.get(unit)?.[version] ?? unit.key;
  }

  /** Spots of what moved together. */
  private showSpots({ units }: Group, trails: ReadonlyMap<Unit, Node[][]>): void {
    const lead = units[0] as Unit;
    const keys = this.placed.get(lead) ?? [];
    const versions = this.rows.map((_, version) => version);
    const places = [...new Set(keys)]
      .filter((key) => key !== keys[0])
      .map((key) => versions.filter((version) => keys[version] === key));
    const moving: Moving = {
      about: units.flatMap((unit) => this.nodes(0, unit.ranges[0])),
      behind: versions.map((version) => {
        const from = startOf(lead, version);
        return from > 0 ? this.nodes(version, [from - 1, from]) : [];
      }),
      places,
    };
    for (const unit of units) {
      const own = this.placed.get(unit) ?? [];
      const nodes = versions.map((version) => this.nodes(version, unit.ranges[version]));
      const trail = trails.get(unit) ?? versions.map(() => []);
      for (const key of new Set(own))
        this.spots.set(key, { moving, at: versions.filter((version) => own[version] === key), nodes, trail });
    }
  }

  /** What stands in several places is chosen as a whole. */
  private tear(unit: Unit, strays: readonly Unit[]): void {
    const whole = this.rows.map((_, version) => this.nodes(version, unit.ranges[version]));
    const places = new Map<number, (readonly Node[])[]>([[unit.key, whole]]);
    for (const stray of strays)
      for (const version of stray.moved) {
        const key = this.keyOf(stray, version);
        const place = places.get(key) ?? this.rows.map(() => []);
        place[version] = this.nodes(version, stray.ranges[version]);
        places.set(key, place);
      }
    const all = [...places.values()];
    [...places.keys()].forEach((key, place) => this.torn.set(key, { places: all, place }));
  }

  /**
   * What only a version has, by the key that it stands behind. What stands inside what moved together goes along, as the trail of
   * what it is behind; what stands behind what others moved away stays.
   */
  private additions(version: number, trails: Map<Unit, Node[][]>): Map<number, Node[]> {
    const out = new Map<number, Node[]>();
    const own = this.own[version] ?? [];
    let end = 0;
    let stays = START;
    const add = (to: number, last?: Unit, next?: Unit): void => {
      const nodes = this.nodes(version, [end, to]);
      if (nodes.length === 0) return;
      const group = last && this.groups.get(last);
      if (!group || !next || this.groups.get(next) !== group)
        return void out.set(stays, [...(out.get(stays) ?? []), ...nodes]);
      const trail = trails.get(last) ?? this.rows.map(() => []);
      trails.set(last, trail);
      trail[version] = [...nodes];
    };
    own.forEach((unit, i) => {
      add(startOf(unit, version), own[i - 1], unit);
      end = unit.ranges[version]?.[1] ?? end;
      stays = this.keyOf(unit, version);
    });
    add(this.rows[version]?.length ?? 0);
    return out;
  }
}

/** Units that moved together. */
interface Group {
  readonly units: Unit[];
}

function startOf(unit: Unit, version: number): number {
  return unit.ranges[version]?.[0] ?? 0;
}

function sameSet(one: ReadonlySet<number>, other: ReadonlySet<number>): boolean {
  return one.size === other.size && [...one].every((value) => other.has(value));
}
