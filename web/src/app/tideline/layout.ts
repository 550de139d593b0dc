import type { Sitting, Trace } from '@oxbow/core/history';
import { longerSittings, single, sittings } from '@oxbow/core/history';
import { isSameYear } from 'date-fns';
import { dayAndMinute, dayOfYear, gapLength, monthAndYear, monthOfYear } from '../look/time';

/** A stretch of a history by seq, both ends included. */
export interface Range {
  readonly first: number;
  readonly last: number;
}

export interface Bar {
  readonly x: number;
  readonly width: number;
  readonly sitting: Sitting;
}

export interface Fold {
  readonly x: number;
  readonly width: number;
  readonly label: string;
}

export interface Tick {
  readonly x: number;
  readonly label: string;
}

/** The drawn tideline: every sitting of the range as a bar at the finest grain that fits. */
export interface Layout {
  /** The gap, in milliseconds, that parts one bar from the next; 0 shows single edits. */
  readonly grain: number;
  readonly bars: readonly Bar[];
  readonly folds: readonly Fold[];
  readonly ticks: readonly Tick[];
}

const SECOND = 1000;
const MINUTE = 60 * SECOND;
const HOUR = 60 * MINUTE;
const DAY = 24 * HOUR;
const GRAINS = [0, 20 * SECOND, 2 * MINUTE, 10 * MINUTE, HOUR, 6 * HOUR, DAY, 3 * DAY, 14 * DAY];
const NARROWEST = 11;
const WIDEST = 34;
const FOLD = 36;
const TICK_SPACE = 64;

/** Names of the grains, for people. */
const GRAIN_NAMES: Record<number, string> = {
  0: $localize`by edit`,
  [20 * SECOND]: $localize`by burst of writing`,
  [2 * MINUTE]: $localize`by passage of writing`,
  [10 * MINUTE]: $localize`by sitting`,
  [HOUR]: $localize`by longer sitting`,
  [6 * HOUR]: $localize`by half day`,
  [DAY]: $localize`by day`,
  [3 * DAY]: $localize`by few days`,
  [14 * DAY]: $localize`by weeks`,
};

export function grainName(grain: number): string {
  return GRAIN_NAMES[grain] ?? $localize`by sitting`;
}

/** A history with its sittings at every grain, each made when first needed, from those of the grain below it. */
export class Levels {
  private readonly made = new Map<number, readonly Sitting[]>();

  constructor(readonly traces: readonly Trace[]) {}

  /** How many sittings at a grain lie in a range, those that reach into it counted. */
  count(grain: number, range: Range): number {
    const [from, to] = this.stretch(grain, range);
    return to - from;
  }

  /** The sittings at a grain in a range; one that reaches out of it is told only as far as the range goes. */
  within(grain: number, range: Range): Sitting[] {
    const [from, to] = this.stretch(grain, range);
    if (grain === 0) return this.traces.slice(from, to).map(single);
    const first = this.traces[0]?.seq ?? 1;
    return this.at(grain)
      .slice(from, to)
      .map((sitting) => {
        if (sitting.first >= range.first && sitting.last <= range.last) return sitting;
        const start = Math.max(sitting.first, range.first) - first;
        const end = Math.min(sitting.last, range.last) - first + 1;
        return sittings(this.traces.slice(start, end), Infinity)[0] ?? sitting;
      });
  }

  private stretch(grain: number, range: Range): [number, number] {
    if (grain === 0) {
      const first = this.traces[0]?.seq ?? 1;
      const end = Math.min(this.traces.length, range.last - first + 1);
      return [Math.min(end, Math.max(0, range.first - first)), end];
    }
    const all = this.at(grain);
    const from = lowest(all.length, (i) => (all[i] as Sitting).last >= range.first);
    return [
      from,
      Math.max(
        from,
        lowest(all.length, (i) => (all[i] as Sitting).first > range.last),
      ),
    ];
  }

  private at(grain: number): readonly Sitting[] {
    const held = this.made.get(grain);
    if (held) return held;
    const below = GRAINS[GRAINS.indexOf(grain) - 1] ?? 0;
    const made = below === 0 ? sittings(this.traces, grain) : longerSittings(this.at(below), grain);
    this.made.set(grain, made);
    return made;
  }
}

/** The lowest index for which something that stays true once it is true holds; `length` when it never does. */
function lowest(length: number, holds: (index: number) => boolean): number {
  let [low, high] = [0, length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (holds(middle)) high = middle;
    else low = middle + 1;
  }
  return low;
}

/** Lays out the part of a history that lies in `range` on a line `width` pixels long. Cost follows what is drawn. */
export function layOut(levels: Levels, range: Range, width: number): Layout {
  if (levels.count(0, range) === 0 || width <= 0) return { grain: 0, bars: [], folds: [], ticks: [] };
  const last = GRAINS.at(-1) as number;
  let grain = last;
  let groups: Sitting[] = [];
  let folded = new Set<number>();
  for (grain of GRAINS) {
    if (grain !== last && levels.count(grain, range) * NARROWEST > width) continue;
    groups = levels.within(grain, range);
    folded = foldedGaps(groups, grain, width);
    if (groups.length * NARROWEST + folded.size * FOLD <= width) break;
  }
  const slot = Math.min(WIDEST, (width - folded.size * FOLD) / groups.length);
  const bars: Bar[] = [];
  const folds: Fold[] = [];
  let x = Math.max(0, width - groups.length * slot - folded.size * FOLD);
  for (const [i, sitting] of groups.entries()) {
    const before = groups[i - 1];
    if (before && folded.has(i)) {
      folds.push({ x, width: FOLD, label: gapLength(sitting.from - before.to) });
      x += FOLD;
    }
    bars.push({ x, width: slot, sitting });
    x += slot;
  }
  return { grain, bars, folds, ticks: ticksOf(bars, grain) };
}

