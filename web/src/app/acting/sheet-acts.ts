import type { Act } from './act';

/** What can be done to the cells in hand, beside what text and sheets have in common. */
export const SHEET_ACTS = {
  fillDown: {
    label: $localize`Fill down`,
    icon: 'down',
    keys: 'mod+d',
    about: $localize`Go on from the first row of the selection to its last`,
  },
  fillRight: {
    label: $localize`Fill right`,
    icon: 'right',
    keys: 'mod+r',
    about: $localize`Go on from the first column of the selection to its last`,
  },
  sortUp: {
    label: $localize`Sort, smallest first`,
    about: $localize`Sort the rows by this column, smallest first`,
  },
  sortDown: {
    label: $localize`Sort, largest first`,
    about: $localize`Sort the rows by this column, largest first`,
  },
  moveUp: {
    label: $localize`Move rows up`,
    keys: 'alt+arrowup',
    about: $localize`Move the selected rows up by one`,
  },
  moveDown: {
    label: $localize`Move rows down`,
    keys: 'alt+arrowdown',
    about: $localize`Move the selected rows down by one`,
  },
  moveBefore: {
    label: $localize`Move columns left`,
    keys: 'alt+arrowleft',
    about: $localize`Move the selected columns left by one`,
  },
  moveAfter: {
    label: $localize`Move columns right`,
    keys: 'alt+arrowright',
    about: $localize`Move the selected columns right by one`,
  },
  freeze: {
    label: $localize`Keep rows and columns in view`,
    about: $localize`Keep what is above and left of this cell in view, or no longer`,
  },
  cellLife: {
    label: $localize`This cell over time`,
    keys: 'alt+l',
    about: $localize`All that stood in this cell, who wrote it, and what it came to`,
  },
  emptyCells: {
    label: $localize`Empty the cells`,
    keys: 'delete',
    about: $localize`Take out what is in the selected cells`,
  },
  plainCells: {
    label: $localize`Plain cells`,
    icon: 'plain',
    about: $localize`Take all looks off the selected cells`,
  },
  addSheet: {
    label: $localize`Add a sheet`,
    icon: 'add',
    about: $localize`Add an empty sheet to this document`,
  },
  renameSheet: { label: $localize`Rename the sheet`, about: $localize`Call this sheet something else` },
  sheetBefore: {
    label: $localize`Move the sheet left`,
    about: $localize`Show this sheet before the one on its left`,
  },
  sheetAfter: {
    label: $localize`Move the sheet right`,
    about: $localize`Show this sheet behind the one on its right`,
  },
  removeSheet: {
    label: $localize`Remove the sheet`,
    about: $localize`Remove this sheet with all that is in it`,
  },
} satisfies Record<string, Act>;

export type SheetActId = keyof typeof SHEET_ACTS;
