import { generateKeyBetween, generateNKeysBetween } from 'fractional-indexing';
import { longestIncreasing } from '../compare/index.js';
import type { AttributeSpec, Node } from 'prosemirror-model';
import type { Transform } from 'prosemirror-transform';
import { check } from './attributes.js';

/**
 * What stands in an order that several people may change at once: sheets, rows, columns, slides. Each says by a name which one it is, and by a key
 * of order where it is shown, so that moving one sets an attribute and takes nothing away from under somebody who writes in it.
 */
export interface Line {
  readonly id: string;
  readonly node: Node;
  /** Its position in the document. */
  readonly at: number;
}

/** A line of two documents read as one: on which side it stands, one of them at least. */
export interface MergedLine {
  readonly id: string;
  readonly earlier: Line | null;
  readonly later: Line | null;
}

const LINE_ID = /^[a-z0-9]{0,16}$/;
/** Most letters of a key of order; each line put between two others adds one in six to theirs. */
const LONGEST_PLACE = 500;
/** From so many letters on, keys are given anew to all lines that stand beside each other. */
const LONG_PLACE = 200;

/** The attribute that names a line. */
export function lineId(usual = ''): AttributeSpec {
  return check(
    usual,
    'a name of at most 16 small letters and figures',
    (value) => typeof value === 'string' && LINE_ID.test(value),
  );
}

/** The attribute that says where a line is shown. */
export const linePlace: AttributeSpec = check('a0', 'a key of order', isPlace);

/** Whether a value is a key of order that others can be made before and behind. */
function isPlace(value: unknown): boolean {
  if (typeof value !== 'string' || value.length > LONGEST_PLACE) return false;
  try {
    return (
      value.length > 0 && generateKeyBetween(null, value) < value && generateKeyBetween(value, null) > value
    );
  } catch {
    return false;
  }
}

/** So many keys of order, for lines where none stand yet. */
export function firstPlaces(count: number): string[] {
  return generateNKeysBetween(null, null, count);
}

/** Makes ids that nothing has, of what `chance` gives: numbers from 0 up to 1. */
export function freshIds(count: number, chance: () => number): string[] {
  return Array.from({ length: count }, () =>
    Array.from({ length: 12 }, () => Math.floor(chance() * 36).toString(36)).join(''),
  );
}

/** Lines as they are shown: by their keys of order, those of one key as they stand. */
export function inOrder<T extends Line>(lines: readonly T[]): T[] {
  return lines
    .map((line, i) => ({ line, i, key: String(line.node.attrs['place']) }))
    .sort((a, b) => (a.key < b.key ? -1 : a.key > b.key ? 1 : a.i - b.i))
    .map(({ line }) => line);
}

/** Lines in the order after, and those that are gone right behind what stood before them. Of several with one name the first counts. */
export function mergedLines(before: readonly Line[], after: readonly Line[]): MergedLine[] {
  const [was, is] = [firsts(before), firsts(after)];
  const gone = new Map<string | null, MergedLine[]>();
  let stands: string | null = null;
  for (const line of was.values()) {
    if (is.has(line.id)) stands = line.id;
    else gone.set(stands, [...(gone.get(stands) ?? []), { id: line.id, earlier: line, later: null }]);
  }
  const behind = (id: string | null): readonly MergedLine[] => gone.get(id) ?? [];
  return [
    ...behind(null),
    ...[...is.values()].flatMap((later): MergedLine[] => [
      { id: later.id, earlier: was.get(later.id) ?? null, later },
      ...behind(later.id),
    ]),
  ];
}

function firsts(lines: readonly Line[]): Map<string, Line> {
  const out = new Map<string, Line>();
  for (const line of lines) if (!out.has(line.id)) out.set(line.id, line);
  return out;
}

/**
 * Keys of order for lines between those shown before an index and from it on. Where two neighbours have one key, as when two people
 * added a line at one place at once, the new ones stand behind both.
 */
export function placesAt(
  lines: readonly Pick<Line, 'node'>[],
  before: number,
  count: number,
): readonly string[] {
  const keyAt = (index: number): string | null => {
    const line = lines[index];
    return line ? String(line.node.attrs['place']) : null;
  };
  const low = keyAt(before - 1);
  let index = before;
  while (low !== null && index < lines.length && (keyAt(index) ?? '') <= low) index++;
  return generateNKeysBetween(low, keyAt(index), count);
}

/**
 * Keys of order as `placesAt` gives them, for lines that a transform is about to add. Where so much was put in one place that keys have become
 * long, every line of `all` is given a new one first, in the order in which they are shown.
 */
export function makePlaces<T extends Line>(
  tr: Transform,
  all: readonly T[],
  before: number,
  count: number,
): readonly string[] {
  const places = placesAt(all, before, count);
  if (places.every((place) => place.length < LONG_PLACE)) return places;
  const fresh = firstPlaces(all.length + count);
  all.forEach((line, i) =>
    tr.setNodeAttribute(line.at, 'place', fresh[i < before ? i : i + count] as string),
  );
  return fresh.slice(before, before + count);
}

/** Keys of order for lines of these names in this order: the most that can keep those they have among others do. */
export function keptPlaces(ids: readonly string[], known: readonly Line[]): string[] {
  const ranks = new Map(known.map(({ id }, i) => [id, i]));
  const pairs = ids
    .flatMap((id, b) => {
      const a = ranks.get(id);
      return a === undefined ? [] : [{ a, b }];
    })
    .sort((one, other) => one.a - other.a);
  const held = new Map(
    longestIncreasing(pairs).map(({ a, b }) => [b, String(known[a]?.node.attrs['place'])]),
  );
  const out: string[] = [];
  let [low, waiting]: [string | null, number] = [null, 0];
  for (let i = 0; i <= ids.length; i++) {
    const place = held.get(i) ?? null;
    if (i < ids.length && (place === null || (low !== null && place <= low))) {
      waiting++;
      continue;
    }
    out.push(...generateNKeysBetween(low, place, waiting));
    if (place !== null) out.push(place);
    [low, waiting] = [place, 0];
  }
  return out.some((place) => place.length >= LONG_PLACE) ? firstPlaces(ids.length) : out;
}

/**
 * Moves lines so that they stand, in the order given, before what is shown at an index of `all`, or at the end. `all` is every one of
 * them as shown. Sorting is moving all.
 */
export function moveLines<T extends Line>(
  tr: Transform,
  all: readonly T[],
  moved: readonly T[],
  before: number,
): void {
  const going = new Set(moved);
  const rest = all.filter((line) => !going.has(line));
  const index = all.slice(0, before).filter((line) => !going.has(line)).length;
  const places = makePlaces(tr, rest, index, moved.length);
  moved.forEach((line, i) => tr.setNodeAttribute(line.at, 'place', places[i]));
}

/** Takes a line away. */
export function removeLine(tr: Transform, { at, node }: Line): void {
  tr.delete(at, at + node.nodeSize);
}
