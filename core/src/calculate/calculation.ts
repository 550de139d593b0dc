import FormulaParser from 'fast-formula-parser';
import type { Place, Range } from 'fast-formula-parser';
import type { BookView, RowView, SheetView } from '../kinds/sheet/index.js';
import { Places, isFormula, referencesOf, shownFormula } from '../kinds/sheet/index.js';
import { furtherFunctions } from './functions.js';
import type { Value } from './values.js';
import { CYCLE, Fault, valueOf } from './values.js';

const { FormulaError } = FormulaParser;

/** A cell with something in it. */
interface Filled {
  readonly sheet: SheetView;
  readonly row: number;
  readonly column: number;
  readonly text: string;
}

/** The parser, which takes a while to make, and for which calculation it works just now. */
let shared: { readonly parser: FormulaParser; of: Calculation | null } | null = null;

function evaluate(calculation: Calculation, formula: string, place: Place): unknown {
  shared ??= sharedParser();
  shared.of = calculation;
  return shared.parser.parse(formula, place);
}

function sharedParser(): NonNullable<typeof shared> {
  const known = new FormulaParser({ onCell: () => null, onRange: () => [] }).supportedFunctions();
  const working = (): Calculation => made.of as Calculation;
  const parser = new FormulaParser({
    functions: furtherFunctions(known, () => working().now),
    onCell: ({ sheet, row, col }) => working().given(working().sheetNamed(sheet), row - 1, col - 1),
    onRange: (range) => working().range(range),
  });
  const made: NonNullable<typeof shared> = { parser, of: null };
  return made;
}

/** What every cell of a book comes to. Each formula is calculated once, after those that it needs; one that needs itself is told as such. */
export class Calculation {
  private readonly places: Places;
  /** The same with sheets named so that no name needs quotes, or is another's. */
  private readonly plain: Places;
  private readonly cells = new Map<string, Map<number, Map<number, Filled>>>();
  private readonly values = new Map<Filled, Value>();

  /** `now` is the day and time that formulas go by, as a number: of a moment that is past the time it was. */
  constructor(
    book: BookView,
    readonly now: number | null = null,
  ) {
    this.places = new Places(book);
    this.plain = new Places({ sheets: book.sheets.map((sheet) => ({ ...sheet, name: nameOf(sheet.id) })) });
    for (const sheet of book.sheets) this.cells.set(sheet.id, filledIn(sheet, this.places));
  }

  /** What a cell comes to, by where it is shown, from 0. */
  at(sheet: string, row: number, column: number): Value {
    const cell = this.cells.get(sheet)?.get(row)?.get(column);
    if (!cell) return null;
    this.calculate(cell);
    return this.values.get(cell) ?? null;
  }

  /** What a cell comes to, by the names of its row and column. */
  value(sheet: string, row: string, column: string): Value {
    return this.at(sheet, this.places.row(sheet, row), this.places.column(sheet, column));
  }

  /** A cell, and before it all that it needs: by a stack of its own, however long the chain is. */
  private calculate(asked: Filled): void {
    const open = new Set<Filled>();
    const stack = [{ cell: asked, needs: null as Filled[] | null }];
    for (let top = stack.at(-1); top; top = stack.at(-1)) {
      const { cell } = top;
      if (top.needs === null) {
        if (this.values.has(cell)) {
          stack.pop();
          continue;
        }
        if (!isFormula(cell.text)) {
          this.values.set(cell, valueOf(cell.text));
          stack.pop();
          continue;
        }
        open.add(cell);
        top.needs = this.needsOf(cell);
      }
      const next = top.needs.pop();
      if (next) {
        if (open.has(next)) this.values.set(next, CYCLE);
        else if (!this.values.has(next)) stack.push({ cell: next, needs: null });
        continue;
      }
      if (!this.values.has(cell)) this.values.set(cell, this.evaluated(cell));
      open.delete(cell);
      stack.pop();
    }
  }

