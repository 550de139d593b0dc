import { NO_IMAGES, readHtml } from '@oxbow/core/formats';
import { meOf } from '../session/testing';
import { Room } from '../testing/room';
import { PastPage } from './past-page';

describe('a page of the past to pick from', () => {
  it('draws what is gone anew only when no button is down, so that a selection being made stays', async () => {
    const doc = readHtml('<p>the old wheel</p><p>turns</p>', NO_IMAGES);
    const me = meOf({ id: 'ines', name: 'Ines', initials: 'IN', colour: 0 });
    const room = await Room.open(PastPage, me, { document: 'guide', doc, gone: [] });
    const marked = (): string | undefined => room.element.querySelector('.gone')?.textContent;
    room.element.querySelector('p')?.dispatchEvent(new PointerEvent('pointerdown', { bubbles: true }));
    room.fixture.componentRef.setInput('gone', [{ from: 5, to: 8 }]);
    await room.fixture.whenStable();
    expect(marked()).toBeUndefined();
    document.dispatchEvent(new PointerEvent('pointerup'));
    await room.fixture.whenStable();
    expect(marked()).toBe('old');
  });
});
