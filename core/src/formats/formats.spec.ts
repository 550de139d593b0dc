import * as fc from 'fast-check';
import { Fragment } from 'prosemirror-model';
import type { Node } from 'prosemirror-model';
import { childrenOf, plainText } from '../content/index.js';
import { textSchema } from '../kinds/text/index.js';
import { PICTURES, anything } from '../testing/anything.js';
import { FUZZ } from '../testing/budget.js';
import {
  bold,
  check,
  checks,
  code,
  doc,
  h,
  li,
  link,
  ol,
  p,
  quote,
  table,
  td,
  tr,
  ul,
} from '../testing/build.js';
import { document } from '../testing/documents.js';
import { Random } from '../testing/random.js';
import { writeHistory } from '../testing/writers.js';
import {
  FormatError,
  NO_IMAGES,
  formatOfFile,
  handsOf,
  readFile,
  readHtml,
  readMarkdown,
  readText,
  writeFile,
  writeHtml,
  writeMarkdown,
  writeText,
} from './index.js';
import { utf8 } from './bytes.js';

const about = {
  title: 'Guide',
  author: 'Ines Okell',
  at: '2026-11-24T09:30:00.000Z',
  picture: (hash: string) => PICTURES.find((picture) => picture.hash === hash) ?? null,
};
const html = (text: string): Node => readHtml(text, NO_IMAGES);
const markdown = (text: string): Node => readMarkdown(text, NO_IMAGES);

describe('HTML', () => {
  it('comes back equal from its own writing, for random documents', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const before = random.pick(writeHistory(random, 25).docs);
        expect(html(writeHtml(before, NO_IMAGES)).eq(before)).toBe(true);
      }),
      { numRuns: 150 * FUZZ },
    );
  });

  it('takes over only what a document can hold: nothing that runs, loads or hides', () => {
    const hostile: [string, string][] = [
      ['<p onclick="alert(1)">a<script>alert(1)</script>b</p>', '<p>ab</p>'],
      ['<a href="javascript:alert(1)">x</a>', '<p>x</p>'],
      ['<a href="&#106;avascript:alert(1)">x</a>', '<p>x</p>'],
      ['<a href="data:text/html,x">x</a>', '<p>x</p>'],
      ['<img src=x onerror=alert(1) alt="a mill">', '<p>a mill</p>'],
      ['<iframe src="//evil.example"></iframe><p>a</p>', '<p>a</p>'],
      ['<style>p{}</style><svg><script>1</script></svg><p>a</p>', '<p>a</p>'],
      ['<p style="background:url(javascript:1)">a</p>', '<p>a</p>'],
      ['<form action=x><input value=y><button>z</button>a</form>', '<p>a</p>'],
    ];
    for (const [given, clean] of hostile) expect(writeHtml(html(given), NO_IMAGES)).toBe(clean);
  });

  it('keeps a remote image as a link and loads nothing', () => {
    expect(
      html('<p><img src="https://elsewhere.example/a.png" alt="the wheel"></p>').eq(
        doc(p(link('https://elsewhere.example/a.png', 'the wheel'))),
      ),
    ).toBe(true);
  });

  it('squares a ragged table and drops spans that overlap', () => {
    const ragged = html('<table><tr><td>a</td></tr><tr><td>b</td><td>c</td></tr></table>');
    expect(ragged.eq(doc(table(tr(td(p('a')), td(p())), tr(td(p('b')), td(p('c'))))))).toBe(true);
    html('<table><tr><td rowspan=3>a</td><td colspan=2>b</td></tr><tr><td>c</td></tr></table>').check();
  });

  it('answers absurd nesting with a clear error, or reads it flat', () => {
    expect(() => html('<div>'.repeat(60_000))).toThrowError(FormatError);
    html('<blockquote>'.repeat(60) + 'deep').check();
  });
});

describe('Markdown', () => {
  const samples: Node[] = [
    doc(h(1, 'The race'), p('Twice a ', bold('day'), '.')),
    doc(ul(li(p('rope')), li(p('oars'), ul(li(p('spare')))))),
    doc(ol(li(p('gate')), li(p('race')))),
    doc(checks(check(true, p('bailer')), check(false, p('throw line')))),
    doc(quote(p('A tide mill works to the moon.')), code('a < b && c')),
    doc(table(tr(td(p('a')), td(p('b'))))),
    doc(p('1986\\. A * star_ and [brackets] and <angles> & more')),
    doc(p(link('https://withy.example/a_b', 'the mill'))),
  ];

  it('comes back from its own writing', () => {
    for (const before of samples) {
      const after = markdown(writeMarkdown(before, NO_IMAGES));
      if (before.firstChild?.type.name === 'table') expect(plainText(after)).toBe(plainText(before));
      else expect(writeHtml(after, NO_IMAGES)).toBe(writeHtml(before, NO_IMAGES));
    }
  });

  it('keeps what Markdown has no sign for as inline HTML', () => {
    const u = textSchema.text('under', [textSchema.mark('underline')]);
    const before = doc(
      p('a ', u),
      textSchema.node('page_break'),
      p('H', textSchema.text('2', [textSchema.mark('subscript')])),
    );
    expect(markdown(writeMarkdown(before, NO_IMAGES)).eq(before)).toBe(true);
  });
});

