import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
} from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatTableModule } from '@angular/material/table';
import type { Contributors as Found, Person } from '@oxbow/contract';
import type { Trace } from '@oxbow/core/history';
import type { ApexOptions } from 'apexcharts';
import {
  differenceInCalendarDays,
  eachDayOfInterval,
  parseISO,
  startOfDay,
  startOfISOWeek,
  startOfMonth,
} from 'date-fns';
import { Api, saidOf } from '../api/api';
import { Choice } from '../look/choice';
import type { Chosen } from '../look/choice';
import { colourOf } from '../look/colours';
import { lasting } from '../look/lasting';
import { LOCALE, dayAndTime, dayOfYear, fullTime, monthAndYear } from '../look/time';
import { Who } from '../look/who';
import type { Pick } from '../tideline/tideline';
import { Chart } from './chart';
import { Claimed } from './claimed';
import { Room } from './room';

const DAY = 86_400_000;
/** Most columns of the chart: days become weeks, and weeks months, beyond it. */
const COLUMNS = 45;

/** Who wrote how much, when, and how much of it is there to this day. */
@Component({
  selector: 'ox-contributors',
  imports: [Chart, Choice, Claimed, MatButtonModule, MatTableModule, Room, Who],
  templateUrl: './contributors.html',
  styleUrl: './contributors.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Contributors {
  readonly document = input.required<string>();
  readonly traces = input.required<readonly Trace[]>();
  readonly people = input.required<ReadonlyMap<string, Person>>();
  /** The pair picked on the tideline, to count what was written between. */
  readonly pick = input.required<Pick | null>();
  /** Asks for the life of the passage at a position of the present page. */
  readonly lived = output<{ seq: number | null; position: number }>();
  readonly closed = output();

  private readonly api = inject(Api);
  protected readonly spans = computed(() => {
    const traces = this.traces();
    const head = traces.at(-1)?.seq ?? 0;
    const pick = this.pick();
    const lately = (days: number): number =>
      traces.find(({ at }) => at > (traces.at(-1)?.at ?? 0) - days * DAY)?.seq ?? head;
    return [
      { name: $localize`Its whole life`, after: 0, upTo: head },
      { name: $localize`The last 30 days of writing`, after: Math.max(0, lately(30) - 1), upTo: head },
      { name: $localize`The last 7 days of writing`, after: Math.max(0, lately(7) - 1), upTo: head },
      ...(pick && pick.earlier < pick.later
        ? [{ name: $localize`Between the two picked moments`, after: pick.earlier, upTo: pick.later }]
        : []),
    ];
  });
  protected readonly ranges = computed(() => this.spans().map(({ name }, i): Chosen<number> => [i, name]));
  protected readonly chosen = linkedSignal<number, number>({
    source: () => this.spans().length,
    computation: (count) => (count === 4 ? 3 : 0),
  });
  protected readonly span = computed(() => this.spans()[this.chosen()] ?? { name: '', after: 0, upTo: 0 });
  protected readonly found = rxResource({
    params: () => ({ document: this.document(), ...this.span() }),
    stream: ({ params }) => this.api.contributors(params.document, params.after, params.upTo),
  });
  protected readonly value = lasting(this.found, () => `${this.document()} ${this.span().name}`);
  protected readonly when = computed(() => {
    const { after, upTo } = this.span();
    const first = this.traces()[0]?.seq ?? 1;
    const [from, to] = [this.traces()[after + 1 - first], this.traces()[upTo - first]];
    return from && to ? $localize`${dayAndTime(from.at)} to ${dayAndTime(to.at)}` : '';
  });
  protected readonly disputed = rxResource({
    params: () => ({ document: this.document(), head: this.traces().length }),
    stream: ({ params }) => this.api.contests(params.document),
  });
  protected readonly contests = lasting(this.disputed, this.document);
  protected readonly columns = [
    'person',
    'written',
    'pasted',
    'kept',
    'back',
    'removed',
    'sittings',
    'hours',
  ];
  protected readonly rows = computed(() =>
    (this.value()?.people ?? []).map((one) => ({
      ...one,
      share: one.written > 0 ? Math.round((one.kept / one.written) * 100) : null,
      hours: (one.time / 3_600_000).toLocaleString(LOCALE, {
        maximumFractionDigits: 1,
        minimumFractionDigits: 1,
      }),
    })),
  );
  protected readonly csv = computed(
    () =>
      `/api/documents/${this.document()}/contributors?after=${this.span().after}&upTo=${this.span().upTo}&format=csv`,
  );
  protected readonly options = computed<ApexOptions | null>(() => {
    const found = this.value();
    return found && found.days.length > 0 ? chartOf(found, this.people()) : null;
  });
  protected readonly saidOf = saidOf;
  protected readonly fullTime = fullTime;
}

/** Words by person in columns of a day, a week or a month, whichever keeps them few. */
export function columnsOf({ days }: Found): { labels: string[]; words: Map<string, number[]> } {
  const [start, end] = [parseISO(days[0]?.day ?? ''), parseISO(days.at(-1)?.day ?? '')];
  const length = differenceInCalendarDays(end, start) + 1;
  const begin = length <= COLUMNS ? startOfDay : length <= 7 * COLUMNS ? startOfISOWeek : startOfMonth;
  const starts: number[] = [];
  for (const day of days.length > 0 ? eachDayOfInterval({ start, end }) : []) {
    const column = begin(day).getTime();
    if (starts.at(-1) !== column) starts.push(column);
  }
  const words = new Map<string, number[]>();
  for (const { day, words: written } of days) {
    const column = starts.indexOf(begin(parseISO(day)).getTime());
    for (const [person, count] of written) {
      const counts = words.get(person) ?? starts.map(() => 0);
      counts[column] = (counts[column] ?? 0) + count;
      words.set(person, counts);
    }
  }
  const named = begin === startOfMonth ? monthAndYear : dayOfYear;
  return { labels: starts.map((start) => named(start)), words };
}

function chartOf(found: Found, people: ReadonlyMap<string, Person>): ApexOptions {
  const { labels, words } = columnsOf(found);
  const written = [...words].filter(([, counts]) => counts.some((count) => count > 0));
  return {
    chart: {
      type: 'bar',
      stacked: true,
      height: 220,
      fontFamily: 'inherit',
      foreColor: 'currentColor',
      toolbar: { show: false },
      animations: { enabled: false },
      zoom: { enabled: false },
    },
    series: written.map(([person, data]) => ({
      name: people.get(person)?.name ?? $localize`Somebody`,
      data,
    })),
    colors: written.map(([person]) => colourOf(people.get(person)?.colour ?? 0)),
    xaxis: {
      categories: labels,
      tickAmount: 12,
      labels: { rotate: 0, hideOverlappingLabels: true },
      axisTicks: { show: false },
    },
    yaxis: { title: { text: $localize`words written` }, forceNiceScale: true, decimalsInFloat: 0 },
    grid: { borderColor: 'var(--line)' },
    legend: { position: 'top', horizontalAlign: 'left' },
    dataLabels: { enabled: false },
    plotOptions: { bar: { columnWidth: '72%' } },
    tooltip: { shared: true, intersect: false },
  };
}
