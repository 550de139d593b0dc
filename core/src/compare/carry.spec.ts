import * as fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { tokensOf } from '../content/index.js';
import type { Token } from '../content/index.js';
import { applySteps, appendEdit, cloneProvenance, orderBatch } from '../history/index.js';
import { whereaboutsOf } from '../past/index.js';
import { FUZZ } from '../testing/budget.js';
import { bold, code, doc, h, image, li, link, p, table, td, tr, ul } from '../testing/build.js';
import { writePast } from '../testing/pasts.js';
import { Random } from '../testing/random.js';
import { tokensOfEdits } from '../testing/writers.js';
import type { Stretch } from './changes.js';
import { broughtBy, carry } from './carry.js';

const at = (from: number, to = from): Stretch => ({ from, to });
/** Where the first block with a text begins and ends. */
function block(node: Node, text: string): Stretch {
  let found: Stretch | null = null;
  node.descendants((one, position) => {
    if (!found && one.isTextblock && one.textContent === text) found = at(position, position + one.nodeSize);
  });
  if (!found) throw new Error(`no block “${text}”`);
  return found;
}
function carried(now: Node, past: Node, what: readonly Stretch[], place: Stretch): Node {
  const carrying = carry(now, past, what, place);
  if (!carrying) throw new Error('it cannot stand there');
  const after = applySteps(now, carrying.steps);
  after.check();
  return after;
}

