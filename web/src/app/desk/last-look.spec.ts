import { provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { Look as Seen } from '@oxbow/contract';
import type { Trace } from '@oxbow/core/history';
import { Store } from '@ngrx/store';
import { of } from 'rxjs';
import { Api } from '../api/api';
import { Comparing } from '../reading/comparing';
import type { Look } from '../reading/look';
import { lookAt } from '../reading/testing/look';
import { DeskHistory } from '../document/history';
import { LastLook } from './last-look';

const trace = (seq: number, author: string): Trace => ({
  seq,
  at: seq * 1000,
  author,
  wordsIn: 2,
  wordsOut: 1,
});

describe('one’s last look', () => {
  const traces = signal<readonly Trace[]>([]);
  const look = signal<Look | null>(null);
  const at = signal<number | null>(null);
  let kept: unknown[];
  let last: LastLook;

  async function begin(stored: Seen): Promise<void> {
    kept = [];
    traces.set([trace(1, 'ines'), trace(2, 'tobias'), trace(3, 'ines'), trace(4, 'tobias')]);
    look.set(null);
    at.set(null);
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        LastLook,
        { provide: Store, useValue: { selectSignal: () => signal({ id: 'ines' }) } },
        { provide: DeskHistory, useValue: { traces, head: () => traces().at(-1)?.seq ?? 0 } },
        { provide: Comparing, useValue: { look, at } },
        {
          provide: Api,
          useValue: {
            lastLook: () => of(stored),
            keepLook: (_id: string, value: unknown) => (kept.push(value), of(value)),
          },
        },
      ],
    });
    last = TestBed.inject(LastLook);
    await last.load('guide');
  }

  it('tells what others wrote since, and nothing of one’s own', async () => {
    await begin({ seq: 1, at: null, upTo: 0, seen: [] });
    expect(last.news()).toEqual({
      sittings: 1,
      people: ['tobias'],
      wordsIn: 4,
      wordsOut: 2,
      range: { first: 2, last: 4 },
    });
    expect(last.walk()).toEqual({ earlier: 1, later: 4 });
    last.seen();
    expect(last.news()).toBeNull();
  });

  it('counts changes as seen while one walks, one’s own by themselves, and ends with the last', async () => {
    await begin({ seq: 1, at: null, upTo: 2, seen: [] });
    expect(last.walk()).toEqual({ earlier: 1, later: 2 });
    look.set(
      lookAt('<p>one</p><p>two</p><p>three</p><p>four</p>', '<p>1</p><p>two</p><p>3</p><p>four 4</p>'),
    );
    expect(last.walking()).toBeTrue();
    const ids = look()?.comparison.changes.map(({ id }) => id) ?? [];
    expect(last.progress()).toEqual({ done: Math.ceil(ids.length / 2), all: ids.length });
    for (const id of ids) {
      at.set(id);
      TestBed.tick();
    }
    expect(last.look()?.seq).toBe(2);
    expect(last.news()?.range).toEqual({ first: 3, last: 4 });
  });

  it('takes what comes in as seen only where nothing before it is new', async () => {
    await begin({ seq: 4, at: null, upTo: 0, seen: [] });
    traces.update((held) => [...held, trace(5, 'tobias')]);
    last.watched(4);
    expect(last.news()).toBeNull();
    await last.load('guide');
    traces.update((held) => [...held, trace(6, 'tobias')]);
    last.watched(5);
    expect(last.news()?.range).toEqual({ first: 5, last: 6 });
  });
});
