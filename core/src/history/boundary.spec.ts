import * as fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { Slice } from 'prosemirror-model';
import { ReplaceStep } from 'prosemirror-transform';
import { FUZZ } from '../testing/budget.js';
import { eachKind } from '../testing/hands.js';
import type { Hand } from '../testing/writers.js';
import { Random } from '../testing/random.js';
import type { History } from '../testing/writers.js';
import { tokensOfEdits, writeHistory } from '../testing/writers.js';
import { Boundary } from './boundary.js';
import type { Cause, Edit, Source } from './edit.js';
import { appendEdit, cloneProvenance, startProvenance } from './provenance.js';
import type { Provenance } from './provenance.js';
import { earnedFrom } from './quotes.js';

const ID = 'guide';

/** A history, and where it begins for somebody. */
interface From {
  readonly history: History;
  readonly first: number;
}

const boundaryOf = ({ history, first }: From): Boundary =>
  new Boundary(ID, first, history.provenance.runs.at(first));

/** A history that came another way to what one is at a moment, and goes on from there as it does. */
function another(hand: Hand, random: Random, { history, first }: From): From {
  const before = writeHistory(random, random.between(1, 12), { hand });
  const [docs, edits] = [[...before.docs], [...before.edits]];
  const provenance = cloneProvenance(before.provenance);
  const put = (steps: Edit['steps'], sources: readonly Source[], like: Edit | undefined): void => {
    const seq = edits.length + 1;
    const edit: Edit = {
      ...(like ?? (edits[0] as Edit)),
      seq,
      steps,
      sources: earnedFrom(
        { seq, steps, sources: [...sources] },
        provenance.runs,
        tokensOfEdits(edits, hand.kind),
      ),
    };
    docs.push(appendEdit(provenance, docs.at(-1) as Node, edit));
    edits.push(edit);
  };
  const now = docs.at(-1) as Node;
  const target = history.docs[first] as Node;
  put([new ReplaceStep(0, now.content.size, new Slice(target.content, 0, 0))], [], undefined);
  const start = edits.length;
  const boundary = boundaryOf({ history, first });
  const placed = provenance.runs.at(start);
  for (const edit of history.edits.slice(first)) {
    const sources = boundary.sources(edit.sources).flatMap((source): Source[] => {
      if (source.seq > 0) return [{ ...source, seq: source.seq + start }];
      return placed.between(source.offset, source.offset + source.length).map((run) => ({
        ...source,
        at: source.at + run.from - source.offset,
        seq: run.seq,
        offset: run.offset,
        length: run.length,
      }));
    });
    put(edit.steps, sources, edit);
  }
  return { history: { ...history, docs, edits, provenance }, first: start };
}

/** What is told of a history's edits. */
function told(from: From): { seq: number; sources: Source[]; cause: Cause }[] {
  const boundary = boundaryOf(from);
  return from.history.edits.slice(from.first).map(({ seq, sources, cause }) => ({
    seq: seq - from.first,
    sources: boundary.sources(sources),
    cause: boundary.cause(cause),
  }));
}

/** The provenance of what is told, from where it begins. */
function provenanceOf(from: From): Provenance {
  const { history, first } = from;
  let doc = history.docs[first] as Node;
  const provenance = startProvenance(0, doc);
  told(from).forEach(({ seq, sources }, i) => {
    doc = appendEdit(provenance, doc, { seq, sources, steps: (history.edits[first + i] as Edit).steps });
  });
  return provenance;
}

eachKind('a history from a moment on', (hand) => {
  // Non-interference after Goguen and Meseguer (1982): what may not be known makes no difference.
  it('is told alike, whatever was before', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const history = writeHistory(random, 30, { hand });
        const one: From = { history, first: random.between(3, 22) };
        const other = another(hand, new Random(seed + 1), one);
        expect(told(other)).toEqual(told(one));
        expect([...provenanceOf(other).runs.all()]).toEqual([...provenanceOf(one).runs.all()]);
      }),
      { numRuns: 300 * FUZZ },
    );
  });

  it('credits whoever wrote since, and for what stood before nobody', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const history = writeHistory(random, 25, { hand, structure: false });
        const from: From = { history, first: random.between(3, 20) };
        const { runs } = provenanceOf(from);
        const present = history.docs.at(-1) as Node;
        expect(runs.alive).toBe(present.content.size);
        for (const run of runs.at(runs.seq).between(0, present.content.size)) {
          const text = present.textBetween(run.from, run.to);
          for (const letter of text) {
            const inBeginning = (history.docs[from.first] as Node).textContent.includes(letter);
            const author =
              run.origin.seq === 0 ? null : history.edits[from.first + run.origin.seq - 1]?.author;
            if (inBeginning && run.origin.seq === 0) continue;
            expect(author).toBeDefined();
            if (run.seq === run.origin.seq) expect(author).not.toBeNull();
          }
        }
      }),
      { numRuns: 100 * FUZZ },
    );
  });

  it('says why edits were made without a word of what was before', () => {
    const boundary = new Boundary(
      ID,
      10,
      startProvenance(0, writeHistory(new Random(1), 1, { hand }).docs[0] as Node).runs.at(0),
    );
    const plain = { kind: 'writing' } as const;
    const cases: [Cause, Cause][] = [
      [
        { kind: 'undo', of: [8, 12] },
        { kind: 'undo', of: [2] },
      ],
      [{ kind: 'redo', of: [10] }, plain],
      [{ kind: 'takeBack', of: [], change: { earlier: 9, later: 12 } }, plain],
      [
        { kind: 'takeBack', of: [9, 11], change: { earlier: 10, later: 12 } },
        { kind: 'takeBack', of: [1], change: { earlier: 0, later: 2 } },
      ],
      [{ kind: 'carry', moment: 9 }, plain],
      [
        { kind: 'carry', moment: 10 },
        { kind: 'carry', moment: 0 },
      ],
      [{ kind: 'restore', moment: 4, number: 2 }, plain],
      [
        { kind: 'restore', moment: 14, number: 7 },
        { kind: 'restore', moment: 4 },
      ],
      [{ kind: 'assembly', document: ID, other: ID, title: '', earlier: 3, later: 12 }, plain],
      [
        { kind: 'assembly', document: ID, other: 'else', title: 'Else', earlier: 3, later: 12 },
        { kind: 'assembly', document: ID, other: 'else', title: 'Else', earlier: 3, later: 2 },
      ],
      [
        { kind: 'title', before: 'One', after: 'Two' },
        { kind: 'title', before: 'One', after: 'Two' },
      ],
    ];
    for (const [cause, expected] of cases) expect(boundary.cause(cause)).toEqual(expected);
  });
});
