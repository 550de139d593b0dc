import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { ComponentFixture } from '@angular/core/testing';
import { MatIconTestingModule } from '@angular/material/icon/testing';
import type { FoundInTime, PassageLife, RemovedPage } from '@oxbow/contract';
import { of, throwError } from 'rxjs';
import { Api } from '../api/api';
import { PutBack } from '../carry/put-back';
import { people } from '../reading/testing/look';
import { Find } from './find';
import { Life } from './life';
import { Removed } from './removed';

const AT = '2026-04-14T09:00:00Z';
const passage = (text: string, first: number): RemovedPage['items'][number] => ({
  text,
  words: 5,
  by: 'tobias',
  first,
  last: first + 1,
  at: AT,
  moment: first - 1,
  from: 3,
  to: 9,
  place: 3,
  writers: ['ines'],
});

describe('the rooms in which one looks back', () => {
  let page: HTMLElement;
  let putBack: (given: unknown[]) => Promise<boolean> = () => Promise.resolve(false);

  async function show<T>(
    component: new () => T,
    api: Record<string, unknown>,
    inputs: Record<string, unknown>,
  ): Promise<ComponentFixture<T>> {
    TestBed.configureTestingModule({
      imports: [MatIconTestingModule],
      providers: [
        provideZonelessChangeDetection(),
        { provide: Api, useValue: api },
        { provide: PutBack, useValue: { passage: (...given: unknown[]) => putBack(given) } },
      ],
    });
    const fixture = TestBed.createComponent(component);
    for (const [name, value] of Object.entries({ document: 'guide', people, ...inputs }))
      fixture.componentRef.setInput(name, value);
    await fixture.whenStable();
    page = fixture.nativeElement as HTMLElement;
    return fixture;
  }
  const press = (name: string): void =>
    [...page.querySelectorAll('button')].find((button) => button.textContent?.includes(name))?.click();

  it('list removed passages with who, when and who wrote them, and lead to where they stood', async () => {
    const asked: unknown[][] = [];
    const removed = (...given: unknown[]) => {
      asked.push(given);
      const more = given[2] === '1';
      return of({
        items: [passage(more ? 'Older' : 'The heron', 8)],
        total: 2,
        present: [],
        next: more ? null : '1',
      });
    };
    const fixture = await show(Removed, { removed }, { head: 20, mayWrite: true });
    const went: unknown[] = [];
    fixture.componentInstance.gone.subscribe((pick) => went.push(pick));
    for (const words of ['Tobias Rahn', 'written by Ines Okell', 'The heron', '2 passages'])
      expect(page.textContent).toContain(words);
    press('Show it where it stood');
    expect(went).toEqual([{ earlier: 7, later: 9 }]);
    const back: unknown[][] = [];
    putBack = (given) => Promise.resolve(back.push(given) > 0);
    let closed = 0;
    fixture.componentInstance.closed.subscribe(() => closed++);
    press('Put it back');
    await fixture.whenStable();
    expect(back).toEqual([['guide', 7, 3, 9]]);
    expect(closed).toBe(1);
    press('Show older ones');
    await fixture.whenStable();
    expect(page.querySelectorAll('.item').length).toBe(2);
    expect(asked.at(-1)).toEqual(['guide', '', '1']);
  });

  it('say so when nothing was removed, and why something could not be fetched', async () => {
    await show(
      Removed,
      { removed: () => of({ items: [], total: 0, present: [], next: null }) },
      { head: 2, mayWrite: false },
    );
    expect(page.textContent).toContain('Nothing of more than a few words');
    TestBed.resetTestingModule();
    await show(
      Removed,
      { removed: () => throwError(() => new Error('The server is away')) },
      { head: 2, mayWrite: false },
    );
    expect(page.querySelector('[role="alert"]')?.textContent).toContain('The server is away');
  });

  it('say in a sentence when words were there, and draw it', async () => {
    const found: FoundInTime = {
      document: 'guide',
      title: 'Guide',
      moments: [
        [1, 3],
        [4, 0],
      ],
      terms: [
        {
          term: 'tide',
          total: 3,
          appearances: [
            {
              came: { seq: 4, by: 'ines', at: AT },
              went: null,
              before: 'the ',
              match: 'tide',
              after: ' turns',
              position: 5,
            },
            {
              came: { seq: 1, by: 'ines', at: AT },
              went: { seq: 3, by: 'tobias', at: AT },
              before: '',
              match: 'Tide',
              after: '',
              position: 1,
            },
          ],
        },
      ],
    };
    const traces = [1, 2, 3, 4, 5].map((seq) => ({
      seq,
      at: Date.parse(AT) + seq,
      author: 'ines',
      wordsIn: 1,
      wordsOut: 0,
    }));
    const fixture = await show(Find, { find: () => of(found) }, { query: 'tide', traces });
    expect(page.querySelector('[role="status"]')?.textContent).toMatch(
      /came Tue 14 Apr.*2 times.*is there now/,
    );
    expect(page.querySelectorAll('.when rect').length).toBe(2);
    expect(page.textContent).toContain('still there');
    expect(page.textContent).toContain('and 1 earlier times');
    const went: unknown[] = [];
    fixture.componentInstance.gone.subscribe((pick) => went.push(pick));
    press('Show where it was removed');
    expect(went).toEqual([{ earlier: 2, later: 3 }]);
  });

  it('show a passage form by form, with what each changed and the way to it', async () => {
    const form = (seq: number, turn: 'written' | 'changed', text: string, by: string) => ({
      seq,
      until: null,
      turn,
      text,
      with: [],
      by,
      at: AT,
    });
    const life: PassageLife = {
      forms: [
        form(1, 'written', 'The gate is open.', 'ines'),
        form(6, 'changed', 'The gate is shut.', 'tobias'),
      ],
      contests: [
        {
          one: 'open',
          other: 'shut',
          turns: [{ seq: 6, by: 'tobias', at: AT, wording: 'shut' }],
          passage: 'The gate is shut.',
          position: 1,
        },
      ],
    };
    const asked: unknown[][] = [];
    const fixture = await show(
      Life,
      { life: (...given: unknown[]) => (asked.push(given), of(life)) },
      { passage: '9.4' },
    );
    expect(asked).toEqual([['guide', 9, 4]]);
    expect(page.querySelector('del')?.textContent).toBe('open');
    expect(page.querySelector('ins')?.textContent).toBe('shut');
    expect(page.textContent).toContain('Wording that went back and forth');
    const went: unknown[] = [];
    fixture.componentInstance.gone.subscribe((pick) => went.push(pick));
    press('Go to that moment');
    expect(went).toEqual([{ earlier: 0, later: 1 }]);
  });
});
