import * as fc from 'fast-check';
import { diff3Merge } from 'node-diff3';
import type { Node } from 'prosemirror-model';
import { isRectangular, plainText, brokenIn } from '../../content/index.js';
import { FUZZ } from '../../testing/budget.js';
import { bold, doc, h, italic, li, p, table, td, tr, ul } from '../../testing/build.js';
import { document, revised } from '../../testing/documents.js';
import { Random } from '../../testing/random.js';
import { assembleThree, compareThree } from './three.js';
import type { Settlement } from './three.js';

const told = (base: Node, ours: Node, theirs: Node): [string, string[]] => {
  const three = compareThree(base, ours, theirs);
  const text = (nodes: readonly Node[]): string => nodes.map(plainText).join('/');
  return [
    plainText(assembleThree(three, () => 'ours')),
    three.conflicts.map((conflict) => [conflict.base, conflict.ours, conflict.theirs].map(text).join(' | ')),
  ];
};

describe('comparing three', () => {
  it('takes what only one side changed, in one sentence too', () => {
    const base = doc(p('The gate is shut at noon.'), p('Bring boots.'));
    expect(
      told(
        base,
        doc(p('The upper gate is shut at noon.'), p('Bring boots.')),
        doc(p('The gate is shut at ten.'), p('Bring boots.'), p('And oars.')),
      ),
    ).toEqual(['The upper gate is shut at ten.\nBring boots.\nAnd oars.', []]);
  });

  it('shows all three of what both changed differently, and nothing of what both changed alike', () => {
    const base = doc(p('The gate is shut at noon.'));
    expect(told(base, doc(p('The gate is shut at ten.')), doc(p('The gate is shut at nine.')))).toEqual([
      'The gate is shut at ten.',
      ['noon | ten | nine'],
    ]);
    expect(told(base, doc(p('The gate is open.')), doc(p('The gate is open.')))[1]).toEqual([]);
    const list = doc(p('Bring boots.'), p('The gate is shut at noon.'));
    expect(
      told(list, doc(p('Bring boots.')), doc(p('Bring boots.'), p('The gate is shut at one.')))[1],
    ).toEqual(['The gate is shut at noon. |  | The gate is shut at one.']);
    expect(told(doc(h(1, 'Race')), doc(h(2, 'Race')), doc(h(3, 'Race')))[1].length).toBe(1);
  });

  it('brings marks of both sides together, and goes into lists', () => {
    const three = compareThree(
      doc(p('so it is'), ul(li(p('rope')), li(p('oars')))),
      doc(p('so ', bold('it'), ' is'), ul(li(p('rope')), li(p('spare oars')))),
      doc(p(italic('so'), ' it is'), ul(li(p('long rope')), li(p('oars')))),
    );
    expect(three.conflicts).toEqual([]);
    const joined = doc(p(italic('so'), ' ', bold('it'), ' is'), ul(li(p('long rope')), li(p('spare oars'))));
    expect(assembleThree(three, () => 'base').eq(joined)).toBe(true);
  });

  it('makes rectangles of tables to which one side added rows and the other columns', () => {
    const rows = (...lines: string[][]): Node =>
      table(...lines.map((line) => tr(...line.map((text) => td(p(text))))));
    const base = doc(rows(['one', 'two'], ['three', 'four']));
    const ours = doc(rows(['one', 'two'], ['three', 'four'], ['five', 'six']));
    const theirs = doc(rows(['one', 'new', 'two'], ['three', 'newer', 'four']));
    for (const three of [compareThree(base, ours, theirs), compareThree(base, theirs, ours)]) {
      expect(three.conflicts).toEqual([]);
      const merged = assembleThree(three, () => 'ours').child(0);
      expect(isRectangular(merged)).toBe(true);
      expect(merged.children.map((row) => row.children.map((cell) => cell.textContent))).toEqual([
        ['one', 'new', 'two'],
        ['three', 'newer', 'four'],
        ['five', '', 'six'],
      ]);
    }
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const width = random.between(1, 4);
        const first = Array.from({ length: random.between(1, 4) }, (_, r) =>
          Array.from({ length: width }, (_, c) => `cell ${r} ${c}`),
        );
        const changed = (lines: string[][], name: string): string[][] => {
          const at = random.between(0, lines[0]?.length ?? 0);
          const row = random.between(0, lines.length);
          const line = (lines[0] ?? []).map((_, i) => `${name} ${i}`);
          return random.chance(0.5)
            ? lines.map((one, i) => [...one.slice(0, at), `${name} ${i}`, ...one.slice(at)])
            : [...lines.slice(0, row), line, ...lines.slice(row)];
        };
        const three = compareThree(
          doc(rows(...first)),
          doc(rows(...changed(first, 'ours'))),
          doc(rows(...changed(first, 'theirs'))),
        );
        for (const settlement of ['base', 'ours', 'theirs', 'both'] as const) {
          const merged = assembleThree(three, () => settlement);
          merged.check();
          expect(brokenIn(merged, -1)).toEqual([]);
        }
      }),
      { numRuns: 300 * FUZZ },
    );
  });

  it('gives the other side when one left the base alone, and a valid document whatever is settled', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const base = document(random, random.between(1, 8));
        const [ours, theirs] = [revised(random, base, 4), revised(random, base, 4)];
        expect(assembleThree(compareThree(base, ours, base), () => 'base').eq(ours)).toBe(true);
        expect(assembleThree(compareThree(base, base, theirs), () => 'base').eq(theirs)).toBe(true);
        const three = compareThree(base, ours, theirs);
        const settled = three.conflicts.map(() =>
          random.pick<Settlement>(['base', 'ours', 'theirs', 'both']),
        );
        assembleThree(three, (conflict) => settled[conflict] ?? 'base').check();
      }),
      { numRuns: 300 * FUZZ },
    );
  });

  it('agrees with node-diff3 on lines, which share no word with each other', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        let next = 0;
        const fresh = (): string => `line${next++}`;
        const edited = (lines: readonly string[]): string[] =>
          lines.flatMap((line) => {
            const roll = random.next();
            return roll < 0.15 ? [] : roll < 0.3 ? [fresh()] : roll < 0.4 ? [line, fresh()] : [line];
          });
        const base = Array.from({ length: random.between(1, 12) }, fresh);
        const [ours, theirs] = [edited(base), edited(base)];
        const reference = diff3Merge(ours, base, theirs, { excludeFalseConflicts: true });
        const page = (lines: readonly string[]): Node => doc(...lines.map((line) => p(line)), p('end'));
        const three = compareThree(page(base), page(ours), page(theirs));
        expect(three.conflicts.length).toBe(reference.filter((part) => part.conflict).length);
        const lines = reference.flatMap((part) => part.ok ?? part.conflict?.a ?? []);
        expect(plainText(assembleThree(three, () => 'ours'))).toBe([...lines, 'end'].join('\n'));
      }),
      { numRuns: 400 * FUZZ },
    );
  });
});
