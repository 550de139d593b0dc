import type { ComparedChange } from '@oxbow/contract';
import type { Node } from 'prosemirror-model';

/** One of the two books. */
export type Side = 'earlier' | 'later';

/** Where a change shows: a cell; a whole row or column, where the other is null; or a sheet, where both are. */
export interface Placed {
  readonly change: ComparedChange;
  readonly side: Side;
  readonly sheet: string;
  readonly row: string | null;
  readonly column: string | null;
}

/** Every place at which changes show in two books. */
export function placesOf(changes: readonly ComparedChange[], earlier: Node, later: Node): Placed[] {
  return changes.flatMap((change) => [
    ...placesIn(change, 'earlier', earlier),
    ...placesIn(change, 'later', later),
  ]);
}

function placesIn(change: ComparedChange, side: Side, book: Node): Placed[] {
  const stands = change.stands[side].length > 0 || change.block ? change.stands[side] : [change.place[side]];
  return stands.flatMap(({ from, to }) => inStretch(change, side, book, from, to));
}

function inStretch(change: ComparedChange, side: Side, book: Node, from: number, to: number): Placed[] {
  const out: Placed[] = [];
  const end = Math.min(Math.max(to, from), book.content.size);
  const add = (sheet: unknown, row: unknown, column: unknown): void =>
    void out.push({
      change,
      side,
      sheet: String(sheet),
      row: row === null ? null : String(row),
      column: column === null ? null : String(column),
    });
  book.nodesBetween(Math.max(0, from === end ? from - 1 : from), Math.max(end, from), (node, at, parent) => {
    const whole = at >= from && at + node.nodeSize <= end;
    const { attrs } = node;
    switch (node.type.name) {
      case 'sheet':
        if (whole) add(attrs['id'], null, null);
        return !whole;
      case 'column':
        if (whole) add(parent?.attrs['id'], null, attrs['id']);
        return false;
      case 'row':
        if (whole) add(attrs['sheet'], attrs['id'], null);
        return !whole;
      case 'cell':
        if (from < end || (from > at && from < at + node.nodeSize))
          add(parent?.attrs['sheet'], parent?.attrs['id'], attrs['column']);
        return false;
      default:
        return false;
    }
  });
  return out;
}

/** Which change shows where: looked up by cell, by row, by column and by sheet. */
export class Marks {
  private readonly by = new Map<string, ComparedChange>();
  /** The first place of each change, by its id: in the later book where it has one there. */
  readonly first = new Map<number, Placed>();

  constructor(places: readonly Placed[]) {
    for (const place of places) {
      const { change, side, sheet, row, column } = place;
      const key = keyOf(side, sheet, row, column);
      if (!this.by.has(key)) this.by.set(key, change);
      const known = this.first.get(change.id);
      if (!known || (known.side === 'earlier' && side === 'later')) this.first.set(change.id, place);
    }
  }

  at(side: Side, sheet: string, row: string | null, column: string | null): ComparedChange | null {
    return this.by.get(keyOf(side, sheet, row, column)) ?? null;
  }

  /** The change that shows at a place on either side. */
  either(sheet: string, row: string | null, column: string | null): ComparedChange | null {
    return this.at('later', sheet, row, column) ?? this.at('earlier', sheet, row, column);
  }
}

function keyOf(side: Side, sheet: string, row: string | null, column: string | null): string {
  return `${side} ${sheet} ${row ?? ''} ${column ?? ''}`;
}
