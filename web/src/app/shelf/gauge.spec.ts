import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Gauge } from './gauge';

describe('the small tideline', () => {
  it('stacks people, words in above the line and words out below it', async () => {
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
    const fixture = TestBed.createComponent(Gauge);
    const people = new Map([
      ['ines', { id: 'ines', name: 'Ines', initials: 'IO', colour: 0 }],
      ['jun', { id: 'jun', name: 'Jun', initials: 'JA', colour: 3 }],
    ]);
    fixture.componentRef.setInput('people', people);
    fixture.componentRef.setInput('gauge', [
      {
        at: 1,
        shares: [
          ['ines', 6, 0],
          ['jun', 2, 4],
        ],
      },
    ]);
    await fixture.whenStable();
    const bars = [...(fixture.nativeElement as HTMLElement).querySelectorAll('path')].map((path) => {
      const [, y, height] = /^M\S+ (\S+)h\S+v([\d.]+)h\S+z$/.exec(path.getAttribute('d') ?? '') ?? [];
      return { y: Number(y), height: Number(height), fill: path.getAttribute('fill') };
    });
    expect(bars.map((bar) => bar.fill)).toEqual(['#0072b2', '#cc79a7', '#cc79a7']);
    const [ines, above, below] = bars;
    expect((ines?.height ?? 0) / (above?.height ?? 1)).toBeCloseTo(3, 1);
    expect((ines?.y ?? 0) + (ines?.height ?? 0)).toBeCloseTo(16, 1);
    expect(below?.y).toBeCloseTo(16);
  });
});
