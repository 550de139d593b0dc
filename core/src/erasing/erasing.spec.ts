import * as fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { Step, Transform } from 'prosemirror-transform';
import { ERASED_IMAGE, FILLER, finished, insertedTokens, segments, wordCount } from '../content/index.js';
import { blankDocument, textSchema as schema } from '../kinds/text/index.js';
import { appendEdit, encodeProvenance, provenanceAt, startProvenance, undoEdits } from '../history/index.js';
import type { Edit, Provenance } from '../history/index.js';
import { doc, p } from '../testing/build.js';
import { FUZZ } from '../testing/budget.js';
import { eachKind } from '../testing/hands.js';
import { Random } from '../testing/random.js';
import type { Hand, History } from '../testing/writers.js';
import { tokensOfEdits, writeHistory } from '../testing/writers.js';
import { Blanking } from './blanking.js';
import { Instances } from './instances.js';
import { passageAt, sharing, unseenAt } from './reach.js';

interface Erased {
  readonly edits: Edit[];
  readonly docs: Node[];
  readonly provenance: Provenance;
}

/** A history after erasing a set of its instances, begun where it was first written or from the very beginning. */
function erased(history: Pick<History, 'edits' | 'docs' | 'provenance'>, set: Instances, from = 1): Erased {
  const start = from - 1;
  const blanking = new Blanking(set, history.docs[start] as Node, provenanceAt(history.provenance, start));
  const edits = history.edits.slice(0, start);
  const docs = history.docs.slice(0, from);
  for (const edit of history.edits.slice(start)) {
    const { steps } = finished(blanking.take(edit));
    edits.push({ ...edit, steps });
    docs.push(blanking.doc);
  }
  return { edits, docs, provenance: blanking.provenance };
}

/** A passage of some moment of a history. */
function somePassage(random: Random, { docs, edits, provenance }: History): Instances {
  const moment = random.between(1, edits.length);
  const { size } = (docs[moment] as Node).content;
  const from = random.between(0, size - 1);
  return passageAt(provenance.runs, moment, from, Math.min(size, from + random.between(1, 30)));
}

/** The letters of a set of instances. Every letter of these histories is written once, so that it tells where it is from. */
function lettersOf(hand: Hand, { edits }: Pick<History, 'edits'>, set: Instances): Set<string> {
  const tokens = tokensOfEdits(edits, hand.kind);
  return new Set(
    set.ranges().flatMap(({ seq, offset, length }) =>
      tokens(seq)
        .slice(offset, offset + length)
        .flatMap((token) => (token.kind === 'unit' ? [token.unit] : [])),
    ),
  );
}

const without = (text: string, letters: ReadonlySet<string>): string =>
  [...text].map((sign) => (letters.has(sign) ? FILLER : sign)).join('');
const json = (edits: readonly Edit[]): string =>
  JSON.stringify(edits.map(({ steps }) => steps.map((step) => step.toJSON() as unknown)));

eachKind('erasing', (hand) => {
  it('leaves every moment as long, and every letter but what was erased, wherever that came back', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const history = writeHistory(random, 40, { hand, leaves: true });
        const set = sharing(history.provenance.runs, somePassage(random, history));
        const letters = lettersOf(hand, history, set);
        const after = erased(history, set);
        expect(after.docs.length).toBe(history.docs.length);
        for (const [moment, was] of history.docs.entries()) {
          const is = after.docs[moment] as Node;
          is.check();
          expect(is.content.size).toBe(was.content.size);
          expect(is.textContent).toBe(without(was.textContent, letters));
          expect(is.childCount).toBe(was.childCount);
        }
        expect(lettersOf(hand, { ...history, ...after }, set).size).toBeLessThanOrEqual(1);
      }),
      { numRuns: 1000 * FUZZ },
    );
  });

  it('moves nothing: who wrote and removed what, undoing and figures of others stand as they stood', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const history = writeHistory(random, 30, { hand });
        const set = sharing(history.provenance.runs, somePassage(random, history));
        const after = erased(history, set);
        expect(after.provenance.runs.encode()).toEqual(history.provenance.runs.encode());
        expect(after.provenance.hands).toEqual(history.provenance.hands);
        const undone = new Set([random.between(1, 30), random.between(1, 30)]);
        const [was, is] = [history, after].map(({ docs, provenance, edits }) =>
          undoEdits(docs.at(-1) as Node, provenance, undone, tokensOfEdits(edits, hand.kind)),
        );
        expect(is?.kind).toBe(was?.kind);
        if (was?.kind === 'steps' && is?.kind === 'steps') {
          expect(is.sources).toEqual(was.sources);
          expect(is.steps.map((step) => step.getMap())).toEqual(was.steps.map((step) => step.getMap()));
        }
      }),
      { numRuns: 400 * FUZZ },
    );
  });

  it('is the same from where it was first written on, and done twice', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const history = writeHistory(random, 30, { hand });
        const set = sharing(history.provenance.runs, somePassage(random, history));
        const first = Math.max(1, set.seqs.find((seq) => seq > 0) ?? 1);
        const after = erased(history, set);
        const later = erased(history, set, first);
        expect(json(later.edits)).toBe(json(after.edits));
        expect(later.docs.at(-1)?.eq(after.docs.at(-1) as Node)).toBeTrue();
        expect(json(erased(after, set).edits)).toBe(json(after.edits));
      }),
      { numRuns: 200 * FUZZ },
    );
  });

  it('leaves the same behind whatever stood there', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const history = writeHistory(random, 30, { hand });
        const set = sharing(history.provenance.runs, somePassage(random, history));
        const letters = lettersOf(hand, history, set);
        const other = [...letters].reduce(
          (text, sign, i) => text.replaceAll(sign, String.fromCharCode(0xac00 + i)),
          json(history.edits),
        );
        const steps = JSON.parse(other) as unknown[][];
        const provenance = startProvenance(0, hand.kind.blank());
        const docs = [hand.kind.blank()];
        const edits = history.edits.map((edit, i): Edit => {
          const told = (steps[i] ?? []).map((step) => Step.fromJSON(hand.kind.schema, step));
          docs.push(appendEdit(provenance, docs.at(-1) as Node, { ...edit, steps: told }));
          return { ...edit, steps: told };
        });
        expect(json(erased({ edits, docs, provenance }, set).edits)).toBe(json(erased(history, set).edits));
      }),
      { numRuns: 200 * FUZZ },
    );
  });

  it('of what no kept moment shows leaves kept moments whole, and nothing of the rest', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const history = writeHistory(random, 40, { hand, undo: false });
        const moments = [10, 25, 40];
        const set = unseenAt(history.provenance.runs, moments);
        const after = erased(history, set);
        const kept = new Set(moments.flatMap((moment) => [...(history.docs[moment] as Node).textContent]));
        for (const moment of moments)
          expect((after.docs[moment] as Node).eq(history.docs[moment] as Node)).toBeTrue();
        for (const { textContent } of after.docs)
          for (const sign of textContent) if (sign !== FILLER) expect(kept.has(sign)).toBeTrue();
      }),
      { numRuns: 300 * FUZZ },
    );
  });
});

