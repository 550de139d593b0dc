import { provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { ComparedChange } from '@oxbow/contract';
import { NO_IMAGES, readHtml } from '@oxbow/core/formats';
import { Store } from '@ngrx/store';
import { Comparing } from '../reading/comparing';
import { drawSwitch, showTaken, switchesOf } from '../reading/switch';
import { Comparer } from '../worker/comparer';
import { Assembled } from './assembled';
import { Assembling } from './assembling';
import { begun, forget, keep, recall } from './kept';

const pair = { document: 'guide', other: 'guide', earlier: 3, later: 9 };
const read = (html: string): unknown => readHtml(html, NO_IMAGES).toJSON();
const change = (id: number, kind: ComparedChange['kind'], person = 'ines'): ComparedChange => ({
  id,
  kind,
  earlier: 'nine',
  later: 'ten',
  place: { earlier: { from: 1, to: 2 }, later: { from: 1, to: 2 } },
  stands: { earlier: [], later: [] },
  block: false,
  wordsRemoved: 1,
  wordsAdded: 1,
  wordsMoved: 0,
  copyOf: null,
  group: null,
  section: null,
  form: [],
  credits: [
    { from: 0, to: 1, side: 'later', seq: 4, at: '2026-04-14T09:00:00Z', person, writer: person, file: null },
  ],
});

describe('assemblies that were begun', () => {
  afterEach(() => localStorage.clear());

  it('are kept by pair and person, the latest first, until they are done with', () => {
    keep('ines', { ...pair, takes: [[0, 'earlier']], of: 4, at: 1 });
    keep('ines', { ...pair, later: 10, takes: [], of: 2, at: 2 });
    keep('ines', { ...pair, takes: [[0, 'later']], of: 4, at: 3 });
    expect(begun('ines', 'guide').map(({ later }) => later)).toEqual([9, 10]);
    expect(recall('ines', pair)?.takes).toEqual([[0, 'later']]);
    expect(begun('tobias', 'guide')).toEqual([]);
    forget('ines', pair);
    expect(recall('ines', pair)).toBeNull();
  });
});

describe('assembling', () => {
  const look = {
    earlier: { document: 'guide', seq: 3, content: 'a' },
    later: { document: 'guide', seq: 9, content: 'b' },
    comparison: {
      changes: [change(0, 'replaced'), change(1, 'form', 'tobias'), change(2, 'removed'), change(3, 'added')],
    },
    file: null,
  };
  let asked: unknown[];
  let assembling: Assembling;

  beforeEach(async () => {
    asked = [];
    const comparer = {
      assemble: (task: { takes: unknown }) => {
        asked.push(task.takes);
        return Promise.resolve({ made: asked.length });
      },
    };
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        Assembling,
        { provide: Comparer, useValue: comparer },
        {
          provide: Comparing,
          useValue: { look: signal(look), sections: signal([{ title: 'Wheel', from: 0, to: 9 }]) },
        },
        { provide: Store, useValue: { selectSignal: () => signal({ id: 'ines' }) } },
      ],
    });
    assembling = TestBed.inject(Assembling);
    assembling.on.set(true);
    TestBed.tick();
    await Promise.resolve();
  });
  afterEach(() => localStorage.clear());

  it('decides one or many at once, takes decisions back, and makes what comes of it each time', async () => {
    assembling.decide([0], 'earlier');
    expect(assembling.left()).toBe(3);
    assembling.decide(assembling.open(), 'both');
    expect([...assembling.decisions()]).toEqual([
      [0, 'earlier'],
      [1, 'later'],
      [2, 'earlier'],
      [3, 'later'],
    ]);
    expect(assembling.left()).toBe(0);
    assembling.undo();
    expect(assembling.left()).toBe(3);
    await Promise.resolve();
    expect(asked.at(-1)).toEqual([[0, 'earlier']]);
    expect(assembling.result()).toEqual({ made: 4 });
  });

  it('groups changes by person, kind, section and rename', () => {
    const { people, kinds, sections, renames } = assembling.groups();
    expect(renames).toEqual([]);
    expect(people).toEqual([
      { name: 'ines', changes: [0, 2, 3] },
      { name: 'tobias', changes: [1] },
    ]);
    expect(kinds.map(({ name }) => name)).toEqual(['text', 'form']);
    expect(sections).toEqual([{ name: 'Wheel', changes: [0, 1, 2, 3] }]);
  });

  it('is gone on with where it was left, and forgotten when it was put somewhere', () => {
    assembling.decide([2], 'later');
    expect(recall('ines', pair)?.takes).toEqual([[2, 'later']]);
    expect(assembling.input()).toEqual({
      earlier: '@3',
      later: '@9',
      decisions: [{ change: 2, take: 'later' }],
    });
    assembling.done();
    expect(recall('ines', pair)).toBeNull();
    expect(assembling.on()).toBe(false);
  });
});

describe('the switch beside a change', () => {
  it('offers both where both can stand, shows what was decided, and keeps clear of the one above', () => {
    const row = document.createElement('div');
    row.innerHTML = '<ins data-change="0">a</ins><del data-change="2">b</del>';
    document.body.append(row);
    const switches = switchesOf(row, [change(0, 'replaced'), change(2, 'removed'), change(7, 'added')]);
    expect(switches.length).toBe(2);
    expect((switches[1]?.top ?? 0) - (switches[0]?.top ?? 0)).toBeGreaterThan(20);
    const told: unknown[] = [];
    const decisions = new Map([[0, 'later']] as const);
    const [first, second] = switches.map((one) => drawSwitch(one, decisions, (...given) => told.push(given)));
    expect(first?.querySelectorAll('button').length).toBe(3);
    expect(second?.querySelectorAll('button').length).toBe(2);
    expect(first?.querySelector('[aria-pressed="true"]')?.textContent).toBe('L');
    second?.querySelector('button')?.click();
    expect(told).toEqual([[2, 'earlier']]);
    showTaken(row, decisions);
    expect(row.querySelector('ins')?.dataset['take']).toBe('later');
    showTaken(row, new Map());
    expect(row.querySelector('ins')?.dataset['take']).toBeUndefined();
    row.remove();
  });
});

describe('what comes of it', () => {
  it('draws anew only the blocks that differ, and marks them', async () => {
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
    const fixture = TestBed.createComponent(Assembled);
    fixture.componentRef.setInput('document', 'guide');
    fixture.componentRef.setInput('content', read('<p>one</p><p>two</p><p>three</p>'));
    await fixture.whenStable();
    const page = (fixture.nativeElement as HTMLElement).querySelector('.page-text');
    const [one, , three] = [...(page?.children ?? [])];
    fixture.componentRef.setInput('content', read('<p>one</p><p>two and a half</p><p>three</p>'));
    await fixture.whenStable();
    const after = [...(page?.children ?? [])];
    expect(after.map(({ textContent }) => textContent)).toEqual(['one', 'two and a half', 'three']);
    expect([after[0], after[2]]).toEqual([one, three] as Element[]);
    expect(page?.querySelector('.just-made')?.textContent).toBe('two and a half');
  });
});
