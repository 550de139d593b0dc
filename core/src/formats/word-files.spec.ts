import * as fc from 'fast-check';
import { Fragment } from 'prosemirror-model';
import type { Node } from 'prosemirror-model';
import type { Comparison } from '../compare/index.js';
import { compare } from '../compare/index.js';
import { childrenOf } from '../content/index.js';
import { USUAL_PAPER, paperOf } from '../kinds/text/index.js';
import type { Paper } from '../kinds/text/index.js';
import { PICTURES, anything } from '../testing/anything.js';
import { FUZZ } from '../testing/budget.js';
import {
  bold,
  doc,
  footnote,
  h,
  li,
  p,
  paper as pageSetup,
  sign,
  table,
  td,
  tr,
  ul,
} from '../testing/build.js';
import { document, revised } from '../testing/documents.js';
import { Random } from '../testing/random.js';
import { readDocx } from './docx/read.js';
import { writeDocx, writeDocxRedline } from './docx/write.js';
import { readOdt } from './odt/read.js';
import { writeOdt, writeOdtRedline } from './odt/write.js';
import type { Reading } from './reading.js';
import { slotsOf, widthsOf } from './table.js';
import type { Hands, WriteOptions } from './writing.js';

const options: WriteOptions = {
  title: 'Guide <1> & more',
  author: 'Ines Okell',
  at: '2026-11-24T09:30:00.000Z',
  picture: (hash) => PICTURES.find((picture) => picture.hash === hash) ?? null,
};

/** Every change by somebody of its own, at a time of its own. */
const hands: Hands = (change, _side, from, to) => [
  { author: `Hand ${change}`, at: `2026-11-24T09:${String(change % 60).padStart(2, '0')}:00.000Z`, from, to },
];

interface WordFile {
  readonly name: string;
  /** What of the page's set-up a redline tells of the earlier text. */
  readonly setUp: readonly (keyof Paper)[];
  read(bytes: Uint8Array): Reading;
  write(doc: Node): Uint8Array;
  redline(comparison: Comparison): Uint8Array;
}

const FILES: readonly WordFile[] = [
  {
    name: 'docx',
    read: readDocx,
    setUp: ['size', 'landscape', 'top', 'right', 'bottom', 'left'],
    write: (doc: Node) => writeDocx(doc, options),
    redline: (comparison) => writeDocxRedline(comparison, hands, options),
  },
  {
    name: 'odt',
    read: readOdt,
    setUp: [],
    write: (doc: Node) => writeOdt(doc, options),
    redline: (comparison) => writeOdtRedline(comparison, hands, options),
  },
];

/** Two documents of which the second is a revision of the first, or of anything at all. */
function pair(random: Random): [Node, Node] {
  const earlier = random.chance(0.5) ? anything(random, 6) : document(random, random.between(1, 9));
  const later = random.chance(0.2) ? anything(random, 6) : revised(random, earlier, random.between(1, 8));
  return [levelled(inOrder(earlier)), levelled(inOrder(later))];
}

/** A document with its set-up first and its footnotes last, each with a sign, as files hold them. */
function inOrder(node: Node): Node {
  const notes = new Map<string, Node>();
  const signs = new Set<string>();
  node.descendants((one) => {
    if (one.type.name === 'footnote') notes.set(String(one.attrs['note']), one);
    if (one.type.name === 'footnote_mark') signs.add(String(one.attrs['note']));
  });
  const kept = (one: Node): Node[] => {
    if (one.type.name === 'footnote' || one.type.name === 'page_setup') return [];
    if (one.type.name === 'footnote_mark' && !notes.has(String(one.attrs['note']))) return [];
    if (one.isLeaf) return [one];
    const inside = childrenOf(one).flatMap(kept);
    return [one.copy(Fragment.fromArray(inside.length > 0 || one.isTextblock ? inside : [p()]))];
  };
  const body = childrenOf(node).flatMap(kept);
  const set = childrenOf(node).filter(({ type }) => type.name === 'page_setup');
  return node.copy(
    Fragment.fromArray([
      ...set.slice(0, 1),
      ...(body.length > 0 ? body : [p()]),
      ...[...signs].flatMap((name) => notes.get(name) ?? []),
    ]),
  );
}

/** What of a document's set-up a file tells of its earlier text: headers and footers, and in ODF all of it, are not tracked. */
function setUpAs(earlier: Node, later: Node, tracked: readonly (keyof Paper)[]): Node {
  const own = paperOf(earlier);
  const paper = { ...paperOf(later), ...Object.fromEntries(tracked.map((name) => [name, own[name]])) };
  const usual = JSON.stringify(paper) === JSON.stringify(USUAL_PAPER);
  const blocks = childrenOf(earlier).filter(({ type }) => type.name !== 'page_setup');
  return doc(...(usual ? [] : [pageSetup(paper)]), ...blocks);
}