describe('plain text', () => {
  it('has a paragraph a line and a page break for a form feed', () => {
    const read = readText('one\r\n\r\ntwo\f three \n');
    expect(read.eq(doc(p('one'), p('two'), textSchema.node('page_break'), p('three')))).toBe(true);
    expect(writeText(doc(p('one'), p('two')))).toBe('one\ntwo\n');
  });

  it('knows files by their endings', () => {
    expect(['a.md', 'b.HTM', 'c.txt', 'd.docx', 'e.odt'].map(formatOfFile)).toEqual([
      'markdown',
      'html',
      'text',
      'docx',
      'odt',
    ]);
    expect(() => formatOfFile('f.pdf')).toThrowError(FormatError);
  });
});

/** A document as Markdown can hold it: headings in the first row of a table, no empty paragraphs. */
function plainer(node: Node, index = 0, parent: Node | null = null): Node[] {
  if (node.isTextblock || node.isAtom)
    return node.type.name === 'paragraph' && node.childCount === 0 && parent?.type.name === 'doc'
      ? []
      : [node];
  const kids = childrenOf(node).flatMap((child, i) => plainer(child, i, node));
  if (node.type.name === 'table_row')
    return [
      node.copy(
        Fragment.from(
          kids.map((cell) =>
            textSchema.node(index === 0 ? 'table_header' : 'table_cell', null, cell.content),
          ),
        ),
      ),
    ];
  return [node.copy(Fragment.from(kids))];
}

describe('a file', () => {
  it('gives back everything as HTML, whatever the document holds', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const before = anything(new Random(seed), 8);
        const read = readFile('html', writeFile('html', before, about));
        expect(read.doc.toJSON()).toEqual(before.toJSON());
      }),
      { numRuns: 500 * FUZZ },
    );
  });

  it('gives back as Markdown what Markdown can hold', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const made = document(random, random.between(1, 9));
        const [before] = plainer(made);
        const read = readFile('markdown', writeFile('markdown', made, about));
        expect(read.doc.toJSON()).toEqual((before?.childCount ? before : doc(p())).toJSON());
      }),
      { numRuns: 500 * FUZZ },
    );
  });

  it('carries its images in itself, as Markdown and as HTML', () => {
    const [picture] = PICTURES;
    const image = textSchema.node('image', { hash: picture?.hash, alt: 'the wheel', width: null });
    const options = {
      title: 'Guide',
      author: 'Ines Okell',
      at: '2026-11-24T09:30:00.000Z',
      picture: (hash: string) => (hash === picture?.hash ? picture : null),
    };
    for (const format of ['markdown', 'html'] as const) {
      const {
        doc: read,
        pictures,
        leftOut,
      } = readFile(format, writeFile(format, doc(p('so ', image)), options));
      expect(read.toJSON()).toEqual(doc(p('so ', image)).toJSON());
      expect([pictures, leftOut]).toEqual([PICTURES.slice(0, 1), []]);
    }
  });

  it('says which of its images were left out', () => {
    const bytes = utf8('![far](https://elsewhere.example/a.png) ![odd](data:image/png;base64,AAAA)');
    expect(readFile('markdown', bytes).leftOut.map(({ times }) => times)).toEqual([1, 1]);
  });

  it('is refused when it is no text, or too long', () => {
    expect(() => readFile('text', new Uint8Array([65, 0, 66]))).toThrowError(FormatError);
    expect(() => readFile('text', new Uint8Array([0xc3, 0x28]))).toThrowError(FormatError);
    expect(() => readFile('html', utf8('a'.repeat(4_000_001)))).toThrowError(FormatError);
  });

  it('names for each stretch of a change whoever made it', () => {
    const made = (from: number, to: number, author: string) => ({
      side: 'later' as const,
      from,
      to,
      author,
      at: '',
    });
    const hands = handsOf([[made(5, 8, 'Ines'), made(8, 12, 'Olu')]]);
    const told = (from: number, to: number) =>
      hands(0, 'later', from, to).map((one) => [one.from, one.to, one.author]);
    expect(told(6, 10)).toEqual([
      [6, 8, 'Ines'],
      [8, 10, 'Olu'],
    ]);
    expect(told(2, 6)).toEqual([
      [2, 5, 'Ines'],
      [5, 6, 'Ines'],
    ]);
    expect(told(12, 14)).toEqual([[12, 14, 'Olu']]);
    expect(hands(0, 'earlier', 1, 2)).toEqual([{ author: 'Ines', at: '', from: 1, to: 2 }]);
    expect(hands(7, 'later', 1, 2)).toEqual([{ author: '', at: '', from: 1, to: 2 }]);
  });
});
