import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { ComponentFixture } from '@angular/core/testing';
import { MatIconTestingModule } from '@angular/material/icon/testing';
import { until } from '../testing/until';
import { Comparing } from './comparing';
import { Comparison } from './comparison';
import { lookAt, people } from './testing/look';

const look = lookAt(
  '<h2>The race</h2><p>It turns twice a day.</p><h2>The gates</h2><p>Shut both gates early.</p>',
  '<h2>The race</h2><p>It <b>turns</b> three times a day.</p><h2>The gates</h2><p>Shut all gates early.</p>',
);

describe('a comparison on the desk', () => {
  let fixture: ComponentFixture<Comparison>;
  let comparing: Comparing;
  let page: HTMLElement;
  const heard: unknown[] = [];

  beforeEach(async () => {
    TestBed.configureTestingModule({
      imports: [MatIconTestingModule],
      providers: [
        provideZonelessChangeDetection(),
        provideHttpClient(),
        provideHttpClientTesting(),
        Comparing,
      ],
    });
    comparing = TestBed.inject(Comparing);
    const http = TestBed.inject(HttpTestingController);
    comparing.open({ document: 'guide', earlier: 1, later: 2, other: null });
    http.expectOne('/api/documents/guide/versions/@1').flush(look.earlier);
    http.expectOne('/api/documents/guide/versions/@2').flush(look.later);
    http.expectOne(({ url }) => url.endsWith('/compare')).flush(look.comparison);
    fixture = TestBed.createComponent(Comparison);
    const inputs = { look, mode: 'flowing', people, versions: [], title: 'Guide' };
    for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
    heard.length = 0;
    fixture.componentInstance.modeChosen.subscribe((mode) => heard.push(mode));
    fixture.componentInstance.stepped.subscribe((direction) => heard.push(direction));
    fixture.componentInstance.endsAsked.subscribe(() => heard.push('ends'));
    await fixture.whenStable();
    page = fixture.nativeElement as HTMLElement;
    document.body.append(page);
  });
  afterEach(() => page.remove());

  const button = (name: string): HTMLButtonElement | undefined =>
    [...page.querySelectorAll('button')].find((one) =>
      `${one.getAttribute('aria-label') ?? ''} ${one.textContent}`.includes(name),
    );
  const press = async (name: string): Promise<void> => {
    button(name)?.click();
    await fixture.whenStable();
  };

  it('says what is compared, where one is, and how much of what there is', () => {
    expect(page.querySelector('.ends')?.textContent).toMatch(/Version 1, .*with ?Version 2, /);
    expect(page.querySelector('.count')?.textContent).toBe('1 of 3');
    expect(button('Only changes by Ines Okell, 2')?.getAttribute('aria-pressed')).toBe('false');
    expect(button('Text 2')).toBeDefined();
    expect(button('Form 1')).toBeDefined();
  });

  it('lets families be hidden, one person be seen, and all be brought back', async () => {
    await press('Form 1');
    expect(page.querySelector('.count')?.textContent).toBe('1 of 2');
    await press('Only changes by Tobias Rahn');
    expect(page.querySelector('.count')?.textContent).toBe('1 of 1');
    await press('Text 2');
    expect(page.textContent).toContain('No change is left to show.');
    await press('Show all 3');
    expect(page.querySelector('.count')?.textContent).toBe('1 of 3');
    comparing.filter.update((filter) => ({ ...filter, section: 1 }));
    await fixture.whenStable();
    expect(page.querySelector('.count')?.textContent).toBe('1 of 1');
  });

  it('asks for another reading, another pair, and steps', async () => {
    await press('Next change');
    await press('Previous change');
    await press('Choose what to compare');
    await press('Facing');
    expect(heard).toEqual([1, -1, 'ends', 'facing']);
  });

  it('shows each reading, and leads from the digest into the text', async () => {
    expect(page.querySelectorAll('.rows .row').length).toBe(4);
    fixture.componentRef.setInput('mode', 'facing');
    await fixture.whenStable();
    expect(page.querySelector('.heads')?.textContent).toContain('Earlier · Version 1');
    fixture.componentRef.setInput('mode', 'digest');
    await fixture.whenStable();
    expect(page.querySelectorAll('ox-digest li').length).toBe(3);
    await press('Show in the text');
    expect(heard).toEqual(['flowing']);
    expect(comparing.at()).toBe(0);
  });

  it('draws no marks when they are hidden', async () => {
    comparing.marked.set(false);
    await fixture.whenStable();
    await until(() => page.querySelectorAll('.rows [data-change]').length === 0);
    expect(page.querySelectorAll('.rows .row').length).toBe(4);
  });

  it('brings a note to a mark that is pointed at, after a while', async () => {
    await until(() => page.querySelector('.rows ins'));
    const mark = page.querySelector<HTMLElement>('.rows ins');
    mark?.dispatchEvent(new MouseEvent('mouseover', { bubbles: true }));
    expect(document.querySelector('ox-note')).toBeNull();
    await until(() => document.querySelector('ox-note'));
    expect(document.querySelector('ox-note')?.textContent).toContain('Replaced');
  });

  it('shows one rename alone, and hides typography', async () => {
    const renamed = lookAt(
      '<p>The pond is deep.</p><p>The pond is wide, and the pond is "old".</p>',
      '<p>The pool is deep.</p><p>The pool is wide, and the pool is “old”.</p>',
    );
    const http = TestBed.inject(HttpTestingController);
    comparing.open({ document: 'guide', earlier: 1, later: 3, other: null });
    http.expectOne('/api/documents/guide/versions/@1').flush(renamed.earlier);
    http.expectOne('/api/documents/guide/versions/@3').flush(renamed.later);
    http.expectOne(({ url }) => url.endsWith('/compare')).flush(renamed.comparison);
    fixture.componentRef.setInput('look', renamed);
    await fixture.whenStable();
    const count = (): string => page.querySelector('.count')?.textContent?.trim() ?? '';
    expect(count()).toMatch(/of 5$/);
    await press('Only where it was renamed: pond → pool, 3');
    expect(count()).toMatch(/of 3$/);
    await press('Only where it was renamed: pond → pool, 3');
    await press('Typography 2');
    expect(count()).toMatch(/of 3$/);
    expect(comparing.shown().every(({ group }) => group === 'pond > pool')).toBeTrue();
  });
});
