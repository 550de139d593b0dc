import * as fc from 'fast-check';
import { compare } from '../../compare/index.js';
import { PICTURES, anything } from '../../testing/anything.js';
import { FUZZ } from '../../testing/budget.js';
import { revised } from '../../testing/documents.js';
import { Random } from '../../testing/random.js';
import type { Element } from '../packed/xml.js';
import { elementsOf, parseXml, textIn } from '../packed/xml.js';
import { unpack } from '../packed/zip.js';
import { READ } from './names.js';
import { writeDocxRedline } from './write.js';

/**
 * Order of the children of elements whose type is a sequence, as far as they are written. Source: ECMA-376 (5th ed.) Part 1,
 * the clause named and the schemas of Annex A.1, from memory of the standard.
 */
const ORDER: Readonly<Record<string, string>> = {
  // 17.3.1.26, CT_PPr
  'w:pPr':
    'pStyle keepNext keepLines pageBreakBefore numPr pBdr shd tabs spacing ind contextualSpacing jc outlineLvl rPr sectPr pPrChange',
  // 17.9.18, CT_NumPr
  'w:numPr': 'ilvl numId',
  // 17.3.2.28, CT_RPr: the order of EG_RPrBase; in the properties of a paragraph's mark, the marks of tracking come first
  'w:rPr':
    'ins del moveFrom moveTo rStyle rFonts b bCs i iCs strike color sz szCs highlight u shd vertAlign rPrChange',
  // 17.4.60, CT_TblPr
  'w:tblPr': 'tblStyle tblW tblInd tblBorders tblLayout tblCellMar tblLook',
  // 17.4.38, CT_Tbl
  'w:tbl': 'tblPr tblGrid tr',
  // 17.4.79, CT_Row, and 17.4.82, CT_TrPr: `ins` and `del` come last
  'w:tr': 'trPr tc',
  'w:trPr': 'tblHeader ins del',
  // 17.4.70, CT_TcPr
  'w:tcPr': 'cnfStyle tcW gridSpan vMerge',
  // 17.6.17, CT_SectPr
  'w:sectPr': 'headerReference footerReference pgSz pgMar sectPrChange',
  // 17.15.1.78, CT_Settings
  'w:settings': 'footnotePr compat',
  // 17.9.6, CT_Lvl
  'w:lvl': 'start numFmt lvlText lvlJc pPr rPr',
  // 17.9.1, CT_AbstractNum, and 17.9.16, CT_Numbering: all definitions before all instances
  'w:abstractNum': 'multiLevelType lvl',
  'w:numbering': 'abstractNum num',
  // 17.7.4.17, CT_Style
  'w:style': 'name basedOn next link uiPriority semiHidden unhideWhenUsed qFormat pPr rPr tblPr tblStylePr',
  // 17.7.4.18, CT_Styles
  'w:styles': 'docDefaults latentStyles style',
  // 17.5.2.38, CT_SdtPr is a sequence of a choice; 17.5.2.31, CT_SdtBlock
  'w:sdt': 'sdtPr sdtContent',
  // 20.4.2.8, CT_Inline
  'wp:inline': 'extent effectExtent docPr cNvGraphicFramePr graphic',
  // 20.4.2.3, CT_Anchor
  'wp:anchor':
    'simplePos positionH positionV extent effectExtent wrapSquare wrapTopAndBottom docPr cNvGraphicFramePr graphic',
  // 20.2.2.5, CT_Picture
  'pic:pic': 'nvPicPr blipFill spPr',
};

/** Attributes an element must have. Source: the same schemas. */
const REQUIRED: Readonly<Record<string, readonly string[]>> = {
  // 17.13.5, CT_TrackChange
  ...Object.fromEntries(
    ['ins', 'del', 'moveFrom', 'moveTo', 'rPrChange', 'pPrChange', 'sectPrChange'].map((name) => [
      `w:${name}`,
      ['w:id', 'w:author'],
    ]),
  ),
  // 17.13.5.24, CT_MoveBookmark
  'w:moveFromRangeStart': ['w:id', 'w:author', 'w:date', 'w:name'],
  'w:moveToRangeStart': ['w:id', 'w:author', 'w:date', 'w:name'],
  'w:style': ['w:type', 'w:styleId'],
  'w:lvl': ['w:ilvl'],
  'w:num': ['w:numId'],
  'w:abstractNum': ['w:abstractNumId'],
  'wp:extent': ['cx', 'cy'],
  'wp:docPr': ['id', 'name'],
};

