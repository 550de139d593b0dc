import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { ComponentFixture } from '@angular/core/testing';
import { MatIconTestingModule } from '@angular/material/icon/testing';
import type { ComparisonResult, Moment, Version } from '@oxbow/contract';
import { Clipboard } from '@angular/cdk/clipboard';
import { HttpErrorResponse } from '@angular/common/http';
import { provideRouter } from '@angular/router';
import { format } from 'date-fns';
import { of, throwError } from 'rxjs';
import { Acting } from '../acting/acting';
import { Api } from '../api/api';
import { DeskActs } from '../document/acts';
import { MomentCard } from './moment-card';
import { Words } from '../document/words';

const moment = (seq: number): Moment => ({
  document: 'guide',
  seq,
  at: '2026-04-14T09:31:07.000Z',
  by: 'ines',
  title: 'Guide',
  version: null,
  words: 3,
  content: { type: 'doc' },
});
const comparison = (changes: number): ComparisonResult => ({
  earlier: { seq: 1, at: '2026-04-14T09:00:00Z' },
  later: { seq: 2, at: '2026-04-14T09:31:07Z' },
  changes: Array.from({ length: changes }, (_, id) => ({
    id,
    kind: 'added',
    earlier: '',
    later: 'boots',
    place: { earlier: { from: 1, to: 1 }, later: { from: 1, to: 6 } },
    stands: { earlier: [], later: [{ from: 1, to: 6, across: 1 }] },
    block: false,
    wordsRemoved: 0,
    wordsAdded: 1,
    wordsMoved: 0,
    copyOf: null,
    group: null,
    section: null,
    form: [],
    credits: [
      {
        from: 1,
        to: 6,
        side: 'later',
        seq: 2,
        at: '2026-04-14T09:31:07Z',
        person: 'ines',
        writer: 'ines',
        file: null,
      },
    ],
  })),
  rows: [],
  totals: { wordsAdded: changes, wordsRemoved: 0, wordsMoved: 0, formChanges: 0 },
  shares: [],
  gist: 'Added “boots”',
});
const version: Version = {
  number: 14,
  label: '1.2',
  seq: 2,
  at: '2026-04-14T09:31:07Z',
  cause: 'asked',
  authors: ['ines'],
  comment: 'as agreed',
  gist: '',
  size: 3,
  wordsAdded: 1,
  wordsRemoved: 0,
  landmark: null,
};

