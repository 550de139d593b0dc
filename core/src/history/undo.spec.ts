import * as fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { StepMap, Transform } from 'prosemirror-transform';
import { tokensOf } from '../content/index.js';
import { textSchema as schema } from '../kinds/text/index.js';
import { FUZZ } from '../testing/budget.js';
import { eachKind } from '../testing/hands.js';
import { doc, h, p, quote, table, td, tr as trow } from '../testing/build.js';
import { Random } from '../testing/random.js';
import { tokensOfEdits, writeHistory } from '../testing/writers.js';
import type { Edit } from './edit.js';
import { applySteps } from './edit.js';
import { appendEdit, startProvenance } from './provenance.js';
import { undoEdits } from './undo.js';

declare const console: { log(line: string): void };

/** One token that ever stood in a document: which edit brought and removed it, and its marks, by name, in order of change. */
interface Token {
  readonly unit: string | null;
  readonly born: number;
  /** Its place in all that its edit inserted. */
  readonly offset: number;
  died: number;
  readonly marks: { seq: number; name: string; before: boolean; after: boolean }[];
}

const unitOf = (token: ReturnType<typeof tokensOf>[number]): string | null =>
  token.kind === 'unit' ? token.unit : null;
const marksOf = (token: ReturnType<typeof tokensOf>[number]): string[] =>
  token.kind === 'unit' ? token.marks.map(({ type }) => type.name) : [];

/**
 * Every token a history ever had, in order, told by identity: tokens that an edit removes stay where they are as departed
 * ones, tokens it inserts go right behind the living one before them, or, where one departed between there and the next living
 * that they are the return of, in front of that. Nothing of the run sequence is used.
 */
function replay(history: ReturnType<typeof writeHistory>): Token[] {
  const all: Token[] = tokensOf((history.docs[0] as Node).content).map((token, i) => ({
    unit: unitOf(token),
    born: 0,
    offset: i,
    died: 0,
    marks: [],
  }));
  const living = (): Token[] => all.filter(({ died }) => died === 0);
  for (const { seq, steps, sources } of history.edits) {
    let now = history.docs[seq - 1] as Node;
    let offset = 0;
    for (const [nth, step] of steps.entries()) {
      let within = 0;
      const next = step.apply(now).doc as Node;
      const after = tokensOf(next.content);
      step.getMap().forEach((_from, _to, start, end) => {
        const old = _to - _from;
        for (const token of living().slice(start, start + old)) token.died = seq;
        const before = living()[start - 1];
        let index = before ? all.indexOf(before) + 1 : 0;
        for (const token of after.slice(start, end)) {
          const source = sources.find(
            (one) => one.step === nth && one.at <= within && one.at + one.length > within,
          );
          const was = all.findIndex(
            (one) => one.born === source?.seq && one.offset === source.offset + within - source.at,
          );
          if (
            source?.at === within &&
            was >= index &&
            all.slice(index, was + 1).every(({ died }) => died !== 0)
          )
            index = was;
          const marks = [...(all[was]?.marks ?? [])];
          all.splice(index++, 0, { unit: unitOf(token), born: seq, offset: offset++, died: 0, marks });
          within++;
        }
      });
      if (step.getMap() === StepMap.empty || next.content.size === now.content.size)
        tokensOf(now.content).forEach((token, i) => {
          const [was, is] = [marksOf(token), marksOf(after[i] as typeof token)];
          const held = living()[i];
          if (!held || step.getMap() !== StepMap.empty) return;
          for (const name of new Set([...was, ...is]))
            if (was.includes(name) !== is.includes(name))
              held.marks.push({ seq, name, before: was.includes(name), after: is.includes(name) });
        });
      now = next;
    }
  }
  return all;
}

/** What undoing must leave: what was born outside the set and is alive or died by it, with marks undone only where they are the set's. */
function expected(all: readonly Token[], undone: ReadonlySet<number>, marks: (token: Token) => string[]) {
  return all
    .filter(({ born, died, unit }) => unit !== null && !undone.has(born) && (died === 0 || undone.has(died)))
    .map((token) => ({ unit: token.unit, marks: marks(token).sort() }));
}

/** The marks of a token without the changes of a set that are its last word on each mark. */
function withoutChanges(token: Token, undone: ReadonlySet<number>, present: readonly string[]): string[] {
  const out = new Set(present);
  for (const name of new Set(token.marks.map((change) => change.name))) {
    const changes = token.marks.filter((change) => change.name === name);
    let first = -1;
    for (let i = changes.length - 1; i >= 0 && undone.has(changes[i]?.seq ?? -1); i--) first = i;
    if (first < 0) continue;
    if (changes[first]?.before) out.add(name);
    else out.delete(name);
  }
  return [...out];
}

