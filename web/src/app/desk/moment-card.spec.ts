import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { ComponentFixture } from '@angular/core/testing';
import { MatIconTestingModule } from '@angular/material/icon/testing';
import type { ComparisonResult, Moment, Version } from '@oxbow/contract';
import { MomentCard } from './moment-card';

const moment = (seq: number): Moment => ({
  document: 'guide',
  seq,
  at: '2026-04-14T09:31:07.000Z',
  by: 'ines',
  title: 'Guide',
  version: null,
  words: 3,
  content: {},
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
};

describe('the moment card', () => {
  let fixture: ComponentFixture<MomentCard>;
  const said: string[] = [];

  async function show(inputs: Record<string, unknown>): Promise<HTMLElement> {
    TestBed.configureTestingModule({
      imports: [MatIconTestingModule],
      providers: [provideZonelessChangeDetection()],
    });
    fixture = TestBed.createComponent(MomentCard);
    const all = {
      look: { earlier: moment(1), later: moment(2), comparison: comparison(2), file: null },
      version,
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
    for (const words of ['Version 14', ':31:07', 'Ines Okell', '“as agreed”', 'Added “boots”', '+2 −0 words'])
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
});
