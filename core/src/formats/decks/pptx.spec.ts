import * as fc from 'fast-check';
import type { Mark, Node } from 'prosemirror-model';
import { blankSlide, deckSchema as schema, slidesOf } from '../../kinds/deck/index.js';
import { FUZZ } from '../../testing/budget.js';
import { HANDS, PICTURES, Random, writeHistory } from '../../testing/index.js';
import type { Hand } from '../../testing/index.js';
import { FormatError } from '../format.js';
import { pack, unpack } from '../packed/zip.js';
import { textOfBytes } from '../bytes.js';
import { readPptx, writePptx } from './index.js';
import { blocksOf, linesOf } from './lines.js';

const ABOUT = {
  title: 'Boat day',
  author: 'Mairead Quill',
  at: '2026-11-30T09:00:00Z',
  picture: (hash: string) => PICTURES.find((picture) => picture.hash === hash) ?? null,
};
const hand = HANDS.find(({ kind }) => kind.name === 'deck') as Hand;

/** Marks as presentations know them: code is a typeface, and a link has no title. */
function toldMarks(marks: readonly Mark[]): string[] {
  const isCode = marks.some(({ type }) => type.name === 'code');
  return marks
    .flatMap(({ type, attrs }) => {
      if (type.name === 'code' || (type.name === 'typeface' && isCode))
        return type.name === 'code' ? ['typeface mono'] : [];
      const value: unknown = attrs['href'] ?? attrs['ink'] ?? attrs['face'] ?? attrs['size'] ?? '';
      return [`${type.name} ${String(value)}`.trim()];
    })
    .sort();
}

/** A run of text is one, however it is cut. */
function toldContent(nodes: readonly Node[]): unknown[] {
  const out: [string, string[]][] = [];
  for (const node of nodes) {
    const [text, marks] = node.isText ? [node.text ?? '', toldMarks(node.marks)] : ['\n', []];
    const last = out.at(-1);
    if (last && last[1].join() === marks.join() && text !== '\n' && last[0] !== '\n') last[0] += text;
    else out.push([text, marks]);
  }
  return out;
}

const toldLines = (blocks: readonly Node[]): unknown[] =>
  linesOf(blocks).map(({ bullet, level, align, content }) => [bullet, level, align, toldContent(content)]);

/** What a presentation can hold of a deck. */
function told(deck: Node): unknown[] {
  return slidesOf(deck).map(({ node, hidden }) => ({
    hidden,
    title: toldContent(node.firstChild?.children ?? []),
    things: node.children.slice(1, -1).flatMap(({ type, attrs, children }) => {
      const place = ['x', 'y', 'width', 'height'].map((name) => Number(attrs[name]));
      if (type.name === 'box') return [['box', place, toldLines(children)]];
      return ABOUT.picture(String(attrs['hash'])) ? [['frame', place, attrs['hash'], attrs['alt']]] : [];
    }),
    notes: (node.lastChild?.children ?? []).map(({ textContent }) => textContent),
  }));
}

describe('presentations (.pptx)', () => {
  it('come back with their slides in order, text, looks, lists, pictures, places and notes', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const { docs } = writeHistory(new Random(seed), 14, { hand, structure: true, leaves: true });
        const deck = docs.at(-1) as Node;
        const { doc, leftOut, title, author } = readPptx(writePptx(deck, ABOUT));
        expect(told(doc)).toEqual(told(deck));
        expect(leftOut).toEqual([]);
        expect([title, author]).toEqual(['Boat day', 'Mairead Quill']);
      }),
      { numRuns: 60 * FUZZ },
    );
  });

  it('hold nested lists, numbers that begin elsewhere, and slides that are hidden', () => {
    const item = (text: string, ...more: Node[]): Node =>
      schema.node('list_item', null, [schema.node('paragraph', null, [schema.text(text)]), ...more]);
    const lists = [
      schema.node('bullet_list', null, [
        item('Oars', schema.node('bullet_list', null, [item('two pairs'), item('a spare')])),
        item('Bailer'),
      ]),
      schema.node('ordered_list', { start: 4 }, [item('Cast off')]),
    ];
    expect(blocksOf(linesOf(lists)).map(String)).toEqual(lists.map(String));
    const blank = blankSlide('first', 'a0');
    const box = schema.node('box', { id: 'text', x: 500 }, lists);
    const slide = schema.node('slide', { ...blank.attrs, hidden: true }, [
      schema.node('title', null, [schema.text('What we take')]),
      box,
      schema.node('notes', null, [schema.node('paragraph', null, [schema.text('Show the oars.')])]),
    ]);
    const deck = schema.node('deck', null, [slide]);
    const { doc } = readPptx(writePptx(deck, ABOUT));
    expect(told(doc)).toEqual(told(deck));
    expect(slidesOf(doc)[0]?.node.child(1).children.map(String)).toEqual(lists.map(String));
  });

  it('have a part for each that their relations and content types name (ECMA-376 Part 2, 6.5 and 7)', () => {
    const parts = unpack(writePptx(schema.node('deck', null, [blankSlide('first', 'a0', 'two')]), ABOUT));
    const text = (name: string): string => textOfBytes(parts.get(name) ?? new Uint8Array());
    const named = [...text('[Content_Types].xml').matchAll(/PartName="\/([^"]+)"/g)].map(
      ([, name]) => name ?? '',
    );
    expect(named.length).toBeGreaterThan(8);
    for (const name of named) expect(parts.has(name)).withContext(name).toBeTrue();
    for (const name of parts.keys()) {
      const [, folder = '', of = ''] = /^(.*\/)?_rels\/(.+)\.rels$/.exec(name) ?? [];
      for (const [, target = ''] of text(name).matchAll(/Target="([^"]+)"/g)) {
        if (of === '') continue;
        const path = new URL(target, `https://x.example/${folder}`).pathname.slice(1);
        expect(parts.has(path)).withContext(`${name}: ${target}`).toBeTrue();
      }
    }
  });

  it('are refused in words when they are none, and tell what was left out', () => {
    expect(() => readPptx(pack([{ name: 'x.xml', content: '<x/>' }]))).toThrowError(
      FormatError,
      /no presentation/,
    );
    const whole = unpack(writePptx(schema.node('deck', null, [blankSlide('first', 'a0')]), ABOUT));
    const parts = [...whole].map(([name, content]) => ({
      name,
      content:
        name === 'ppt/slides/slide1.xml'
          ? textOfBytes(content).replace('</p:spTree>', '<p:graphicFrame/><p:cxnSp/></p:spTree>')
          : content,
    }));
    expect(readPptx(pack(parts)).leftOut.map(({ what }) => what)).toEqual(['tables and charts', 'lines']);
  });
});
