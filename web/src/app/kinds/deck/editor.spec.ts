import { TestBed } from '@angular/core/testing';
import { Acting } from '../../acting/acting';
import { DeckRoom, deckWith, withPicture } from './testing/deck-room';

describe('a deck one writes in', () => {
  let room: DeckRoom;
  const open = async (...titles: string[]): Promise<void> =>
    void (room = await DeckRoom.open(deckWith(...titles)));
  const cards = (): string[] =>
    [...room.element.querySelectorAll('[role=option]')].map((card) => card.getAttribute('aria-label') ?? '');

  it('shows the slide in hand and no other, and goes among them by keys and by the strip', async () => {
    await open('Ebb', 'Flood', 'Slack');
    expect(room.seen).toBe('Ebb');
    expect(cards()).toEqual(['1, Ebb', '2, Flood', '3, Slack']);
    await room.press('PageDown');
    expect(room.seen).toBe('Flood');
    await room.press('PageDown', 'PageDown');
    expect(room.seen).toBe('Slack');
    room.element.querySelectorAll<HTMLElement>('[role=option]')[0]?.click();
    await room.settle();
    expect(room.seen).toBe('Ebb');
  });

  it('adds, doubles, moves, hides and removes slides; what was written is told as steps', async () => {
    await open('Ebb', 'Flood', 'Slack');
    await room.act('addSlide');
    await room.type('Race');
    expect(room.titles).toEqual(['Ebb', 'Race', 'Flood', 'Slack']);
    await room.act('slideAfter');
    expect(room.titles).toEqual(['Ebb', 'Flood', 'Race', 'Slack']);
    expect(room.seen).toBe('Race');
    await room.act('copySlide');
    expect(room.titles).toEqual(['Ebb', 'Flood', 'Race', 'Race', 'Slack']);
    expect(new Set(room.slides.map(({ id }) => id)).size).toBe(5);
    await room.act('hideSlide');
    expect(room.titles).toEqual(['Ebb', 'Flood', 'Race', '(Race)', 'Slack']);
    expect(cards()[3]).toContain('left out when showing');
    await room.act('removeSlide');
    expect(room.titles).toEqual(['Ebb', 'Flood', 'Race', 'Slack']);
    expect(room.seen).toBe('Slack');
    expect(room.wrote.length).toBeGreaterThan(5);
    room.page.state.doc.check();
  });

  it('never removes the last slide, and has nothing to remove where no box is in hand', async () => {
    await open('Ebb');
    const can = (): string[] =>
      TestBed.inject(Acting)
        .now()
        .map(({ id }) => id);
    expect(can()).not.toContain('removeSlide');
    expect(can()).not.toContain('removeThing');
    await room.act('addBox');
    expect(can()).toContain('removeThing');
    expect(room.slides[0]?.node.childCount).toBe(4);
    await room.act('removeThing');
    expect(room.slides[0]?.node.childCount).toBe(3);
  });

  it('goes from the title through the boxes to the notes, and picks a box whole', async () => {
    await open('Ebb');
    const within = (): string => room.page.state.selection.$from.node(2).type.name;
    await room.press('Tab');
    expect(within()).toBe('box');
    await room.press('Escape');
    expect(room.element.querySelector('.frame.picked')).not.toBeNull();
    const before = room.slides[0]?.node.child(1).attrs;
    await room.press('ArrowRight', 'ArrowDown', 'Shift+ArrowLeft');
    const after = room.slides[0]?.node.child(1).attrs;
    expect([after?.['x'], after?.['y'], after?.['width']]).toEqual([
      Number(before?.['x']) + 200,
      Number(before?.['y']) + 200,
      Number(before?.['width']) - 200,
    ]);
    await room.press('Enter', 'Tab');
    expect(within()).toBe('notes');
    await room.press('Shift+Tab', 'Shift+Tab');
    expect(within()).toBe('title');
    await room.press('Enter');
    expect(within()).toBe('box');
    expect(room.titles).toEqual(['Ebb']);
  });

  it('stacks pictures, tells what they show, and takes copies under names of their own', async () => {
    room = await DeckRoom.open(withPicture(deckWith('Ebb'), 'A boat'));
    const frame = await room.pick('frame');
    await room.act('toBack');
    expect(room.slides[0]?.node.children.map(({ type }) => type.name)).toEqual([
      'title',
      'frame',
      'box',
      'notes',
    ]);
    const { tr } = room.page.state;
    room.page.dispatch(tr);
    const clip = new DataTransfer();
    clip.setData('text/html', `<img data-pm-slice="0 0 []" ${[...attributesOf(frame)].join(' ')}>`);
    room
      .one('.deck-page')
      .dispatchEvent(new ClipboardEvent('paste', { clipboardData: clip, bubbles: true, cancelable: true }));
    await room.settle();
    const frames = room.slides[0]?.node.children.filter(({ type }) => type.name === 'frame') ?? [];
    expect(frames.map(({ attrs }) => attrs['alt'])).toEqual(['A boat', 'A boat']);
    expect(frames[0]?.attrs['id']).not.toBe(frames[1]?.attrs['id']);
  });

  it('tells who else is on which slide, and lets nobody write who may not', async () => {
    await open('Ebb', 'Flood');
    const at = room.slides[1]?.at ?? 0;
    room.others.set(new Map([['w', { client: 'w', person: 'ines', seq: 0, anchor: at + 2, head: at + 2 }]]));
    await room.settle();
    expect(cards()[1]).toBe('2, Flood, Ines Okell here');
    TestBed.resetTestingModule();
    room = await DeckRoom.open(deckWith('Ebb'), false);
    expect(room.one('.deck-page').getAttribute('contenteditable')).toBe('false');
    await room.act('addSlide');
    expect(room.titles).toEqual(['Ebb']);
    expect(room.element.querySelectorAll('ox-rail button').length).toBe(1);
  });
});

function attributesOf({ attrs }: { attrs: Record<string, unknown> }): string[] {
  const { id, hash, alt, x, y, width, height } = attrs;
  const data = { frame: id, image: hash, x, y, width, height };
  return [
    `alt="${String(alt)}"`,
    ...Object.entries(data).map(([name, value]) => `data-${name}="${String(value)}"`),
  ];
}
