import { fork } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { compare, totalsOf } from '@oxbow/core/compare';
import { diffWordsWithSpace } from 'diff';
import type { Node } from 'prosemirror-model';
import { median } from './document.js';
import { less, more } from './figures.js';
import type { Figure } from './figures.js';
import { leastOf } from './marks.js';
import { releases } from './releases.js';
import type { Level } from './texts.js';
import { LEVELS, page, revision } from './texts.js';

const SIZES = [1_000, 10_000, 50_000, 200_000];

/** Median time of a run, in milliseconds, each on fresh documents, so that nothing is remembered but compiled code. */
function time(make: () => [Node, Node], runs: number): number {
  globalThis.gc?.();
  return median(timesOf(make, runs));
}

function timesOf(make: () => [Node, Node], runs: number): number[] {
  const times: number[] = [];
  for (let i = 0; i < runs; i++) {
    const [a, b] = make();
    const start = performance.now();
    compare(a, b);
    times.push(performance.now() - start);
  }
  return times;
}

function timeReference(a: string, b: string, runs: number): number {
  const times: number[] = [];
  for (let i = 0; i < runs; i++) {
    const start = performance.now();
    diffWordsWithSpace(a, b);
    times.push(performance.now() - start);
  }
  return median(times);
}

/** Both in turns, so that a machine that is slow for a while is so for both: twenty runs of ours to one of the reference. */
function timeBoth(earlier: readonly string[], later: readonly string[], rounds: number): [number, number] {
  const own: number[] = [];
  const reference: number[] = [];
  globalThis.gc?.();
  for (let round = 0; round < rounds; round++) {
    own.push(...timesOf(() => [page(earlier), page(later)], 20));
    reference.push(timeReference(earlier.join('\n'), later.join('\n'), 1));
  }
  return [median(own), median(reference)];
}

/** Comparing against a general word diff, as it grows, on hostile input, in memory, and on real releases. */
export async function benchCompare(): Promise<Figure[]> {
  for (let i = 0; i < 20; i++)
    compare(page(revision(2_000, 'medium', i).earlier), page(revision(2_000, 'medium', i).later));
  return [
    ...againstWordDiff(),
    ...minimality(),
    ...growth(),
    ...adversarial(),
    ...(await memory()),
    ...(await onReleases()),
  ];
}

function againstWordDiff(): Figure[] {
  const goals: Partial<Record<Level, number>> = { medium: 100, light: 10 };
  return (['medium', 'light', 'scattered'] as const).map((level) => {
    const { earlier, later } = revision(5_000, level);
    const [own, reference] = timeBoth(earlier, later, level === 'medium' ? 5 : 201);
    return more(`5,000 words, ${level} revision: times as fast as diffWordsWithSpace`, reference / own, {
      digits: 1,
      goal: goals[level],
      note: `${own.toFixed(1)} and ${reference.toFixed(0)} ms`,
    });
  });
}

/** Words marked before tidying, against the least there can be: what no longest common subsequence of all words keeps. */
function minimality(): Figure[] {
  const { earlier, later } = revision(5_000, 'medium');
  const [a, b] = [page(earlier), page(later)];
  const least = leastOf(a, b);
  const marked = (tidy: boolean): number => {
    const { wordsAdded, wordsRemoved, wordsMoved } = totalsOf(compare(a, b, { tidy }).changes);
    return wordsAdded + wordsRemoved + 2 * wordsMoved;
  };
  return [
    less('the same, medium: words marked before tidying / least possible', marked(false) / least, {
      digits: 3,
      goal: 1.15,
      note: `after tidying ${(marked(true) / least).toFixed(3)}`,
    }),
  ];
}

/** Slope of the logarithm of time over that of size, by least squares. */
function slope(points: readonly (readonly [size: number, time: number])[]): number {
  const logs = points.map(([size, took]) => [Math.log(size), Math.log(took)] as const);
  const mean = (side: 0 | 1): number => logs.reduce((sum, point) => sum + point[side], 0) / logs.length;
  const [x, y] = [mean(0), mean(1)];
  return (
    logs.reduce((sum, point) => sum + (point[0] - x) * (point[1] - y), 0) /
    logs.reduce((sum, point) => sum + (point[0] - x) ** 2, 0)
  );
}

