import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { ComponentFixture } from '@angular/core/testing';
import { MatIconTestingModule } from '@angular/material/icon/testing';
import type { Trace } from '@oxbow/core/history';
import { Api } from '../api/api';
import type { Pick } from './tideline';
import { Tideline } from './tideline';

const traces: Trace[] = Array.from({ length: 9 }, (_, i) => ({
  seq: i + 1,
  at: 1.7e12 + Math.floor(i / 3) * 7_200_000 + (i % 3) * 1000,
  author: 'ines',
  wordsIn: 3,
  wordsOut: 1,
}));
const ines = { id: 'ines', name: 'Ines Okell', initials: 'IO', colour: 0 };

const landmark = {
  id: 'l1',
  document: 'guide',
  seq: 6,
  name: 'As agreed',
  note: '',
  by: 'ines',
  at: '2026-04-14T09:00:00Z',
  version: null,
};

describe('the tideline', () => {
  let fixture: ComponentFixture<Tideline>;
  let picked: (Pick | null)[];

  beforeEach(async () => {
    TestBed.configureTestingModule({
      imports: [MatIconTestingModule],
      providers: [provideZonelessChangeDetection(), { provide: Api, useValue: {} }],
    });
    fixture = TestBed.createComponent(Tideline);
    picked = [];
    for (const [name, value] of Object.entries({
      traces,
      causes: new Map([[4, { kind: 'restore', moment: 1, number: 1 }]]),
      landmarks: [landmark],
      document: 'guide',
      people: new Map([['ines', ines]]),
      pick: { earlier: 6, later: 9 },
      range: { first: 1, last: 9 },
      here: [ines],
      saved: 'every edit kept',
    })) {
      fixture.componentRef.setInput(name, value);
    }
    fixture.componentInstance.picked.subscribe((pick) => picked.push(pick));
    await fixture.whenStable();
  });

  const page = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const press = (key: string, shiftKey = false): void =>
    void page().dispatchEvent(new KeyboardEvent('keydown', { key, shiftKey, bubbles: true }));

  it('draws a bar a stretch of writing, a glyph for a restore, and who is here', () => {
    expect(page().querySelectorAll('.bar').length).toBe(9);
    expect(page().querySelector('.glyph title')?.textContent).toContain('restored version 1');
    expect(page().querySelector('.now')?.textContent).toContain('IO');
  });

  it('steps with the arrow keys, Earlier following until it is moved by hand', () => {
    press('ArrowLeft');
    expect(picked.at(-1)).toEqual({ earlier: 7, later: 8 });
    press('ArrowLeft', true);
    expect(picked.at(-1)).toEqual({ earlier: 5, later: 9 });
    press('Home');
    expect(picked.at(-1)).toEqual({ earlier: 0, later: 1 });
    press('End');
    expect(picked.at(-1)).toBeNull();
  });

  it('says in words what each handle stands on', () => {
    const later = page().querySelector('[data-handle="later"]');
    expect(later?.getAttribute('role')).toBe('slider');
    expect(later?.getAttribute('aria-valuetext')).toContain('Ines Okell');
  });

  it('shows landmarks as posts, goes to one at a click, and from one to the next by key', () => {
    const post = page().querySelector('.post');
    expect(post?.textContent).toContain('As agreed');
    post?.dispatchEvent(new MouseEvent('click', { bubbles: true }));
    expect(picked.at(-1)).toEqual({ earlier: 5, later: 6 });
    picked.length = 0;
    press('[');
    expect(picked).toEqual([{ earlier: 5, later: 6 }]);
    press(']');
    expect(picked.length).toBe(1);
  });

  it('draws an arc from a restore to what it brought back, and a lane a person when asked', async () => {
    expect(page().querySelector('.arc title')?.textContent).toBe('brings back version 1');
    expect(page().querySelectorAll('.axis').length).toBe(1);
    [...page().querySelectorAll('button')]
      .find((button) => button.textContent?.includes('By person'))
      ?.click();
    await fixture.whenStable();
    expect(page().querySelector('.lane')?.textContent).toContain('IO');
  });

  it('zooms to what is brushed, without picking the bar under the pointer', () => {
    const ranges: unknown[] = [];
    fixture.componentInstance.ranged.subscribe((range) => ranges.push(range));
    const svg = page().querySelector(':scope > svg') as SVGElement;
    const left = svg.getBoundingClientRect().left;
    const bars = fixture.componentInstance.layout().bars;
    const at = (type: string, x: number): boolean =>
      svg.dispatchEvent(new PointerEvent(type, { clientX: left + x, bubbles: true, pointerType: 'mouse' }));
    at('pointerdown', (bars[2]?.x ?? 0) + 1);
    at('pointermove', (bars[5]?.x ?? 0) + 30);
    at('pointerup', (bars[5]?.x ?? 0) + 30);
    page()
      .querySelector('.bar')
      ?.dispatchEvent(new MouseEvent('click', { bubbles: true }));
    expect(ranges).toEqual([{ first: 3, last: 6 }]);
    expect(picked).toEqual([]);
  });

  it('says the whole of what it draws to those who cannot see it', () => {
    const said = page().querySelector('.unseen')?.textContent ?? '';
    for (const part of ['9 bars', '27 words in', 'Landmark As agreed', 'Restored version 1'])
      expect(said).toContain(part);
  });
});
