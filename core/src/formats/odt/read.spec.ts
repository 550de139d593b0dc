import * as fc from 'fast-check';
import { compare } from '../../compare/index.js';
import { textSchema as schema } from '../../kinds/text/index.js';
import { PICTURES, anything } from '../../testing/anything.js';
import { FUZZ } from '../../testing/budget.js';
import { doc, footnote, h, li, p, sign, table, td, tr, ul } from '../../testing/build.js';
import { revised } from '../../testing/documents.js';
import { Random } from '../../testing/random.js';
import { FormatError } from '../format.js';
import type { Element } from '../packed/xml.js';
import { down, elementsOf, parseXml } from '../packed/xml.js';
import { pack, unpack } from '../packed/zip.js';
import { DECLARED, MIME, READ } from './names.js';
import { readOdt } from './read.js';
import { writeOdtRedline } from './write.js';

const declared = Object.entries(DECLARED)
  .map(([name, uri]) => `${name}="${uri}"`)
  .join(' ');

function file(body: string, styles = '', mimetype: string = MIME): Uint8Array {
  return pack([
    { name: 'mimetype', content: mimetype, stored: true },
    {
      name: 'content.xml',
      content: `<office:document-content ${declared}><office:automatic-styles>${styles}</office:automatic-styles><office:body><office:text>${body}</office:text></office:body></office:document-content>`,
    },
  ]);
}

const style = (name: string, family: string, properties: string): string =>
  `<style:style style:name="${name}" style:family="${family}">${properties}</style:style>`;
const info = (author: string): string =>
  `<office:change-info><dc:creator>${author}</dc:creator><dc:date>2026-11-20T10:00:00</dc:date></office:change-info>`;

describe('an OpenDocument text that others wrote', () => {
  it('collapses white space, reads styles, lists and repeated cells (ODF 1.2 Part 1, 6.1.2, 16.27.28, 9.1.4)', () => {
    const bold = '<style:text-properties fo:font-weight="bold"/>';
    const { doc: got } = readOdt(
      file(
        `<text:h text:outline-level="2">Tides\n   of  the <text:span text:style-name="T1">mill </text:span></text:h>
        <text:p>a<text:s text:c="3"/>b<text:line-break/>c</text:p>
        <text:list><text:list-item><text:p>rope</text:p><text:list><text:list-item><text:p>thin</text:p></text:list-item></text:list></text:list-item></text:list>
        <table:table><table:table-column/><table:table-row><table:table-cell table:number-columns-repeated="2"><text:p>x</text:p></table:table-cell></table:table-row></table:table>`,
        style('T1', 'text', bold),
      ),
    );
    expect(got.toJSON()).toEqual(
      doc(
        h(2, 'Tides of the ', schema.text('mill', [schema.mark('bold')])),
        p('a   b', schema.node('hard_break'), 'c'),
        ul(li(p('rope'), ul(li(p('thin'))))),
        table(tr(td(p('x')), td(p('x')))),
      ).toJSON(),
    );
  });

  it('is refused when it makes of little more than a document may hold', () => {
    const spaces = file(`<text:p>${'<text:s text:c="10000"/>'.repeat(4000)}</text:p>`);
    expect(spaces.length).toBeLessThan(1000);
    expect(() => readOdt(spaces)).toThrowError(FormatError, /readTokens/);
    const cell = `<table:table-cell table:number-columns-repeated="100"><text:p>${'x'.repeat(2000)}</text:p></table:table-cell>`;
    const rows = `<table:table><table:table-row table:number-rows-repeated="500">${cell}</table:table-row></table:table>`;
    expect(() => readOdt(file(rows))).toThrowError(FormatError, /readTokens/);
  });

  it('tells its tracked changes and its comments, and gives both texts (5.5, 14.1)', () => {
    const region = (id: string, kind: string, content = ''): string =>
      `<text:changed-region text:id="${id}"><text:${kind}>${info('Tamsin Reve')}${content}</text:${kind}></text:changed-region>`;
    const {
      doc: later,
      before,
      tracked,
      remarks,
      leftOut,
    } = readOdt(
      file(
        `<text:tracked-changes>${region('a', 'insertion')}${region('b', 'deletion', '<text:p>old </text:p>')}${region('c', 'deletion', '<text:p/><text:p>gone</text:p>')}</text:tracked-changes>
        <text:p>The <text:change text:change-id="b"/><text:change-start text:change-id="a"/>new<text:change-end text:change-id="a"/> gate<text:change text:change-id="c"/></text:p>
        <text:p><office:annotation office:name="n"><dc:creator>Olu Adeyemi</dc:creator><dc:date>2026-11-21T08:00:00Z</dc:date><text:p>Which?</text:p></office:annotation>It shuts<office:annotation-end office:name="n"/> early<text:note text:note-class="footnote"><text:note-body><text:p>ever</text:p></text:note-body></text:note></text:p>`,
      ),
    );
    const noted = [p('It shuts early', sign('n1')), footnote('n1', 'ever')];
    expect(later.toJSON()).toEqual(doc(p('The new gate'), ...noted).toJSON());
    expect(before?.toJSON()).toEqual(doc(p('The old  gate'), p('gone'), ...noted).toJSON());
    expect(tracked.map(({ kind, text, author, at }) => [kind, text, author, at])).toEqual([
      ['insertion', 'new', 'Tamsin Reve', '2026-11-20T10:00:00.000Z'],
      ['deletion', 'old ', 'Tamsin Reve', '2026-11-20T10:00:00.000Z'],
      ['deletion', 'gone', 'Tamsin Reve', '2026-11-20T10:00:00.000Z'],
    ]);
    expect(remarks).toEqual([
      { author: 'Olu Adeyemi', at: '2026-11-21T08:00:00.000Z', text: 'Which?', about: 'It shuts' },
    ]);
    expect(leftOut).toEqual([]);
  });

  it('is refused in words when it is another kind of file, protected or broken', () => {
    const sheet = MIME.replace('text', 'spreadsheet');
    const cases: readonly [RegExp, Uint8Array][] = [
      [/no text/, file('', '', sheet)],
      [/no OpenDocument text/, pack([{ name: 'mimetype', content: MIME }])],
      [/not well-formed/, file('<text:p>')],
      [/damaged/, file('<text:p/>').subarray(0, 200)],
    ];
    for (const [why, bytes] of cases)
      expect(() => readOdt(bytes)).toThrowMatching(
        (error) => error instanceof FormatError && why.test(error.message),
      );
  });
});

