import type { Kind, KindOnScreen } from '../document/kinds';

/** What the web app has for each kind of document: a folder and a line each. */
export const KINDS_HERE: Readonly<Partial<Record<Kind, KindOnScreen>>> = {
  text: {
    label: $localize`Text`,
    about: $localize`Paragraphs, lists, tables and images`,
    icon: 'description',
    paper: true,
    page: async () => (await import('./text/editor')).Editor,
  },
  sheet: {
    label: $localize`Sheets`,
    about: $localize`Rows and columns of values and formulas`,
    icon: 'table',
    paper: false,
    page: async () => (await import('./sheet/editor')).SheetEditor,
    reading: async () => (await import('./sheet/reading/reading')).SheetReading,
    overTime: async () => (await import('./sheet/cell-over-time')).CellOverTime,
    says: async () => (await import('./sheet/says')).saysCells,
    drawn: async () => (await import('./sheet/drawn-book')).drawBook,
  },
  deck: {
    label: $localize`Slides`,
    about: $localize`Slides to show, with text, pictures and notes`,
    icon: 'slide',
    paper: false,
    paperRule: '@page { size: 320mm 180mm; margin: 0; }',
    page: async () => (await import('./deck/editor')).DeckEditor,
    drawn: async () => (await import('./deck/drawn-deck')).drawDeck,
  },
};
