import { LinePointer } from './pointer';

describe('a pointer on the line', () => {
  let told: unknown[];
  let pointer: LinePointer;
  const event = (pointerType: string): PointerEvent => new PointerEvent('pointermove', { pointerType });

  beforeEach(() => {
    jasmine.clock().install();
    told = [];
    pointer = new LinePointer({
      dragged: (which, x) => told.push(['dragged', which, x]),
      brushing: (area) => told.push(['brushing', area]),
      brushed: (from, to) => told.push(['brushed', from, to]),
      pushed: (by) => told.push(['pushed', by]),
      looked: (x) => told.push(['looked', x]),
    });
  });
  afterEach(() => jasmine.clock().uninstall());

  it('of a mouse looks where it hovers, and brushes where it is dragged', () => {
    const mouse = event('mouse');
    pointer.move(mouse, 10);
    pointer.press(mouse, 10);
    pointer.move(mouse, 14);
    expect(pointer.didMore).toBeFalse();
    pointer.move(mouse, 40);
    pointer.letGo(44);
    expect(pointer.didMore).toBeTrue();
    expect(told).toEqual([
      ['looked', 10],
      ['looked', null],
      ['brushing', { x: 10, width: 30 }],
      ['brushing', null],
      ['brushed', 10, 44],
    ]);
  });

  it('of a finger pushes the line along, and a tap does no more than press', () => {
    const finger = event('touch');
    pointer.press(finger, 100);
    pointer.letGo(102);
    expect([pointer.didMore, told]).toEqual([false, []]);
    pointer.press(finger, 100);
    for (const x of [104, 90, 70]) pointer.move(finger, x);
    pointer.letGo(70);
    jasmine.clock().tick(1000);
    expect(told).toEqual([
      ['pushed', 14],
      ['pushed', 20],
    ]);
  });

  it('of a finger that rests looks, until it is lifted', () => {
    const finger = event('touch');
    pointer.press(finger, 100);
    jasmine.clock().tick(500);
    pointer.move(finger, 130);
    pointer.letGo(130);
    expect(told).toEqual([
      ['looked', 100],
      ['looked', 130],
      ['looked', null],
    ]);
    expect(pointer.didMore).toBeTrue();
  });

  it('drags a handle it has taken, whatever it is', () => {
    pointer.grab('earlier');
    pointer.move(event('touch'), 30);
    pointer.letGo(30);
    pointer.move(event('touch'), 40);
    expect(told).toEqual([['dragged', 'earlier', 30]]);
  });
});