/** Children of elements whose content is a sequence. Source: ODF 1.2 Part 1, the clause named, from memory of the standard. */
const ORDER: Readonly<Record<string, string>> = {
  // 3.1.3.2
  'office:document-content': 'office:font-face-decls office:automatic-styles office:body',
  // 3.1.3.3
  'office:document-styles':
    'office:font-face-decls office:styles office:automatic-styles office:master-styles',
  // 14.3
  'office:change-info': 'dc:creator dc:date text:p',
  // 5.5.3 and 5.5.4
  'text:insertion': 'office:change-info',
  // 9.1.2
  'table:table': 'table:table-column table:table-header-rows table:table-row',
  // 9.4.2 draw:frame: the image, then its title and description
  'draw:frame': 'draw:image svg:title svg:desc',
  // 5.3.2
  'text:list': 'text:list-header text:list-item',
  // 16.2
  'style:style':
    'style:paragraph-properties style:text-properties style:graphic-properties style:table-column-properties style:table-cell-properties style:section-properties',
};

const REQUIRED: Readonly<Record<string, string>> = {
  'text:changed-region': 'text:id',
  'text:change': 'text:change-id',
  'text:change-start': 'text:change-id',
  'text:change-end': 'text:change-id',
  'text:section': 'text:name',
  'text:h': 'text:outline-level',
  'style:style': 'style:family',
};

describe('the parts of a written .odt', () => {
  const redline = (seed: number): ReadonlyMap<string, Uint8Array> => {
    const random = new Random(seed);
    const earlier = anything(random, 8);
    return unpack(
      writeOdtRedline(
        compare(earlier, revised(random, earlier, 5)),
        (_change, _side, from, to) => [{ author: 'Ines Okell', at: '2026-11-24T09:00:00.000Z', from, to }],
        {
          title: 'Guide',
          author: 'Ines Okell',
          at: '2026-11-24T09:00:00.000Z',
          picture: (hash) => PICTURES.find((picture) => picture.hash === hash) ?? null,
        },
      ),
    );
  };

  it('keep the order, the required attributes and the references of the standard', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const parts = redline(seed);
        const root = (name: string): Element => parseXml(parts.get(name) ?? new Uint8Array(), READ);
        // ODF 1.2 Part 3, 3.3 and 3.2: the type comes first, and the manifest lists every part but itself
        expect([...parts.keys()][0]).toBe('mimetype');
        const listed = elementsOf(root('META-INF/manifest.xml')).map(
          ({ attributes }) => attributes['manifest:full-path'],
        );
        const others = [...parts.keys()].filter(
          (name) => name !== 'mimetype' && !name.startsWith('META-INF'),
        );
        expect(listed.sort()).toEqual(['/', ...others].sort());
        const [content, styles] = [root('content.xml'), root('styles.xml')];
        const named = new Set<string>();
        const changes = new Map<string, string[]>();
        const visit = (element: Element): void => {
          const { name, attributes } = element;
          if (attributes['style:name'] !== undefined) named.add(attributes['style:name']);
          const required = REQUIRED[name];
          if (required) expect(Object.keys(attributes)).withContext(name).toContain(required);
          const order = ORDER[name]?.split(' ');
          const places = elementsOf(element).map((child) => order?.indexOf(child.name) ?? 0);
          expect(places)
            .withContext(name)
            .toEqual([...places].sort((a, b) => a - b));
          expect(places).withContext(name).not.toContain(-1);
          if (name === 'table:table') expect(down(element, 'table:table-row')).not.toBeNull();
          if (/^text:change/.test(name)) {
            const id = attributes['text:change-id'] ?? attributes['text:id'] ?? '';
            changes.set(id, [...(changes.get(id) ?? []), name]);
          }
          elementsOf(element).forEach(visit);
        };
        visit(styles);
        visit(content);
        const used = (element: Element): void => {
          for (const key of ['text:style-name', 'table:style-name']) {
            const style = element.attributes[key];
            if (style !== undefined) expect(named).withContext(element.name).toContain(style);
          }
          elementsOf(element).forEach(used);
        };
        used(content);
        // 5.5.7: every region has its place or its two ends in the text
        for (const [id, places] of changes)
          if (id !== '')
            expect([
              ['text:changed-region', 'text:change'],
              ['text:changed-region', 'text:change-start', 'text:change-end'],
            ])
              .withContext(id)
              .toContain(places);
      }),
      { numRuns: 40 * FUZZ },
    );
  });
});
