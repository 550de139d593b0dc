import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { sectionsOf } from '@oxbow/core/compare';
import { NO_IMAGES, readHtml } from '@oxbow/core/formats';
import { Digest } from './digest';
import { Note } from './note';
import { lookAt, people } from './testing/look';

const AFTER =
  '<p>Come early.</p><h2>The gates</h2><p>Shut all gates before the moon is up.</p><p>And go home.</p>';
const look = lookAt(
  '<p>Come late.</p><h2>The gates</h2><p>Shut both gates before the moon is up.</p>',
  AFTER,
);

describe('the digest', () => {
  it('lists only the changes, with context, by place or by person', async () => {
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
    const fixture = TestBed.createComponent(Digest);
    const inputs = {
      look,
      shown: look.comparison.changes,
      sections: sectionsOf(readHtml(AFTER, NO_IMAGES)),
      people,
      at: 0,
    };
    for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    const titles = (): (string | null)[] => [...page.querySelectorAll('h3')].map((one) => one.textContent);
    expect(titles()).toEqual(['Before the first heading', 'The gates']);
    expect([...page.querySelectorAll('.line')].map((line) => line.textContent)).toEqual([
      'Come lateearly.',
      'Shut bothall gates before the moon is up.',
      'And go home.',
    ]);
    const opened: number[] = [];
    fixture.componentInstance.opened.subscribe((change) => opened.push(change));
    page.querySelectorAll<HTMLButtonElement>('.go')[1]?.click();
    expect(opened).toEqual([1]);
    [...page.querySelectorAll<HTMLButtonElement>('mat-button-toggle button')][1]?.click();
    await fixture.whenStable();
    expect(titles()).toEqual(['Ines Okell', 'Tobias Rahn']);
    [...page.querySelectorAll<HTMLButtonElement>('mat-button-toggle button')][2]?.click();
    await fixture.whenStable();
    expect(titles()).toEqual(['Replaced', 'Added']);
  });
});

describe('the note at a mark', () => {
  it('says who, when and in which version, and leads there', async () => {
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
    const fixture = TestBed.createComponent(Note);
    const version = { number: 4, seq: 9 };
    const change = look.comparison.changes[0];
    for (const [name, value] of Object.entries({ change, people, versions: [version] }))
      fixture.componentRef.setInput(name, value);
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    expect(page.textContent).toContain('Replaced');
    expect(page.textContent).toContain('Ines Okell');
    expect(page.textContent).toContain('in version 4');
    const gone: object[] = [];
    fixture.componentInstance.gone.subscribe((moment) => gone.push(moment));
    page.querySelector<HTMLButtonElement>('button')?.click();
    expect(gone).toEqual([{ earlier: 0, later: 1 }]);
    fixture.componentRef.setInput('change', { ...change, credits: [] });
    await fixture.whenStable();
    expect(page.textContent).toContain('comes from outside');
  });
});
