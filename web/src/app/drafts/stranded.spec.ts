import { provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { Store } from '@ngrx/store';
import { Drafts } from '../live/drafts';
import type { Kept } from '../live/kept';
import { SigningOut } from './signing-out';
import { Stranded } from './stranded';

const draft = (client: string, standing: Kept['standing']): Kept => ({
  client,
  person: 'ines',
  message: {
    document: 'guide',
    client,
    base: 2,
    edits: [
      {
        counter: 1,
        steps: [
          { stepType: 'replace', from: 1, to: 3, slice: { content: [{ type: 'text', text: 'two words' }] } },
        ],
        sources: [],
        writtenAt: 1,
        cause: { kind: 'writing' },
      },
    ],
  },
  standing,
  title: 'Guide',
  at: Date.parse('2026-04-14T09:00:00Z'),
});

describe('stranded drafts, listed', () => {
  let kept: Kept[];
  let page: HTMLElement;

  async function show(document: string | null, mayWrite = true) {
    const drafts = {
      list: async (_person: string, wanted?: string) =>
        kept.filter(({ message }) => wanted === undefined || message.document === wanted),
      discard: async (one: Kept) => void (kept = kept.filter((other) => other !== one)),
      bringBack: async (one: Kept) => void kept.push(one),
      aside: async () => {
        throw new Error('The server cannot be reached');
      },
    };
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideRouter([]),
        { provide: Drafts, useValue: drafts },
        { provide: Store, useValue: { selectSignal: () => signal({ id: 'ines' }) } },
      ],
    });
    const fixture = TestBed.createComponent(Stranded);
    fixture.componentRef.setInput('document', document);
    fixture.componentRef.setInput('mayWrite', mayWrite);
    await fixture.whenStable();
    page = fixture.nativeElement as HTMLElement;
    const press = async (name: string): Promise<void> => {
      [...page.querySelectorAll('button')].find(({ textContent }) => textContent.includes(name))?.click();
      await fixture.whenStable();
    };
    return { fixture, press };
  }

  it('say when, how much, and why, and on the shelf of which document', async () => {
    kept = [draft('window-a', 'away'), draft('window-b', 'held')];
    await show(null);
    const [first, second] = [...page.querySelectorAll('.band')].map(({ textContent }) => textContent);
    for (const words of [
      'Stranded draft',
      'Guide',
      '14 Apr',
      '2 words written',
      '2 signs taken out',
      'the server was away',
    ])
      expect(first).toContain(words);
    expect(second).toContain('Draft held back');
    expect(page.textContent).toContain('Save its words');
  });

  it('are compared and put on top by whoever may write, discarded and brought back', async () => {
    kept = [draft('window-a', 'ended')];
    const { fixture, press } = await show('guide');
    const told: [string, Kept][] = [];
    fixture.componentInstance.compared.subscribe((one) => told.push(['compared', one]));
    fixture.componentInstance.wanted.subscribe((one) => told.push(['wanted', one]));
    await press('Compare with the document');
    await press('Put it on top');
    expect(told.map(([what]) => what)).toEqual(['compared', 'wanted']);
    await press('Keep it as a document');
    expect(page.querySelector('[role="alert"]')?.textContent).toContain('cannot be reached');
    await press('Discard it');
    expect(kept).toEqual([]);
    await press('Bring it back');
    expect(kept.length).toBe(1);
    TestBed.resetTestingModule();
    await show('guide', false);
    expect(page.textContent).not.toContain('Put it on top');
  });
});

describe('signing out', () => {
  let kept: Kept[];
  let went: number;

  async function show() {
    went = 0;
    const drafts = {
      list: async () => kept,
      discard: async (one: Kept) => void (kept = kept.filter((other) => other !== one)),
    };
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        { provide: Drafts, useValue: drafts },
        { provide: Store, useValue: { selectSignal: () => signal({ id: 'ines' }), dispatch: () => went++ } },
      ],
    });
    const fixture = TestBed.createComponent(SigningOut);
    await fixture.componentInstance.ask();
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    const press = async (name: string): Promise<void> => {
      [...page.querySelectorAll('button')].find(({ textContent }) => textContent.includes(name))?.click();
      await fixture.whenStable();
    };
    return { page, press };
  }

  it('asks only when drafts are on the device; they are kept or discarded', async () => {
    kept = [];
    await show();
    expect(went).toBe(1);
    TestBed.resetTestingModule();
    kept = [draft('window-a', 'held'), draft('window-b', 'away')];
    const { page, press } = await show();
    expect(page.textContent).toContain('2 drafts of yours are on this device');
    await press('Stay');
    expect([went, kept.length]).toEqual([0, 2]);
    TestBed.resetTestingModule();
    const keeping = await show();
    await keeping.press('Keep and sign out');
    expect([went, kept.length]).toEqual([1, 2]);
    TestBed.resetTestingModule();
    const clearing = await show();
    await clearing.press('Discard and sign out');
    expect([went, kept.length]).toEqual([1, 0]);
  });
});
