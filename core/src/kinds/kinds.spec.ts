import * as fc from 'fast-check';
import type { Node, NodeSpec } from 'prosemirror-model';
import { Schema } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import { assemble, compare } from '../compare/index.js';
import { Blanking, passageAt } from '../erasing/index.js';
import { finished, plainText, proseOf, readDocument, tellDocument } from '../content/index.js';
import type { Traits } from '../content/index.js';
import { appendEdit, applySteps, startProvenance, undoEdits } from '../history/index.js';
import { Letters, Tape, lifeOf, removedPassages } from '../past/index.js';
import { FUZZ } from '../testing/budget.js';
import { eachKind } from '../testing/hands.js';
import { Random } from '../testing/random.js';
import type { Hand } from '../testing/writers.js';
import { tokensOfEdits, writeHistory } from '../testing/writers.js';
import type { Kind } from './index.js';
import { KINDS, kindNamed, kindOf, readAnyDocument } from './index.js';

/** A kind as docs/kinds.md makes one: songs of verses and lines, with a sign for a rest in a line. */
const song: Kind = {
  name: 'song',
  schema: new Schema({
    topNode: 'song',
    nodes: {
      song: { content: 'verse+' },
      verse: { content: 'line+', toDOM: () => ['section', 0] },
      line: { content: '(text | rest)*', role: 'prose', toDOM: () => ['p', 0] } satisfies NodeSpec & Traits,
      rest: { inline: true, plain: () => '~', toDOM: () => ['hr'] } satisfies NodeSpec & Traits,
      text: {},
    },
  }),
  version: 1,
  blank: () => song.schema.node('song', null, [song.schema.node('verse', null, [song.schema.node('line')])]),
};

/** Sings it: letters come and go, lines and verses too. */
const singer: Hand = {
  kind: song,
  act: (random, doc, fresh, structure) => {
    const { schema } = song;
    const lines: { node: Node; at: number }[] = [];
    doc.descendants((node, at) => {
      if (node.isTextblock) lines.push({ node, at });
      return !node.isTextblock;
    });
    const { node, at } = random.pick(lines);
    const [from, to] = [at + 1 + random.between(0, node.content.size), at + 1 + node.content.size];
    const line = (): Node => schema.node('line', null, [schema.text(fresh(3)), schema.node('rest')]);
    const tr = new Transform(doc);
    if (structure && random.chance(0.2)) tr.insert(at + node.nodeSize, line());
    else if (structure && random.chance(0.1))
      tr.insert(doc.content.size, schema.node('verse', null, [line()]));
    else if (from < to && random.chance(0.3)) tr.delete(from, Math.min(to, from + 2));
    else tr.insert(from, schema.text(fresh(random.between(1, 4))));
    return tr;
  },
};

describe('a kind that is new', () => {
  it('has a history that is credited, looked back at, compared, undone and erased, with nothing said of it elsewhere', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const { edits, docs, provenance, wrote } = writeHistory(random, 30, { hand: singer });
        const [earlier, later] = [random.pick(docs), docs.at(-1) as Node];
        const comparison = compare(earlier, later);
        expect(assemble(comparison, () => 'later').eq(later)).toBeTrue();
        expect(assemble(comparison, () => 'earlier').eq(earlier)).toBeTrue();
        const letters = Letters.starting(song.blank());
        for (const { steps } of edits) letters.append(steps);
        const tape = new Tape(provenance.runs, letters);
        const makers = (seq: number) => ({ author: edits[seq - 1]?.author ?? '', at: seq });
        for (const { text, writers } of removedPassages(tape, makers, '', 1))
          for (const sign of text) if (wrote.has(sign)) expect(writers).toContain(wrote.get(sign) ?? '');
        const place = firstLetter(later);
        if (place > 0)
          expect(lifeOf(tape, tape.at(place, tape.now).atom, tape.now).at(-1)?.text).toContain(
            later.textBetween(place, place + 1),
          );
        const undo = undoEdits(later, provenance, new Set([30]), tokensOfEdits(edits, song));
        if (undo.kind === 'steps') applySteps(later, undo.steps).check();
        const set = passageAt(provenance.runs, 30, 0, later.content.size);
        const blanking = new Blanking(set, song.blank(), startProvenance(0, song.blank()));
        for (const edit of edits) finished(blanking.take(edit));
        for (const sign of blanking.doc.textContent) expect(wrote.has(sign)).toBeFalse();
      }),
      { numRuns: 100 * FUZZ },
    );
  });

  it('is told in plain text by its traits', () => {
    const { schema } = song;
    const line = schema.node('line', null, [schema.text('low'), schema.node('rest'), schema.text('tide')]);
    expect(plainText(schema.node('song', null, [schema.node('verse', null, [line, line])]))).toBe(
      'low~tide\nlow~tide',
    );
    expect(proseOf(schema).name).toBe('line');
  });

  it('is not known before it is in the list of kinds', () => {
    expect(() => kindNamed('song')).toThrowError(RangeError);
    expect(() => kindOf(song.blank())).toThrowError(RangeError);
    expect(() => finished(readAnyDocument(JSON.stringify(song.blank().toJSON())))).toThrowError(RangeError);
  });
});

/** Where the first letter of a document stands, or 0. */
function firstLetter(doc: Node): number {
  let found = 0;
  doc.descendants((node, at) => {
    if (found === 0 && node.isText) found = at;
  });
  return found;
}

eachKind('every kind', (hand) => {
  const { kind } = hand;

  it('begins with a valid document, always the same one', () => {
    kind.blank().check();
    expect(kind.blank().eq(kind.blank())).toBeTrue();
    expect(startProvenance(0, kind.blank()).runs.alive).toBe(kind.blank().content.size);
    expect(kindNamed(kind.name) === kind).toBeTrue();
  });

  it('is told by a document, and by its JSON', () => {
    for (const doc of writeHistory(new Random(3), 12, { hand }).docs) {
      expect(kindOf(doc) === kind).toBeTrue();
      const json = finished(tellDocument(doc));
      expect(finished(readAnyDocument(json)).eq(doc)).toBeTrue();
      expect(finished(readDocument(kind.schema, json)).eq(doc)).toBeTrue();
    }
  });

  it('is written in so that a log replays to what was there', () => {
    const { edits, docs } = writeHistory(new Random(4), 60, { hand });
    let doc = kind.blank();
    const provenance = startProvenance(0, doc);
    for (const edit of edits) doc = appendEdit(provenance, doc, edit);
    expect(doc.eq(docs.at(-1) as Node)).toBeTrue();
    expect(edits.every(({ schema }) => schema === kind.version)).toBeTrue();
  });
});

describe('the kinds', () => {
  it('have names and outermost nodes of their own', () => {
    expect(new Set(KINDS.map(({ name }) => name)).size).toBe(KINDS.length);
    expect(new Set(KINDS.map(({ schema }) => schema.topNodeType.name)).size).toBe(KINDS.length);
  });
});
