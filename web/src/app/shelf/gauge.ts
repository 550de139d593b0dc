import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { GaugeBar, Person } from '@oxbow/contract';
import { colourOf } from '../look/colours';
import { usual } from '../tideline/layout';

const WIDTH = 300;
const HALF = 16;
/** From one sitting to the next, and how wide each is drawn. */
const [STEP, BAR] = [5, 3.6];

type Side = 1 | 2;

/** A small tideline: the last sittings of a document, words in above the line and words out below it, by person. */
@Component({
  selector: 'ox-gauge',
  // One path for a person and side instead of a rectangle for each share: a shelf that is scrolled draws twenty of these a frame.
  template: `
    <svg
      [attr.viewBox]="'0 0 ' + width + ' ' + 2 * half"
      aria-hidden="true"
      preserveAspectRatio="xMaxYMid meet"
    >
      @for (path of paths(); track $index) {
        <path [attr.d]="path.d" [attr.fill]="path.colour" [attr.opacity]="path.side === 1 ? 1 : 0.45" />
      }
      <line x1="0" [attr.x2]="width" [attr.y1]="half" [attr.y2]="half" />
    </svg>
  `,
  styles:
    'svg { width: 100%; height: var(--gauge, 32px); display: block } line { stroke: var(--soft); stroke-width: 1 }',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Gauge {
  readonly gauge = input.required<readonly GaugeBar[]>();
  readonly people = input.required<ReadonlyMap<string, Person>>();

  protected readonly width = WIDTH;
  protected readonly half = HALF;
  protected readonly paths = computed(() => {
    const gauge = this.gauge();
    const most = usual(gauge.map((bar) => Math.max(sum(bar, 1), sum(bar, 2))));
    const scale = (words: number): number => Math.sqrt(Math.min(1, words / most)) * (HALF - 1);
    const paths = new Map<string, { colour: string; side: Side; d: string }>();
    for (const [i, bar] of gauge.entries())
      for (const side of [1, 2] as const)
        for (const { person, y, height } of stack(bar, side, scale)) {
          const name = `${side} ${person}`;
          const path = paths.get(name) ?? {
            colour: colourOf(this.people().get(person)?.colour ?? 0),
            side,
            d: '',
          };
          path.d += `M${WIDTH - (gauge.length - i) * STEP} ${y.toFixed(2)}h${BAR}v${height.toFixed(2)}h${-BAR}z`;
          paths.set(name, path);
        }
    return [...paths.values()];
  });
}

function sum(bar: GaugeBar, side: Side): number {
  return bar.shares.reduce((total, share) => total + share[side], 0);
}

function stack(bar: GaugeBar, side: Side, scale: (words: number) => number) {
  const all = sum(bar, side);
  const height = scale(all);
  let from = 0;
  return bar.shares
    .filter((share) => share[side] > 0)
    .map((share) => {
      const part = (share[side] / all) * height;
      from += part;
      return { person: share[0], y: side === 1 ? HALF - from : HALF + from - part, height: part };
    });
}
