import * as fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { isRectangular, plainText } from '../content/index.js';
import { FUZZ } from '../testing/budget.js';
import { check, checks, doc, h, li, p, quote, table, td, tr, ul } from '../testing/build.js';
import { document, revised, sentence } from '../testing/documents.js';
import { Random } from '../testing/random.js';
import { alignBlocks } from './align.js';
import type { Decision } from './assemble.js';
import { assemble } from './assemble.js';
import type { ChangeKind } from './changes.js';
import { standsOf } from './changes.js';
import { compare } from './compare.js';
import { Lexicon } from './lexicon.js';
import { withSeams } from './seams.js';

const WHEEL = 'The wheel turns at the ebb and rests at the flood.';
const GATES = 'Shut both gates before the moon is up.';
const MARSH = 'Water fills the marsh within an hour of noon.';

/** The document when changes of some kinds are decided one way and the rest another. */
function decided(
  earlier: Node,
  later: Node,
  decisions: Partial<Record<ChangeKind, Decision>>,
  rest: Decision,
): Node {
  const comparison = compare(earlier, later);
  const made = assemble(
    comparison,
    (change) => decisions[comparison.changes[change]?.kind ?? 'form'] ?? rest,
  );
  made.check();
  return made;
}

describe('aligning blocks', () => {
  const align = (a: readonly Node[], b: readonly Node[]): string[] =>
    alignBlocks(a, b, { lexicon: new Lexicon(), elsewhere: () => false }).map(
      (pair) => `${pair.a}-${pair.b}`,
    );

  it('keeps equal blocks together past what came, went and changed', () => {
    const [one, two, three, four] = [WHEEL, GATES, MARSH, 'Bring a spare oar.'].map((text) => p(text)) as [
      Node,
      Node,
      Node,
      Node,
    ];
    expect(align([one, two, three], [one, two, three])).toEqual(['0-0', '1-1', '2-2']);
    expect(align([one, two, three], [one, four, two, three])).toEqual(['0-0', '1-2', '2-3']);
    expect(align([one, four, two, three], [one, two, three])).toEqual(['0-0', '2-1', '3-2']);
    expect(align([one, two, three], [one, p(GATES.replace('both', 'all')), three])).toEqual([
      '0-0',
      '1-1',
      '2-2',
    ]);
    expect(align([one], [four])).toEqual([]);
  });

  it('pairs a heading with a paragraph of its words, and nothing with what is not alike', () => {
    expect(align([h(2, 'The tide mill')], [p('The tide mill')])).toEqual(['0-0']);
    expect(align([p('The tide mill')], [ul(li(p('The tide mill')))])).toEqual([]);
  });

  it('always goes forward on both sides, each block once', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const earlier = document(random, random.between(1, 40));
        const later = revised(random, earlier, random.between(0, 30));
        const [a, b]: [Node[], Node[]] = [[], []];
        earlier.forEach((child) => a.push(child));
        later.forEach((child) => b.push(child));
        let [x, y] = [-1, -1];
        for (const pair of alignBlocks(a, b, { lexicon: new Lexicon(), elsewhere: () => false })) {
          expect(pair.a > x && pair.b > y).toBe(true);
          [x, y] = [pair.a, pair.b];
        }
      }),
      { numRuns: 300 * FUZZ },
    );
  });

  it('pairs most blocks of a long document whose every block was revised', () => {
    const random = new Random(3);
    const texts = Array.from(
      { length: 300 },
      () => `${sentence(random)} ${sentence(random)} ${sentence(random)}`,
    );
    const changed = texts.map((text) =>
      text.replace(/\w+/g, (one) => (random.chance(0.2) ? 'changed' : one)),
    );
    const inserted = [
      ...changed.slice(0, 100),
      ...Array.from({ length: 9 }, () => sentence(random)),
      ...changed.slice(100),
    ];
    const pairs = alignBlocks(
      texts.map((text) => p(text)),
      inserted.map((text) => p(text)),
      {
        lexicon: new Lexicon(),
        elsewhere: () => false,
      },
    );
    const right = pairs.filter(({ a, b }) => b === (a < 100 ? a : a + 9)).length;
    expect(right).toBeGreaterThan(290);
  });
});

