import * as fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { childrenOf, plainText } from '../../content/index.js';
import { FUZZ } from '../../testing/budget.js';
import { doc, h, li, p, quote, ul } from '../../testing/build.js';
import { document, revised } from '../../testing/documents.js';
import { Random } from '../../testing/random.js';
import { assembleThree, compareThree } from './three.js';
import type { Settlement, ThreeWay } from './three.js';

const [gate, race, pool] = [
  'The upper gate is shut at noon.',
  'The mill race runs fast in spring.',
  'Eels rest in the lower pool.',
];
const lines = (...texts: string[]): Node => doc(...texts.map((text) => p(text)));

/** The outcome as text, the same for either order of the sides; fails when anything is asked. */
const merged = (base: Node, ours: Node, theirs: Node): string => {
  const [three, other] = [compareThree(base, ours, theirs), compareThree(base, theirs, ours)];
  expect(three.conflicts).toEqual([]);
  const outcome = assembleThree(three, () => 'ours');
  expect(assembleThree(other, () => 'ours').eq(outcome)).toBe(true);
  outcome.check();
  return plainText(outcome);
};

describe('bringing three together', () => {
  it('edits what the other side moved, where it moved it to', () => {
    expect(
      merged(
        lines(gate, race, pool, 'Bring oars.'),
        lines(race, pool, gate, 'Bring oars.'),
        lines(gate.replace('noon', 'ten'), race, pool, 'Bring oars.'),
      ),
    ).toBe(`${race}\n${pool}\n${gate.replace('noon', 'ten')}\nBring oars.`);
    const items = (...texts: string[]): Node => doc(p(gate), ul(...texts.map((text) => li(p(text)))));
    expect(
      merged(
        items('rope', 'oars', 'a lamp for the lock'),
        items('a lamp for the lock', 'rope', 'oars'),
        items('rope', 'spare oars', 'a bright lamp for the lock'),
      ),
    ).toBe(`${gate}\na bright lamp for the lock\nrope\nspare oars`);
  });

  it('takes along what the other side wrote into a section that moved', () => {
    const end = [h(1, 'Costs'), p('The repair costs more than last year.')];
    const body = [h(1, 'Water'), p(gate), p(pool)];
    expect(
      merged(
        doc(...body, ...end),
        doc(...end, ...body),
        doc(h(1, 'Water'), p(gate), p(race), p(pool.replace('Eels', 'Trout')), ...end),
      ),
    ).toBe(
      `Costs\nThe repair costs more than last year.\nWater\n${gate}\n${race}\n${pool.replace('Eels', 'Trout')}`,
    );
  });

  it('asks where something stands that both moved, and brings together what both did to it', () => {
    const [a, b, c] = ['Alders stand by it.', 'Barges wait here.', 'Cranes rest inland.'];
    const three = compareThree(
      lines(gate, a, b, c),
      lines(a, gate.replace('upper', 'old'), b, c),
      lines(a, b, c, gate.replace('noon', 'ten')),
    );
    const [conflict] = three.conflicts;
    expect(three.conflicts.length).toBe(1);
    expect(conflict?.kind).toBe('place');
    expect([conflict?.base, conflict?.ours, conflict?.theirs].map((nodes) => nodes?.map(plainText))).toEqual([
      [],
      [a],
      [c],
    ]);
    const both = 'The old gate is shut at ten.';
    const taking = (settlement: Settlement): string => plainText(assembleThree(three, () => settlement));
    expect(taking('base')).toBe([both, a, b, c].join('\n'));
    expect(taking('ours')).toBe([a, both, b, c].join('\n'));
    expect(taking('both')).toBe(taking('ours'));
    expect(taking('theirs')).toBe([a, b, c, both].join('\n'));
    expect(merged(lines(gate, race, pool), lines(race, pool, gate), lines(race, pool, gate))).toBe(
      `${race}\n${pool}\n${gate}`,
    );
  });

  it('lets what one side moved be gone when the other took it out, and asks when it was edited on the way', () => {
    const base = lines(gate, race, pool);
    expect(merged(base, lines(race, pool, gate), lines(race, pool))).toBe(`${race}\n${pool}`);
    const three = compareThree(base, lines(race, pool, gate.replace('noon', 'ten')), lines(race, pool));
    expect(three.conflicts.map(({ kind }) => kind)).toEqual(['blocks']);
  });

  it('splits and joins what the other side edited', () => {
    const [one, two] = [`${gate} ${race}`, `${gate.replace('noon', 'ten')} ${race}`];
    expect(merged(lines(one, pool), lines(gate, race, pool), lines(two, pool))).toBe(
      `${gate.replace('noon', 'ten')}\n${race}\n${pool}`,
    );
    expect(
      merged(lines(gate, race, pool), lines(one, pool), lines(gate, race.replace('fast', 'slow'), pool)),
    ).toBe(`${one.replace('fast', 'slow')}\n${pool}`);
    const items = (...texts: string[]): Node => doc(ul(...texts.map((text) => li(p(text)))), p(pool));
    expect(merged(items(one), items(gate, race), items(two))).toBe(
      `${gate.replace('noon', 'ten')}\n${race}\n${pool}`,
    );
  });

  it('chooses as a whole what one side joined and the other put in several places', () => {
    const base = lines(gate, race, pool, 'Bring oars.');
    const three = compareThree(
      base,
      lines(`${gate} ${race}`, pool, 'Bring oars.'),
      lines(gate, pool, race, 'Bring oars.'),
    );
    expect(three.conflicts.map(({ kind, base }) => [kind, ...base.map(plainText)])).toEqual([
      ['blocks', gate, race],
    ]);
    const taking = (settlement: Settlement): string => plainText(assembleThree(three, () => settlement));
    expect(taking('base')).toBe([gate, race, pool, 'Bring oars.'].join('\n'));
    expect(taking('ours')).toBe([`${gate} ${race}`, pool, 'Bring oars.'].join('\n'));
    expect(taking('theirs')).toBe([gate, pool, race, 'Bring oars.'].join('\n'));
  });

  it('asks about a paragraph whose sentences one side moved while the other wrote in them, so that nothing stands twice', () => {
    const three = compareThree(
      lines(`${gate} ${race} ${pool}`),
      lines(`${race} ${pool} ${gate}`),
      lines(`${gate.replace('noon', 'ten')} ${race} ${pool}`),
    );
    expect(three.conflicts.map(({ kind }) => kind)).toEqual(['text']);
    for (const [take, text] of [
      ['ours', `${race} ${pool} ${gate}`],
      ['theirs', `${gate.replace('noon', 'ten')} ${race} ${pool}`],
    ] as const)
      expect(plainText(assembleThree(three, () => take))).toBe(text);
  });

  it('asks once where one split what the other wrote anew, and shows all three with their breaks', () => {
    const base = lines(`${gate} ${race}`, pool);
    const three = compareThree(base, lines(gate, race, pool), lines(`${gate} Mind the step. ${race}`, pool));
    expect(three.conflicts.map(({ kind }) => kind)).toEqual(['text']);
    expect(plainText(assembleThree(three, () => 'ours'))).toBe(`${gate}\n${race}\n${pool}`);
    expect(plainText(assembleThree(three, () => 'theirs'))).toBe(`${gate} Mind the step. ${race}\n${pool}`);
    expect(plainText(assembleThree(three, () => 'base'))).toBe(plainText(base));
  });

  it('keeps the laws of bringing together, over documents in which every word is one of a kind', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const words = new Words(random);
        const base = words.document();
        const acts = random.between(1, 3);
        const [ours, theirs] = [words.revised(base, acts), words.revised(base, acts)];
        const [three, swapped] = [compareThree(base, ours, theirs), compareThree(base, theirs, ours)];
        expect(three.conflicts.length).toBe(swapped.conflicts.length);
        const other: Record<Settlement, Settlement> = {
          base: 'base',
          ours: 'theirs',
          theirs: 'ours',
          both: 'both',
        };
        for (const take of ['base', 'ours', 'theirs'] as const) {
          const outcome = assembleThree(three, () => take);
          outcome.check();
          expect(plainText(assembleThree(swapped, () => other[take]))).toBe(plainText(outcome));
          // What was written anew until no half of it is left is nobody's to find again.
          const told = acts === 1 ? wordsOf(outcome) : [];
          expect(told.length).withContext('no word stands twice').toBe(new Set(told).size);
        }
        expect(lostIn(three, base, ours, theirs))
          .withContext('lost without a conflict')
          .toEqual([]);
      }),
      { numRuns: 2000 * FUZZ },
    );
  });

  it('gives ours where theirs is the base, whatever people do', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const base = document(random, random.between(1, 8));
        const side = revised(random, base, 4);
        for (const three of [compareThree(base, side, base), compareThree(base, base, side)]) {
          expect(three.conflicts).toEqual([]);
          expect(assembleThree(three, () => 'base').eq(side)).toBe(true);
        }
      }),
      { numRuns: 1000 * FUZZ },
    );
  });
});

