import { provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { ComponentFixture } from '@angular/core/testing';
import { MatIconTestingModule } from '@angular/material/icon/testing';
import type { DocumentSummary } from '@oxbow/contract';
import { Store } from '@ngrx/store';
import { of, throwError } from 'rxjs';
import { Api } from '../api/api';
import { LiveDocument } from '../document/live-document';
import { Words } from '../document/words';
import { Holding } from '../session/holding';
import { people } from '../reading/testing/look';
import { CheckOutBand } from './check-out-band';
import { HoldingBand } from './holding-band';

const about = (checkOut: DocumentSummary['checkOut'], role: DocumentSummary['role']): DocumentSummary => ({
  id: 'guide',
  kind: 'text',
  title: 'Guide',
  collection: null,
  seq: 4,
  version: 2,
  role,
  history: 'all',
  createdAt: '2026-04-14T09:00:00Z',
  changedAt: '2026-04-14T09:00:00Z',
  changedBy: 'ines',
  gauge: [],
  fresh: { sittings: 0, people: [], wordsIn: 0, wordsOut: 0 },
  watched: false,
  checkOut,
  erased: 0,
});

describe('how writing is kept on the desk', () => {
  const waiting = signal(0);
  let putIn: boolean;
  let dropped: number;
  let said: string[];
  let asked: unknown[][];
  let chosen: unknown[][];
  let page: HTMLElement;

  async function show<T>(
    component: new () => T,
    inputs: Record<string, unknown>,
  ): Promise<ComponentFixture<T>> {
    TestBed.resetTestingModule();
    const told =
      (name: string, answer: unknown = undefined) =>
      (...given: unknown[]) => {
        asked.push([name, ...given]);
        return of(answer);
      };
    TestBed.configureTestingModule({
      imports: [MatIconTestingModule],
      providers: [
        provideZonelessChangeDetection(),
        {
          provide: Api,
          useValue: {
            checkOut: () => throwError(() => new Error('Tobias Rahn has it checked out')),
            checkIn: told('checkIn', { version: { number: 3, label: '1.0' } }),
            cancelCheckOut: told('cancelCheckOut'),
          },
        },
        {
          provide: LiveDocument,
          useValue: { waiting, putIn: async () => putIn, drop: () => void dropped++ },
        },
        { provide: Words, useValue: { say: (text: string) => said.push(text) } },
        { provide: Store, useValue: { selectSignal: () => signal({ id: 'ines' }) } },
        { provide: Holding, useValue: { choose: (...given: unknown[]) => chosen.push(given) } },
      ],
    });
    const fixture = TestBed.createComponent(component);
    for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
    await fixture.whenStable();
    page = fixture.nativeElement as HTMLElement;
    return fixture;
  }
  const press = async (fixture: ComponentFixture<unknown>, name: string): Promise<void> => {
    const buttons = [...page.querySelectorAll('button')];
    const button = buttons.find(({ textContent }) => textContent.trim().startsWith(name));
    if (!button) throw new Error(`no button “${name}”`);
    button.click();
    await fixture.whenStable();
  };

  beforeEach(() => {
    waiting.set(0);
    putIn = true;
    dropped = 0;
    [said, asked, chosen] = [[], [], []];
  });

  it('says what is held back, puts it in, and stops holding back', async () => {
    const fixture = await show(HoldingBand, { document: 'guide' });
    expect(page.textContent).toContain('stays a draft on this device');
    waiting.set(2);
    await fixture.whenStable();
    expect(page.textContent).toContain('2 edits are a draft on this device');
    await press(fixture, 'Publish my draft');
    expect(said.at(-1)).toContain('It is published');
    putIn = false;
    await press(fixture, 'Publish my draft and stop holding back');
    expect(chosen).toEqual([['guide', false]]);
    expect(said.at(-1)).toContain('stays on this device');
  });

  it('checks a document in with a comment, in place, and says which version that is', async () => {
    waiting.set(1);
    const since = '2026-04-14T09:00:00Z';
    const fixture = await show(CheckOutBand, { document: about({ by: 'ines', since }, 'editor'), people });
    expect(page.textContent).toContain('1 edit is on this device until you check in');
    await press(fixture, 'Check in');
    const comment = page.querySelector<HTMLInputElement>('input[type="text"]');
    if (!comment) throw new Error('no field for a comment');
    comment.value = ' Done ';
    comment.dispatchEvent(new Event('input'));
    page.querySelector<HTMLInputElement>('input[type="checkbox"]')?.click();
    await press(fixture, 'Check it in');
    expect(asked).toEqual([['checkIn', 'guide', 'Done', true]]);
    expect(said).toEqual(['Checked in as version 3 (1.0).']);
  });

  it('asks before a changed check-out is given up, and not before an unchanged one', async () => {
    const checkOut = { by: 'ines', since: '2026-04-14T09:00:00Z' };
    let fixture = await show(CheckOutBand, { document: about(checkOut, 'editor'), people });
    await press(fixture, 'Give it back');
    expect([dropped, asked.length]).toEqual([1, 1]);
    waiting.set(3);
    fixture = await show(CheckOutBand, { document: about(checkOut, 'editor'), people });
    await press(fixture, 'Give it up');
    expect(page.textContent).toContain('3 edits that nobody has seen will be gone');
    expect(dropped).toBe(1);
    await press(fixture, 'Give it up');
    expect([dropped, asked.length]).toEqual([2, 2]);
  });

  it('shows others who has it, lets only an owner end that, and says why it cannot be checked out', async () => {
    const checkOut = { by: 'tobias', since: '2026-04-14T09:00:00Z' };
    let fixture = await show(CheckOutBand, { document: about(checkOut, 'editor'), people });
    expect(page.textContent).toContain('Tobias Rahn has this document checked out');
    expect(page.querySelector('button')).toBeNull();
    fixture = await show(CheckOutBand, { document: about(checkOut, 'owner'), people });
    await press(fixture, 'End the check-out');
    expect(page.textContent).toContain('kept on their device as a stranded draft');
    await press(fixture, 'End the check-out');
    expect(asked).toEqual([['cancelCheckOut', 'guide', 'tobias']]);
    fixture = await show(CheckOutBand, { document: about({ by: null, since: null }, 'editor'), people });
    await press(fixture, 'Check it out');
    expect(page.querySelector('[role="alert"]')?.textContent).toContain('Tobias Rahn has it checked out');
  });
});
