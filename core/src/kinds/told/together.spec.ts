import type { Node } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import { assembleTogether, bringTogether } from '../../compare/index.js';
import { blankSlide, deckSchema, moveLines, slidesOf } from '../deck/index.js';
import type { SlideView } from '../deck/index.js';
import {
  Places,
  addColumns,
  addRows,
  addSheet,
  blankBook,
  removeLine,
  sheetsOf,
  storedFormula,
  readBook,
  writeCells,
} from '../sheet/index.js';
import type { CellForm, SheetView } from '../sheet/index.js';
import { toldTogether } from './index.js';

const first = (book: Node): SheetView => sheetsOf(book)[0] as SheetView;
const after = <T>(doc: Node, read: (doc: Node) => T, ...acts: ((tr: Transform, on: T) => void)[]): Node => {
  const tr = new Transform(doc);
  for (const act of acts) act(tr, read(tr.doc));
  return tr.doc;
};
const book = (doc: Node, ...acts: ((tr: Transform, on: SheetView) => void)[]): Node =>
  after(doc, first, ...acts);
const deck = (doc: Node, ...acts: ((tr: Transform, on: SlideView[]) => void)[]): Node =>
  after(doc, slidesOf, ...acts);

/** Writes a cell by its name, as somebody types it. */
const write =
  (name: string, typed: string) =>
  (tr: Transform, on: SheetView): void => {
    const column = on.columns[name.charCodeAt(0) - 65]?.id ?? '';
    const row = on.rows[Number(name.slice(1)) - 1] as SheetView['rows'][number];
    writeCells(tr, [{ row, column, text: storedFormula(typed, new Places(readBook(tr.doc)), on.id) }]);
  };

/** Each line with its passages: where they stand, and what each side made of them. */
function told(base: Node, ...sides: Node[]): string[] {
  const together = bringTogether(base, sides, { tidy: true });
  const { lines, passages } = toldTogether(together, [base, ...sides]);
  return lines.flatMap(({ pieces }) =>
    pieces.flatMap((piece) => {
      const passage = 'passage' in piece ? passages[piece.passage] : undefined;
      if (!passage) return [];
      const made = passage.forms.map(({ text, by }) => `${text} (${by.join()})`).join(' | ');
      return [`${passage.where ?? ''}: ${passage.base} > ${made}`];
    }),
  );
}

describe('what several made of one book', () => {
  const budget = book(
    blankBook(),
    write('A1', 'Rope'),
    write('B1', '120'),
    write('C1', '=B1*2'),
    write('A2', 'Paint'),
    write('B2', '60'),
    write('A3', 'Boats'),
    write('B3', '400'),
  );

  it('is told cell by cell from the first to the last, formulas in the names that the first one has, and what several made alike once', () => {
    const ada = book(budget, write('B1', '150'), write('A4', 'Engine'), write('B3', '410'));
    const ben = book(
      budget,
      (tr, on) => addColumns(tr, on, 0, ['code']),
      write('D1', '=C1*3'),
      write('C1', '160'),
      write('C3', '410'),
    );
    expect(told(budget, ada, ben)).toEqual([
      'Column A:  > a column (1)',
      'B1 · Rope: 120 > 150 (0) | 160 (1)',
      'C1 · Rope: =B1*2 > =B1*3 (1)',
      'B3 · Boats: 400 > 410 (0,1)',
      'A4:  > Engine (0)',
    ]);
    const together = bringTogether(budget, [ada, ben]);
    const outcome = first(
      assembleTogether(together, (id) => (together.passages[id]?.forms.length === 1 ? 0 : 'base')),
    );
    expect(outcome.rows.slice(0, 4).map(({ node }) => node.textContent.replace(/\[.*?\]/g, ''))).toEqual([
      'Rope120=*3',
      'Paint60',
      'Boats410',
      'Engine',
    ]);
  });

  it('is told more exactly where few words would say nothing, or the same', () => {
    const look =
      (row: number, column: string, form: Partial<CellForm>) =>
      (tr: Transform, on: SheetView): void =>
        writeCells(tr, [{ row: on.rows[row] as SheetView['rows'][number], column, form }]);
    const ada = book(budget, look(4, 'c2', { fill: 'reed' }), look(1, 'c2', { bold: true, align: 'end' }));
    const ben = book(budget, (tr, { rows }) => removeLine(tr, rows[1] as SheetView['rows'][number]));
    expect(told(budget, ada, ben)).toEqual([
      'Row 2 · Paint: A Paint · B 60 > A Paint · B 60 (aligned to the end, bold) (0) |  (1)',
      'B5:  > (filled with reed) (0)',
    ]);
  });

  it('is told by rows that came, went and moved, by looks, and by sheets where there are several', () => {
    const two = book(budget, (tr) => addSheet(tr, { id: 'second', name: 'Stores' }, ['s1', 's2']));
    const ada = book(
      two,
      (tr, { rows }) => removeLine(tr, rows[1] as SheetView['rows'][number]),
      (tr, on) => moveLines(tr, on.rows, on.rows.slice(1, 2), 0),
      (tr, on) =>
        writeCells(tr, [
          { row: on.rows[0] as SheetView['rows'][number], column: 'c1', form: { bold: true } },
        ]),
    );
    const ben = book(
      two,
      write('B2', '65'),
      (tr, on) => addRows(tr, on, 1, ['new']),
      write('A2', 'Sails'),
      (tr) => tr.setNodeAttribute(sheetsOf(tr.doc)[1]?.at ?? 0, 'name', 'Shed'),
    );
    expect(told(two, ada, ben)).toEqual([
      'Sheet 1 · Row 2 · Paint: Paint · 60 >  (0) | Paint · 65 (1)',
      'Sheet 1 · Row 2 · Sails:  > Sails (1)',
      'Sheet 1 · Row 3 · Boats: where it was > moved (0)',
      'Sheet 1 · A3 · Boats: not bold > bold (0)',
      'Stores: called “Stores” > called “Shed” (1)',
    ]);
  });
});

describe('what several made of one deck', () => {
  const slide = (id: string, place: string, title: string): Node => {
    const blank = blankSlide(id, place);
    return blank.copy(
      blank.content.replaceChild(0, deckSchema.node('title', null, [deckSchema.text(title)])),
    );
  };
  const tides = deckSchema.node('deck', null, [slide('a', 'a0', 'High water'), slide('b', 'a1', 'Slack')]);
  const retitled =
    (title: string) =>
    (tr: Transform, on: SlideView[]): void => {
      const { at } = on[0] as SlideView;
      tr.replaceWith(at + 2, at + 2 + (on[0]?.title.length ?? 0), deckSchema.text(title));
    };

  it('is told slide by slide as they are shown, text word by word, places and sizes in words', () => {
    const ada = deck(tides, retitled('High tide'), (tr, on) => moveLines(tr, on, on.slice(1), 0));
    const ben = deck(
      tides,
      retitled('High noon'),
      (tr, on) => tr.setNodeAttribute((on[1] as SlideView).at, 'hidden', true),
      (tr, on) => tr.setNodeAttribute((on[1] as SlideView).at + 3 + 'Slack'.length, 'x', 2000),
      (tr) => tr.insert(tr.doc.content.size, slide('c', 'a2', 'Ebb')),
    );
    expect(told(tides, ada, ben)).toEqual([
      'Slide 1 · High water · title: water > tide (0) | noon (1)',
      'Slide 2 · Slack: where it was, shown > moved, hidden (0,1)',
      'Slide 2 · Slack · box: where it was > moved (1)',
      'Slide 3 · Ebb:  > Ebb (1)',
    ]);
  });
});