describe('erasing text', () => {
  const play = (...acts: ((tr: Transform) => void)[]): History => {
    const provenance = startProvenance(0, blankDocument());
    const docs = [blankDocument()];
    const edits = acts.map((act, i): Edit => {
      const tr = new Transform(docs.at(-1) as Node);
      act(tr);
      const seq = i + 1;
      const edit: Edit = {
        seq,
        author: 'ines',
        acceptedAt: seq,
        writtenAt: seq,
        client: 'c',
        counter: seq,
        schema: 2,
        steps: tr.steps,
        sources: [],
        cause: { kind: 'writing' },
      };
      docs.push(appendEdit(provenance, docs.at(-1) as Node, edit));
      return edit;
    });
    return { edits, docs, provenance, wrote: new Map(), conflicts: 0, spent: new Set() };
  };

  it('takes what was typed and corrected inside a passage along, and nothing beside it', () => {
    const history = play(
      (tr) => tr.insert(1, schema.text('Pay 4411 now')),
      (tr) => tr.delete(6, 8),
      (tr) => tr.insert(6, schema.text('99')),
      (tr) => tr.insert(1, schema.text('X')),
    );
    expect((history.docs[3] as Node).textContent).toBe('Pay 4991 now');
    const after = erased(
      history,
      sharing(history.provenance.runs, passageAt(history.provenance.runs, 3, 5, 9)),
    );
    expect(after.docs.map(({ textContent }) => textContent.replaceAll(FILLER, '_'))).toEqual([
      '',
      'Pay ____ now',
      'Pay __ now',
      'Pay ____ now',
      'XPay ____ now',
    ]);
  });

  it('forgets addresses of links, words of images and pages, and what only set their form', () => {
    const link = (href: string) => schema.mark('link', { href });
    const image = schema.node('image', { hash: 'a'.repeat(64), alt: 'the card', caption: 'Card' });
    const history = play(
      (tr) =>
        tr.insert(1, [schema.text('Card '), schema.text('here', [link('https://a.example/4411')]), image]),
      (tr) => tr.addMark(1, 6, link('https://b.example/4411')),
      (tr) => tr.setNodeAttribute(10, 'alt', 'number 4411'),
      (tr) => tr.setNodeAttribute(10, 'width', 40),
      (tr) => tr.removeMark(1, 3, schema.marks.link),
      (tr) => tr.addMark(1, 4, schema.mark('bold')),
    );
    const { runs } = history.provenance;
    const after = erased(history, sharing(runs, passageAt(runs, 6, 2, 11)));
    expect(json(after.edits)).not.toMatch(/4411|card|Card|a{64}|example/);
    const last = after.docs.at(-1) as Node;
    expect(last.textContent).toBe(`C${FILLER.repeat(8)}`);
    expect(last.nodeAt(10)?.attrs).toEqual({
      hash: ERASED_IMAGE,
      alt: '',
      caption: '',
      width: 40,
      place: 'line',
    });
    expect(last.nodeAt(1)?.marks.map(({ type }) => type.name)).toEqual(['bold']);
    expect(
      encodeProvenance(after.provenance)
        .forms.map((form) => JSON.stringify(form))
        .join(),
    ).not.toMatch(/4411/);
  });

  it('counts as many letters, and fewer words', () => {
    const history = play((tr) => tr.insert(1, schema.text('one two three')));
    const after = erased(history, Instances.of([{ seq: 1, offset: 4, length: 3 }]));
    expect(insertedTokens(after.edits[0]?.steps ?? []).length).toBe(13);
    expect(after.docs[1]?.eq(doc(p(`one ${FILLER.repeat(3)} three`)))).toBeTrue();
    expect(wordCount(after.docs[1] as Node)).toBe(2);
    expect(segments(`one${FILLER.repeat(3)} three`)).toEqual(['one', FILLER.repeat(3), ' ', 'three']);
  });
});
