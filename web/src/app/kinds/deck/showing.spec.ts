import { MAT_DIALOG_DATA, MatDialogRef } from '@angular/material/dialog';
import { Transform } from 'prosemirror-transform';
import { slidesOf } from '@oxbow/core/kinds/deck';
import { Room } from '../../testing/room';
import { Showing } from './showing';
import { deckWith } from './testing/deck-room';

describe('slides that are shown', () => {
  let room: Room<Showing>;
  let closed: unknown[];
  const me = { id: 'ines', name: 'Ines Okell', initials: 'IO', colour: 0 } as never;
  const deck = ((): ReturnType<typeof deckWith> => {
    const made = deckWith('Ebb', 'Flood', 'Slack', 'Race');
    const tr = new Transform(made);
    return tr.setNodeAttribute(slidesOf(made)[1]?.at ?? 0, 'hidden', true).doc;
  })();
  const seen = (): string => room.element.querySelector('h2')?.textContent ?? '';

  async function open(from: string | null): Promise<void> {
    closed = [];
    room = await Room.open(
      Showing,
      me,
      {},
      {
        providers: [
          { provide: MAT_DIALOG_DATA, useValue: { document: 'd', doc: deck, title: 'For the crew', from } },
          { provide: MatDialogRef, useValue: { close: (at: unknown) => closed.push(at) } },
        ],
      },
    );
  }
  const press = async (...keys: string[]): Promise<void> => {
    for (const key of keys)
      room.element
        .querySelector('.stage')
        ?.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
    await room.fixture.whenStable();
  };

  it('go on and back by keys, to a number that is typed, and leave out what is hidden', async () => {
    await open(null);
    expect([seen(), room.element.querySelector('.count')?.textContent]).toEqual(['Ebb', '1 of 3']);
    await press('ArrowRight');
    expect(seen()).toBe('Slack');
    await press(' ', ' ');
    expect(seen()).toBe('Race');
    await press('ArrowLeft');
    expect(seen()).toBe('Slack');
    await press('1', 'Enter');
    expect(seen()).toBe('Ebb');
    await press('End');
    expect(seen()).toBe('Race');
  });

  it('begin at the slide in hand, even a hidden one, and say at which they were left', async () => {
    await open('s1');
    expect(seen()).toBe('Flood');
    await press('n');
    expect(room.element.querySelector('.notes')?.textContent).toContain('No notes');
    await press('Escape');
    expect(closed).toEqual(['s1']);
  });
});
