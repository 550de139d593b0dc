import { Calculation, Fault } from '@oxbow/core/calculate';
import type { Value } from '@oxbow/core/calculate';
import { documentOf } from '@oxbow/core/kinds';
import { isFormula, readBook } from '@oxbow/core/kinds/sheet';
import type { Node } from 'prosemirror-model';
import { Step } from 'prosemirror-transform';
import type { Calculated, CalculationTask, SentValue } from './calculation-messages';

/** Milliseconds from 30 December 1899, from which days are counted, to the beginning of 1970. */
const EPOCH = Date.UTC(1970, 0, 1) - Date.UTC(1899, 11, 30);
const DAY = 86_400_000;

/** Now, as formulas count days: by the clock on the wall here. */
export function dayNow(now = new Date()): number {
  return (now.getTime() - now.getTimezoneOffset() * 60_000 + EPOCH) / DAY;
}

/** Calculates one book as it changes: the worker's whole work, without the worker. */
export class Calculator {
  private book: Node | null = null;
  private told = new Map<string, SentValue>();

  constructor(private readonly now: () => number = dayNow) {}

  /** Takes in a book, or how it changed. */
  take(task: CalculationTask): void {
    if ('book' in task) {
      this.book = documentOf(task.book);
      return;
    }
    for (const json of task.steps) {
      if (!this.book) return;
      const { doc, failed } = Step.fromJSON(this.book.type.schema, json).apply(this.book);
      if (!doc) throw new RangeError(failed ?? 'a step that does not fit');
      this.book = doc;
    }
  }

  /** What formulas come to that differ from what was told last. */
  calculated(): Calculated {
    if (!this.book) return { values: [], gone: [] };
    const view = readBook(this.book);
    const calculation = new Calculation(view, this.now());
    const next = new Map<string, SentValue>();
    for (const sheet of view.sheets)
      sheet.rows.forEach((row) =>
        row.node.forEach((cell) => {
          const column = String(cell.attrs['column']);
          if (!isFormula(cell.textContent)) return;
          const value = calculation.value(sheet.id, row.id, column);
          next.set(`${sheet.id} ${row.id} ${column}`, sent(value));
        }),
      );
    const before = this.told;
    this.told = next;
    return {
      values: [...next].filter(([name, value]) => !isSame(before.get(name), value)),
      gone: [...before.keys()].filter((name) => !next.has(name)),
    };
  }
}

function sent(value: Value): SentValue {
  return value instanceof Fault ? { fault: value.name } : value;
}

function isSame(one: SentValue | undefined, other: SentValue): boolean {
  if (typeof one !== 'object' || typeof other !== 'object' || one === null || other === null)
    return one === other;
  return one.fault === other.fault;
}