describe('carrying forward', () => {
  const past = doc(
    h(2, 'The wheel'),
    p('It turns ', bold('twice'), ' a day, see ', link('https://withy.example', 'the table'), '.'),
    p('The sluice is oak.'),
    ul(li(p('boots')), li(p('lamp'))),
    table(tr(td(p('a')), td(p('b'))), tr(td(p('c')), td(p('d')))),
    p('with ', image('a', 'the mill')),
  );

  it('brings marks, links and images along whole', () => {
    const now = doc(p('one'), p('two'));
    const first = block(past, 'It turns twice a day, see the table.');
    const after = carried(now, past, [first], at(5));
    expect(after.eq(doc(p('one'), past.child(1), p('two')))).toBe(true);
    const picture = at(past.content.size - past.child(5).nodeSize, past.content.size);
    expect(carried(now, past, [picture], at(0)).child(0).eq(past.child(5))).toBe(true);
  });

  it('puts text into text, and never splits a paragraph for a block', () => {
    const now = doc(p('The gate is shut.'));
    const words = block(past, 'The sluice is oak.');
    expect(carried(now, past, [at(words.from + 5, words.to - 1)], at(5)).textContent).toBe(
      'The sluice is oak.gate is shut.',
    );
    expect(carried(now, past, [words], at(5)).eq(doc(p('The gate is shut.'), p('The sluice is oak.')))).toBe(
      true,
    );
    expect(carried(now, past, [words], at(1)).eq(doc(p('The sluice is oak.'), p('The gate is shut.')))).toBe(
      true,
    );
  });

  it('makes all the text of a block a block again where it would touch the text of another', () => {
    const now = doc(p('The gate is shut.'), p());
    const words = block(past, 'The sluice is oak.');
    const all = [at(words.from + 1, words.to - 1)];
    expect(carried(now, past, all, at(18)).child(1).textContent).toBe('The sluice is oak.');
    expect(carried(now, past, all, at(20)).eq(doc(p('The gate is shut.'), p('The sluice is oak.')))).toBe(
      true,
    );
  });

  it('takes text between blocks as a block of the kind it was in', () => {
    const title = block(past, 'The wheel');
    const after = carried(doc(p('one')), past, [at(title.from + 1, title.to - 1)], at(0));
    expect(after.eq(doc(h(2, 'The wheel'), p('one')))).toBe(true);
  });

  it('puts items and rows where they can stand, and else brings their list or table', () => {
    const lamp = block(past, 'lamp');
    const item = at(lamp.from - 1, lamp.to + 1);
    const now = doc(ul(li(p('boots'))), p('end'));
    expect(
      carried(now, past, [item], at(10))
        .child(0)
        .eq(ul(li(p('boots')), li(p('lamp')))),
    ).toBe(true);
    expect(
      carried(doc(p('end')), past, [item], at(0))
        .child(0)
        .eq(ul(li(p('lamp')))),
    ).toBe(true);
    const cell = block(past, 'c');
    const row = at(cell.from - 2, cell.from - 2 + past.child(4).child(1).nodeSize);
    const two = doc(table(tr(td(p('x')), td(p('y')))));
    expect(carried(two, past, [row], at(two.child(0).nodeSize - 1)).child(0).childCount).toBe(2);
    const three = doc(table(tr(td(p('x')), td(p('y')), td(p('z')))));
    const apart = carried(three, past, [row], at(5));
    expect(apart.child(1).eq(table(tr(td(p('c')), td(p('d')))))).toBe(true);
    const cells = ['a', 'c'].map((text) => {
      const { from, to } = block(past, text);
      return at(from - 1, to + 1);
    });
    expect(
      carried(three, past, cells, at(5))
        .child(1)
        .eq(table(tr(td(p('a'))), tr(td(p('c'))))),
    ).toBe(true);
  });

  it('puts a block in place of what it has become, and leaves alone what did not change', () => {
    const now = doc(p('one'), p('The sluice is made of elm.'), p('two'));
    const was = block(past, 'The sluice is oak.');
    const became = block(now, 'The sluice is made of elm.');
    const carrying = carry(now, past, [was], at(became.from + 1, became.to - 1));
    const after = applySteps(now, carrying?.steps ?? []);
    expect(after.eq(doc(p('one'), p('The sluice is oak.'), p('two')))).toBe(true);
    const put = carrying?.brought.reduce((sum, one) => sum + one.length, 0) ?? 0;
    expect(put).toBeLessThan('The sluice is oak.'.length);
  });

  it('takes text into code without its marks, and says when nothing can stand there', () => {
    const first = block(past, 'It turns twice a day, see the table.');
    const after = carried(doc(code('x')), past, [at(first.from + 1, first.to - 2)], at(1));
    expect(after.child(0).textContent).toBe('It turns twice a day, see the tablex');
    expect(carry(doc(p('one')), past, [], at(0))).toBeNull();
  });

  it('knows what a paste put in, and that something else was pasted', () => {
    const words = tokensOf(past.content).slice(1, 9);
    const now = doc(p('one'));
    const put = carry(now, past, [at(1, 9)], at(1));
    expect(broughtBy(put?.steps ?? [], words)).toEqual([{ step: 0, at: 0, length: 8, position: 0 }]);
    expect(broughtBy(put?.steps ?? [], tokensOf(past.content).slice(20, 40))).toEqual([]);
  });

  it('names the source of every token, so that credit stays with who wrote it', () => {
    let brought = 0;
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const history = writePast(random, random.between(8, 30), { structure: random.chance(0.5) });
        const now = history.docs.at(-1) as Node;
        const moment = random.between(1, history.edits.length);
        const before = history.docs[moment] as Node;
        const what = stretchOf(random, before);
        if (!what) return;
        const where = whereaboutsOf(history.tape, moment, what.from, what.to);
        const place = random.chance(0.5) ? where : at(where.to);
        const carrying = carry(now, before, [what], place);
        if (!carrying) return;
        const runs = history.provenance.runs.at(moment);
        const sources = carrying.brought.flatMap((part) =>
          runs.between(part.position, part.position + part.length).map((run) => ({
            step: part.step,
            at: part.at + run.from - part.position,
            seq: run.seq,
            offset: run.offset,
            length: run.length,
          })),
        );
        const [verdict] = orderBatch(now, [{ steps: carrying.steps, sources }], []);
        expect(verdict?.taken).toBe(true);
        if (!verdict?.taken || place.from !== place.to) return;
        const after = appendEdit(cloneProvenance(history.provenance), now, {
          seq: history.edits.length + 1,
          steps: carrying.steps,
          sources,
        });
        const words = (node: Node, { from, to }: Stretch): string =>
          units(tokensOf(node.content).slice(from, to));
        expect(words(after, carrying).includes(words(before, what))).toBe(true);
        brought++;
      }),
      { numRuns: 400 * FUZZ },
    );
    expect(brought).toBeGreaterThan(60 * FUZZ);
  });

  it('finds the place a brute-force tracker of neighbours finds', () => {
    const kinds = { stands: 0, changed: 0, gone: 0 };
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const history = writePast(random, random.between(8, 40), {
          structure: random.chance(0.5),
          undo: false,
        });
        const moment = random.between(1, history.edits.length);
        const what = stretchOf(random, history.docs[moment] as Node);
        if (!what) return;
        const where = whereaboutsOf(history.tape, moment, what.from, what.to);
        const names = namesOf(history, moment);
        const now = namesOf(history, history.edits.length);
        const places = new Map(now.map((name, i) => [name, i]));
        const tokens = tokensOf((history.docs[moment] as Node).content);
        const picked = names.slice(what.from, what.to);
        const counted = picked.filter((_, i) => isText(tokens[what.from + i] as Token));
        const standing = (counted.length > 0 ? counted : picked).flatMap((name) => places.get(name) ?? []);
        kinds[where.kind]++;
        if (standing.length > 0) {
          expect([where.from, where.to]).toEqual([Math.min(...standing), Math.max(...standing) + 1]);
          return;
        }
        expect(where.kind).toBe('gone');
        const left = names.slice(0, what.from).flatMap((name) => places.get(name) ?? []);
        const right = names.slice(what.to).flatMap((name) => places.get(name) ?? []);
        expect(where.from).toBeGreaterThanOrEqual(Math.max(-1, ...left) + 1);
        expect(where.from).toBeLessThanOrEqual(Math.min(now.length, ...right));
      }),
      { numRuns: 1000 * FUZZ },
    );
    expect(Math.min(...Object.values(kinds))).toBeGreaterThan(20 * FUZZ);
  });
});

function stretchOf(random: Random, node: Node): Stretch | null {
  if (node.content.size < 3) return null;
  const from = random.between(0, node.content.size - 2);
  return { from, to: Math.min(node.content.size, from + random.between(1, 12)) };
}

function isText({ kind }: Token): boolean {
  return kind === 'unit' || kind === 'leaf';
}

function units(tokens: readonly Token[]): string {
  return tokens.map((token) => (token.kind === 'unit' ? token.unit : '')).join('');
}

/** Every token of a moment by name: the edit that brought it and which of that edit's it is, kept by replaying step maps. */
function namesOf(history: ReturnType<typeof writePast>, moment: number): string[] {
  let names = tokensOfEdits(history.edits)(0).map((_, i) => `0.${i}`);
  for (const edit of history.edits.slice(0, moment)) {
    let next = 0;
    for (const step of edit.steps)
      step.getMap().forEach((_oldStart, _oldEnd, start, end) => {
        const made = Array.from({ length: end - start }, () => `${edit.seq}.${next++}`);
        names = [...names.slice(0, start), ...made, ...names.slice(start + (_oldEnd - _oldStart))];
      });
  }
  return names;
}