describe('the moment card', () => {
  let fixture: ComponentFixture<MomentCard>;
  const said: string[] = [];
  const copied: string[] = [];
  const acted: string[] = [];
  let api: Record<string, unknown> = {};

  async function show(inputs: Record<string, unknown>): Promise<HTMLElement> {
    TestBed.configureTestingModule({
      imports: [MatIconTestingModule],
      providers: [
        provideZonelessChangeDetection(),
        Words,
        DeskActs,
        provideRouter([]),
        { provide: Acting, useValue: { do: (act: string) => acted.push(act) } },
        { provide: Api, useValue: api },
        { provide: Clipboard, useValue: { copy: (text: string) => copied.push(text) > 0 } },
      ],
    });
    copied.length = 0;
    acted.length = 0;
    fixture = TestBed.createComponent(MomentCard);
    const all = {
      look: { earlier: moment(1), later: moment(2), comparison: comparison(2), file: null },
      version,
      landmark: null,
      people: new Map([['ines', { id: 'ines', name: 'Ines Okell', initials: 'IO', colour: 0 }]]),
      isNow: false,
      mayRestore: true,
      preview: null,
      busy: false,
      ...inputs,
    };
    for (const [name, value] of Object.entries(all)) fixture.componentRef.setInput(name, value);
    said.length = 0;
    fixture.componentInstance.restored.subscribe(() => said.push('restored'));
    fixture.componentInstance.previewAsked.subscribe(() => said.push('preview'));
    await fixture.whenStable();
    return fixture.nativeElement as HTMLElement;
  }
  const press = async (page: HTMLElement, label: string): Promise<void> => {
    [...page.querySelectorAll('button')].find((button) => button.textContent?.includes(label))?.click();
    await fixture.whenStable();
  };

  it('tells which moment, when to the second, who, what and how much', async () => {
    const page = await show({});
    const time = format(new Date('2026-04-14T09:31:07.000Z'), 'HH:mm:ss');
    for (const words of ['Version 14', time, 'Ines Okell', '“as agreed”', 'Added “boots”', '+2 −0 words'])
      expect(page.textContent).toContain(words);
  });

  it('says what will happen before it restores', async () => {
    const page = await show({});
    await press(page, 'Restore version 14');
    expect(said).toEqual(['preview']);
    expect(page.textContent).toContain('Working out what would change');
    fixture.componentRef.setInput('preview', { comparison: comparison(1), since: 12 });
    await fixture.whenStable();
    expect(page.textContent).toContain('The 12 edits made since leave the page but stay in the history');
    await press(page, 'Put version 14 on top');
    expect(said).toEqual(['preview', 'restored']);
  });

  it('offers no restore to readers, nor of now, and says in words when both ends are the same', async () => {
    expect((await show({ mayRestore: false })).textContent).not.toContain('Restore');
    TestBed.resetTestingModule();
    expect((await show({ isNow: true })).textContent).not.toContain('Restore');
    TestBed.resetTestingModule();
    const same = await show({
      look: { earlier: moment(2), later: moment(2), comparison: comparison(0), file: null },
    });
    expect(same.textContent).toContain('nothing to compare');
  });

  const fill = (page: HTMLElement, selector: string, text: string): void => {
    const field = page.querySelector<HTMLInputElement>(selector);
    if (!field) throw new Error(`No ${selector}`);
    field.value = text;
    field.dispatchEvent(new Event('input'));
  };

  it('names a moment, and keeps what was typed when the name is taken', async () => {
    const asked: unknown[][] = [];
    const taken = new HttpErrorResponse({ status: 409, error: { title: '“As agreed” is taken' } });
    api = {
      nameMoment: (...given: unknown[]) => {
        asked.push(given);
        return asked.length === 1 ? throwError(() => taken) : of({ name: 'As agreed in May' });
      },
    };
    const page = await show({});
    await press(page, 'Name …');
    await press(page.querySelector('ox-naming') as HTMLElement, 'Name this moment');
    expect(page.querySelector('.wrong')?.textContent).toContain('needs a name');
    fill(page, '.name', 'As agreed');
    await press(page.querySelector('ox-naming') as HTMLElement, 'Name this moment');
    expect(page.querySelector('.wrong')?.textContent).toContain('is taken');
    fill(page, '.name', 'As agreed in May');
    await press(page.querySelector('ox-naming') as HTMLElement, 'Name this moment');
    expect(asked.at(-1)).toEqual(['guide', 2, 'As agreed in May', '']);
    expect(page.querySelector('ox-naming')).toBeNull();
  });

  it('renames a landmark and takes its name off', async () => {
    const asked: unknown[][] = [];
    const call = (...given: unknown[]) => (asked.push(given), of({ name: 'x' }));
    api = { renameLandmark: call, unnameMoment: call };
    const landmark = { id: 'l1', seq: 2, name: 'As agreed', note: 'in May' };
    const page = await show({ landmark });
    expect(page.querySelector('.landmark')?.textContent).toBe('As agreed');
    await press(page, 'Rename …');
    expect(page.querySelector<HTMLInputElement>('.name')?.value).toBe('As agreed');
    fill(page, '.name', 'As printed');
    await press(page, 'Keep the name');
    await press(page, 'Rename …');
    await press(page, 'Take the name off');
    expect(asked).toEqual([
      ['guide', 'l1', 'As printed', 'in May'],
      ['guide', 'l1'],
    ]);
  });

  it('writes a comment afterwards and shows what it said before', async () => {
    const asked: unknown[][] = [];
    api = {
      pastComments: () => of([{ at: '2026-04-14T09:31:07Z', by: 'ines', comment: 'as agreed' }]),
      commentVersion: (...given: unknown[]) => (asked.push(given), of(version)),
    };
    const page = await show({});
    await press(page, 'Comment …');
    expect(page.querySelector('.before')?.textContent).toContain('Ines Okell');
    fill(page, '.text', 'as agreed, and signed');
    await press(page, 'Keep the comment');
    expect(asked).toEqual([['guide', 14, 'as agreed, and signed']]);
  });

  it('copies a link to the moment by name, by number, and to the latest landmark', async () => {
    const page = await show({
      landmark: { id: 'l1', seq: 2, name: 'As agreed', note: '' },
      anyLandmark: true,
    });
    await press(page, 'Export or copy');
    for (const item of document.querySelectorAll<HTMLElement>('button.mat-mdc-menu-item'))
      if (item.textContent?.includes('A link to')) item.click();
    expect(copied.map((address) => address.replace(location.origin, ''))).toEqual([
      '/documents/guide/landmarks/As%20agreed',
      '/documents/guide/landmarks/latest',
    ]);
  });

  it('offers owners, and nobody else, to discard a version or to erase what only it shows', async () => {
    expect((await show({})).textContent).not.toContain('Discard');
    TestBed.resetTestingModule();
    await press(await show({ owns: true }), 'Discard');
    const items = [...document.querySelectorAll<HTMLElement>('.mat-mdc-menu-item')];
    items.find(({ textContent }) => textContent?.includes('Discard'))?.click();
    expect(acted).toEqual(['discard']);
    const erase = items.find(({ textContent }) => textContent?.includes('Erase'));
    expect(erase?.getAttribute('href')).toBe('/documents/guide/keeping?version=14');
  });
});