  /** The formulas that a formula needs. */
  private needsOf({ sheet, text }: Filled): Filled[] {
    const out: Filled[] = [];
    for (const [first, last = first] of referencesOf(text)) {
      const of = this.places.sheet(first.sheet ?? sheet.id);
      if (!of) continue;
      const index = (id: string | null, among: 'row' | 'column', whole: number): number =>
        id === null ? whole : this.places[among](of.id, id);
      const [r1, r2] = [index(first.row, 'row', 0), index(last.row, 'row', of.rows.length - 1)];
      const [c1, c2] = [
        index(first.column, 'column', 0),
        index(last.column, 'column', of.columns.length - 1),
      ];
      if (Math.min(r1, r2, c1, c2) < 0) continue;
      for (let row = Math.min(r1, r2); row <= Math.max(r1, r2); row++)
        for (const [column, cell] of this.cells.get(of.id)?.get(row) ?? [])
          if (column >= Math.min(c1, c2) && column <= Math.max(c1, c2) && isFormula(cell.text))
            out.push(cell);
    }
    return out;
  }

  private evaluated({ sheet, row, column, text }: Filled): Value {
    const shown = shownFormula(text, this.plain, sheet.id);
    try {
      return plainValue(
        evaluate(this, shown.slice(1), { sheet: nameOf(sheet.id), row: row + 1, col: column + 1 }),
      );
    } catch (error) {
      return faultOf(error);
    }
  }

  /** What a formula is given for a cell: an error for one that has it. */
  given(sheet: SheetView | null, row: number, column: number): unknown {
    if (!sheet) return new FormulaError('#REF!');
    const cell = this.cells.get(sheet.id)?.get(row)?.get(column);
    if (!cell) return null;
    const value = this.values.has(cell)
      ? this.values.get(cell)
      : isFormula(cell.text)
        ? CYCLE
        : valueOf(cell.text);
    return value instanceof Fault ? new FormulaError(value.name) : value;
  }

  range({ sheet: name, from, to }: Range): unknown[][] {
    const sheet = this.sheetNamed(name);
    const last = {
      row: Math.min(to.row, sheet?.rows.length ?? 0),
      col: Math.min(to.col, sheet?.columns.length ?? 0),
    };
    const out: unknown[][] = [];
    for (let row = from.row; row <= Math.max(from.row, last.row); row++) {
      const line: unknown[] = [];
      for (let column = from.col; column <= Math.max(from.col, last.col); column++)
        line.push(this.given(sheet, row - 1, column - 1));
      out.push(line);
    }
    return out;
  }

  sheetNamed(name: Place['sheet']): SheetView | null {
    return this.plain.named(name);
  }
}

function nameOf(id: string): string {
  return `s_${id}`;
}

/** The cells of a sheet with something in them, by row and column as shown. Of two in one column the last counts. */
function filledIn(sheet: SheetView, places: Places): Map<number, Map<number, Filled>> {
  const out = new Map<number, Map<number, Filled>>();
  sheet.rows.forEach(({ node }: RowView, row) => {
    const line = new Map<number, Filled>();
    node.forEach((cell) => {
      const column = places.column(sheet.id, String(cell.attrs['column']));
      const text = cell.textContent;
      if (column >= 0 && text !== '') line.set(column, { sheet, row, column, text });
    });
    if (line.size > 0) out.set(row, line);
  });
  return out;
}

function plainValue(value: unknown): Value {
  if (Array.isArray(value)) return plainValue((value as unknown[]).flat(2)[0] ?? null);
  if (value instanceof FormulaError) return faultOf(value);
  if (typeof value === 'number') return Number.isFinite(value) ? value : new Fault('#NUM!');
  if (typeof value === 'string' || typeof value === 'boolean') return value;
  return value === null || value === undefined ? 0 : new Fault('#VALUE!');
}

/** What went wrong with a formula: what it says itself, or that it cannot be read. */
function faultOf(error: unknown): Fault {
  if (!(error instanceof FormulaError)) return new Fault('#VALUE!');
  const { error: name, details } = error;
  if (name === '#ERROR!' && details instanceof FormulaError) return new Fault(details.error);
  return new Fault(name);
}
