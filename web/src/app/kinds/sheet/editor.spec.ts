import { blankBook, readBook, sheetSchema } from '@oxbow/core/kinds/sheet';
import { FILLER } from '@oxbow/core/content';
import { BUDGET, bookWith } from './testing/books';
import type { Node } from 'prosemirror-model';
import { OWN } from '../../document/own-acts';
import { SheetRoom } from './testing/sheet-room';

function attributes(room: SheetRoom, row: number, column: number): Record<string, unknown> {
  const sheet = readBook(room.page.state.doc).sheets[0];
  const id = sheet?.columns[column]?.id;
  let found: Record<string, unknown> = {};
  sheet?.rows[row]?.node.forEach((cell) => {
    if (cell.attrs['column'] === id) found = cell.attrs;
  });
  return found;
}

describe('a sheet on its page', () => {
  it('takes what is typed, calculates it, and goes on along a row with Tab and to the next with Enter', async () => {
    const room = await SheetRoom.open();
    await room.type('Caulking', 'Tab');
    await room.type('12', 'Tab');
    await room.type('38.5', 'Tab');
    await room.type('=B1*C1', 'Enter');
    await room.type('Survey', 'Enter');
    expect(room.shown()).toEqual([['Caulking', '12', '38.5', '462'], ['Survey']]);
    expect(room.typed()[0]?.[3]).toBe('=B1*C1');
    expect(room.page.state.doc.textContent).toContain('=[r1.c2]*[r1.c3]');
    expect(room.one('.in-hand').getAttribute('aria-label')).toBe('A3, empty');
    expect(room.grid.getAttribute('aria-activedescendant')).toBe(room.one('.in-hand').id);
  });

  it('leaves a cell as it was on Escape, edits it by F2, and empties cells', async () => {
    const room = await SheetRoom.open(bookWith(BUDGET));
    await room.type('nonsense', 'Escape');
    expect(room.shown()[0]?.[0]).toBe('Item');
    await room.press('F2');
    expect(room.one<HTMLInputElement>('.field').value).toBe('Item');
    await room.press('Escape', 'Shift+ArrowRight', 'Shift+ArrowDown', 'Delete');
    expect(room.shown()).toEqual([
      ['', '', 'Rate', 'Cost'],
      ['', '', '38.5', '0'],
      ['Tar and rope', '3', '120', '360'],
    ]);
    expect(room.wrote.filter((tr) => tr.docChanged).length).toBe(1);
  });

  it('goes about by keys: to the ends of what is filled, of the row and of the sheet', async () => {
    const room = await SheetRoom.open(bookWith(BUDGET));
    const at = () => room.one('.in-hand').id;
    await room.press('Control+ArrowDown');
    expect(at()).toBe('cell-2-0');
    await room.press('Control+ArrowRight');
    expect(at()).toBe('cell-2-3');
    await room.press('Home', 'Control+Home');
    expect(at()).toBe('cell-0-0');
    await room.press('Control+End');
    expect(at()).toBe('cell-6-3');
    await room.press('Control+a');
    expect(room.element.querySelectorAll('[role=gridcell][aria-selected=true]').length).toBe(28);
    expect(room.one('.told').textContent).toContain('12 filled');
  });

  it('fills down and right, with formulas that refer as far on', async () => {
    const room = await SheetRoom.open(
      bookWith([...BUDGET.slice(0, 2), ['Tar', '3', '120'], ['Oakum', '2', '9']]),
    );
    await room.point(1, 3);
    await room.press('Shift+ArrowDown', 'Shift+ArrowDown');
    await room.act('fillDown');
    expect(room.typed().map((line) => line[3])).toEqual(['Cost', '=B2*C2', '=B3*C3', '=B4*C4']);
    expect(room.shown().map((line) => line[3])).toEqual(['Cost', '462', '360', '18']);
  });

  it('adds, moves, sorts and removes rows and columns; formulas keep what they refer to', async () => {
    const room = await SheetRoom.open(bookWith(BUDGET, 1));
    await room.point(1, 0);
    await room.act('rowAbove');
    expect(room.typed()[2]).toEqual(['Caulking', '12', '38.5', '=B3*C3']);
    await room.act('removeRow');
    await room.point(1, 2);
    await room.act('sortDown');
    expect(room.shown().map((line) => line[0])).toEqual(['Item', 'Tar and rope', 'Caulking']);
    expect(room.typed()[1]).toEqual(['Tar and rope', '3', '120', '=B2*C2']);
    await room.act('sortUp');
    await room.act('columnBefore');
    expect(room.typed()[1]).toEqual(['Caulking', '12', '', '38.5', '=B2*D2']);
    await room.act('removeColumn');
    await room.point(1, 0);
    await room.act('moveDown');
    expect(room.shown().map((line) => line[0])).toEqual(['Item', 'Tar and rope', 'Caulking']);
  });

  it('goes to what was undone', async () => {
    const room = await SheetRoom.open(bookWith(BUDGET));
    await room.point(2, 1);
    await room.type('30');
    await room.point(0, 0);
    const { state } = room.page;
    const last = room.wrote.filter((tr) => tr.docChanged).at(-1);
    const tr = state.tr;
    last?.steps.forEach((step, i) => tr.step(step.invert(last.docs[i] as Node)));
    room.page.dispatch(tr.setMeta(OWN, { cause: { kind: 'undo', of: [] }, sources: [] }));
    await room.settle();
    expect(room.one('.in-hand').id).toBe('cell-2-1');
    expect(room.shown()[2]?.[1]).toBe('3');
  });

  it('draws a cell that is kept in view under the head of its column, in hand or not', async () => {
    const room = await SheetRoom.open(bookWith(BUDGET));
    await room.point(1, 1);
    await room.act('freeze');
    await room.point(0, 0);
    expect(room.one('.in-hand').classList).toContain('fast');
    const edge = (selector: string): number => room.one(selector).getBoundingClientRect().left;
    expect(edge('#cell-0-0')).toBe(edge('.letters [role=columnheader]:nth-child(2)'));
    expect(edge('#cell-1-0')).toBe(edge('#cell-0-0'));
  });

  it('gives cells a look, and takes it away', async () => {
    const room = await SheetRoom.open(bookWith(BUDGET));
    await room.press('Shift+ArrowRight');
    await room.act('bold');
    await room.act('alignCenter');
    expect(attributes(room, 0, 1)).toEqual(jasmine.objectContaining({ bold: true, align: 'center' }));
    expect(room.element.querySelectorAll('.bold.center').length).toBe(2);
    await room.act('plainCells');
    expect(room.element.querySelectorAll('.bold').length).toBe(0);
    expect(room.shown()).toEqual([
      BUDGET[0] ?? [],
      ['Caulking', '12', '38.5', '462'],
      ['Tar and rope', '3', '120', '360'],
    ]);
  });

  it('copies to other programs and back: formulas and looks come along here, values elsewhere', async () => {
    const room = await SheetRoom.open(bookWith(BUDGET));
    const clip = new DataTransfer();
    const send = async (kind: string, data = clip): Promise<void> => {
      room.grid.dispatchEvent(
        new ClipboardEvent(kind, { clipboardData: data, bubbles: true, cancelable: true }),
      );
      await room.settle();
    };
    await room.point(1, 3);
    await send('copy');
    expect(clip.getData('text/plain').trim()).toBe('462');
    await room.press('ArrowDown', 'ArrowDown');
    await send('paste');
    expect(room.typed()[3]?.[3]).toBe('=B4*C4');
    const foreign = new DataTransfer();
    foreign.setData('text/plain', 'Oakum\t2\t"say ""9"""\n=1+1');
    await room.point(3, 0);
    await send('paste', foreign);
    expect(room.typed().slice(3)).toEqual([['Oakum', '2', 'say "9"', '=B4*C4'], ["'=1+1"]]);
    expect(room.shown()[4]).toEqual(['=1+1']);
    const table = new DataTransfer();
    table.setData('text/html', '<table><tr><td colspan=2>Two</td><td>Three</td></tr></table>');
    await room.point(5, 0);
    await send('paste', table);
    expect(room.shown()[5]).toEqual(['Two', '', 'Three']);
    await room.point(3, 0);
    await send('cut');
    expect(room.shown()[3]?.[0]).toBe('');
  });

  it('adds and renames sheets, refuses a name twice, and formulas reach across', async () => {
    const room = await SheetRoom.open(bookWith(BUDGET));
    await room.act('addSheet');
    await room.type('=Budget!D2*2');
    expect(room.shown(1)).toEqual([['924']]);
    await room.act('renameSheet');
    const name = room.one<HTMLInputElement>('.name');
    name.value = 'budget';
    name.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    await room.settle();
    expect(room.one('.wrong').textContent).toContain('Another sheet is called that');
    name.value = 'Totals';
    name.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    await room.settle();
    expect([...room.element.querySelectorAll('[role=tab]')].map((one) => one.textContent?.trim())).toEqual([
      'Budget',
      'Totals',
    ]);
    await room.act('removeSheet');
    expect(room.element.querySelectorAll('[role=tab]').length).toBe(1);
    expect(room.said.join()).toContain('Totals');
  });

  it('puts the name of a pressed cell into a formula that can take it', async () => {
    const room = await SheetRoom.open(bookWith(BUDGET));
    await room.point(3, 0);
    await room.press('=');
    const field = room.one<HTMLInputElement>('.field');
    field.value = '=2*';
    field.dispatchEvent(new Event('input'));
    await room.point(2, 2);
    expect(field.value).toBe('=2*C3');
    await room.press('Enter');
    expect(room.shown()[3]).toEqual(['240']);
  });

  it('shows who else is where, and who wrote each cell while that is asked', async () => {
    const room = await SheetRoom.open(bookWith(BUDGET));
    const sheet = readBook(room.page.state.doc).sheets[0];
    const [row, column] = [sheet?.rows[1], sheet?.columns[0]];
    room.others.set(
      new Map([['w', { person: 'ines', anchor: column?.at, head: (row?.at ?? 0) + 2, seq: 1, client: 'w' }]]),
    );
    await room.settle();
    expect(room.one('.guest').id).toBe('cell-1-0');
    expect(room.one('.guest').dataset['who']).toBe('IO');
    const people = new Map([['ines', { id: 'ines', name: 'Ines Okell', initials: 'IO', colour: 0 }]]);
    const at = '2026-11-24T09:00:00.000Z';
    const from = (row?.at ?? 0) + 2;
    const entries = [{ from, to: from + 8, by: 'ines', writer: 'ines', at }];
    room.ledger.set({ entries, filter: { person: '', days: 0 }, people });
    await room.settle();
    expect(room.one('.noted').title).toContain('Ines Okell');
  });

  it('shows what was erased in a cell as a bar, keeps it while the rest is edited, and fills nothing else with it', async () => {
    const book = JSON.stringify(bookWith([['goes to Ines, 4711', '\u2588\u2588']]).toJSON()).replace(
      '4711',
      FILLER.repeat(4),
    );
    const room = await SheetRoom.open(sheetSchema.nodeFromJSON(JSON.parse(book)));
    const stored = (): string[] => readBook(room.page.state.doc).sheets[0]?.rows.map(textOfFirst) ?? [];
    const textOfFirst = ({ node }: { node: Node }): string => node.firstChild?.textContent ?? '';
    const bar = '\u2588'.repeat(4);
    expect(room.shown()[0]?.[0]).toBe(`goes to Ines, ${bar}`);
    expect(room.one('.in-hand').getAttribute('aria-label')).toContain('A1, goes to Ines, erased');
    await room.press('ArrowRight');
    expect(room.one('.in-hand').getAttribute('aria-label')).toBe('B1, \u2588\u2588');
    await room.press('ArrowLeft');
    await room.press('F2');
    expect(room.one<HTMLInputElement>('.field').value).toBe(`goes to Ines, ${bar}`);
    await room.press('Escape');
    await room.type(`goes to Tobias, ${bar}`, 'Enter');
    expect(stored()[0]).toBe(`goes to Tobias, ${FILLER.repeat(4)}`);
    await room.press('ArrowUp', 'Shift+ArrowDown');
    await room.act('fillDown');
    expect(stored()[1]).toBe('goes to Tobias, ');
    await room.press('ArrowUp');
    await room.type(`${bar} was there`, 'Enter');
    expect(stored()[0]).toBe(' was there');
  });

  it('is read and not written by whoever may only read; what was erased is a bar', async () => {
    const book = blankBook();
    const sheet = readBook(book).sheets[0];
    const cell = sheetSchema.node('cell', { column: 'c1' }, sheetSchema.text(FILLER.repeat(6)));
    const row = sheet?.rows[0];
    const held = book.replace((row?.at ?? 0) + 1, (row?.at ?? 0) + 1, book.slice(0, 0));
    const tr = held.type.create(
      null,
      book.children.map((one) =>
        one.attrs['id'] === row?.id && one.type.name === 'row' ? one.copy(one.content.addToEnd(cell)) : one,
      ),
    );
    const room = await SheetRoom.open(tr, false);
    expect(room.one('.erased').getAttribute('aria-label')).toContain('erased');
    await room.press('a', 'Delete');
    expect(room.wrote.filter((one) => one.docChanged)).toEqual([]);
    expect(room.element.querySelector('ox-rail')).toBeNull();
    await room.press('ArrowDown');
    expect(room.stood.length).toBeGreaterThan(1);
  });
});
