import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { MATERIAL_ANIMATIONS } from '@angular/material/core';
import { asked, pressed, until } from '../testing/until';
import { Comparer } from '../worker/comparer';
import type { FileAbout } from '../worker/messages';
import { CameAlong } from './came-along';
import { Filing } from './filing';

const plain: FileAbout = { author: '', title: '', tracked: [], remarks: [], leftOut: [] };
const rich: FileAbout = {
  author: 'Tamsin Reve',
  title: 'Walk',
  tracked: [{ kind: 'insertion', author: 'Tamsin Reve', at: '2026-11-20T10:00:00.000Z', text: 'gate' }],
  remarks: [{ author: 'Olu Adeyemi', at: '', text: 'Which gate?', about: 'the gate' }],
  leftOut: [
    { what: 'footnotes', times: 2 },
    { what: 'formulas', times: 1 },
  ],
};

describe('taking a file from outside', () => {
  let about: FileAbout;
  let filing: Filing;
  let http: HttpTestingController;

  beforeEach(() => {
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideHttpClient(),
        provideHttpClientTesting(),
        { provide: MATERIAL_ANIMATIONS, useValue: { animationsDisabled: true } },
        { provide: Comparer, useValue: { about: () => Promise.resolve(about), cancel: () => undefined } },
      ],
    });
    filing = TestBed.inject(Filing);
    http = TestBed.inject(HttpTestingController);
  });

  const file = new File(['x'], 'walk.docx');
  const dialog = (): HTMLElement | null => document.querySelector<HTMLElement>('ox-filing-dialog');
  const press = (name: string): Promise<void> => pressed(dialog, name);
  const fieldsOf = (body: unknown): Record<string, unknown> => {
    const entries = [...(body as FormData).entries()];
    return Object.fromEntries(entries.filter(([name]) => name !== 'file'));
  };

  it('makes a document of a plain one without a word', async () => {
    about = plain;
    const made = filing.bringIn(file);
    const call = await asked(http, '/api/documents/import');
    expect(dialog()).toBeNull();
    expect(fieldsOf(call.request.body)).toEqual({});
    call.flush({ id: 'new' });
    expect((await made)?.id).toBe('new');
  });

  it('can be broken off', async () => {
    about = plain;
    const made = filing.bringIn(file);
    const call = await asked(http, '/api/documents/import');
    filing.breakOff();
    expect(await made).toBeNull();
    expect(call.cancelled).toBe(true);
  });

  it('makes a document with the same history of an archive', async () => {
    const made = filing.bringIn(new File(['x'], 'mill history.ZIP'));
    http.expectOne('/api/documents/archives').flush({ id: 'old' });
    expect((await made)?.id).toBe('old');
  });

  it('says what one with tracked changes holds and leaves out, and asks how they are taken', async () => {
    about = rich;
    const made = filing.bringIn(file);
    await until(() => dialog()?.textContent?.includes('came with it'));
    const text = dialog()?.textContent ?? '';
    for (const said of [
      'by Tamsin Reve',
      '1 tracked change',
      '1 comment came with it',
      'Which gate?',
      'footnotes (2 times); formulas',
    ])
      expect(text).toContain(said);
    [...(dialog()?.querySelectorAll<HTMLInputElement>('input[type=radio]') ?? [])].at(2)?.click();
    await press('Make the document');
    const call = await asked(http, '/api/documents/import');
    expect(fieldsOf(call.request.body)).toEqual({ tracked: 'both' });
    call.flush({ id: 'new' });
    await made;
  });

  it('files on top with a word about where it comes from, or not at all', async () => {
    about = { ...plain, author: 'Tamsin Reve' };
    const filed = filing.onTop(file, { id: 'guide', title: 'Walk guide' });
    await until(dialog);
    expect(dialog()?.textContent).toContain('Import walk.docx as the next version of Walk guide');
    await press('Import it');
    const call = await asked(http, '/api/documents/guide/files');
    expect(fieldsOf(call.request.body)).toEqual({
      comment: 'From the file walk.docx by Tamsin Reve',
      major: 'false',
    });
    call.flush({ seq: 3 });
    expect((await filed)?.seq).toBe(3);
    const left = filing.onTop(file, { id: 'guide', title: 'Walk guide' });
    await press('Cancel');
    expect(await left).toBeNull();
    http.expectNone('/api/documents/guide/files');
  });

  it('shows with a version what came with its file, and nothing where nothing is known', async () => {
    const fixture = TestBed.createComponent(CameAlong);
    fixture.componentRef.setInput('document', 'guide');
    fixture.componentRef.setInput('seq', 3);
    await fixture.whenStable();
    http.expectOne('/api/documents/guide/versions/@3/filing').flush(rich);
    await fixture.whenStable();
    expect((fixture.nativeElement as HTMLElement).textContent).toContain('Which gate?');
    fixture.componentRef.setInput('seq', 2);
    await fixture.whenStable();
    http.expectOne('/api/documents/guide/versions/@2/filing').flush({}, { status: 404, statusText: 'None' });
    await fixture.whenStable();
    expect((fixture.nativeElement as HTMLElement).textContent?.trim()).toBe('');
    fixture.componentRef.setInput('seq', 4);
    await fixture.whenStable();
    http.expectOne('/api/documents/guide/versions/@4/filing').flush({}, { status: 500, statusText: 'No' });
    await fixture.whenStable();
    expect((fixture.nativeElement as HTMLElement).textContent).toContain('cannot be told');
  });
});
