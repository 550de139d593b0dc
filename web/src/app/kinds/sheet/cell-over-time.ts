import { ChangeDetectionStrategy, Component, computed, inject, input, resource, signal } from '@angular/core';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import type { Value } from '@oxbow/core/calculate';
import { Calculation, shownValue } from '@oxbow/core/calculate';
import { documentOf } from '@oxbow/core/kinds';
import { readBook } from '@oxbow/core/kinds/sheet';
import type { ApexOptions } from 'apexcharts';
import { firstValueFrom } from 'rxjs';
import { Api, saidOf } from '../../api/api';
import { DeskHistory } from '../../document/history';
import { dayAndTime } from '../../look/time';
import { Chart } from '../../past/chart';
import { a1 } from './grid-line';
import { spotOf } from './spots';
import { cellsOf, nameOf, viewOf } from './views';

/** Most moments that are looked at: versions, as evenly spread as they come. */
const MOMENTS = 60;

/** What a cell came to at a moment. */
interface Point {
  readonly seq: number;
  readonly at: string;
  readonly value: Value;
  readonly shown: string;
}

/** What one cell came to at each version: as a chart where it is a number, and as a table. */
@Component({
  selector: 'ox-cell-over-time',
  imports: [Chart, MatProgressBarModule],
  template: `
    @if (points.isLoading()) {
      <mat-progress-bar
        mode="determinate"
        [value]="share()"
        aria-label="Looking at what the cell came to"
        i18n-aria-label
      />
    }
    @if (points.error(); as error) {
      <p class="trouble" role="alert">{{ saidOf(error) }}</p>
    }
    @if (found(); as found) {
      <h3 i18n>{{ found.name }} over time</h3>
      @if (options(); as options) {
        <ox-chart [options]="options" />
      }
      @if (found.turns.length > 0) {
        <table>
          <thead>
            <tr>
              <th i18n>From</th>
              <th i18n>It came to</th>
            </tr>
          </thead>
          <tbody>
            @for (turn of found.turns; track turn.seq) {
              <tr>
                <td>{{ dayAndTime(turn.at) }}</td>
                <td class="value">{{ turn.shown || '–' }}</td>
              </tr>
            }
          </tbody>
        </table>
      } @else {
        <p i18n>The cell is in none of the versions.</p>
      }
    }
  `,
  styles: `
    :host {
      display: block;
      margin-block-end: 16px;
    }
    h3 {
      margin: 0 0 6px;
      font: 600 15px/20px var(--sans);
    }
    table {
      border-collapse: collapse;
      font: 13px/20px var(--sans);
    }
    th,
    td {
      padding: 2px 14px 2px 0;
      text-align: start;
      border-block-end: 1px solid var(--line);
    }
    .value {
      text-align: end;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CellOverTime {
  readonly document = input.required<string>();
  readonly seq = input.required<number>();
  readonly position = input.required<number>();

  private readonly api = inject(Api);
  private readonly history = inject(DeskHistory);
  protected readonly share = signal(0);
  protected readonly dayAndTime = dayAndTime;
  protected readonly saidOf = saidOf;
  protected readonly points = resource({
    params: () => ({ document: this.document(), seq: this.seq(), position: this.position() }),
    loader: ({ params, abortSignal }) => this.look(params.document, params.seq, params.position, abortSignal),
  });
  /** The cell, and each time at which it came to something else. */
  protected readonly found = computed(() => {
    if (!this.points.hasValue()) return null;
    const { name, points } = this.points.value();
    return {
      name,
      points,
      turns: points.filter(({ shown }, i) => i === 0 || shown !== points[i - 1]?.shown),
    };
  });
  protected readonly options = computed<ApexOptions | null>(() => {
    const found = this.found();
    const numbers = (found?.points ?? []).filter(({ value }) => typeof value === 'number');
    if (!found || numbers.length < 2) return null;
    return {
      chart: {
        type: 'line',
        height: 220,
        fontFamily: 'inherit',
        toolbar: { show: false },
        zoom: { enabled: false },
        animations: { enabled: false },
      },
      series: [{ name: found.name, data: numbers.map(({ at, value }) => [Date.parse(at), Number(value)]) }],
      stroke: { curve: 'stepline', width: 2 },
      markers: { size: 3 },
      xaxis: { type: 'datetime', labels: { datetimeUTC: false } },
      yaxis: { labels: { formatter: (value: number) => shownValue(Number(value.toFixed(6)), '') } },
      colors: ['var(--accent)'],
    };
  });

  private async look(
    document: string,
    seq: number,
    position: number,
    abort: AbortSignal,
  ): Promise<{ name: string; points: Point[] }> {
    await this.history.come();
    const start = viewOf(documentOf((await firstValueFrom(this.api.moment(document, seq))).content));
    const spot = spotOf(start, { anchor: position, head: position });
    if (!spot) return { name: $localize`The cell`, points: [] };
    const sheet = start.places.sheet(spot.sheet);
    const where = a1(start.places.row(spot.sheet, spot.row), start.places.column(spot.sheet, spot.column));
    const name =
      sheet && start.sheets.length > 1 ? `${nameOf(sheet, start.sheets.indexOf(sheet))}: ${where}` : where;
    const moments = spread([...this.history.versions()].reverse(), MOMENTS);
    const points: Point[] = [];
    for (const [i, version] of moments.entries()) {
      if (abort.aborted) break;
      const moment = await firstValueFrom(this.api.moment(document, version.seq));
      points.push(...pointOf(documentOf(moment.content), spot, version.seq, version.at));
      this.share.set((100 * (i + 1)) / moments.length);
    }
    return { name, points };
  }
}

function pointOf(
  book: ReturnType<typeof documentOf>,
  spot: { sheet: string; row: string; column: string },
  seq: number,
  at: string,
): Point[] {
  const view = readBook(book);
  const row = view.sheets.find(({ id }) => id === spot.sheet)?.rows.find(({ id }) => id === spot.row);
  if (!row) return [];
  const value = new Calculation(view).value(spot.sheet, spot.row, spot.column);
  const format = String(cellsOf(row.node).get(spot.column)?.attrs['format'] ?? '');
  return [{ seq, at, value, shown: shownValue(value, format) }];
}

/** So many of a list, evenly spread, the first and the last among them. */
function spread<T>(list: readonly T[], most: number): T[] {
  if (list.length <= most) return [...list];
  return Array.from({ length: most }, (_, i) => list[Math.round((i * (list.length - 1)) / (most - 1))] as T);
}