function wordsOf(node: Node): string[] {
  return plainText(node).match(/\w+/g) ?? [];
}

/** Words that a side wrote, or that both kept, and that are neither in the outcome nor shown by a conflict. */
function lostIn(three: ThreeWay, base: Node, ours: Node, theirs: Node): string[] {
  const [was, one, other] = [base, ours, theirs].map((node) => new Set(wordsOf(node))) as [
    Set<string>,
    Set<string>,
    Set<string>,
  ];
  const due = [...was].filter((word) => one.has(word) && other.has(word));
  due.push(...[...one, ...other].filter((word) => !was.has(word)));
  const asked = three.conflicts.flatMap((conflict) =>
    [...conflict.base, ...conflict.ours, ...conflict.theirs].flatMap(wordsOf),
  );
  const there = new Set([...wordsOf(assembleThree(three, () => 'ours')), ...asked]);
  return due.filter((word) => !there.has(word));
}

/** Documents of words that occur once, and what people do to them without changing what is round a block. */
class Words {
  private next = 0;

  constructor(private readonly random: Random) {}

  document(): Node {
    const blocks = Array.from({ length: this.random.between(2, 9) }, () => this.block());
    return doc(...blocks);
  }

  revised(from: Node, acts: number): Node {
    let blocks = childrenOf(from);
    for (let i = 0; i < acts; i++) blocks = this.act(blocks);
    return doc(...(blocks.length > 0 ? blocks : [p(this.text(3))]));
  }