/** A random redline, unpacked. */
function parts(seed: number): ReadonlyMap<string, Uint8Array> {
  const random = new Random(seed);
  const earlier = anything(random, 8);
  const bytes = writeDocxRedline(
    compare(earlier, revised(random, earlier, 5)),
    (_change, _side, from, to) => [{ author: 'Ines Okell', at: '2026-11-24T09:00:00.000Z', from, to }],
    {
      title: 'Guide',
      author: 'Ines Okell',
      at: '2026-11-24T09:00:00.000Z',
      picture: (hash) => PICTURES.find((picture) => picture.hash === hash) ?? null,
    },
  );
  return unpack(bytes);
}

function each(element: Element, visit: (element: Element) => void): void {
  visit(element);
  for (const child of elementsOf(element)) each(child, visit);
}

describe('the parts of a written .docx', () => {
  const always = (check: (parts: ReadonlyMap<string, Uint8Array>) => void): void =>
    fc.assert(
      fc.property(fc.integer(), (seed) => check(parts(seed))),
      { numRuns: 40 * FUZZ },
    );

  it('have their elements in the order of the standard, with the attributes it requires', () => {
    always((parts) => {
      for (const [name, data] of parts)
        if (/^word\/\w+\.xml$/.test(name))
          each(parseXml(data, READ), (element) => {
            for (const attribute of REQUIRED[element.name] ?? [])
              expect(Object.keys(element.attributes)).withContext(element.name).toContain(attribute);
            const order = ORDER[element.name]?.split(' ');
            if (!order) return;
            const places = elementsOf(element).map((child) => order.indexOf(child.name.replace(/^\w+:/, '')));
            expect(places)
              .withContext(`${element.name} in ${name}`)
              .toEqual([...places].sort((a, b) => a - b));
            expect(places).withContext(`${element.name} in ${name}`).not.toContain(-1);
          });
    });
  });

  it('end every cell in a paragraph, count every change once, and pair the ends of moves (17.4.65, 17.13.5, 17.13.5.21)', () => {
    always((parts) => {
      const ids: string[] = [];
      const ranges = new Map<string, number>();
      each(parseXml(parts.get('word/document.xml') ?? new Uint8Array(), READ), (element) => {
        const { name, attributes } = element;
        if (name === 'w:tc') expect(elementsOf(element).at(-1)?.name).toBe('w:p');
        if (/^w:(ins|del|moveFrom|moveTo|[rp]PrChange|move\w+RangeStart)$/.test(name))
          ids.push(attributes['w:id'] ?? '');
        if (/^w:move\w+Range/.test(name)) {
          const key = `${name.replace(/Start$|End$/, '')} ${attributes['w:id'] ?? ''}`;
          ranges.set(key, (ranges.get(key) ?? 0) + (name.endsWith('Start') ? 1 : -1));
        }
        if (/^w:(t|delText)$/.test(name) && /^ | $/.test(textIn(element)))
          expect(attributes['xml:space']).toBe('preserve');
      });
      expect(new Set(ids).size).toBe(ids.length);
      expect([...ranges.values()].every((open) => open === 0)).toBe(true);
    });
  });

  it('refer only to parts, styles and lists that are there, and every part has a type (ECMA-376 Part 2, 6.2 and 6.5)', () => {
    always((parts) => {
      const root = (name: string): Element => parseXml(parts.get(name) ?? new Uint8Array(), READ);
      const held = (part: string, name: string, key: string): string[] =>
        elementsOf(root(part), name).map(({ attributes }) => attributes[key] ?? '');
      const known: Readonly<Record<string, ReadonlySet<string>>> = {
        'w:pStyle': new Set(held('word/styles.xml', 'w:style', 'w:styleId')),
        'w:rStyle': new Set(held('word/styles.xml', 'w:style', 'w:styleId')),
        'w:tblStyle': new Set(held('word/styles.xml', 'w:style', 'w:styleId')),
        'w:numId': new Set(held('word/numbering.xml', 'w:num', 'w:numId')),
      };
      const relations = new Set(held('word/_rels/document.xml.rels', 'rel:Relationship', 'Id'));
      each(root('word/document.xml'), ({ name, attributes }) => {
        if (known[name]) expect(known[name]).toContain(attributes['w:val'] ?? '');
        for (const key of ['r:id', 'r:embed'])
          if (attributes[key] !== undefined) expect(relations).toContain(attributes[key]);
      });
      for (const { attributes } of elementsOf(root('word/_rels/document.xml.rels')))
        if (attributes['TargetMode'] !== 'External')
          expect([...parts.keys()]).toContain(`word/${attributes['Target'] ?? ''}`);
      const endings = held('[Content_Types].xml', 'ct:Default', 'Extension');
      const names = held('[Content_Types].xml', 'ct:Override', 'PartName');
      for (const name of parts.keys())
        expect(
          name === '[Content_Types].xml' ||
            names.includes(`/${name}`) ||
            endings.includes(name.split('.').at(-1) ?? ''),
        )
          .withContext(name)
          .toBe(true);
    });
  });
});
