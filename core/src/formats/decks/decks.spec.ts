import * as fc from 'fast-check';
import type { Mark, Node } from 'prosemirror-model';
import { blankSlide, deckSchema as schema, slidesOf } from '../../kinds/deck/index.js';
import { FUZZ } from '../../testing/budget.js';
import { HANDS, PICTURES, Random, writeHistory } from '../../testing/index.js';
import type { Hand } from '../../testing/index.js';
import { FormatError } from '../format.js';
import { pack, unpack } from '../packed/zip.js';
import { textOfBytes } from '../bytes.js';
import { writeFile } from '../file.js';
import { readOdp, readPptx, writeOdp, writePptx } from './index.js';
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

const FORMATS = [
  { ending: '.pptx', read: readPptx, write: writePptx },
  { ending: '.odp', read: readOdp, write: writeOdp },
];

for (const { ending, read, write } of FORMATS)
  describe(`presentations (${ending})`, () => {
    it('come back with their slides in order, text, looks, lists, pictures, places and notes', () => {
      fc.assert(
        fc.property(fc.integer(), (seed) => {
          const { docs } = writeHistory(new Random(seed), 14, { hand, structure: true, leaves: true });
          const deck = docs.at(-1) as Node;
          const { doc, leftOut, title, author } = read(write(deck, ABOUT));
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
      const { doc } = read(write(deck, ABOUT));
      expect(told(doc)).toEqual(told(deck));
      expect(slidesOf(doc)[0]?.node.child(1).children.map(String)).toEqual(lists.map(String));
    });

    it('are told from other files in words', () => {
      expect(() => read(pack([{ name: 'x.xml', content: '<x/>' }]))).toThrowError(
        FormatError,
        /no .*presentation/,
      );
    });
  });

describe('presentations (.pptx)', () => {
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

  it('tell what was left out', () => {
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

describe('presentations (.odp)', () => {
  const blank = schema.node('deck', null, [blankSlide('first', 'a0', 'two')]);

  it('say first, and without compression, what they are (ODF 1.2 Part 3, 3.3), and list each part (Part 3, 3.2)', () => {
    const bytes = writeOdp(blank, ABOUT);
    const type = 'application/vnd.oasis.opendocument.presentation';
    expect(textOfBytes(bytes.slice(30, 38 + type.length))).toBe(`mimetype${type}`);
    const parts = unpack(bytes);
    const manifest = textOfBytes(parts.get('META-INF/manifest.xml') ?? new Uint8Array());
    const listed = [...manifest.matchAll(/full-path="([^"]+)"/g)].map(([, name]) => name);
    const held = [...parts.keys()].filter((name) => name !== 'mimetype' && !name.startsWith('META-INF/'));
    expect(listed.filter((name) => name !== '/').sort()).toEqual(held.sort());
  });

  it('are read as other programs write them: in groups and shapes, by the size of their page; what a deck cannot hold is told', () => {
    const parts = unpack(writeOdp(blank, ABOUT));
    const inside = `<draw:g><draw:custom-shape svg:x="1in" svg:y="1in" svg:width="2in" svg:height="0.5in"><text:p>Ferry</text:p></draw:custom-shape></draw:g>
      <draw:frame presentation:class="outline" presentation:placeholder="true"><draw:text-box/></draw:frame>
      <draw:frame><draw:text-box><text:h>Tides</text:h><text:p>at <text:span text:style-name="Mark_bold">six</text:span></text:p><table:table><table:table-row><table:table-cell><text:p>x</text:p></table:table-cell></table:table-row></table:table></draw:text-box></draw:frame>
      <draw:custom-shape/><draw:line/><draw:frame><draw:object/><draw:image/></draw:frame><draw:frame><draw:image xlink:href="none.emf"/></draw:frame>`;
    const changed = (name: string, text: string): string =>
      name === 'content.xml'
        ? text.replace(/(<draw:page [^>]*>).*(<presentation:notes>)/s, `$1${inside}$2`)
        : text.replace('fo:page-width="32.000cm"', 'fo:page-width="8in"');
    const doc = readOdp(
      pack([...parts].map(([name, data]) => ({ name, content: changed(name, textOfBytes(data)) }))),
    );
    const [slide] = slidesOf(doc.doc);
    expect(slide?.node.children.map(String)).toEqual([
      'title',
      'box(paragraph("Ferry"))',
      'box(paragraph("Tides"), paragraph("at ", bold("six")))',
      'notes(paragraph)',
    ]);
    expect(slide?.node.child(1).attrs).toEqual(jasmine.objectContaining({ x: 2000, width: 4000 }));
    expect(doc.leftOut.map(({ what }) => what).sort()).toEqual([
      'lines',
      'pictures of another kind, or kept elsewhere',
      'shapes without text',
      'tables and charts',
    ]);
  });

  it('is a page of HTML: slides as they are shown, with their pictures, and neither hidden ones nor notes', () => {
    const said = (id: string, place: string, words: string, hidden = false): Node => {
      const paragraph = (text: string): Node => schema.node('paragraph', null, [schema.text(text)]);
      return schema.node('slide', { id, place, hidden }, [
        schema.node('title', null, [schema.text(words)]),
        schema.node('box', { id: 'b', x: 1200 }, [paragraph(`${words} <text>`)]),
        ...(hidden ? [] : [schema.node('frame', { id: 'f', hash: PICTURES[0]?.hash, alt: 'a boat' })]),
        schema.node('notes', null, [paragraph(`whisper ${words}`)]),
      ]);
    };
    const deck = schema.node('deck', null, [
      said('b', 'a1', 'Flood'),
      said('h', 'a0V', 'Secret', true),
      said('a', 'a0', 'Ebb'),
    ]);
    const page = textOfBytes(writeFile('html', deck, { ...ABOUT, style: 'p{}' }));
    expect([...page.matchAll(/<h2[^>]*>([^<]*)/g)].map(([, title]) => title)).toEqual(['Ebb', 'Flood']);
    expect(page).toContain('Ebb &#x3C;text>');
    expect(page).toContain('--x: 1200');
    expect(page).toContain('container-type:inline-size');
    expect([...page.matchAll(/<img[^>]* src="data:image/g)].length).toBe(2);
    expect(page).not.toMatch(/Secret|whisper/);
  });
});
