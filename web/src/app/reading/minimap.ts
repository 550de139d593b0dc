import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { ComparedChange, Person } from '@oxbow/contract';
import { colourOf } from '../look/colours';
import { personOf } from './look';
import type { Row } from './rows';
import { lastBefore } from './rows';

/** A tick beside the scrollbar. */
interface Tick {
  readonly change: number;
  /** Share of the way down, 0 to 1. */
  readonly at: number;
  readonly colour: string;
}

/** Ticks nearer to each other than this share of the height are one. */
const NEAR = 0.004;

/** Where in the document the changes are, as ticks along its scrollbar. */
@Component({
  selector: 'ox-minimap',
  template: `
    @for (tick of ticks(); track tick.change) {
      <button
        type="button"
        tabindex="-1"
        aria-hidden="true"
        [style.top.%]="tick.at * 100"
        [style.--who]="tick.colour"
        (click)="chosen.emit(tick.change)"
      ></button>
    }
  `,
  styles: `
    :host {
      position: absolute;
      inset-block: 4px;
      inset-inline-end: 14px;
      width: 9px;
      z-index: 2;
      pointer-events: none;
    }
    button {
      position: absolute;
      inset-inline: 0;
      height: 4px;
      margin-top: -2px;
      padding: 0;
      border: 0;
      border-radius: 1px;
      background: var(--who);
      cursor: pointer;
      pointer-events: auto;
    }
    button:hover {
      outline: 2px solid var(--ink);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Minimap {
  readonly rows = input.required<readonly Row[]>();
  readonly shown = input.required<readonly ComparedChange[]>();
  readonly people = input.required<ReadonlyMap<string, Person>>();
  readonly chosen = output<number>();

  protected readonly ticks = computed(() => ticksOf(this.rows(), this.shown(), this.people()));
}

export function ticksOf(
  rows: readonly Row[],
  shown: readonly ComparedChange[],
  people: ReadonlyMap<string, Person>,
): Tick[] {
  const begins: { from: number; above: number }[] = [];
  let size = 0;
  for (const { later } of rows) {
    begins.push({ from: later.from, above: size });
    size += later.to - later.from;
  }
  begins.sort((one, other) => one.from - other.from);
  const ticks: Tick[] = [];
  for (const change of shown) {
    const { from } = change.place.later;
    const row = lastBefore(begins, from) ?? { from: 0, above: 0 };
    const at = Math.min(1, (row.above + from - row.from) / Math.max(1, size));
    const last = ticks.at(-1);
    if (last && Math.abs(at - last.at) < NEAR) continue;
    const person = personOf(change, 'later');
    ticks.push({
      change: change.id,
      at,
      colour: person === null ? 'var(--soft)' : colourOf(people.get(person)?.colour ?? 0),
    });
  }
  return ticks;
}
