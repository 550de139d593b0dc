import * as fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import { tokensOf, textSchema as schema } from '../content/index.js';
import { FUZZ } from '../testing/budget.js';
import { doc, p, quote } from '../testing/build.js';
import { Random } from '../testing/random.js';
import { tokensOfEdits, writeHistory } from '../testing/writers.js';
import type { Edit } from './edit.js';
import { applySteps } from './edit.js';
import { appendEdit, startProvenance } from './provenance.js';
import { undoEdits } from './undo.js';

const text = (node: Node): string =>
  tokensOf(node.content)
    .map((token) => (token.kind === 'unit' ? token.unit : ''))
    .join('');

/** Reference by identity: what was born outside the set and is alive, or was removed by it, in the sequence's order. */
function expected(history: ReturnType<typeof writeHistory>, undone: ReadonlySet<number>): string {
  const tokens = tokensOfEdits(history.edits);
  let out = '';
  for (const run of history.provenance.runs.all()) {
    if (undone.has(run.seq) || (run.diedAt !== 0 && !undone.has(run.diedAt))) continue;
    for (const token of tokens(run.seq).slice(run.offset, run.offset + run.length))
      if (token.kind === 'unit') out += token.unit;
  }
  return out;
}

describe('undo by instance', () => {
  for (const structure of [false, true]) {
    it(`leaves exactly what the set did not bring, ${structure ? 'with structure' : 'in plain text'}`, () => {
      let [conflicts, all] = [0, 0];
      fc.assert(
        fc.property(fc.integer(), (seed) => {
          const random = new Random(seed);
          const history = writeHistory(random, random.between(8, 30), { structure });
          const undone = new Set(
            Array.from({ length: random.between(1, 3) }, () => random.between(1, history.edits.length)),
          );
          const now = history.docs.at(-1) as Node;
          const undo = undoEdits(now, history.provenance, undone, tokensOfEdits(history.edits));
          all++;
          if (undo.kind === 'conflict') return void conflicts++;
          const result = undo.kind === 'steps' ? applySteps(now, undo.steps) : now;
          result.check();
          expect(text(result)).toBe(expected(history, undone));
        }),
        { numRuns: 300 * FUZZ },
      );
      expect(conflicts / all).toBeLessThan(structure ? 0.45 : 0.35);
    });
  }

  const start = doc(p('The mill stands where the creek meets the marsh.'));
  const edit = (seq: number, tr: Transform): Edit => ({
    seq,
    author: 'ines',
    acceptedAt: seq,
    writtenAt: seq,
    client: 'c',
    counter: seq,
    schema: 1,
    steps: tr.steps,
    sources: [],
    cause: { kind: 'writing' },
  });
  function play(...acts: ((tr: Transform) => void)[]): {
    now: Node;
    undo: (...seqs: number[]) => ReturnType<typeof undoEdits>;
  } {
    const provenance = startProvenance(0, start);
    const edits: Edit[] = [];
    let now = start;
    for (const act of acts) {
      const tr = new Transform(now);
      act(tr);
      const one = edit(edits.length + 1, tr);
      now = appendEdit(provenance, now, one);
      edits.push(one);
    }
    const tokens = (seq: number): ReturnType<typeof tokensOf> =>
      seq === 0 ? tokensOf(start.content) : (tokensOfEdits(edits)(seq) as ReturnType<typeof tokensOf>);
    return { now, undo: (...seqs) => undoEdits(now, provenance, new Set(seqs), tokens) };
  }

  it('brings back a removed word between words written since', () => {
    const { now, undo } = play(
      (tr) => tr.delete(5, 10),
      (tr) => tr.insert(5, schema.text('old ')),
    );
    const back = undo(1);
    expect(back.kind === 'steps' && applySteps(now, back.steps).textContent).toContain('mill');
    expect(back.kind === 'steps' && applySteps(now, back.steps).textContent).toContain('old ');
  });

  it('takes form back only where it is still the one that was set', () => {
    const bold = schema.mark('bold');
    const { now, undo } = play(
      (tr) => tr.addMark(1, 9, bold),
      (tr) => tr.removeMark(1, 4, bold),
      (tr) => tr.addMark(1, 4, bold),
    );
    const back = undo(1);
    const result = back.kind === 'steps' ? applySteps(now, back.steps) : now;
    expect(result.rangeHasMark(1, 4, bold.type)).toBe(true);
    expect(result.rangeHasMark(4, 9, bold.type)).toBe(false);
  });

  it('unwraps a quote around words written inside it since', () => {
    const { now, undo } = play(
      (tr) => tr.wrap(tr.doc.resolve(1).blockRange() as never, [{ type: schema.nodes.quote }]),
      (tr) => tr.insert(2, schema.text('So: ')),
    );
    expect(now.eq(doc(quote(p('So: The mill stands where the creek meets the marsh.'))))).toBe(true);
    const back = undo(1);
    expect(
      back.kind === 'steps' &&
        applySteps(now, back.steps).eq(doc(p('So: The mill stands where the creek meets the marsh.'))),
    ).toBe(true);
  });

  it('calls it a conflict when somebody wrote inside a paragraph that would vanish', () => {
    const { undo } = play(
      (tr) => tr.insert(0, p('new')),
      (tr) => tr.insert(2, schema.text('NEVER')),
    );
    expect(undo(1).kind).toBe('conflict');
  });

  it('has nothing to do when what was written is gone already', () => {
    const { undo } = play(
      (tr) => tr.insert(1, schema.text('x')),
      (tr) => tr.delete(1, 2),
    );
    expect(undo(1).kind).toBe('nothing');
  });
});
