import { Fragment } from 'prosemirror-model';
import type { Node } from 'prosemirror-model';
import { Calculation } from '../../calculate/index.js';
import type { BookView, RowView, SheetView } from '../../kinds/sheet/index.js';
import { cellAt, readBook } from '../../kinds/sheet/index.js';
import { adopted, asStanding } from './adopted.js';
import { typedField } from './csv.js';
import { shownIn } from './plain.js';

/**
 * A book that was read from a file which holds no more than what the first sheet of another shows, as the next one of that: see `adopted`. What the file cannot
 * tell stays as it was: other sheets, widths, looks, and formulas that come to what it says.
 */
export function adoptedValues(read: Node, now: Node, chance: () => number): Node {
  const view = readBook(now);
  const [sheet] = view.sheets;
  if (!sheet) return adopted(read, now, chance);
  const shown = shownAlone(view, sheet, now);
  const next = adopted(read, shown, chance);
  const [was, told] = [linesOf(now), linesOf(shown)];
  const blocks = next.children.map((block) => {
    if (block.type.name === 'sheet') return headed(block, sheet.node);
    const [row, values] = [was.get(String(block.attrs['id'])), told.get(String(block.attrs['id']))];
    return row && values ? block.copy(Fragment.fromArray(cellsOf(block, row, values))) : block;
  });
  const own = new Set([sheet.node, ...sheet.rows.map(({ node }) => node)]);
  return now.copy(
    Fragment.fromArray(asStanding([...blocks, ...now.children.filter((block) => !own.has(block))], now)),
  );
}

/** A sheet alone as a file of values has it: in each cell what that shows. */
function shownAlone(view: BookView, sheet: SheetView, book: Node): Node {
  const calculation = new Calculation(view);
  const columns = new Map(sheet.columns.map(({ id }, i) => [id, i]));
  const head = sheet.node.type.create(
    { id: sheet.id, place: sheet.node.attrs['place'] as string },
    sheet.node.children.map((column) => column.type.create({ ...column.attrs, width: undefined })),
  );
  const rows = sheet.rows.map(({ node }, at) => {
    const cells = node.children.flatMap((cell) => {
      const column = columns.get(String(cell.attrs['column']));
      const value = column === undefined ? null : calculation.at(sheet.id, at, column);
      const field = shownIn({ text: cell.textContent, value, format: String(cell.attrs['format']) });
      return field === ''
        ? []
        : [
            cell.type.create(
              { column: cell.attrs['column'] as string },
              book.type.schema.text(typedField(field)),
            ),
          ];
    });
    return node.copy(Fragment.fromArray(cells));
  });
  return book.copy(Fragment.fromArray(asStanding([head, ...rows], book)));
}

function linesOf(book: Node): ReadonlyMap<string, RowView> {
  return new Map(
    readBook(book).sheets.flatMap(({ rows }) => rows.map((row): [string, RowView] => [row.id, row])),
  );
}

/** The head of a sheet in which nothing but its columns may differ. */
function headed(next: Node, head: Node): Node {
  const known = new Map(head.children.map((column) => [String(column.attrs['id']), column]));
  const columns = next.children.map((column) => {
    const width = known.get(String(column.attrs['id']))?.attrs['width'] as number | undefined;
    return column.type.create({ ...column.attrs, ...(width === undefined ? {} : { width }) });
  });
  return head.copy(Fragment.fromArray(columns));
}

/** The cells of a row: what shows what it showed is what it was, what shows something else looks as it did. */
function cellsOf(next: Node, { node: was }: RowView, shown: RowView): Node[] {
  const said = new Map(next.children.map((cell) => [String(cell.attrs['column']), cell]));
  const kept = was.children.flatMap((cell) => {
    const column = String(cell.attrs['column']);
    const [told = '', says = ''] = [cellAt(shown, column)?.cell.textContent, said.get(column)?.textContent];
    said.delete(column);
    if (told === says) return [cell];
    return says === '' ? [] : [cell.copy(Fragment.from(cell.type.schema.text(says)))];
  });
  return [...kept, ...said.values()];
}
