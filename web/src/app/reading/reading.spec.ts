import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { ComponentFixture } from '@angular/core/testing';
import { Reading } from './reading';
import { lookAt, people } from './testing/look';

const paragraphs = (count: number, change: (i: number) => string): string =>
  Array.from({ length: count }, (_, i) => `<p>${change(i)}</p>`).join('');
const words = (i: number): string =>
  `Paragraph ${i} tells of the marsh, the mill and the tide of day ${i}. `.repeat(4);
const frame = (): Promise<unknown> =>
  new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(() => setTimeout(done, 50))));

describe('reading a comparison', () => {
  let fixture: ComponentFixture<Reading>;
  let place: HTMLElement;

  async function show(facing: boolean): Promise<HTMLElement> {
    const look = lookAt(
      paragraphs(400, words),
      paragraphs(400, (i) => (i % 50 === 49 ? words(i).replace('marsh', 'meadow') : words(i))),
    );
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
    fixture = TestBed.createComponent(Reading);
    place = document.createElement('div');
    place.style.cssText = 'height: 600px; overflow: auto';
    place.append(fixture.nativeElement as HTMLElement);
    document.body.append(place);
    const inputs = { look, shown: look.comparison.changes, people, facing, at: null };
    for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
    await fixture.whenStable();
    await frame();
    return fixture.nativeElement as HTMLElement;
  }
  afterEach(() => place.remove());

  it('draws only what is near the window of a long document, and the rest when it is gone to', async () => {
    const page = await show(false);
    const drawn = (): number => page.querySelectorAll('.row > .text').length;
    expect(page.querySelectorAll('.row').length).toBe(400);
    expect(drawn()).toBeGreaterThan(3);
    expect(drawn()).toBeLessThan(60);
    fixture.componentRef.setInput('at', 7);
    await fixture.whenStable();
    await frame();
    const hand = page.querySelector('.at-hand');
    expect(hand?.textContent).toBeTruthy();
    const [mark, window] = [hand?.getBoundingClientRect(), place.getBoundingClientRect()];
    expect(mark?.top).toBeGreaterThan(window.top);
    expect(mark?.bottom).toBeLessThan(window.bottom);
  });

  it('keeps both columns in step, with a tab between', async () => {
    const page = await show(true);
    fixture.componentRef.setInput('at', 0);
    await fixture.whenStable();
    await frame();
    const row = page.querySelector('.row.changed');
    const [earlier, later] = [row?.querySelector('.earlier'), row?.querySelector('.later')];
    expect(earlier?.getBoundingClientRect().top).toBe(later?.getBoundingClientRect().top as number);
    expect(earlier?.querySelector('del')?.textContent).toBe('marsh');
    const chosen: number[] = [];
    fixture.componentInstance.changed.subscribe((change) => chosen.push(change));
    const tab = row?.querySelector<HTMLButtonElement>('.between .tab');
    expect(tab?.getAttribute('aria-label')).toContain('Ines Okell');
    tab?.click();
    expect(chosen).toEqual([0]);
  });
});
