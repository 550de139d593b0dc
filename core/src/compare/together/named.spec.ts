import * as fc from 'fast-check';
import { Fragment } from 'prosemirror-model';
import type { Node } from 'prosemirror-model';
import { applySteps, orderBatch } from '../../history/index.js';
import { traitsOf } from '../../content/index.js';
import { blankBook, sheetSchema } from '../../kinds/sheet/index.js';
import { FUZZ } from '../../testing/budget.js';
import { orderless } from '../../testing/orderless.js';
import { Random } from '../../testing/random.js';
import { DECK_HAND } from '../../testing/decks.js';
import { SHEET_HAND } from '../../testing/sheets.js';
import type { Hand } from '../../testing/writers.js';
import { writeHistory } from '../../testing/writers.js';
import { assembleTogether } from './parts.js';
import { bringTogether } from './together.js';

/** What a name stands for: its attributes, what is in it by name, and where nothing in it has a name, the content. */
interface Thing {
  readonly attrs: Readonly<Record<string, unknown>>;
  readonly things: Readonly<Record<string, Thing>>;
  readonly content: unknown;
}

function thingOf(node: Node): Thing {
  const things: Record<string, Thing> = {};
  for (const child of node.children) {
    const { key } = traitsOf(child.type);
    if (key !== undefined) things[`${child.type.name} ${String(child.attrs[key])}`] = thingOf(child);
  }
  const isNamed = Object.keys(things).length > 0;
  return { attrs: node.attrs, things, content: isNamed ? null : node.content.toJSON() };
}

/** A thing without the content of what holds text that is brought together word by word. */
function withoutText({ attrs, things }: Thing): Thing {
  const kids = Object.entries(things).map(([name, thing]) => [name, withoutText(thing)]);
  return { attrs, things: Object.fromEntries(kids) as Thing['things'], content: null };
}

/** JSON with the names of objects in order, so that what is equal is told alike. */
function plain(value: unknown): string {
  return JSON.stringify(value, (_, part: unknown) =>
    typeof part === 'object' && part !== null && !Array.isArray(part)
      ? Object.fromEntries(Object.entries(part).sort(([a], [b]) => (a < b ? -1 : 1)))
      : part,
  );
}

/**
 * What becomes of something that several changed, by plain rules: what none but one changed, or several alike, is as they have it; what they made
 * different things of stays as it was, and is counted. The form of a thing is one, and so is its content.
 */
class Model {
  disputes = 0;

  of(base: Thing, sides: readonly Thing[]): Thing {
    const names = new Set([base, ...sides].flatMap(({ things }) => Object.keys(things)));
    const things = [...names].flatMap((name) => {
      const thing = this.named(
        base.things[name],
        sides.map((side) => side.things[name]),
      );
      return thing ? [[name, thing] as const] : [];
    });
    const attrs = this.attrs(
      base.attrs,
      sides.map((side) => side.attrs),
    );
    const content = this.one(
      base.content,
      sides.map((side) => side.content),
    );
    return { attrs, things: Object.fromEntries(things), content };
  }

  private named(base: Thing | undefined, sides: readonly (Thing | undefined)[]): Thing | undefined {
    const all = sides.filter((side) => side !== undefined);
    return base && all.length === sides.length ? this.of(base, all) : this.one(base, sides);
  }

  /** Attributes are brought together one by one, but where two disagree about any. */
  private attrs(base: Thing['attrs'], sides: readonly Thing['attrs'][]): Thing['attrs'] {
    const before = this.disputes;
    const entries = Object.keys(base).map((name) => [
      name,
      this.one(
        base[name],
        sides.map((side) => side[name]),
      ),
    ]);
    if (this.disputes === before) return Object.fromEntries(entries) as Thing['attrs'];
    this.disputes = before + 1;
    return base;
  }

  private one<T>(base: T, sides: readonly T[]): T {
    const changed = new Map(
      sides.filter((side) => plain(side) !== plain(base)).map((side) => [plain(side), side]),
    );
    if (changed.size > 1) this.disputes++;
    return changed.size === 1 ? ([...changed.values()][0] as T) : base;
  }
}

/** Somebody's way on from a document: a few acts of any kind. */
function branch(hand: Hand, base: Node, seed: number): Node {
  const random = new Random(seed);
  const fresh = (count: number): string =>
    Array.from({ length: count }, () => String.fromCharCode(random.between(0x3b1, 0x3c9))).join('');
  let doc = base;
  for (let acts = random.between(0, 6); acts > 0; acts--) {
    const { steps } = hand.act(random, doc, fresh, true);
    const [verdict] = orderBatch(doc, [{ steps, sources: [] }], []);
    if (verdict?.taken) doc = applySteps(doc, verdict.steps);
  }
  return doc;
}

/** A document, what several made of it, and all of that brought together; with what becomes of it where disputes stay as they were. */
function gathered(hand: Hand, seed: number) {
  const random = new Random(seed);
  const { docs } = writeHistory(new Random(seed), 16, { hand, undo: false, stale: false });
  const base = docs.at(-1) as Node;
  const sides = Array.from({ length: random.between(1, 4) }, (_, i) => branch(hand, base, seed + i + 1));
  const together = bringTogether(base, sides, { tidy: random.chance(0.5) });
  const { passages } = together;
  const settled = assembleTogether(together, (id) => (passages[id]?.forms.length === 1 ? 0 : 'base'));
  const model = new Model();
  const wanted = model.of(thingOf(base), sides.map(thingOf));
  return { base, sides, together, settled, wanted, disputes: model.disputes };
}

describe('bringing together what has names', () => {
  it('makes of each cell, row, column and sheet what a plain model of them says, and disputes what that does', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const { settled, wanted, together, disputes } = gathered(SHEET_HAND, seed);
        expect(plain(thingOf(settled))).toBe(plain(wanted));
        expect(together.passages.filter(({ forms }) => forms.length > 1).length).toBe(disputes);
      }),
      { numRuns: 500 * FUZZ },
    );
  });

  it('makes of each slide, box and picture what a plain model of them says, whatever their text', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const { settled, wanted } = gathered(DECK_HAND, seed);
        expect(plain(withoutText(thingOf(settled)))).toBe(plain(withoutText(wanted)));
      }),
      { numRuns: 300 * FUZZ },
    );
  });

  it('gives the base where nothing is taken, and the only side where all is', () => {
    fc.assert(
      fc.property(fc.integer(), fc.constantFrom(SHEET_HAND, DECK_HAND), (seed, hand) => {
        const { base, sides, together } = gathered(hand, seed);
        expect(assembleTogether(together, () => 'base').eq(base)).toBe(true);
        const all = assembleTogether(together, () => 0);
        if (sides.length === 1) expect(orderless(all)).toEqual(orderless(sides[0] as Node));
      }),
      { numRuns: 300 * FUZZ },
    );
  });

  it('takes a row for the same whose cells were only made in another order, and tells who took it away', () => {
    const row = (...columns: string[]): Node =>
      sheetSchema.node(
        'row',
        { id: 'rope', sheet: 'first', place: 'a0' },
        columns.map((column) => sheetSchema.node('cell', { column }, sheetSchema.text(column))),
      );
    const book = (...rows: Node[]): Node =>
      blankBook().copy(Fragment.fromArray([blankBook().child(0), ...rows]));
    const { passages } = bringTogether(book(row('c1', 'c2')), [book(row('c2', 'c1')), book()]);
    expect(passages.map(({ forms }) => forms.map(({ by }) => by))).toEqual([[[1]]]);
  });
});
