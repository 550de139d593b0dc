import { addColumns, addRows, moveLines, readBook, removeLine, writeCells } from '@oxbow/core/kinds/sheet';
import type { SheetView } from '@oxbow/core/kinds/sheet';
import type { ComparedChange } from '@oxbow/contract';
import type { Decision } from '@oxbow/core/compare';
import { Transform } from 'prosemirror-transform';
import { lookAtDocuments, people } from '../../../reading/testing/look';
import { Room } from '../../../testing/room';
import { BUDGET, bookWith } from '../testing/books';
import { calculatingHere } from '../testing/calculating-here';
import { SheetReading } from './reading';

const before = bookWith([...BUDGET, ['Survey', '1', '450', '=B4*C4'], ['Total', '', '', '=SUM(D2:D4)']]);

function after(): Transform['doc'] {
  const tr = new Transform(before);
  const on = (): SheetView => readBook(tr.doc).sheets[0] as SheetView;
  const row = (index: number): SheetView['rows'][number] => on().rows[index] as SheetView['rows'][number];
  writeCells(tr, [
    { row: row(1), column: 'c2', text: '14' },
    { row: row(0), column: 'c1', form: { bold: true } },
    { row: row(3), column: 'c4', text: '=[r4.c2]*[r4.c3]*2' },
  ]);
  removeLine(tr, row(2));
  addRows(tr, on(), 2, ['oakum']);
  writeCells(tr, [{ row: row(2), column: 'c1', text: 'Oakum' }]);
  moveLines(tr, on().rows, [row(3)], 1);
  addColumns(tr, on(), 1, ['who']);
  return tr.doc;
}

describe('two books read against each other', () => {
  const look = lookAtDocuments(before, after());
  const heard: unknown[] = [];
  let room: Room<SheetReading>;

  const open = async (
    mode: string,
    shown: readonly ComparedChange[] = look.comparison.changes,
    decisions: ReadonlyMap<number, Decision> | null = null,
  ): Promise<void> => {
    calculatingHere();
    heard.length = 0;
    const hear = (name: string) => (what: unknown) => heard.push([name, what]);
    const me = { id: 'ines', name: 'Ines Okell', initials: 'IO', colour: 0 } as never;
    room = await Room.open(SheetReading, me, {
      look,
      mode,
      shown,
      people,
      at: shown[0]?.id ?? null,
      decisions,
      changed: hear('changed'),
      decided: hear('decided'),
      noted: hear('noted'),
      opened: hear('opened'),
    });
    room.element.style.cssText = 'display:grid;width:900px;height:420px';
    await settled();
  };
  const settled = async (): Promise<void> => {
    for (let turn = 0; turn < 3; turn++) {
      await new Promise((done) => setTimeout(done, 5));
      await room.fixture.whenStable();
    }
  };
  const lines = (table = 0): string[] =>
    [...(room.element.querySelectorAll('ox-read-table')[table]?.querySelectorAll('ox-read-line') ?? [])].map(
      (line) =>
        [...line.querySelectorAll('.cell')]
          .map((cell) => cell.textContent)
          .join('|')
          .replace(/\|+$/, ''),
    );
  const marked = (name: string): string[] =>
    [...room.element.querySelectorAll(`.cell.${name}`)].map((cell) => cell.textContent ?? '').filter(Boolean);

  it('is one grid with marks: cells before and after, what came and went, and what follows from it', async () => {
    await open('flowing');
    expect(lines().slice(0, 6)).toEqual([
      'Item||Hours|Rate|Cost',
      'Survey||1|450|450900',
      'Caulking||1214|38.5|539',
      'Tar and rope||3|120|360',
      'Oakum',
      'Total||||1439',
    ]);
    expect(marked('was-removed')).toEqual(['Tar and rope', '3', '120', '360']);
    expect(marked('was-added')).toContain('Oakum');
    expect(marked('was-formed')).toEqual(['Item']);
    expect(marked('follows')).toEqual(['539', '1439']);
    expect(room.element.querySelector<HTMLElement>('.cell.formula')?.title).toBe('=B4*C4 became =C2*D2*2');
    expect(room.element.querySelectorAll('.number.was-moved').length).toBe(1);
    expect(room.element.querySelector('.summary')?.textContent).toBe(
      '1 formula, 1 value, 3 rows, 1 column, the look of 1 cell; because of them E5 rose by 167',
    );
  });

  it('is two grids in step, with what one lacks left open', async () => {
    await open('facing');
    expect(lines(0)[4]).toBe('');
    expect(lines(1)[3]).toBe('');
    expect(lines(0)[2]).toBe('Caulking||12|38.5|462');
    expect(lines(1)[2]).toBe('Caulking||14|38.5|539');
    expect(room.element.querySelectorAll('.cell.absent').length).toBeGreaterThan(5);
  });

  it('is a list of what differs: by cell, by row, by person', async () => {
    await open('digest');
    const told = (): string[] =>
      [...room.element.querySelectorAll('li')].map((item) =>
        ['.deed', 'del', 'ins']
          .map((part) => item.querySelector(part)?.textContent?.trim() ?? '')
          .join(' | '),
      );
    expect(told()).toContain('C3 changed | 12 | 14');
    expect(told()).toContain('E2 formula changed | =B4*C4 → 450 | =C2*D2*2 → 900');
    expect(told().some((one) => one.startsWith('Row 3 removed | Tar and rope'))).toBeTrue();
    const radio = [...room.element.querySelectorAll<HTMLElement>('button')];
    radio.find((one) => one.textContent?.trim() === 'By person')?.click();
    await settled();
    expect([...room.element.querySelectorAll('h3')].map((one) => one.textContent)).toEqual([
      'Ines Okell',
      'Tobias Rahn',
    ]);
    room.element.querySelector<HTMLElement>('.go')?.click();
    expect(heard.at(-1)).toEqual(['opened', jasmine.any(Number)]);
  });

  it('marks only what is shown, takes a change in hand, and tells of a mark that is pointed at', async () => {
    const value = look.comparison.changes.filter(({ later }) => later === '14');
    await open('flowing', value);
    expect(room.element.querySelectorAll('.cell[data-change]').length).toBe(1);
    const cell = room.element.querySelector<HTMLElement>('.cell[data-change]');
    cell?.click();
    cell?.dispatchEvent(new MouseEvent('mouseover', { bubbles: true }));
    expect(heard.map((one) => (one as unknown[])[0])).toEqual(['changed', 'noted']);
    expect(cell?.classList).toContain('at-hand');
  });

  it('shows what was taken while one assembles, and switches of each row', async () => {
    const change = look.comparison.changes.find(({ later }) => later === '14');
    await open('flowing', look.comparison.changes, new Map([[change?.id ?? 0, 'earlier']]));
    expect(room.element.querySelector<HTMLElement>('.was-replaced[data-take]')?.dataset['take']).toBe(
      'earlier',
    );
    room.element.querySelector<HTMLElement>('.switch button')?.click();
    expect(heard.some((one) => (one as unknown[])[0] === 'decided')).toBeTrue();
  });
});
