import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { MatDialog } from '@angular/material/dialog';
import { of } from 'rxjs';
import { until } from '../testing/until';
import { Comparer } from '../worker/comparer';
import type { FileTask } from '../worker/messages';
import { Choosing } from './choosing';
import { Comparing } from './comparing';
import type { Chosen, EndsData } from './ends';
import { lookAt } from './testing/look';

const look = lookAt('<p>two sacks</p>', '<p>three sacks</p>');
const data = { document: 'guide', head: 7 } as EndsData;
const file = new File(['three sacks'], 'mill.txt', { lastModified: Date.UTC(2026, 3, 14) });

describe('choosing on a desk', () => {
  let answer: Chosen | undefined;
  let choosing: Choosing;
  let comparing: Comparing;
  let http: HttpTestingController;
  let asked: { name: string; text: string }[];
  let trouble: string;

  beforeEach(() => {
    asked = [];
    trouble = '';
    const comparer = {
      cancel: () => undefined,
      file: (task: FileTask) => {
        asked.push({ name: task.name, text: new TextDecoder().decode(task.bytes) });
        const { changes, rows, totals, gist } = look.comparison;
        return trouble
          ? Promise.reject(new Error(trouble))
          : Promise.resolve({
              content: look.later.content,
              words: 2,
              changes,
              rows,
              totals,
              gist,
              about: null,
            });
      },
    };
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideHttpClient(),
        provideHttpClientTesting(),
        { provide: MatDialog, useValue: { open: () => ({ afterClosed: () => of(answer) }) } },
        { provide: Comparer, useValue: comparer },
        Choosing,
        Comparing,
      ],
    });
    choosing = TestBed.inject(Choosing);
    comparing = TestBed.inject(Comparing);
    http = TestBed.inject(HttpTestingController);
  });

  const settled = (): Promise<void> => new Promise((done) => setTimeout(done, 20));
  const dropping = (files: File[], prevented = false): DragEvent => {
    const transfer = new DataTransfer();
    for (const one of files) transfer.items.add(one);
    const event = new DragEvent('drop', { dataTransfer: transfer, cancelable: true });
    if (prevented) event.preventDefault();
    return event;
  };

  it('answers the ends that were chosen, and nothing when it was left', async () => {
    const ends = { document: 'guide', earlier: 1, later: 7, other: null };
    answer = { ends };
    expect(await choosing.ask(data)).toEqual(ends);
    answer = undefined;
    expect(await choosing.ask(data)).toBeNull();
    expect(comparing.look()).toBeNull();
  });

  it('compares a file that was chosen with the document as it is now', async () => {
    answer = { file };
    const asking = choosing.ask(data);
    await settled();
    http.expectOne('/api/documents/guide/versions/@7').flush(look.earlier);
    expect(await asking).toBeNull();
    expect(asked).toEqual([{ name: 'mill.txt', text: 'three sacks' }]);
    expect(comparing.look()?.file).toBe('mill.txt');
    expect(comparing.look()?.later.at).toBe('2026-04-14T00:00:00.000Z');
    expect(comparing.shown().map(({ credits }) => credits.length)).toEqual([0]);
  });

  it('takes a file that is dropped, but leaves what the editor took', async () => {
    choosing.dragged(dropping([file]), true);
    expect(choosing.dropping()).toBe(true);
    choosing.dropped(dropping([file], true), 'guide', 7);
    choosing.dropped(dropping([]), 'guide', 7);
    await settled();
    http.expectNone('/api/documents/guide/versions/@7');
    expect(choosing.dropping()).toBe(false);
    const event = dropping([file]);
    choosing.dropped(event, 'guide', 7);
    expect(event.defaultPrevented).toBe(true);
    await settled();
    http.expectOne('/api/documents/guide/versions/@7').flush(look.earlier);
    await until(() => comparing.look() !== null);
    expect(comparing.look()?.file).toBe('mill.txt');
  });

  it('compares the next file with the moment in view, and says why one cannot be read', async () => {
    comparing.open({ document: 'guide', earlier: 1, later: 2, other: null });
    http.expectOne('/api/documents/guide/versions/@1').flush(look.earlier);
    http.expectOne('/api/documents/guide/versions/@2').flush(look.later);
    http.expectOne(({ url }) => url.endsWith('/compare')).flush(look.comparison);
    choosing.dropped(dropping([file]), 'guide', 7);
    await until(() => comparing.look()?.file === 'mill.txt');
    http.expectNone('/api/documents/guide/versions/@7');
    expect(comparing.look()?.earlier.seq).toBe(2);
    trouble = 'Only text can be read so far.';
    choosing.dropped(dropping([file]), 'guide', 7);
    await until(() => comparing.trouble() !== '');
    expect(comparing.trouble()).toBe(trouble);
    expect(comparing.looking()).toBe(false);
    expect(comparing.look()?.file).toBe('mill.txt');
  });
});