function growth(): Figure[] {
  return LEVELS.map((level) => {
    const points = SIZES.map((size) => {
      const { earlier, later } = revision(size, level);
      return [size, time(() => [page(earlier), page(later)], size > 100_000 ? 5 : 9)] as const;
    });
    const list = points.map(([size, took]) => `${size / 1000}k ${took.toFixed(1)}`).join(', ');
    return less(`growth from 1,000 to 200,000 words, ${level}: slope`, slope(points), {
      goal: 1.15,
      note: `ms: ${list}`,
    });
  });
}

function adversarial(): Figure[] {
  return [10_000, 50_000].flatMap((size) => {
    const { earlier, later } = revision(size, 'medium');
    const runs = size > 10_000 ? 5 : 11;
    const usual = time(() => [page(earlier), page(later)], runs);
    const total = revision(size, 'total').later;
    const words = (text: readonly string[]): string[] => text.join(' ').split(' ');
    const numbered = (from: number): string[] => Array.from({ length: size }, (_, i) => `w${from + i}`);
    const blocks = (list: readonly string[]): string[] =>
      Array.from({ length: Math.ceil(list.length / 50) }, (_, i) =>
        list.slice(50 * i, 50 * i + 50).join(' '),
      );
    const inputs: [string, string[], string[]][] = [
      [
        'all words the same',
        blocks(Array<string>(size).fill('tide')),
        blocks(Array<string>(size - 37).fill('tide')),
      ],
      ['no words the same', blocks(numbered(0)), blocks(numbered(size))],
      ['blocks in reversed order', earlier, [...earlier].reverse()],
      ['words in reversed order', earlier, blocks(words(earlier).reverse())],
      ['one enormous paragraph, revised', [earlier.join(' ')], [later.join(' ')]],
      ['one enormous paragraph, rewritten', [earlier.join(' ')], [total.join(' ')]],
      [
        'one enormous paragraph of one word',
        [Array<string>(size).fill('tide').join(' ')],
        [
          Array<string>(size - 37)
            .fill('tide')
            .join(' '),
        ],
      ],
    ];
    return inputs.map(([name, a, b]) => {
      const took = time(() => [page(a), page(b)], runs);
      return less(`${size / 1000},000 words, ${name} / a medium revision`, took / usual, { goal: 3 });
    });
  });
}

/** What a process of its own says of its memory for a comparison. */
export interface Memory {
  readonly json: number;
  /** Most that was reachable at once, and most that the process held, garbage included; above the baseline. */
  readonly live: number;
  readonly resident: number;
  readonly changes: number;
}

async function memory(): Promise<Figure[]> {
  const out: Figure[] = [];
  for (const size of [50_000, 200_000]) {
    for (const level of ['light', 'medium', 'total'] as const) {
      const child = fork(fileURLToPath(new URL('./memory.js', import.meta.url)), [String(size), level], {
        execArgv: ['--expose-gc'],
      });
      const { json, live, resident, changes } = await new Promise<Memory>((resolve, reject) => {
        child.once('message', (said) => resolve(said as Memory));
        child.once('error', reject);
      });
      out.push(
        less(
          `memory, ${size / 1000},000 words, ${level}: reachable at the peak / both documents' JSON`,
          live / json,
          {
            digits: 1,
            goal: 12,
            note: `held by the process ${(resident / json).toFixed(0)} times; ${changes} changes, JSON ${(json / 1e6).toFixed(1)} MB`,
          },
        ),
      );
    }
  }
  return out;
}

async function onReleases(): Promise<Figure[]> {
  const pairs = await releases();
  return pairs.map(({ name, earlier, later }) => {
    const [a, b] = [earlier.split(/\n{2,}/), later.split(/\n{2,}/)];
    const own = time(() => [page(a), page(b)], 9);
    const reference = timeReference(earlier, later, 3);
    const totals = totalsOf(compare(page(a), page(b)).changes);
    return more(`${name}: times as fast as diffWordsWithSpace`, reference / own, {
      digits: 1,
      note: `+${totals.wordsAdded} −${totals.wordsRemoved} words, ${totals.wordsMoved} moved`,
    });
  });
}