describe('split and joined paragraphs', () => {
  it('take in the neighbours that hold the rest of their words', () => {
    const [whole, one, two] = [p(`${WHEEL} ${GATES}`), p(WHEEL), p(GATES)];
    const pairs = [{ a: 0, b: 0, equal: false }];
    const equal = false;
    expect(withSeams(pairs, [whole], [one, two], new Lexicon())).toEqual([
      { a: 0, aEnd: 1, b: 0, bEnd: 2, equal },
    ]);
    expect(withSeams(pairs, [one, two], [whole], new Lexicon())).toEqual([
      { a: 0, aEnd: 2, b: 0, bEnd: 1, equal },
    ]);
    expect(withSeams(pairs, [whole], [one, p(MARSH)], new Lexicon())).toEqual([
      { a: 0, aEnd: 1, b: 0, bEnd: 1, equal },
    ]);
  });

  it('are decided break by break', () => {
    const [earlier, later] = [doc(p(`${WHEEL} ${GATES} ${MARSH}`)), doc(p(WHEEL), p(GATES), p(MARSH))];
    const comparison = compare(earlier, later);
    expect(comparison.changes.map(({ kind }) => kind)).toEqual(['split', 'split']);
    const first = assemble(comparison, (change) => (change === 0 ? 'later' : 'earlier'));
    expect(plainText(first)).toBe(`${WHEEL}\n${GATES} ${MARSH}`);
    const second = assemble(comparison, (change) => (change === 1 ? 'later' : 'earlier'));
    expect(plainText(second)).toBe(`${WHEEL} ${GATES}\n${MARSH}`);
  });

  it('keep what was changed within them apart from the break', () => {
    const [earlier, later] = [doc(p(`${WHEEL} ${GATES}`)), doc(p(WHEEL), p(GATES.replace('both', 'all')))];
    expect(plainText(decided(earlier, later, { split: 'earlier' }, 'later'))).toBe(
      `${WHEEL} ${GATES.replace('both', 'all')}`,
    );
    expect(plainText(decided(earlier, later, { split: 'later' }, 'earlier'))).toBe(`${WHEEL}\n${GATES}`);
  });
});

describe('moves', () => {
  it('are decided as a whole, with their edits by themselves', () => {
    const edited = WHEEL.replace('rests', 'stops');
    const [earlier, later] = [doc(p(WHEEL), p(GATES), p(MARSH)), doc(p(GATES), p(MARSH), p(edited))];
    expect(plainText(decided(earlier, later, { moved: 'earlier' }, 'later'))).toBe(
      `${edited}\n${GATES}\n${MARSH}`,
    );
    expect(plainText(decided(earlier, later, { moved: 'later' }, 'earlier'))).toBe(
      `${GATES}\n${MARSH}\n${WHEEL}`,
    );
    expect(plainText(decided(earlier, later, { moved: 'both' }, 'later'))).toBe(plainText(later));
  });

  it('stay at their earlier place when the container they moved into is not taken', () => {
    const earlier = doc(p(WHEEL), p(GATES), p(MARSH));
    const later = doc(p(GATES), p(MARSH), ul(li(p(WHEEL)), li(p('A quite new thing to bring along.'))));
    const { changes } = compare(earlier, later);
    expect(changes.map(({ kind }) => kind).sort()).toEqual(['added', 'moved']);
    expect(decided(earlier, later, { added: 'earlier' }, 'later').eq(earlier)).toBe(true);
    const taken = decided(earlier, later, { moved: 'earlier' }, 'later');
    expect(plainText(taken)).toBe(`${WHEEL}\n${GATES}\n${MARSH}\nA quite new thing to bring along.`);
  });

  it('are no moves when only what is round a paragraph changed', () => {
    const earlier = doc(p(WHEEL), p(GATES), p(MARSH));
    const later = doc(p(WHEEL), quote(p(GATES)), p(MARSH));
    const { changes } = compare(earlier, later);
    expect(changes.map(({ kind, form }) => `${kind} ${form.join()}`)).toEqual(['form quote']);
    expect(decided(earlier, later, { form: 'earlier' }, 'later').eq(earlier)).toBe(true);
  });

  it('tell both their places, and where each would stand in the other document', () => {
    const [earlier, later] = [doc(p(WHEEL), p(GATES), p(MARSH)), doc(p(GATES), p(MARSH), p(WHEEL))];
    const [change] = compare(earlier, later).changes;
    const stands = change && standsOf(change);
    expect(stands?.earlier).toEqual([{ from: 0, to: p(WHEEL).nodeSize, across: 0 }]);
    expect(stands?.later[0]?.across).toBe(earlier.content.size);
    expect(change?.wordsMoved).toBe(11);
  });
});

