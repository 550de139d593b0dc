import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { ComponentFixture } from '@angular/core/testing';
import { Router, provideRouter } from '@angular/router';
import type { Homecoming } from '@oxbow/contract';
import { of, throwError } from 'rxjs';
import { Api } from '../api/api';
import { Home } from './home';

const home = (part: Partial<Homecoming> = {}): Homecoming => ({
  origin: { document: 'guide', title: 'Guide', moment: 4, mayWrite: true },
  seq: 9,
  originSeq: 12,
  changes: 2,
  wordsAdded: 3,
  wordsRemoved: 1,
  gist: 'Added “boots”',
  conflicts: [
    { id: 0, kind: 'text', base: 'open', origin: 'broken', copy: 'shut' },
    {
      id: 1,
      kind: 'form',
      base: 'heading, level 1',
      origin: 'heading, level 2',
      copy: 'paragraph',
      about: 'Mill',
    },
  ],
  ...part,
});

describe('bringing a copy home', () => {
  let fixture: ComponentFixture<Home>;
  let brought: unknown[][];
  let answer: Homecoming;
  let bring: () => unknown;

  beforeEach(() => {
    brought = [];
    answer = home();
    bring = () => of({ seq: 13 });
  });
  async function show(): Promise<void> {
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideRouter([]),
        {
          provide: Api,
          useValue: {
            homecoming: () => of(answer),
            bringHome: (...given: unknown[]) => (brought.push(given), bring()),
          },
        },
      ],
    });
    fixture = TestBed.createComponent(Home);
    fixture.componentRef.setInput('document', 'copy');
    fixture.componentRef.setInput('head', 9);
    await fixture.whenStable();
  }
  const page = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const button = (name: string): HTMLButtonElement | undefined =>
    [...page().querySelectorAll('button')].find((one) => one.textContent?.includes(name));
  async function choose(group: number, option: number): Promise<void> {
    const radios = page().querySelectorAll('mat-radio-group')[group]?.querySelectorAll('input');
    radios?.[option]?.click();
    await fixture.whenStable();
  }

  it('asks about every conflict before it puts anything in', async () => {
    await show();
    expect(page().textContent).toContain('2 places were changed in both, differently');
    expect(button('Put it into Guide')?.disabled).toBeTrue();
    await choose(0, 2);
    expect(page().textContent).toContain('One place is still to decide');
    await choose(1, 1);
    const went = spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
    button('Put it into Guide')?.click();
    await fixture.whenStable();
    const settled = [
      { id: 0, take: 'both' },
      { id: 1, take: 'origin' },
    ];
    expect(brought).toEqual([['copy', { seq: 9, originSeq: 12, settled, comment: undefined }]]);
    expect(went.calls.mostRecent().args[0]).toEqual(['/documents', 'guide']);
  });

  it('shows all three sides of each: texts, forms, and places that cannot be had both', async () => {
    const place = {
      id: 2,
      kind: 'place',
      base: '',
      origin: 'Bring oars.',
      copy: 'The end.',
      about: 'The gate.',
    };
    answer = home({ conflicts: [...home().conflicts, place as Homecoming['conflicts'][number]] });
    await show();
    const asked = [...page().querySelectorAll('li')].map((item) =>
      [...item.querySelectorAll('p, mat-radio-button')].map((part) => part.textContent?.trim()),
    );
    const was = (what: string): string => `It was ${what} when the copy was made.`;
    expect(asked).toEqual([
      [
        was('“open”'),
        'In this copy: “shut”',
        'In the other: “broken”',
        'Both, the other’s first',
        'As it was',
      ],
      [
        '“Mill”',
        was('heading, level 1'),
        'In this copy: paragraph',
        'In the other: heading, level 2',
        'As it was',
      ],
      [
        '“The gate.”',
        was('at the beginning'),
        'In this copy: behind “The end.”',
        'In the other: behind “Bring oars.”',
        'As it was',
      ],
    ]);
  });

  it('keeps what was decided when somebody went on writing and the conflict is the same', async () => {
    await show();
    button('Take this copy’s everywhere')?.click();
    await fixture.whenStable();
    answer = home({
      originSeq: 14,
      conflicts: [{ ...(home().conflicts[0] as Homecoming['conflicts'][number]) }],
    });
    bring = () => throwError(() => new Error('Somebody has gone on writing'));
    button('Put it into Guide')?.click();
    await fixture.whenStable();
    expect(page().querySelector('.wrong')?.textContent).toContain('Somebody has gone on writing');
    expect(button('Put it into Guide')?.disabled).toBeFalse();
  });

  it('says when nothing would come home, and when one may not write there', async () => {
    answer = home({ changes: 0, conflicts: [] });
    await show();
    expect(page().textContent).toContain('nothing that is not there already');
    expect(button('Put it into Guide')).toBeUndefined();
    TestBed.resetTestingModule();
    answer = home({ origin: { document: 'guide', title: 'Guide', moment: 4, mayWrite: false } });
    await show();
    expect(page().textContent).toContain('You may read that document, not change it');
    expect(button('Put it into Guide')).toBeUndefined();
  });
});
