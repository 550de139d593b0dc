import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { ComponentFixture } from '@angular/core/testing';
import { MatIconTestingModule } from '@angular/material/icon/testing';
import type { Trace } from '@oxbow/core/history';
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

describe('the tideline', () => {
  let fixture: ComponentFixture<Tideline>;
  let picked: (Pick | null)[];

  beforeEach(async () => {
    TestBed.configureTestingModule({
      imports: [MatIconTestingModule],
      providers: [provideZonelessChangeDetection()],
    });
    fixture = TestBed.createComponent(Tideline);
    picked = [];
    for (const [name, value] of Object.entries({
      traces,
      causes: new Map([[4, { kind: 'restore', moment: 1, number: 1 }]]),
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
});
