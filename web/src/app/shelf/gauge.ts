import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { GaugeBar, Person } from '@oxbow/contract';
import { colourOf } from '../look/colours';
import { usual } from '../tideline/layout';

const WIDTH = 300;
const HALF = 16;

/** A small tideline: the last sittings of a document, words in above the line and words out below it, by person. */
@Component({
  selector: 'ox-gauge',
  template: `
    <svg
      [attr.viewBox]="'0 0 ' + width + ' ' + 2 * half"
      aria-hidden="true"
      preserveAspectRatio="xMaxYMid meet"
    >
      @for (bar of bars(); track $index) {
        <rect
          [attr.x]="bar.x"
          [attr.y]="bar.y"
          width="3.6"
          [attr.height]="bar.height"
          [attr.fill]="bar.colour"
          [attr.opacity]="bar.opacity"
        />
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
  protected readonly bars = computed(() => {
    const most = usual(this.gauge().map((bar) => Math.max(sum(bar, 1), sum(bar, 2))));
    const scale = (words: number): number => Math.sqrt(Math.min(1, words / most)) * (HALF - 1);
    return this.gauge().flatMap((bar, i) => {
      const x = WIDTH - (this.gauge().length - i) * 5;
      return [...stack(bar, 1, scale, x), ...stack(bar, 2, scale, x)].map(({ person, ...rest }) => ({
        ...rest,
        colour: colourOf(this.people().get(person)?.colour ?? 0),
      }));
    });
  });
}

function sum(bar: GaugeBar, side: 1 | 2): number {
  return bar.shares.reduce((total, share) => total + share[side], 0);
}

function stack(bar: GaugeBar, side: 1 | 2, scale: (words: number) => number, x: number) {
  const all = sum(bar, side);
  const height = scale(all);
  let from = 0;
  return bar.shares
    .filter((share) => share[side] > 0)
    .map((share) => {
      const part = (share[side] / all) * height;
      from += part;
      return {
        person: share[0],
        x,
        y: side === 1 ? HALF - from : HALF + from - part,
        height: part,
        opacity: side === 1 ? 1 : 0.45,
      };
    });
}
