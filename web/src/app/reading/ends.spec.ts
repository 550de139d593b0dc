import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import type { TestRequest } from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { ComponentFixture } from '@angular/core/testing';
import { MAT_DIALOG_DATA, MatDialogRef } from '@angular/material/dialog';
import type { DocumentSummary, Landmark, Version } from '@oxbow/contract';
import type { EndsData } from './ends';
import { Acting } from '../acting/acting';
import { until } from '../testing/until';
import { EndsDialog } from './ends';
import { people } from './testing/look';

const version = (number: number, seq: number, label: string, comment = ''): Version => ({
  number,
  label,
  seq,
  at: '2026-04-14T09:31:07Z',
  cause: 'pause',
  authors: ['ines'],
  comment,
  gist: `Change ${number}`,
  size: 3,
  wordsAdded: 1,
  wordsRemoved: 0,
  landmark: null,
});
const documents = [
  { id: 'rota', title: 'Rota' },
  { id: 'guide', title: 'Guide' },
] as DocumentSummary[];

const landmark: Landmark = {
  id: 'l1',
  document: 'guide',
  seq: 30,
  name: 'As printed',
  note: '',
  by: 'ines',
  at: '2026-01-01T00:00:00Z',
  version: 3,
};

describe('choosing what to compare', () => {
  let fixture: ComponentFixture<EndsDialog>;
  let page: HTMLElement;
  let closed: unknown[];

  async function show(data: Partial<EndsData> = {}): Promise<void> {
    closed = [];
    const all: EndsData = {
      document: 'guide',
      head: 40,
      versions: [
        version(4, 40, '1.1'),
        version(3, 30, '1.0', 'as agreed'),
        version(2, 20, '0.2'),
        version(1, 0, '0.1'),
      ],
      landmarks: [landmark],
      people,
      documents,
      ends: { document: 'guide', earlier: 20, later: 40, other: null },
      seen: 25,
      ...data,
    };
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideHttpClient(),
        provideHttpClientTesting(),
        { provide: MAT_DIALOG_DATA, useValue: all },
        { provide: Acting, useValue: { do: (id: string) => closed.push(id) } },
        { provide: MatDialogRef, useValue: { close: (value: unknown) => closed.push(value) } },
      ],
    });
    fixture = TestBed.createComponent(EndsDialog);
    page = fixture.nativeElement as HTMLElement;
    if (all.ends.other === null) await fixture.whenStable();
  }
  /** The next call for the versions of the rota that is still waited for. */
  async function listing(): Promise<TestRequest> {
    const http = TestBed.inject(HttpTestingController);
    let call: TestRequest | undefined;
    await until(() => (call ??= http.match(({ url }) => url === '/api/documents/rota/versions').at(-1)));
    return call as TestRequest;
  }
  const press = async (name: string, within = ''): Promise<void> => {
    [...page.querySelectorAll<HTMLButtonElement>(`${within} button`)]
      .find((one) => one.textContent?.includes(name))
      ?.click();
    await fixture.whenStable();
  };

  it('shows each version with its number, people, comment and gist', async () => {
    await show();
    const row = page.querySelectorAll('section .version')[1];
    for (const words of ['3', 'IO', '“as agreed”', 'Change 3']) expect(row?.textContent).toContain(words);
    expect(page.querySelectorAll('.version.on').length).toBe(2);
  });

  it('offers quick targets for the earlier end', async () => {
    await show();
    for (const [name, seq] of [
      ['The one before (version 3)', 30],
      ['My last look', 25],
    ] as const) {
      await press(name);
      await press('Compare these two');
      expect(closed.pop()).toEqual({ ends: { document: 'guide', earlier: seq, later: 40, other: null } });
    }
    TestBed.resetTestingModule();
    await show({ seen: null, ends: { document: 'guide', earlier: 0, later: 40, other: null } });
    expect(page.textContent).not.toContain('My last look');
  });

  it('turns two ends of one document the right way round, and says when they are the same', async () => {
    await show();
    await press('Change 4', '[aria-label="Earlier"]');
    expect(page.textContent).toContain('Both ends are the same moment');
    await press('Change 2', '[aria-label="Later"]');
    await press('Compare these two');
    expect(closed).toEqual([{ ends: { document: 'guide', earlier: 20, later: 40, other: null } }]);
  });

  it('leaves for files that came back from readers', async () => {
    await show();
    await press('Returned files');
    expect(closed).toEqual([undefined, 'returned']);
  });

  it('compares with the newest version of another document, and not before that is known', async () => {
    await show();
    const dialog = fixture.componentInstance as unknown as { choose(document: string): void };
    const compare = (): HTMLButtonElement | undefined =>
      [...page.querySelectorAll('button')].find((one) => one.textContent?.includes('Compare these'));
    expect(compare()?.disabled).toBeFalse();
    dialog.choose('rota');
    const call = await listing();
    expect(compare()?.disabled).toBeTrue();
    call.flush({ items: [version(9, 7, '0.9'), version(8, 3, '0.8')], next: null });
    await fixture.whenStable();
    await press('Compare these two');
    expect(closed).toEqual([{ ends: { document: 'guide', earlier: 7, later: 40, other: 'rota' } }]);
  });

  it('lists the versions of another document, newest first, or says why it cannot', async () => {
    await show({ ends: { document: 'guide', earlier: 7, later: 40, other: 'rota' } });
    (await listing()).flush({ items: [version(9, 7, '0.9')], next: 'more' });
    const rest = await listing();
    expect(rest.request.params.get('cursor')).toBe('more');
    rest.flush({ items: [version(8, 3, '0.8')], next: null });
    await fixture.whenStable();
    expect(page.querySelector('[aria-label="Earlier"]')?.textContent).toContain('Change 9');
    expect(page.querySelector('[aria-label="Earlier"]')?.textContent).toContain('Change 8');
    await press('Compare these two');
    expect(closed).toEqual([{ ends: { document: 'guide', earlier: 7, later: 40, other: 'rota' } }]);
    TestBed.resetTestingModule();
    await show({ ends: { document: 'guide', earlier: 7, later: 40, other: 'rota' } });
    (await listing()).flush({ title: 'There is no such document' }, { status: 404, statusText: 'Not Found' });
    await fixture.whenStable();
    expect(page.querySelector('[role="alert"]')?.textContent).toContain('no such document');
  });
});