describe('lists', () => {
  it('of one kind take in what stays of another, and lose nothing', () => {
    const earlier = doc(ul(li(p('a long rope')), li(p('a spare oar')), li(p('one bailer here'))));
    const later = doc(checks(check(true, p('a long rope')), check(false, p('two flasks of tea'))));
    const comparison = compare(earlier, later);
    for (let mask = 0; mask < 2 ** comparison.changes.length; mask++) {
      const made = assemble(comparison, (change) => (mask & (1 << change) ? 'later' : 'earlier'));
      made.check();
      expect(plainText(made)).toContain('a long rope');
      const kept = comparison.changes.filter(({ kind }, i) => kind !== 'form' && (mask & (1 << i)) === 0);
      for (const change of kept) if (change.earlier) expect(plainText(made)).toContain(change.earlier);
    }
  });

  it('keep their items in every mixture of moves between two of them', () => {
    const items = [WHEEL, GATES, MARSH].map((text) => li(p(text)));
    const [one, two, three] = items as [Node, Node, Node];
    const stays = li(p('This item never moves at all.'));
    const earlier = doc(ul(one, stays), p('between the lists'), ul(two, three));
    const later = doc(ul(stays, two), p('between the lists'), ul(three, one));
    const comparison = compare(earlier, later);
    expect(comparison.changes.every(({ kind }) => kind === 'moved')).toBe(true);
    for (let mask = 0; mask < 2 ** comparison.changes.length; mask++) {
      const made = assemble(comparison, (change) => (mask & (1 << change) ? 'later' : 'earlier'));
      made.check();
      expect(plainText(made).split('\n').sort()).toEqual(plainText(later).split('\n').sort());
    }
  });
});

describe('tables', () => {
  const grid = (rows: readonly (readonly string[])[]): Node =>
    table(...rows.map((row) => tr(...row.map((cell) => td(p(cell))))));

  it('stay rectangular whatever is decided about their rows and columns', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const gone = random.between(0, 2);
        const rows = Array.from({ length: random.between(2, 5) }, () =>
          Array.from({ length: 3 }, () => sentence(random, 1, 3)),
        );
        const later = rows.filter(() => random.chance(0.8)).map((row) => row.filter((_, i) => i !== gone));
        for (const row of later) row.splice(1, 0, sentence(random, 1, 3));
        later.push(Array.from({ length: 3 }, () => sentence(random, 1, 3)));
        const swaps = random.chance(0.5);
        for (const row of later) {
          if (swaps) row.reverse();
          if (random.chance(0.3)) row[random.between(0, 2)] = sentence(random, 1, 3);
        }
        const [one, other] = [doc(grid(rows), p('after')), doc(grid(later), p('after'))];
        const comparison = compare(one, other);
        expect(assemble(comparison, () => 'earlier').eq(one)).toBe(true);
        expect(assemble(comparison, () => 'later').eq(other)).toBe(true);
        for (let i = 0; i < 6; i++) {
          const decisions = comparison.changes.map(() => random.pick<Decision>(['earlier', 'later', 'both']));
          const made = assemble(comparison, (change) => decisions[change] ?? 'later');
          made.check();
          made.forEach((block) => block.type.name !== 'table' || expect(isRectangular(block)).toBe(true));
        }
      }),
      { numRuns: 200 * FUZZ },
    );
  });

  it('tell a column as one change that stands in each of its cells', () => {
    const earlier = doc(
      grid([
        ['Day', 'Who'],
        ['Mon', 'Jun'],
        ['Tue', 'Ada'],
      ]),
    );
    const later = doc(
      grid([
        ['Day', 'At', 'Who'],
        ['Mon', '9:00', 'Jun'],
        ['Tue', '10:00', 'Ada'],
      ]),
    );
    const { changes } = compare(earlier, later);
    expect(changes.length).toBe(1);
    expect(changes[0] && standsOf(changes[0]).later.length).toBe(3);
    expect(changes[0]?.wordsAdded).toBe(3);
    expect(decided(earlier, later, {}, 'earlier').eq(earlier)).toBe(true);
  });

  it('fill the cell where a row of one side meets a column of the other with an empty one', () => {
    const earlier = doc(
      grid([
        ['Day', 'At'],
        ['Mon', '9:00'],
      ]),
    );
    const later = doc(grid([['Day'], ['Mon'], ['Tue']]));
    const comparison = compare(earlier, later);
    const kinds = comparison.changes.map(({ kind }) => kind);
    const made = assemble(comparison, (change) => (kinds[change] === 'removed' ? 'earlier' : 'later'));
    expect(plainText(made)).toBe('Day\tAt\nMon\t9:00\nTue\t');
  });
});