/** A document in which the cells of a column are equally wide, since files give columns their widths. */
function levelled(node: Node): Node {
  if (node.isTextblock || node.isAtom) return node;
  const slots = node.type.name === 'table' ? slotsOf(node) : [];
  const widths = widthsOf(slots);
  const kids = childrenOf(node).map((row, i) => {
    if (node.type.name !== 'table') return levelled(row);
    let column = 0;
    const cells = (slots[i] ?? []).flatMap(({ cell, goesOn }) => {
      const own = widths.slice(column, column + Number(cell.attrs['colspan']));
      column += Number(cell.attrs['colspan']);
      const attrs = { ...cell.attrs, colwidth: own.some((width) => width > 0) ? own : null };
      return goesOn ? [] : [cell.type.create(attrs, childrenOf(cell).map(levelled))];
    });
    return row.type.create(row.attrs, cells);
  });
  return node.type.create(node.attrs, kids);
}

for (const { name, read, write, redline, setUp } of FILES)
  describe(`a document as .${name}`, () => {
    it('comes back as it was, whatever it holds', () => {
      fc.assert(
        fc.property(fc.integer(), (seed) => {
          const before = anything(new Random(seed), 8);
          const { doc, before: rejected, leftOut, tracked } = read(write(before));
          expect(doc.toJSON()).toEqual(before.toJSON());
          expect([rejected, leftOut, tracked]).toEqual([null, [], []]);
        }),
        { numRuns: 500 * FUZZ },
      );
    });

    it('is a redline whose changes give the later text when accepted and the earlier when rejected', () => {
      fc.assert(
        fc.property(fc.integer(), (seed) => {
          const [earlier, later] = pair(new Random(seed));
          const reading = read(redline(compare(earlier, later)));
          expect(reading.doc.toJSON()).toEqual(later.toJSON());
          const before = setUpAs(earlier, later, setUp);
          expect((reading.before ?? reading.doc).toJSON()).toEqual(before.toJSON());
        }),
        { numRuns: 150 * FUZZ },
      );
    });

    it('carries its title, its author, its images and who made each change', () => {
      const earlier = doc(h(1, 'Race'), p('The gate opens at the ebb.'));
      const later = doc(h(1, 'Race'), p('The gate closes at the ebb.'));
      const { title, author, tracked } = read(redline(compare(earlier, later)));
      expect([title, author]).toEqual([options.title, options.author]);
      const told = tracked.map(({ kind, text, author, at }) => `${kind} ${text.trim()} ${author} ${at}`);
      expect(told.sort()).toEqual([
        'deletion opens Hand 0 2026-11-24T09:00:00.000Z',
        'insertion closes Hand 0 2026-11-24T09:00:00.000Z',
      ]);
      const shown = doc(
        p(anything(new Random(1), 1).type.schema.node('image', { hash: PICTURES[0]?.hash, alt: 'wheel' })),
      );
      expect(read(write(shown)).pictures).toEqual(PICTURES.slice(0, 1));
    });

    it('has footnotes of its own kind, tracked where they changed, and keeps one without a sign as it is', () => {
      const noted = (text: string, ...more: string[]): Node =>
        doc(
          p('The gate', sign('gate'), ' shuts', ...(more.length > 0 ? [sign('late')] : []), '.'),
          footnote('gate', text),
          ...more.map((one) => footnote('late', one)),
        );
      const [earlier, later] = [noted('Of oak.'), noted('Of green oak.', 'At the ebb.')];
      const { doc: accepted, before, tracked } = read(redline(compare(earlier, later)));
      expect([accepted.toJSON(), before?.toJSON()]).toEqual([later.toJSON(), earlier.toJSON()]);
      expect(tracked.map(({ text }) => text.trim()).join(' ')).toContain('green');
      const without = doc(p('a'), footnote('lost', 'Nobody points here.'));
      expect(read(write(without)).doc.toJSON()).toEqual(without.toJSON());
      const bare = doc(p('a', sign('bare')));
      expect(read(write(bare)).doc.toJSON()).toEqual(bare.toJSON());
    });

    it('has the paper, the margins, and the header and footer with page numbers', () => {
      const set = pageSetup({ size: 'letter', top: 30, header: 'The mill', footer: '\t{page} of {pages}' });
      const before = doc(set, p('a'));
      expect(read(write(before)).doc.toJSON()).toEqual(before.toJSON());
      const usual = doc(pageSetup(), p('a'));
      expect(read(write(usual)).doc.toJSON()).toEqual(doc(p('a')).toJSON());
    });

    it('tells a change of form, of a row and of a paragraph as one', () => {
      const row = (text: string): Node => tr(td(p(text)));
      const cases: readonly [Node, Node][] = [
        [doc(p('so bold')), doc(p('so ', bold('bold')))],
        [doc(table(row('a'), row('c'))), doc(table(row('a'), row('b'), row('c')))],
        [
          doc(p('The wheel turns. The gates are shut.')),
          doc(p('The wheel turns.'), p('The gates are shut.')),
        ],
        [doc(ul(li(p('rope')))), doc(ul(li(p('rope')), li(p('oars'))))],
        [doc(p('one'), p('two')), doc(p('one'))],
        [doc(p('one')), doc(h(2, 'one'))],
      ];
      for (const [earlier, later] of cases) {
        const { tracked } = read(redline(compare(earlier, later)));
        expect(tracked.length).toBeGreaterThan(0);
        expect(new Set(tracked.map(({ author }) => author))).toEqual(new Set(['Hand 0']));
      }
    });

    it('gives the same bytes for the same document', () => {
      const before = anything(new Random(7), 6);
      expect(write(before)).toEqual(write(before));
    });
  });
