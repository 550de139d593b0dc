import type { ComparedChange } from '@oxbow/contract';
import { documentOf } from '@oxbow/core/kinds';
import type { MergedSheet } from '@oxbow/core/kinds/sheet';
import { mergedBooks, sheetChanges } from '@oxbow/core/kinds/sheet';
import type { SheetChange } from '@oxbow/core/kinds/sheet';
import type { Look } from '../../../reading/look';
import { Marks, placesOf } from './placed';
import type { View } from '../views';
import { nameOf, viewOf } from '../views';

/** Two books of a comparison, read as one. */
export interface ComparedBooks {
  readonly earlier: View;
  readonly later: View;
  readonly sheets: readonly MergedSheet[];
  readonly told: readonly SheetChange[];
}

/** The two books of a look. */
export function booksOf(look: Look): ComparedBooks {
  const [earlier, later] = [viewOf(documentOf(look.earlier.content)), viewOf(documentOf(look.later.content))];
  return {
    earlier,
    later,
    sheets: mergedBooks(earlier.doc, later.doc),
    told: sheetChanges(earlier.doc, later.doc),
  };
}

/** Where the changes that are shown stand in two books. */
export function marksOf({ earlier, later }: ComparedBooks, shown: readonly ComparedChange[]): Marks {
  return new Marks(placesOf(shown, earlier.doc, later.doc));
}

/** What a sheet of either book is called. */
export function sheetName(books: ComparedBooks, { earlier, later }: MergedSheet): string {
  const [view, sheet] = later ? [books.later, later] : [books.earlier, earlier];
  return sheet ? nameOf(sheet, view.sheets.indexOf(sheet)) : '';
}
