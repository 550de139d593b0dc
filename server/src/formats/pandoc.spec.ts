import type { Comparison } from '@oxbow/core/compare';
import { compare } from '@oxbow/core/compare';
import { childrenOf } from '@oxbow/core/content';
import { textSchema as schema } from '@oxbow/core/kinds/text';
import {
  NO_IMAGES,
  readDocx,
  readOdt,
  writeDocx,
  writeDocxRedline,
  writeMarkdown,
  writeOdt,
  writeOdtRedline,
} from '@oxbow/core/formats';
import type { Hands, WriteOptions } from '@oxbow/core/formats';
import { Random, document, revised } from '@oxbow/core/testing';
import type { Node } from 'prosemirror-model';
import type { Shape } from '../testing/pandoc.js';
import { asOdt, pandoc, pandocReads, trackedBy } from '../testing/pandoc.js';

const options: WriteOptions = {
  title: 'Guide',
  author: 'Ines Okell',
  at: '2026-11-24T09:30:00.000Z',
  picture: () => null,
};
const hands: Hands = (change, _side, from, to) => [{ author: `Hand ${change}`, at: atOf(change), from, to }];
const atOf = (change: number): string =>
  `2026-11-24T${String(Math.floor(change / 60)).padStart(2, '0')}:${String(change % 60).padStart(2, '0')}:00Z`;

/** Documents in a row, each under a heading of its own, so that one run of the program reads them all. */
function row(documents: readonly Node[]): Node {
  const heading = (i: number): Node => schema.node('heading', { level: 1 }, [schema.text(`Document ${i}`)]);
  return schema.node(
    'doc',
    null,
    documents.flatMap((one, i) => [heading(i), ...childrenOf(one)]),
  );
}

const many = (seed: number, times: number): Node[] => {
  const random = new Random(seed);
  return Array.from({ length: times }, () => document(random, random.between(1, 9)));
};

/** What our own Markdown says of a document, as pandoc understands it. */
const told = (doc: Node): Shape => pandocReads(writeMarkdown(doc, NO_IMAGES), 'gfm');

/** Expects two shapes to be the same, and shows only where they begin to differ. */
function same(got: Shape, expected: Shape): void {
  const at = expected.findIndex((shape, i) => JSON.stringify(shape) !== JSON.stringify(got[i]));
  const from = at < 0 ? Math.min(got.length, expected.length) : at;
  expect(got.slice(from, from + 3)).toEqual(expected.slice(from, from + 3));
}

describe('files that pandoc reads (a general-purpose converter, 2.17 as packaged by Debian)', () => {
  it('have in .docx and .odt the structure of our own Markdown, for 200 documents', () => {
    for (let batch = 0; batch < 8; batch++) {
      const doc = row(many(100 + batch, 25));
      const expected = told(doc);
      same(pandocReads(writeDocx(doc, options), 'docx'), expected);
      same(asOdt(pandocReads(writeOdt(doc, options), 'odt')), asOdt(expected));
    }
  });

  it('are read by us as well when it wrote them', () => {
    for (let batch = 0; batch < 4; batch++) {
      const doc = row(many(200 + batch, 25));
      const markdown = writeMarkdown(doc, NO_IMAGES);
      const expected = told(doc);
      same(told(readDocx(pandoc(['-f', 'gfm', '-t', 'docx', '-o', '-'], markdown)).doc), expected);
      same(told(readOdt(pandoc(['-f', 'gfm', '-t', 'odt', '-o', '-'], markdown)).doc), expected);
    }
  });
});

describe('redlines that pandoc reads', () => {
  /** It keeps paragraphs that were inserted in code, and knows no change of form: documents without code, pairs without form. */
  const pairs = (seed: number, times: number): Comparison[] => {
    const random = new Random(seed);
    const out: Comparison[] = [];
    while (out.length < times) {
      const earlier = document(random, random.between(2, 8));
      const comparison = compare(earlier, revised(random, earlier, random.between(1, 4)));
      const plain = comparison.changes.every(({ kind }) => /^(added|removed|replaced)$/.test(kind));
      if (
        plain &&
        comparison.changes.some(({ earlier, later }) => /\w/.test(earlier + later)) &&
        !/code_block/.test(`${comparison.earlier}${comparison.later}`)
      )
        out.push(comparison);
    }
    return out;
  };

  it('are the later text with changes accepted and the earlier with changes rejected', () => {
    for (const comparison of pairs(1, 50)) {
      const docx = writeDocxRedline(comparison, hands, options);
      same(pandocReads(docx, 'docx', '--track-changes=accept'), told(comparison.later));
      same(pandocReads(docx, 'docx', '--track-changes=reject'), told(comparison.earlier));
      same(
        asOdt(pandocReads(writeOdtRedline(comparison, hands, options), 'odt')),
        asOdt(told(comparison.later)),
      );
    }
  });

  it('list every change with the person who made it, the time and the words', () => {
    for (const comparison of pairs(2, 20)) {
      const listed = trackedBy(writeDocxRedline(comparison, hands, options));
      expect(listed.length).toBeGreaterThan(0);
      for (const { kind, author, at, text } of listed) {
        const change = comparison.changes.find(({ id }) => author === `Hand ${id}`);
        expect(at).toBe(atOf(change?.id ?? -1));
        const side = kind === 'insertion' ? change?.later : change?.earlier;
        expect((side ?? '').replace(/\s+/g, '')).toContain(text.replace(/[☐☒\s]+/g, ''));
      }
    }
  });
});
