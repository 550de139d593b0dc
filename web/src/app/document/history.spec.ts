import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { History, Version, WireEdit } from '@oxbow/contract';
import { Subject, of, throwError } from 'rxjs';
import { Api } from '../api/api';
import { LiveChannel } from '../live/channel';
import { DeskHistory } from './history';

const history: History = {
  from: 1,
  people: ['ines', 'jun'],
  at: [1000, 2000, 3000],
  who: [0, 1, 0],
  wordsIn: [2, 0, 1],
  wordsOut: [0, 1, 0],
  events: [{ seq: 3, cause: { kind: 'title', before: 'a', after: 'b' } }],
};
const version = (number: number, seq: number): Version => ({
  number,
  label: `0.${number}`,
  seq,
  at: '2026-01-01T00:00:00Z',
  cause: 'pause',
  authors: [],
  comment: '',
  gist: '',
  size: 1,
  wordsAdded: 0,
  wordsRemoved: 0,
  landmark: null,
});
const edit = (seq: number, kind: 'writing' | 'restore' = 'writing'): WireEdit => ({
  seq,
  author: 'jun',
  acceptedAt: seq * 1000,
  writtenAt: 0,
  client: 'c',
  counter: seq,
  schema: 1,
  steps: [],
  sources: [],
  cause: kind === 'writing' ? { kind } : { kind, moment: 1 },
  wordsIn: 1,
  wordsOut: 0,
});

describe('the history a desk knows', () => {
  let log: DeskHistory;
  let calls = 0;
  const channel = {
    version: new Subject<unknown>(),
    versions: new Subject<unknown>(),
    landmarks: new Subject<unknown>(),
  };
  const heard = (name: string) => channel[name as keyof typeof channel].asObservable();

  function begin(
    api: Partial<Record<'history' | 'allVersions' | 'landmarks', (id: string) => unknown>>,
  ): void {
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        DeskHistory,
        { provide: Api, useValue: { landmarks: () => of([]), ...api } },
        {
          provide: LiveChannel,
          useValue: { on: (name: string) => heard(name), whenConnected: () => () => undefined },
        },
      ],
    });
    log = TestBed.inject(DeskHistory);
  }
  const allVersions = () => of([version(2, 3), version(1, 0)]);
  const whole = {
    history: () => {
      calls++;
      return of(history);
    },
    allVersions,
  };

  it('reads columns into traces, and all versions', async () => {
    begin(whole);
    await log.load('guide');
    expect(log.traces().map((trace) => [trace.seq, trace.author, trace.wordsIn, trace.wordsOut])).toEqual([
      [1, 'ines', 2, 0],
      [2, 'jun', 0, 1],
      [3, 'ines', 1, 0],
    ]);
    expect(log.versions().map((one) => one.number)).toEqual([2, 1]);
    expect([log.versionAt(3)?.number, log.versionAt(2)]).toEqual([2, null]);
    expect(log.causes().get(3)?.kind).toBe('title');
  });

  it('grows with what is accepted, once each, and knows restores', async () => {
    begin(whole);
    await log.load('guide');
    log.add([edit(3), edit(4), edit(5, 'restore')]);
    log.add([edit(5, 'restore')]);
    expect(log.head()).toBe(5);
    expect(log.traces().length).toBe(5);
    expect(log.causes().get(5)?.kind).toBe('restore');
    log.addVersion(version(3, 5));
    log.addVersion(version(3, 5));
    expect(log.versions().map((one) => one.number)).toEqual([3, 2, 1]);
  });

  it('reads everything again when edits are missing in between', async () => {
    begin(whole);
    await log.load('guide');
    const before = calls;
    log.add([edit(9)]);
    expect(calls).toBe(before + 1);
  });

  it('says so when it cannot be read', async () => {
    begin({ history: () => throwError(() => new Error('The server is away')), allVersions });
    await log.load('guide');
    expect(log.trouble()).toBe('The server is away');
  });

  it('hears of versions and of names given to moments while it is open', async () => {
    let names: unknown[] = [];
    begin({ ...whole, landmarks: () => of(names) });
    await log.load('guide');
    channel.version.next({ document: 'guide', version: version(3, 3) });
    channel.version.next({ document: 'another', version: version(9, 9) });
    expect(log.versions().map(({ number }) => number)).toEqual([3, 2, 1]);
    channel.versions.next({ document: 'guide' });
    await Promise.resolve();
    expect(log.versions().map(({ number }) => number))
      .withContext('one was discarded, all are read anew')
      .toEqual([2, 1]);
    names = [{ id: 'l1', seq: 3, name: 'As agreed', note: '' }];
    channel.landmarks.next({ document: 'guide' });
    await Promise.resolve();
    expect(log.landmarkAt(3)?.name).toBe('As agreed');
    log.addVersion(version(3, 3));
    expect(log.versionAt(3)?.landmark?.name).toBe('As agreed');
  });
});
