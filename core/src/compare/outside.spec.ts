import { diffArrays } from 'diff';
import * as fc from 'fast-check';
import diff from 'fast-diff';
import { ChangeSet } from 'prosemirror-changeset';
import type { Node } from 'prosemirror-model';
import { FUZZ } from '../testing/budget.js';
import { doc, p } from '../testing/build.js';
import { Random } from '../testing/random.js';
import { writeHistory } from '../testing/writers.js';
import { uniqueAnchors } from './anchors.js';
import type { Change } from './changes.js';
import { standsOf } from './changes.js';
import { compare } from './compare.js';
import { commonRuns } from './sequence.js';

const lexicon = new Map<string, number>();
const numbers = (items: readonly string[]): Int32Array =>
  Int32Array.from(items, (item) => {
    if (!lexicon.has(item)) lexicon.set(item, lexicon.size);
    return lexicon.get(item) ?? -1;
  });
const kept = (a: readonly string[], b: readonly string[]): number =>
  commonRuns(numbers(a), numbers(b)).reduce((sum, run) => sum + run.length, 0);

describe('longest common subsequence, against others', () => {
  it("finds the edit length 5 of the paper's example (Myers 1986, figure 1: ABCABBA to CBABAC)", () => {
    expect(7 + 6 - 2 * kept([...'ABCABBA'], [...'CBABAC'])).toBe(5);
  });

  it('keeps what stands still in the sentence of Heckel 1978, and anchors on its unique words (from memory)', () => {
    const before =
      'MUCH WRITING IS LIKE SNOW , A MASS OF LONG WORDS AND PHRASES FALLS UPON THE RELEVANT FACTS COVERING UP THE DETAILS .';
    const after =
      'A MASS OF LATIN WORDS FALLS UPON THE RELEVANT FACTS LIKE SOFT SNOW , COVERING UP THE DETAILS .';
    const [a, b] = [before.split(' '), after.split(' ')];
    expect(kept(a, b)).toBe(14);
    expect(uniqueAnchors(numbers(a), numbers(b)).map((anchor) => a[anchor.a])).toEqual(
      'A MASS OF WORDS FALLS UPON RELEVANT FACTS COVERING UP DETAILS .'.split(' '),
    );
  });

  it('is as long as that of jsdiff on random tokens, for tables and for rows of bits', () => {
    const tokens = fc.integer({ min: 1, max: 9 }).chain((most) => {
      const one = fc.array(fc.integer({ min: 0, max: most }).map(String), { maxLength: 120 });
      return fc.tuple(one, one);
    });
    fc.assert(
      fc.property(tokens, ([a, b]) => {
        const reference = diffArrays(a, b).reduce(
          (sum, part) => sum + (part.added || part.removed ? 0 : part.value.length),
          0,
        );
        const [one, other] = [numbers(a), numbers(b)];
        const runs = commonRuns(one, other);
        for (const run of runs)
          for (let i = 0; i < run.length; i++) expect(one[run.a + i]).toBe(other[run.b + i] as number);
        expect(runs.reduce((sum, run) => sum + run.length, 0)).toBe(reference);
      }),
      { numRuns: 400 * FUZZ },
    );
  });

  it('is never shorter than that of fast-diff, which may give up minimality for speed', () => {
    const text = fc.string({ unit: fc.constantFrom(...'abcd '), maxLength: 80 });
    fc.assert(
      fc.property(text, text, (a, b) => {
        const reference = diff(a, b).reduce(
          (sum, [act, part]) => sum + (act === diff.EQUAL ? part.length : 0),
          0,
        );
        expect(kept([...a], [...b])).toBeGreaterThanOrEqual(reference);
      }),
      { numRuns: 400 * FUZZ },
    );
  });
});

describe('moves, against Tichy 1984', () => {
  it('covers “zuvwxwu” from “uvwuvwxy” with three blocks: one that stays and two that move (from memory)', () => {
    const block = (letter: string): Node => p(`${letter}one ${letter}two ${letter}three ${letter}four`);
    const page = (letters: string): Node => doc(...[...letters].map(block));
    const { changes } = compare(page('uvwuvwxy'), page('zuvwxwu'));
    const initials = (kind: Change['kind'], side: 'earlier' | 'later'): string =>
      changes
        .flatMap((change) => (change.kind === kind ? change[side].split('\n').map((line) => line[0]) : []))
        .join('');
    expect(initials('moved', 'later')).toBe('wu');
    expect(initials('added', 'later') + initials('replaced', 'later')).toBe('z');
    expect(initials('replaced', 'earlier') + initials('removed', 'earlier')).toBe('vy');
  });
});

describe('changed ranges, against prosemirror-changeset over the same steps', () => {
  const START = 12;

  it('finds every character it finds, and beyond them only what stood in the earlier text too', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const { docs, edits } = writeHistory(new Random(seed), 24, { undo: false, structure: false });
        const [before, after] = [docs[START] as Node, docs.at(-1) as Node];
        let set = ChangeSet.create<number>(before);
        for (const [i, edit] of edits.slice(START).entries())
          set = set.addSteps(
            docs[START + i + 1] as Node,
            edit.steps.map((step) => step.getMap()),
            i,
          );
        const characters = (stretches: readonly { from: number; to: number }[]): Set<string> =>
          new Set(stretches.flatMap(({ from, to }) => [...after.textBetween(from, to)]));
        const reference = characters(set.changes.map(({ fromB, toB }) => ({ from: fromB, to: toB })));
        const text = compare(before, after).changes.filter(({ kind }) => kind !== 'form');
        const own = characters(text.flatMap((change) => standsOf(change).later));
        for (const character of reference) expect(own.has(character)).toBe(true);
        for (const character of own)
          expect(reference.has(character) || before.textContent.includes(character)).toBe(true);
      }),
      { numRuns: 300 * FUZZ },
    );
  });
});