/** The gaps worth a break in the line: the longest ones, as many as stay readable. */
function foldedGaps(groups: readonly Sitting[], grain: number, width: number): Set<number> {
  const gaps = groups
    .slice(1)
    .map((sitting, i) => ({ at: i + 1, gap: sitting.from - (groups[i] as Sitting).to }));
  const sorted = [...gaps].sort((a, b) => b.gap - a.gap);
  const usual = sorted[Math.floor(sorted.length / 2)]?.gap ?? 0;
  const worth = sorted.filter(({ gap }) => gap > Math.max(4 * usual, 6 * grain, 10 * MINUTE));
  return new Set(worth.slice(0, Math.max(1, Math.floor(width / 150))).map(({ at }) => at));
}

function ticksOf(bars: readonly Bar[], grain: number): Tick[] {
  const label = (at: number): string => {
    if (grain >= DAY) return isSameYear(at, Date.now()) ? monthOfYear(at) : monthAndYear(at);
    return grain >= 10 * MINUTE ? dayOfYear(at) : dayAndMinute(at);
  };
  const ticks: Tick[] = [];
  let last = '';
  let free = -Infinity;
  for (const bar of bars) {
    const text = label(bar.sitting.from);
    if (text !== last && bar.x >= free) {
      ticks.push({ x: bar.x, label: text });
      last = text;
      free = bar.x + TICK_SPACE + text.length * 3;
    }
  }
  return ticks;
}

/**
 * The amount that fills the height of the line: a little above the usual, so that one enormous paste or restore does not
 * flatten a year of writing; what exceeds it is drawn at full height.
 */
export function usual(amounts: readonly number[]): number {
  const sorted = [...amounts].sort((a, b) => a - b);
  const high = sorted[Math.floor(sorted.length * 0.95)] ?? 0;
  return Math.max(6, Math.min(high * 1.5, sorted.at(-1) ?? 0));
}

/** The range that a stretch of the line covers, or null where it covers no whole bar. */
export function rangeBetween(layout: Layout, one: number, other: number): Range | null {
  const [left, right] = [Math.min(one, other), Math.max(one, other)];
  const bars = layout.bars.filter(({ x, width }) => x + width / 2 >= left && x + width / 2 <= right);
  const [first, last] = [bars[0], bars.at(-1)];
  return first && last ? { first: first.sitting.first, last: last.sitting.last } : null;
}

/** A range moved along by a number of edits, as far as the history goes. */
export function shifted({ first, last }: Range, by: number, head: number): Range {
  const shift = Math.max(1 - first, Math.min(head - last, by));
  return { first: first + shift, last: last + shift };
}

/** Where a moment stands on the line: at the right end of what had been written by then. */
export function placeOf(layout: Layout, seq: number): number {
  const { bars } = layout;
  const first = bars[0];
  if (!first || seq < first.sitting.first) return first?.x ?? 0;
  const bar = bars.findLast(({ sitting }) => sitting.first <= seq) as Bar;
  const { sitting } = bar;
  const share = (Math.min(seq, sitting.last) - sitting.first + 1) / (sitting.last - sitting.first + 1);
  return bar.x + bar.width * share;
}

/** The moment nearest to a place on the line: the end of a bar, or what was before the first. */
export function momentAt(layout: Layout, x: number): number | null {
  const first = layout.bars[0];
  if (!first) return null;
  const stops = [
    { at: first.x, seq: first.sitting.first - 1 },
    ...layout.bars.map((bar) => ({ at: bar.x + bar.width, seq: bar.sitting.last })),
  ];
  return stops.reduce((best, stop) => (Math.abs(stop.at - x) < Math.abs(best.at - x) ? stop : best)).seq;
}

/** The moment one step before or after another at the present grain; null at the ends. */
export function stepFrom(layout: Layout, seq: number, direction: 1 | -1): number | null {
  const first = layout.bars[0];
  if (!first) return null;
  const stops = [first.sitting.first - 1, ...layout.bars.map((bar) => bar.sitting.last)];
  return (direction === 1 ? stops.find((stop) => stop > seq) : stops.findLast((stop) => stop < seq)) ?? null;
}

/** A range zoomed by a factor below 1 (in) or above 1 (out), keeping `around` in place as far as the history goes. */
export function zoomed(range: Range, factor: number, around: number, head: number): Range {
  const length = Math.max(4, Math.round((range.last - range.first + 1) * factor));
  if (length >= head) return { first: 1, last: head };
  const share = (around - range.first) / Math.max(1, range.last - range.first);
  const first = Math.max(1, Math.min(head - length + 1, Math.round(around - share * (length - 1))));
  return { first, last: first + length - 1 };
}
