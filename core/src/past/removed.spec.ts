import * as fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { plainText } from '../content/index.js';
import { FUZZ } from '../testing/budget.js';
import { eachKind } from '../testing/hands.js';
import type { Past } from '../testing/pasts.js';
import { blockTexts, writePast } from '../testing/pasts.js';
import { Random } from '../testing/random.js';
import { TOGETHER, removedPassages } from './removed.js';

const gap = (random: Random): number => (random.chance(0.15) ? random.between(1, 60) * 60_000 : 900);
const letters = (text: string): string => [...text].filter((sign) => sign !== '\n').join('');

/** When each character that is gone left for good, read off full copies of every state. */
function deaths({ docs }: Past): Map<string, number> {
  const out = new Map<string, number>();
  const states = docs.map((doc) => new Set(doc.textContent));
  for (let seq = 1; seq < states.length; seq++)
    for (const sign of states[seq - 1] ?? []) if (!states[seq]?.has(sign)) out.set(sign, seq);
  for (const sign of states.at(-1) ?? []) out.delete(sign);
  return out;
}

/** The passages that were removed, by brute force: each found by reading the whole state before it went. */
function byBruteForce(past: Past): { text: string; by: string; first: number; last: number }[] {
  const died = deaths(past);
  const taken = new Set<string>();
  const out: { text: string; by: string; first: number; last: number }[] = [];
  const order = (sign: string): number => {
    const seq = died.get(sign) ?? 0;
    return seq * 1e6 + (past.docs[seq - 1] as Node).textContent.indexOf(sign);
  };
  for (const seed of [...died.keys()].sort((a, b) => order(a) - order(b))) {
    if (taken.has(seed)) continue;
    const first = died.get(seed) ?? 0;
    const { author, at } = past.makers(first);
    const joins = (sign: string): boolean => {
      const end = died.get(sign);
      const death = end === undefined ? null : past.makers(end);
      return death !== null && !taken.has(sign) && death.author === author && death.at - at <= TOGETHER;
    };
    const blocks = blockTexts(past.docs[first - 1] as Node).filter((text) => text !== '');
    const signs = blocks.join('\n');
    let from = signs.indexOf(seed);
    let to = from + 1;
    const before = (at: number): number => (signs.charAt(at - 1) === '\n' ? at - 2 : at - 1);
    const after = (at: number): number => (signs.charAt(at) === '\n' ? at + 1 : at);
    while (before(from) >= 0 && joins(signs.charAt(before(from)))) from = before(from);
    while (after(to) < signs.length && joins(signs.charAt(after(to)))) to = after(to) + 1;
    const text = signs.slice(from, to);
    for (const sign of text) taken.add(sign);
    out.push({
      text,
      by: author,
      first,
      last: Math.max(...[...letters(text)].map((sign) => died.get(sign) ?? 0)),
    });
  }
  return out;
}

eachKind('removed passages', (hand) => {
  it('are what full copies of every state say: gathered, dated and credited alike', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const past = writePast(new Random(seed), 50, { hand, undo: false, gap });
        const found = removedPassages(past.tape, past.makers, '', 1);
        const plain = found.map(({ text, by, first, last }) => ({ text, by, first, last }));
        const key = ({ first, text }: { first: number; text: string }): string => `${first} ${text}`;
        const sort = <T extends { first: number; text: string }>(list: T[]): T[] =>
          [...list].sort((a, b) => (key(a) < key(b) ? -1 : 1));
        expect(sort(plain)).toEqual(sort(byBruteForce(past)));
      }),
      { numRuns: 300 * FUZZ },
    );
  });

  it('hold every character that is gone exactly once, and none that moved, came back or never left', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const past = writePast(new Random(seed), 50, { hand, gap });
        const found = removedPassages(past.tape, past.makers, plainText(past.docs.at(-1) as Node), 1);
        const gone = deaths(past);
        expect([...letters(found.map(({ text }) => text).join(''))].sort()).toEqual([...gone.keys()].sort());
        for (const { text, by, first, last, writers, moment, from, to } of found) {
          for (const sign of letters(text)) {
            const end = gone.get(sign) ?? 0;
            expect(end).toBeGreaterThanOrEqual(first);
            expect(end).toBeLessThanOrEqual(last);
            expect(past.makers(end).author).toBe(by);
            expect(writers).toContain(past.wrote.get(sign) ?? '');
          }
          expect((past.docs[moment] as Node).textBetween(from, to, '')).toBe(letters(text));
        }
      }),
      { numRuns: 300 * FUZZ },
    );
  });

  it('are listed newest first, few words left out', () => {
    const past = writePast(new Random(7), 120, { hand, gap });
    const all = removedPassages(past.tape, past.makers, '', 1);
    const some = removedPassages(past.tape, past.makers, '');
    expect(some.length).toBeLessThan(all.length);
    expect(some.every(({ words }) => words >= 4)).toBeTrue();
    expect(some.map(({ last }) => last)).toEqual(some.map(({ last }) => last).sort((a, b) => b - a));
    for (const { place } of all) expect(place).toBeLessThanOrEqual((past.docs.at(-1) as Node).content.size);
  });

  it('leave out what stands in the document word for word', () => {
    const past = writePast(new Random(7), 120, { hand, gap });
    const [first, ...rest] = removedPassages(past.tape, past.makers, '', 1);
    const without = removedPassages(past.tape, past.makers, `Before ${first?.text ?? ''} after`, 1);
    expect(without.length).toBe(rest.length);
  });
});