/** What kind of edit it is, for telling which kinds end in conflicts. */
function kindOf({ steps }: Edit): string {
  const said = JSON.stringify(steps);
  if (/"table/.test(said)) return 'table';
  if (/"(list_item|check_item|quote)/.test(said) || /replaceAround/.test(said)) return 'list or quote';
  if (/addMark|removeMark|"attr"/.test(said)) return 'form';
  return /"(paragraph|heading)"/.test(said) ? 'paragraphs' : 'text';
}

eachKind('undo by instance', (hand) => {
  for (const structure of [false, true]) {
    it(`leaves exactly what the set did not bring, ${structure ? 'with structure' : 'of what is in it'}`, () => {
      const shares = new Map<string, { conflicts: number; all: number }>();
      let [conflicts, all] = [0, 0];
      fc.assert(
        fc.property(fc.integer(), (seed) => {
          const random = new Random(seed);
          const history = writeHistory(random, random.between(8, 24), { hand, structure });
          const undone = new Set(
            Array.from({ length: random.between(1, 3) }, () =>
              random.between(1, history.edits.length),
            ).filter((seq) => !history.spent.has(seq)),
          );
          const now = history.docs.at(-1) as Node;
          const undo = undoEdits(now, history.provenance, undone, tokensOfEdits(history.edits, hand.kind));
          all++;
          if (undo.kind === 'conflict') conflicts++;
          if (undone.size === 1) {
            const kind = kindOf(history.edits[([...undone][0] as number) - 1] as Edit);
            const share = shares.get(kind) ?? { conflicts: 0, all: 0 };
            const conflict = undo.kind === 'conflict' ? 1 : 0;
            shares.set(kind, { conflicts: share.conflicts + conflict, all: share.all + 1 });
          }
          if (undo.kind === 'conflict') return;
          const result = undo.kind === 'steps' ? applySteps(now, undo.steps) : now;
          result.check();
          const replayed = replay(history);
          const alive = replayed.filter(({ died }) => died === 0);
          const present = new Map(tokensOf(now.content).map((token, i) => [alive[i], marksOf(token)]));
          const units = tokensOf(result.content).filter((token) => token.kind === 'unit');
          const wanted = expected(replayed, undone, (token) =>
            withoutChanges(token, undone, present.get(token) ?? []),
          );
          expect(units.map(unitOf)).toEqual(wanted.map(({ unit }) => unit));
          const stayed = expected(replayed, undone, (token) => (token.died === 0 ? ['stays'] : []));
          units.forEach((token, i) => {
            if (stayed[i]?.marks.length) expect(marksOf(token).sort()).toEqual(wanted[i]?.marks ?? []);
          });
        }),
        { numRuns: 1000 * FUZZ },
      );
      const said = [...shares].map(([kind, one]) => `${kind} ${one.conflicts} of ${one.all}`).join(', ');
      console.log(
        `Undos in conflict, ${hand.kind.name}${structure ? ' with structure' : ''}: ${conflicts} of ${all}; single edits: ${said}`,
      );
      expect(conflicts / all).toBeLessThanOrEqual(structure || hand.kind.name !== 'text' ? 0.1 : 0);
    });
  }
});

describe('undo by instance', () => {
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

  it('leaves no words without a paragraph: those of others in one that would vanish keep it', () => {
    const { now, undo } = play(
      (tr) => tr.insert(0, schema.node('heading', { level: 2 }, [schema.text('new')])),
      (tr) => tr.insert(2, schema.text('NEVER')),
    );
    const back = undo(1);
    const result = back.kind === 'steps' ? applySteps(now, back.steps) : now;
    expect(result.eq(doc(h(2, 'NEVER'), p('The mill stands where the creek meets the marsh.')))).toBe(true);
  });

  it('leaves a table, without what the set wrote in it, when somebody else wrote there too', () => {
    const { now, undo } = play(
      (tr) => tr.insert(0, table(trow(td(p('new')), td(p('old'))))),
      (tr) => tr.insert(4, schema.text('NEVER')),
    );
    const back = undo(1);
    const result = back.kind === 'steps' ? applySteps(now, back.steps) : now;
    expect(result.child(0).eq(table(trow(td(p('NEVER')), td(p()))))).toBe(true);
  });

  it('has nothing to do when what was written is gone already', () => {
    const { undo } = play(
      (tr) => tr.insert(1, schema.text('x')),
      (tr) => tr.delete(1, 2),
    );
    expect(undo(1).kind).toBe('nothing');
  });

  it('puts back each of many quotes by itself, so that what others wrote between stays', () => {
    const base = doc(...Array.from({ length: 60 }, (_, i) => quote(p(`the creek fills from the west ${i}`))));
    const tr = new Transform(base);
    const starts: number[] = [];
    base.forEach((_node, offset) => starts.push(offset));
    for (const start of starts.reverse()) {
      const range = tr.doc.resolve(start + 2).blockRange();
      if (range) tr.lift(range, 0);
    }
    const provenance = startProvenance(0, base);
    const after = appendEdit(provenance, base, { seq: 1, steps: tr.steps, sources: [] });
    const asked: number[] = [];
    const undo = undoEdits(after, provenance, new Set([1]), (seq) => {
      asked.push(seq);
      return tokensOf(base.content);
    });
    if (undo.kind !== 'steps') throw new Error(undo.kind);
    expect(undo.steps.length).toBe(60);
    expect(applySteps(after, undo.steps).eq(base)).toBe(true);
    expect(asked).withContext('what an edit inserted is read once').toEqual([0]);
  });
});