  private text(length: number): string {
    return Array.from({ length }, () => `w${this.next++}`).join(' ');
  }

  private block(): Node {
    const roll = this.random.next();
    if (roll < 0.15) return h(this.random.between(1, 2), this.text(this.random.between(1, 4)));
    if (roll < 0.3)
      return ul(...Array.from({ length: this.random.between(1, 4) }, () => li(p(this.text(3)))));
    if (roll < 0.36) return quote(p(this.text(5)), p(this.text(4)));
    return p(this.text(this.random.between(1, 14)));
  }

  private act(blocks: readonly Node[]): Node[] {
    const out = [...blocks];
    if (out.length === 0) return [this.block()];
    const at = this.random.between(0, out.length - 1);
    const block = out[at] as Node;
    const roll = this.random.next();
    if (roll < 0.25) {
      const count = this.random.between(1, 3);
      const taken = out.splice(at, count);
      out.splice(this.random.between(0, out.length), 0, ...taken);
    } else if (roll < 0.35) out.splice(this.random.between(0, out.length), 0, this.block());
    else if (roll < 0.42) out.splice(at, 1);
    else if (block.type.name === 'bullet_list' && roll < 0.6)
      out[at] = block.copy(ul(...this.items(childrenOf(block))).content);
    else if (block.isTextblock && roll < 0.55 && wordsOf(block).length > 3)
      out.splice(at, 1, ...this.split(block));
    else if (block.isTextblock && roll < 0.62 && out[at + 1]?.type === block.type)
      out.splice(
        at,
        2,
        block.type.create(block.attrs, p(`${block.textContent} ${out[at + 1]?.textContent}`).content),
      );
    else if (block.isTextblock) out[at] = block.copy(p(this.edited(block.textContent)).content);
    return out;
  }

  private items(items: readonly Node[]): Node[] {
    const out = [...items];
    const [taken] = out.splice(this.random.between(0, out.length - 1), 1) as [Node];
    const shown = this.random.chance(0.5) ? taken : li(p(this.edited(taken.textContent)));
    out.splice(this.random.between(0, out.length), 0, shown);
    return out;
  }

  private split(block: Node): Node[] {
    const words = block.textContent.split(' ');
    const at = this.random.between(1, words.length - 1);
    return [words.slice(0, at), words.slice(at)].map((part) => block.copy(p(part.join(' ')).content));
  }

  private edited(text: string): string {
    const words = text.split(' ');
    words.splice(this.random.between(0, words.length - 1), this.random.between(0, 1), this.text(1));
    return words.join(' ');
  }
}
