import type { Landmark } from '@oxbow/contract';
import type { Cause } from '@oxbow/core/history';
import type { Layout } from './layout';
import { placeOf } from './layout';

/** A landmark on the line. The name is cut to the room before the next one; 0 is no room at all. */
export interface Post {
  readonly x: number;
  readonly room: number;
  readonly landmark: Landmark;
}

/** Something other than writing, drawn below the bar it happened in. */
export interface Sign {
  readonly x: number;
  readonly kind: 'erasure' | 'restore' | 'assembly' | 'filing' | 'title';
  readonly label: string;
}

/** From a restore to the moment it brought back. */
export interface Arc {
  readonly from: number;
  readonly to: number;
  readonly label: string;
}

/** Room between two names. */
const AIR = 8;
/** Most arcs that stay readable; the latest are drawn. */
const ARCS = 24;

/** The landmarks within the drawn stretch, each with the room there is for its name. */
export function postsOf(layout: Layout, landmarks: readonly Landmark[], width: number): Post[] {
  const { first, last } = reachOf(layout);
  const shown = landmarks
    .filter(({ seq }) => seq >= first - 1 && seq <= last)
    .map((landmark) => ({ landmark, x: placeOf(layout, landmark.seq) }));
  return shown.map(({ landmark, x }, i) => ({
    landmark,
    x,
    room: Math.max(0, (shown[i + 1]?.x ?? width) - x - AIR),
  }));
}

/** One sign for each bar in which something was erased, a file was filed, something brought back, or the title changed; its label tells all. */
export function signsOf(layout: Layout, causes: ReadonlyMap<number, Cause>): Sign[] {
  const signs: Sign[] = [];
  const events = [...causes]
    .flatMap(([seq, cause]) => {
      const sign = signOf(cause);
      return sign ? [{ seq, ...sign }] : [];
    })
    .sort((a, b) => a.seq - b.seq);
  let next = 0;
  for (const { x, width, sitting } of layout.bars) {
    while ((events[next]?.seq ?? Infinity) < sitting.first) next++;
    const start = next;
    while ((events[next]?.seq ?? Infinity) <= sitting.last) next++;
    const here = events.slice(start, next);
    const [kind] = (['erasure', 'restore', 'assembly', 'filing', 'title'] as const).filter((one) =>
      here.some((event) => event.kind === one),
    );
    if (kind) signs.push({ x: x + width / 2, kind, label: here.map(({ label }) => label).join(', ') });
  }
  return signs;
}

function signOf(cause: Cause): Pick<Sign, 'kind' | 'label'> | null {
  switch (cause.kind) {
    case 'erasure':
      return { kind: 'erasure', label: $localize`text erased by an owner` };
    case 'thinning':
      return { kind: 'erasure', label: $localize`versions thinned out by a rule` };
    case 'restore':
      return {
        kind: 'restore',
        label: $localize`restored ${cause.number ? $localize`version ${cause.number}` : $localize`an earlier moment`}`,
      };
    case 'takeBack':
      return { kind: 'restore', label: $localize`a change taken back` };
    case 'carry':
      return { kind: 'restore', label: $localize`something carried forward` };
    case 'assembly':
      return { kind: 'assembly', label: $localize`assembled from two moments` };
    case 'filing':
      return { kind: 'filing', label: $localize`filed ${cause.file}` };
    case 'copy':
      return { kind: 'filing', label: $localize`copied from ${cause.title}` };
    case 'merge':
      return { kind: 'filing', label: $localize`brought home from ${cause.title}` };
    case 'title':
      return { kind: 'title', label: $localize`title changed from “${cause.before}” to “${cause.after}”` };
    case 'collection':
      return { kind: 'title', label: $localize`moved to another collection` };
    default:
      return null;
  }
}

/** Arcs from the restores within the drawn stretch to what they brought back, which may lie before it. */
export function arcsOf(layout: Layout, causes: ReadonlyMap<number, Cause>): Arc[] {
  const { first, last } = reachOf(layout);
  const arcs: Arc[] = [];
  for (const [seq, cause] of causes) {
    if (cause.kind !== 'restore' || seq < first || seq > last) continue;
    const label = cause.number
      ? $localize`brings back version ${cause.number}`
      : $localize`brings back an earlier moment`;
    arcs.push({ from: placeOf(layout, seq), to: placeOf(layout, cause.moment), label });
  }
  return arcs.slice(-ARCS);
}

function reachOf({ bars }: Layout): { first: number; last: number } {
  return { first: bars[0]?.sitting.first ?? 1, last: bars.at(-1)?.sitting.last ?? 0 };
}
