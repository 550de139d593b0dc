import { Room } from '../testing/room';
import { drawBook } from '../kinds/sheet/drawn-book';
import { BUDGET, bookWith } from '../kinds/sheet/testing/books';
import type { Picked } from './picking';
import { PickPage } from './pick-page';

describe('a moment to pick from, as it is drawn', () => {
  const book = bookWith(BUDGET);
  const picked: Picked[] = [];
  let sent = 0;
  let room: Room<PickPage>;

  beforeEach(async () => {
    const me = { id: 'ines', name: 'Ines Okell', initials: 'IO', colour: 0 } as never;
    room = await Room.open(PickPage, me, { document: 'budget', doc: book, draw: drawBook, gone: [] });
    picked.length = 0;
    sent = 0;
    room.fixture.componentInstance.picked.subscribe((what) => picked.push(what));
    room.fixture.componentInstance.sent.subscribe(() => sent++);
    document.body.append(room.element);
  });
  afterEach(() => room.element.remove());

  const text = (): string => {
    const [one] = picked.at(-1) ?? [];
    return one ? book.textBetween(one.from, one.to, '|') : '';
  };
  const press = async (key: string): Promise<void> => {
    room.element.querySelector('.page')?.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
    await room.fixture.whenStable();
  };

  it('picks a cell, the row that holds it, and goes about by arrow keys', async () => {
    [...room.element.querySelectorAll('td')].find(({ textContent }) => textContent === 'Caulking')?.click();
    await room.fixture.whenStable();
    expect(text()).toBe('Caulking');
    expect(room.element.querySelector('.picked')?.textContent).toBe('Caulking');
    await press('ArrowRight');
    expect(text()).toBe('12');
    await press('ArrowDown');
    expect(text()).toBe('3');
    await press('w');
    expect(text()).toContain('Tar and rope|3|120');
    await press('Enter');
    expect(sent).toBe(1);
  });

  it('picks where it is asked to, and tells heights', () => {
    const cell = [...room.element.querySelectorAll<HTMLElement>('td')].find(
      ({ textContent }) => textContent === '38.5',
    );
    const from = Number(cell?.dataset['from']);
    room.fixture.componentInstance.pick(from, from + 2);
    expect(text()).toBe('38.5');
    const top = room.fixture.componentInstance.heightOf(from + 1) ?? 0;
    expect(room.fixture.componentInstance.positionAt(top + 4)).toBeLessThanOrEqual(from);
  });
});
