import { provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { ComponentFixture } from '@angular/core/testing';
import { Router, provideRouter } from '@angular/router';
import type { Returned } from '@oxbow/contract';
import { of } from 'rxjs';
import { Api } from '../api/api';
import { AboutDocument } from '../document/about';
import { DeskHistory } from '../document/history';
import { ReturnedFiles } from './returned';

const returned: Returned = {
  base: 7,
  readers: ['Ada', 'Ben'].map((name) => ({ name, file: `${name}.docx`, leftOut: 0 })),
  lines: [{ kind: 'paragraph', pieces: [{ text: 'Shut at ' }, { passage: 0 }, { text: '.' }] }],
  passages: [
    {
      id: 0,
      kind: 'text',
      base: 'noon',
      forms: [
        { text: 'ten', by: [0] },
        { text: 'nine', by: [1] },
      ],
    },
  ],
};

describe('files that came back', () => {
  let fixture: ComponentFixture<ReturnedFiles>;
  let asked: unknown[][];
  let put: unknown[][];

  async function show({ mayWrite = true, kind = 'text', answer = returned } = {}): Promise<void> {
    [asked, put] = [[], []];
    const versions = [7, 0].map((seq) => ({ seq, label: `0.${seq}`, at: '2026-11-18T11:00:00Z' }));
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideRouter([]),
        { provide: DeskHistory, useValue: { versions: signal(versions), head: signal(9) } },
        { provide: AboutDocument, useValue: { document: signal({ kind }) } },
        {
          provide: Api,
          useValue: {
            gatherReturned: (...given: unknown[]) => (asked.push(given), of(answer)),
            putReturned: (...given: unknown[]) => (put.push(given), of({ seq: 10 })),
          },
        },
      ],
    });
    fixture = TestBed.createComponent(ReturnedFiles);
    fixture.componentRef.setInput('document', 'guide');
    fixture.componentRef.setInput('mayWrite', mayWrite);
    await fixture.whenStable();
  }
  const page = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const button = (name: string): HTMLButtonElement | undefined =>
    [...page().querySelectorAll('button')].find((one) => one.textContent?.includes(name));
  async function add(...names: string[]): Promise<void> {
    const data = new DataTransfer();
    for (const name of names) data.items.add(new File(['x'], name));
    const input = page().querySelector<HTMLInputElement>('input[type=file]') as HTMLInputElement;
    input.files = data.files;
    input.dispatchEvent(new Event('change'));
    await fixture.whenStable();
  }

  it('are asked about once there are two, and go on top when all that is disputed is decided', async () => {
    await show();
    await add('Ada.docx');
    expect(asked).toEqual([]);
    expect(page().textContent).toContain('Choose two to nine files');
    await add('Ben.docx');
    expect(asked.map(([document, base]) => [document, base])).toEqual([['guide', 7]]);
    expect(page().textContent).toContain('One passage is still to decide.');
    expect(button('Put it on top')?.disabled).toBeTrue();
    const options = [...page().querySelectorAll('mat-radio-button')].map((one) => one.textContent?.trim());
    expect(options).toEqual(['“ten” Ada', '“nine” Ben', 'All, one behind the other', 'As it was: “noon”']);
    page().querySelectorAll<HTMLInputElement>('mat-radio-button input')[1]?.click();
    await fixture.whenStable();
    expect(page().querySelector('.quote')?.textContent?.replace(/\s+/g, '')).toBe('Shutatnine1.');
    const went = spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
    button('Put it on top')?.click();
    await fixture.whenStable();
    expect(put[0]?.slice(3)).toEqual([[[0, 1]], undefined]);
    expect(went.calls.mostRecent().args[1]?.queryParams).toEqual({ earlier: 9, later: 10 });
  });

  it('are nine at most, can be taken off the list, and go on top only by whoever may write', async () => {
    await show({ mayWrite: false });
    await add(...Array.from({ length: 10 }, (_, i) => `${i}.md`));
    expect(page().querySelectorAll('.files li').length).toBe(9);
    expect(page().querySelector('.wrong')?.textContent).toContain('At most 9 files');
    page().querySelector<HTMLButtonElement>('.files button')?.click();
    await fixture.whenStable();
    expect(page().querySelectorAll('.files li').length).toBe(8);
    expect(button('Put it on top')).toBeUndefined();
    expect(button('Export as a redline')).toBeDefined();
    button('Take all of Ben')?.click();
    await fixture.whenStable();
    expect(page().textContent).not.toContain('still to decide');
  });

  it('of sheets are told cell by cell, numbered from the first, and go out as a web page', async () => {
    const answer: Returned = {
      ...returned,
      lines: [1, 0].map((passage) => ({ kind: '', pieces: [{ passage }] })),
      passages: [
        {
          id: 0,
          kind: 'whole',
          where: 'B7 · Boats',
          base: '400',
          forms: [
            { text: '410', by: [0] },
            { text: '405', by: [1] },
          ],
        },
        {
          id: 1,
          kind: 'form',
          where: 'Row 2 · Rope',
          base: 'where it was',
          forms: [{ text: 'moved', by: [0] }],
        },
      ],
    };
    await show({ kind: 'sheet', answer });
    await add('Ada.xlsx', 'Ben.ods');
    const text = (selector: string): string[] =>
      [...page().querySelectorAll(selector)].map((one) => one.textContent?.replace(/\s+/g, ' ').trim() ?? '');
    expect(text('.where')).toEqual(['Row 2 · Rope', 'B7 · Boats']);
    expect(text('.number')).toEqual(['1', '2']);
    expect(text('mat-radio-button')).toEqual([
      'moved Ada',
      'As it was: where it was',
      '“410” Ada',
      '“405” Ben',
      'As it was: “400”',
    ]);
    expect(page().querySelectorAll('mat-radio-group')[1]?.getAttribute('aria-label')).toBe(
      'Passage 2, what to take for B7 · Boats',
    );
    button('Export as a redline')?.click();
    await fixture.whenStable();
    expect([...document.querySelectorAll('[mat-menu-item]')].map((one) => one.textContent?.trim())).toEqual([
      'As .html',
    ]);
  });
});
