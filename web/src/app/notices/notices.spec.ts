import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { ComponentFixture } from '@angular/core/testing';
import { Router } from '@angular/router';
import type { Notice } from '@oxbow/contract';
import { provideState, provideStore, Store } from '@ngrx/store';
import { of, throwError } from 'rxjs';
import { Api } from '../api/api';
import { session } from '../session/session.store';
import { SharingApi } from '../sharing/sharing-api';
import { Notices } from './notices';
import { NoticeEvents, notices } from './notices.store';

const lost: Notice = {
  id: 'n1',
  document: 'guide',
  title: 'Guide',
  kind: 'lost',
  by: ['petru'],
  first: 7,
  last: 9,
  at: '2026-04-14T09:00:00Z',
  text: 'The wheel turns',
  words: 48,
  undo: [7, 9],
};

describe('notices', () => {
  let fixture: ComponentFixture<Notices>;
  let went: unknown[];
  let taken: unknown[];
  let shared: unknown[];

  async function show(list: Notice[], takeBack: () => unknown = () => of({})): Promise<void> {
    went = [];
    taken = [];
    shared = [];
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideStore(),
        provideState(session),
        provideState(notices),
        { provide: Router, useValue: { navigate: (...to: unknown[]) => went.push(to) } },
        {
          provide: SharingApi,
          useValue: { change: (...given: unknown[]) => (shared.push(given), of({})) },
        },
        {
          provide: Api,
          useValue: { takeBack: (...given: unknown[]) => (taken.push(given), takeBack()) },
        },
      ],
    });
    TestBed.inject(Store).dispatch(NoticeEvents.loaded({ notices: list }));
    fixture = TestBed.createComponent(Notices);
    await fixture.whenStable();
  }
  const page = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const panel = (): HTMLElement | null => document.querySelector('.panel');
  async function press(within: HTMLElement | null, name: string): Promise<void> {
    [...(within?.querySelectorAll('button') ?? [])].find((one) => one.textContent?.includes(name))?.click();
    await fixture.whenStable();
    // The list is fetched when it is first opened.
    const isOpen = (): boolean => page().querySelector('[aria-expanded="true"]') !== null;
    while (isOpen() && !panel()?.textContent) {
      await new Promise((resolve) => setTimeout(resolve, 10));
      await fixture.whenStable();
    }
  }

  it('are not there while there are none', async () => {
    await show([]);
    expect(page().querySelector('button')).toBeNull();
  });

  it('say what happened, lead to it, and are put away', async () => {
    await show([
      { ...lost, kind: 'changed', text: '', words: 1 },
      { ...lost, id: 'n2', kind: 'passage' },
    ]);
    await press(page(), '2 notices');
    expect(panel()?.textContent).toContain('wrote or took out 1 word');
    expect(panel()?.textContent).toContain('changed a passage that you watch');
    await press(panel(), 'Dismiss');
    expect(page().textContent).toContain('1 notice');
    await press(panel(), 'Look at what changed');
    expect(went).toEqual([[['/documents', 'guide'], { queryParams: { earlier: 6, later: 9 } }]]);
    expect(page().querySelector('button')).toBeNull();
  });

  it('of a question for a document share it in one step, or lead to where it is shared otherwise', async () => {
    const asked: Notice = { ...lost, kind: 'asked', first: 0, last: 0, text: 'I count the birds.', undo: [] };
    await show([asked]);
    await press(page(), '1 notice');
    expect(panel()?.textContent).toContain('asks you to share it with them');
    expect(panel()?.textContent).toContain('I count the birds.');
    await press(panel(), 'Share it to read');
    expect(shared).toEqual([
      [{ kind: 'documents', id: 'guide' }, 'petru', { role: 'viewer', history: 'all' }],
    ]);
    await press(panel(), 'Otherwise …');
    expect(went).toEqual([[['/documents', 'guide', 'sharing']]]);
  });

  it('bring lost writing back in one step, or say why not', async () => {
    await show([lost]);
    await press(page(), '1 notice');
    expect(panel()?.textContent).toContain('took out 48 words that you wrote');
    await press(panel(), 'Bring it back');
    expect(taken).toEqual([['guide', { seqs: [7, 9] }]]);
    expect(panel()).toBeNull();
    TestBed.resetTestingModule();
    await show([lost], () => throwError(() => new Error('It cannot be taken back on its own')));
    await press(page(), '1 notice');
    await press(panel(), 'Bring it back');
    expect(panel()?.querySelector('[role="alert"]')?.textContent).toContain('on its own');
  });
});
