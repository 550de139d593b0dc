import * as fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { isWord, plainText, segments } from '../content/index.js';
import { applySteps } from '../history/index.js';
import { FUZZ } from '../testing/budget.js';
import { eachKind } from '../testing/hands.js';
import type { Hand } from '../testing/writers.js';
import { bold, check, checks, code, doc, h, li, ol, p, table, td, tr, ul } from '../testing/build.js';
import { document, revised } from '../testing/documents.js';
import { Random } from '../testing/random.js';
import { writeHistory } from '../testing/writers.js';
import { assemble } from './assemble.js';
import { compare } from './compare.js';
import { gistOf } from './gist.js';
import { turning } from './restore.js';

/** Two documents: moments of one random history, or one and what became of it, or two that share nothing. */
function pairOf(hand: Hand, seed: number): [Node, Node] {
  const kind = new Random(seed + 3).between(0, 9);
  if (kind > 2 && hand.kind.name === 'text') {
    const words = new Random(seed);
    const earlier = document(words, words.between(1, 12));
    return [earlier, kind === 9 ? document(words, 8) : revised(words, earlier, words.between(0, 12))];
  }
  const { docs } = writeHistory(new Random(seed), 30, { hand, undo: false });
  const random = new Random(seed + 1);
  if (kind > 8) return [random.pick(docs), random.pick(writeHistory(random, 20, { hand }).docs)];
  return [random.pick(docs), random.pick(docs)];
}

eachKind('comparing', (hand) => {
  it('is exact: all changes taken give later, none give earlier, for random pairs of documents', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const [earlier, later] = pairOf(hand, seed);
        const comparison = compare(earlier, later);
        expect(assemble(comparison, () => 'later').eq(later)).toBe(true);
        expect(assemble(comparison, () => 'earlier').eq(earlier)).toBe(true);
      }),
      { numRuns: 2000 * FUZZ },
    );
  });

  it('makes a valid document of any mixture of decisions', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const [earlier, later] = pairOf(hand, seed);
        const random = new Random(seed + 2);
        const comparison = compare(earlier, later);
        for (let i = 0; i < 4; i++) {
          const decisions = comparison.changes.map(() => random.pick(['earlier', 'later', 'both'] as const));
          assemble(comparison, (change) => decisions[change] ?? 'later').check();
        }
      }),
      { numRuns: 800 * FUZZ },
    );
  });

  it('compiles into steps that give the target exactly', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const [now, target] = pairOf(hand, seed);
        expect(applySteps(now, turning(now, target).steps).eq(target)).toBe(true);
      }),
      { numRuns: 400 * FUZZ },
    );
  });
});

describe('compare', () => {
  it('loses and doubles no word when moves, splits and form are undecided', () => {
    const wordsOf = (doc: Node): string[] => segments(plainText(doc)).filter(isWord).sort();
    const still = new Set(['moved', 'form']);
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const earlier = document(random, random.between(1, 12));
        const later = revised(random, earlier, random.between(1, 12));
        const comparison = compare(earlier, later);
        const decisions = comparison.changes.map(({ kind }) =>
          still.has(kind) && random.chance(0.5) ? 'earlier' : 'later',
        );
        const mixed = assemble(comparison, (change) => decisions[change] ?? 'later');
        expect(wordsOf(mixed)).toEqual(wordsOf(later));
      }),
      { numRuns: 400 * FUZZ },
    );
  });

  it('touches only the word that differs, so that edits beside it survive', () => {
    const now = doc(p('Meet at the upper gate at ten.'), p('Bring boots.'));
    const { steps } = turning(now, doc(p('Meet at the sluice bridge at ten.'), p('Bring boots.')));
    expect(steps.length).toBe(1);
    expect(steps[0]?.toJSON()).toEqual(jasmine.objectContaining({ from: 13, to: 22 }));
  });

  const marks = (earlier: Node, later: Node): string[] =>
    compare(earlier, later).changes.map(({ kind, earlier: a, later: b }) => `${kind}: ${a} > ${b}`);

  it('marks what a careful editor would', () => {
    expect(marks(doc(p('the tide is law')), doc(p('the tide is low')))).toEqual(['replaced: law > low']);
    expect(marks(doc(p('two sacks')), doc(p('three large sacks')))).toEqual(['replaced: two > three large']);
    expect(marks(doc(p('a'), p('b')), doc(p('a'), p('new here'), p('b')))).toEqual(['added:  > new here']);
    expect(marks(doc(p('all of it')), doc(p()))).toEqual(['removed: all of it > ']);
    expect(marks(doc(h(1, 'Race')), doc(h(2, 'Race')))).toEqual(['form: Race > Race']);
    expect(marks(doc(p('so bold')), doc(p('so ', bold('bold'))))).toEqual(['form: bold > bold']);
    expect(marks(doc(p('half')), doc(p(bold('ha'), 'lf')))).toEqual(['form: ha > ha']);
    const [one, other, last] = [
      p('the wheel turns at the ebb'),
      p('the gates are shut at the flood'),
      p('the marsh fills in an hour'),
    ];
    expect(marks(doc(one, other, last), doc(other, last, one))).toEqual([
      'moved: the wheel turns at the ebb > the wheel turns at the ebb',
    ]);
    expect(
      marks(doc(ul(li(p('rope')), li(p('boat hook')))), doc(ol(li(p('rope')), li(p('boat hook'))))),
    ).toEqual(['form: rope\nboat hook > rope\nboat hook']);
    expect(marks(doc(checks(check(false, p('oars')))), doc(checks(check(true, p('oars')))))).toEqual([
      'form: oars > oars',
    ]);
    expect(
      marks(
        doc(table(tr(td(p('Mon')), td(p('Jun'))))),
        doc(table(tr(td(p('Mon')), td(p('Jun'))), tr(td(p('Tue')), td(p('Ada'))))),
      ),
    ).toEqual(['added:  > Tue\tAda']);
    expect(marks(doc(code('a = 1')), doc(code('a = 2')))).toEqual(['replaced: 1 > 2']);
    expect(marks(doc(p('same')), doc(p('same')))).toEqual([]);
  });

  it('says in one line what happened', () => {
    const { changes } = compare(
      doc(p('two sacks of flour')),
      doc(p('three sacks of flour'), p('Bring a kettle.')),
    );
    expect(gistOf(changes)).toBe('“two” became “three”; added “Bring a kettle.”');
  });
});
