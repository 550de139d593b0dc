import { provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { ComponentFixture } from '@angular/core/testing';
import { MatIconTestingModule } from '@angular/material/icon/testing';
import { Router } from '@angular/router';
import type { TakeBackPreview, Version } from '@oxbow/contract';
import { NO_IMAGES, readHtml } from '@oxbow/core/formats';
import { Store } from '@ngrx/store';
import { of, throwError } from 'rxjs';
import { Api } from '../api/api';
import { people } from '../reading/testing/look';
import { DeskActs } from '../document/acts';
import { Copying } from './copying';
import { DeskHistory } from '../document/history';
import { TakingBack } from './taking-back';
import { WaysBack } from './ways-back';
import { Words } from '../document/words';

const preview = (part: Partial<TakeBackPreview> = {}): TakeBackPreview => ({
  edits: 3,
  people: ['tobias'],
  changes: 1,
  wordsAdded: 1,
  wordsRemoved: 2,
  gist: '“shut” became “open”',
  conflict: null,
  ...part,
});

describe('going back', () => {
  let page: HTMLElement;
  let asked: unknown[][];
  let went: unknown[];

  async function show<T>(
    component: new () => T,
    api: Record<string, unknown>,
    inputs: Record<string, unknown>,
    log: Record<string, unknown> = {},
  ): Promise<ComponentFixture<T>> {
    went = [];
    TestBed.configureTestingModule({
      imports: [MatIconTestingModule],
      providers: [
        provideZonelessChangeDetection(),
        Words,
        DeskActs,
        { provide: Api, useValue: api },
        { provide: DeskHistory, useValue: log },
        { provide: Store, useValue: { selectSignal: () => signal(Object.assign([], { id: 'ines' })) } },
        { provide: Router, useValue: { navigate: (to: unknown) => went.push(to) } },
      ],
    });
    const fixture = TestBed.createComponent(component);
    for (const [name, value] of Object.entries({ document: 'guide', ...inputs }))
      fixture.componentRef.setInput(name, value);
    await fixture.whenStable();
    page = fixture.nativeElement as HTMLElement;
    return fixture;
  }
  const recording =
    (answer: (...given: unknown[]) => unknown) =>
    (...given: unknown[]) => {
      asked.push(given);
      return answer(...given);
    };
  const press = (name: string, within: ParentNode = page): void =>
    [...within.querySelectorAll('button')].find((button) => button.textContent?.includes(name))?.click();
  beforeEach(() => (asked = []));

  const stretch = { after: 4, upTo: 9, people: [...people.values()] };

  it('says what taking back would do, for all or for one person, and does it', async () => {
    const api = {
      previewTakeBack: recording(() => of(preview())),
      takeBack: recording(() => of({ seq: 12, version: { number: 7 } })),
    };
    const fixture = await show(TakingBack, api, stretch);
    expect(page.textContent).toContain(
      '3 edits are taken back and what came after stays: “shut” became “open”',
    );
    page.querySelector<HTMLElement>('.mat-mdc-select-trigger')?.click();
    await fixture.whenStable();
    const options = [...document.querySelectorAll<HTMLElement>('mat-option')];
    options.find(({ textContent }) => textContent?.includes('Tobias'))?.click();
    await fixture.whenStable();
    await new Promise((resolve) => setTimeout(resolve));
    await fixture.whenStable();
    expect(asked.at(-1)).toEqual(['guide', { after: 4, upTo: 9, person: 'tobias' }]);
    const done: boolean[] = [];
    fixture.componentInstance.done.subscribe((well) => done.push(well));
    press('Take it back');
    await new Promise((resolve) => setTimeout(resolve));
    expect(done).toEqual([true]);
    const [word] = TestBed.inject(Words).list();
    word?.act?.run();
    expect(asked.at(-1)).toEqual(['guide', { seqs: [12] }]);
  });

  it('shows a conflict with its three texts and offers nothing then, nor where nothing is left', async () => {
    const conflict = { before: 'oars', now: 'oars and rope', after: 'and rope' };
    await show(TakingBack, { previewTakeBack: () => of(preview({ conflict, changes: 0 })) }, stretch);
    for (const text of ['oars and rope', 'Before it', 'Without it']) expect(page.textContent).toContain(text);
    expect([...page.querySelectorAll('button')].map((one) => one.textContent?.trim())).toEqual(['Cancel']);
    TestBed.resetTestingModule();
    await show(TakingBack, { previewTakeBack: () => of(preview({ changes: 0 })) }, stretch);
    expect(page.textContent).toContain('Nothing of it is left');
    TestBed.resetTestingModule();
    await show(
      TakingBack,
      { previewTakeBack: () => throwError(() => new Error('taken back before')) },
      stretch,
    );
    expect(page.querySelector('[role="alert"]')?.textContent).toContain('taken back before');
  });

  it('makes a document of its own from a moment, and goes there', async () => {
    const api = { copyMoment: recording(() => of({ id: 'new' })) };
    const fixture = await show(Copying, api, { seq: 9, name: 'Guide, version 3' });
    const title = page.querySelector<HTMLInputElement>('.name');
    expect(title?.value).toBe('Guide, version 3');
    if (!title) return;
    title.value = ' ';
    title.dispatchEvent(new Event('input'));
    press('Make the document');
    await fixture.whenStable();
    expect(page.querySelector('.wrong')?.textContent).toContain('needs a title');
    title.value = 'Our guide';
    title.dispatchEvent(new Event('input'));
    press('Make the document');
    await fixture.whenStable();
    expect(asked).toEqual([['guide', 9, 'Our guide', null]]);
    expect(went).toEqual([['/documents', 'new']]);
  });

  it('offers only those quick ways back that would change something, with their times', async () => {
    const content = (html: string): unknown => readHtml(html, NO_IMAGES).toJSON();
    const states: Record<number, unknown> = {
      2: content('<p>one</p>'),
      4: content('<p>two</p>'),
      5: content('<p>two</p>'),
    };
    const now = Date.now();
    const traces = [1, 2, 3, 4, 5].map((seq) => ({
      seq,
      at: now - (6 - seq) * 1000,
      author: seq > 3 ? 'ines' : 'tobias',
      wordsIn: 1,
      wordsOut: 0,
    }));
    const log = {
      traces: () => traces,
      head: () => 5,
      versions: () => [{ number: 3, seq: 4, at: new Date(now).toISOString() } as Version],
      versionAt: () => null,
    };
    const api = {
      moment: (_id: string, seq: number) => of({ content: states[seq] }),
      previewTakeBack: recording(() => of(preview())),
      restore: recording(() => of({ seq: 6, version: { number: 4 } })),
    };
    const fixture = await show(WaysBack, api, { found: 2 }, log);
    press('Go back …');
    await fixture.whenStable();
    const items = [...document.querySelectorAll<HTMLElement>('.mat-mdc-menu-item')];
    expect(items.map((item) => item.textContent?.trim().slice(0, 22))).toEqual([
      'To as I found it, Wed '.slice(0, 18) + (items[0]?.textContent?.trim().slice(18, 22) ?? ''),
      'To before this sitting',
    ]);
    expect(asked[0]).toEqual(['guide', { after: 3, upTo: 5, person: 'ines' }]);
    items[0]?.click();
    await fixture.whenStable();
    expect(asked.at(-1)).toEqual(['guide', 2, null, 'As it was found']);
  });
});
