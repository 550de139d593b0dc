import type { Calculated, CalculationTask } from './calculation-messages';
import { DestroyRef, Injectable, inject, signal } from '@angular/core';
import type { Value } from '@oxbow/core/calculate';
import { Fault } from '@oxbow/core/calculate';
import type { Node } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';

/** What formulas of one book come to, by sheet, row and column. */
export type Values = ReadonlyMap<string, Value>;

/** The name of a cell among the values of its book. */
export function cellName(sheet: string, row: string, column: string): string {
  return `${sheet} ${row} ${column}`;
}

/** Has the formulas of an open book calculated in a worker, anew whenever it changes. */
@Injectable()
export class Calculating {
  private readonly known = signal<Values>(new Map());
  private worker: Worker | null = null;

  /** What formulas come to, as far as it is known by now. */
  readonly values = this.known.asReadonly();

  constructor() {
    inject(DestroyRef).onDestroy(() => this.worker?.terminate());
  }

  /** Calculates a book, from here on as it changes. */
  begin(book: Node): void {
    this.send({ book: book.toJSON() as unknown });
  }

  /** The book changed by steps. */
  change(steps: readonly Step[]): void {
    this.send({ steps: steps.map((step) => step.toJSON() as unknown) });
  }

  private send(task: CalculationTask): void {
    this.worker ??= this.started();
    this.worker.postMessage(task);
  }

  private started(): Worker {
    const worker = new Worker(new URL('./calculate.worker', import.meta.url), { type: 'module' });
    worker.addEventListener('message', ({ data }: MessageEvent<Calculated>) => this.take(data));
    return worker;
  }

  private take({ values, gone }: Calculated): void {
    if (values.length === 0 && gone.length === 0) return;
    const next = new Map(this.known());
    for (const [name, value] of values)
      next.set(name, typeof value === 'object' && value !== null ? new Fault(value.fault) : value);
    for (const name of gone) next.delete(name);
    this.known.set(next);
  }
}
