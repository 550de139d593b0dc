import type { Version } from '@oxbow/contract';
import type { Cause, Trace } from '@oxbow/core/history';
import type { LogFilter, LogSource } from './log-rows';
import { NO_FILTER, logRows } from './log-rows';

const HOUR = 3_600_000;
const START = new Date(2026, 3, 14, 9).getTime();
const NEWEST = { by: 'at', ascending: false } as const;

/** Three sittings on three days; the second cut in two versions, the third not yet cut. */
const traces: Trace[] = [
  [0, 'ines', 5, 0],
  [1, 'ines', 3, 1],
  [25 * HOUR, 'tobias', 9, 2],
  [25.5 * HOUR, 'tobias', 1, 0],
  [26 * HOUR, 'ines', 0, 4],
  [50 * HOUR, 'ines', 2, 0],
].map(([after, author, wordsIn, wordsOut], i) => ({
  seq: i + 1,
  at: START + Number(after),
  author: String(author),
  wordsIn: Number(wordsIn),
  wordsOut: Number(wordsOut),
}));
const version = (number: number, seq: number, extra: Partial<Version> = {}): Version => ({
  number,
  label: `0.${number}`,
  seq,
  at: new Date(traces[seq - 1]?.at ?? START).toISOString(),
  cause: number === 1 ? 'beginning' : 'pause',
  authors: [...new Set(traces.slice(seq - 2, seq).map(({ author }) => author))],
  comment: '',
  gist: `Gist ${number}`,
  size: 9,
  wordsAdded: number,
  wordsRemoved: 0,
  landmark: null,
  ...extra,
});
const source: LogSource = {
  traces,
  causes: new Map<number, Cause>([[4, { kind: 'title', before: 'Mill', after: 'The mill' }]]),
  versions: [
    version(4, 5, { cause: 'filing', landmark: { id: 'l', name: 'As agreed', note: '' } }),
    version(3, 4),
    version(2, 2),
    version(1, 0),
  ],
};
const ids = (filter: Partial<LogFilter> = {}, open: string[] = []): string[] =>
  logRows(source, { ...NO_FILTER, ...filter }, NEWEST, new Set(open)).map(({ id }) => id);

describe('the rows of the log', () => {
  it('are sittings, newest first, with the blank beginning last', () => {
    expect(ids()).toEqual(['s6', 's3', 's1', 'v1']);
  });

  it('unfold to versions, and those to edits, with what is not yet a version as a row of its own', () => {
    expect(ids({}, ['s6', 's3', 'v3'])).toEqual(['s6', 'open', 's3', 'v4', 'v3', 'e4', 'e3', 's1', 'v1']);
    const rows = logRows(source, NO_FILTER, NEWEST, new Set(['s3', 'v3']));
    const sitting = rows.find(({ id }) => id === 's3');
    expect([sitting?.before, sitting?.seq, sitting?.wordsIn, sitting?.wordsOut]).toEqual([2, 5, 10, 6]);
    expect(sitting?.cause).toBe('2 versions');
    expect(rows.find(({ id }) => id === 'e4')?.gist).toBe('title changed from “Mill” to “The mill”');
    expect(rows.find(({ id }) => id === 'v3')?.gist).toContain('title changed');
  });

  it('are narrowed by person, cause, landmark, day and words, and sittings without any are left out', () => {
    expect(ids({ person: 'tobias' })).toEqual(['s3']);
    expect(ids({ cause: 'filing' }, ['s3'])).toEqual(['s3', 'v4']);
    expect(ids({ landmarks: true }, ['s3'])).toEqual(['s3', 'v4']);
    expect(ids({ since: '2026-04-15', until: '2026-04-15' })).toEqual(['s3']);
    expect(ids({ words: 4 })).toEqual(['s3']);
    expect(ids({ person: 'jun' })).toEqual([]);
  });

  it('are sorted by words, within sittings too', () => {
    const by = (ascending: boolean): string[] =>
      logRows(source, NO_FILTER, { by: 'words', ascending }, new Set(['s3'])).map(({ id }) => id);
    expect(by(false)).toEqual(['s3', 'v4', 'v3', 's1', 's6', 'v1']);
    expect(by(true)).toEqual(['v1', 's6', 's1', 's3', 'v3', 'v4']);
  });

  it('lose no edit: unfolded whole, every one is there once', () => {
    const open = ['s6', 's3', 's1', 'open', 'v4', 'v3', 'v2'];
    const edits = ids({}, open).filter((id) => id.startsWith('e'));
    expect(edits).toEqual(['e6', 'e5', 'e4', 'e3', 'e2', 'e1']);
  });
});
