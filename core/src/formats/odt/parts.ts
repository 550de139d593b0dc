import type { Paper } from '../../kinds/text/index.js';
import { INKS, SIZES, TYPEFACES } from '../../kinds/text/index.js';
import { FONTS, SIZE_RATIOS } from '../looks.js';
import type { Element } from '../packed/xml.js';
import { el } from '../packed/xml.js';
import type { OdtFlow } from './flow.js';
import { codeStyle } from './flow.js';
import { DECLARED, INK_COLOURS, LIST_STYLES, MARK_PREFIX, MIME, PIXELS_PER_INCH, STYLES } from './names.js';
import { imageStyles, masterPage, pageLayout, runningStyles } from './page.js';
import { columnStyle } from './table.js';

const VERSION = { 'office:version': '1.2' };

/** How far a level of a list or a quote is set in, in inches. */
const INDENT = 0.33;
const HEADING_SIZES = [20, 16, 14, 13, 12, 12];

type Properties = Readonly<Record<string, string | number | null>>;

function shown(name: string): string {
  return name.replace(/_([0-9a-f]+)_/g, (_, code: string) => String.fromCodePoint(Number.parseInt(code, 16)));
}

function style(
  family: string,
  name: string,
  parent: string | null,
  paragraph: Properties | null,
  text: Properties | null,
): Element {
  const display = shown(name);
  return el(
    'style:style',
    {
      'style:name': name,
      'style:display-name': display === name ? null : display,
      'style:family': family,
      'style:parent-style-name': parent,
    },
    [
      paragraph ? el('style:paragraph-properties', paragraph) : null,
      text ? el('style:text-properties', text) : null,
    ],
  );
}

/** Text properties of the style of each mark (ODF 1.2 Part 1, 16.27.28). */
function markStyles(): Element[] {
  const mark = (name: string, properties: Properties): Element =>
    style('text', `Mark_${name}`, null, null, properties);
  return [
    mark('bold', { 'fo:font-weight': 'bold' }),
    mark('italic', { 'fo:font-style': 'italic' }),
    mark('underline', {
      'style:text-underline-style': 'solid',
      'style:text-underline-width': 'auto',
      'style:text-underline-color': 'font-color',
    }),
    mark('strike', { 'style:text-line-through-style': 'solid', 'style:text-line-through-type': 'single' }),
    mark('subscript', { 'style:text-position': 'sub 58%' }),
    mark('superscript', { 'style:text-position': 'super 58%' }),
    mark('code', { 'style:font-name': FONTS.mono.name }),
    ...INKS.map((ink) => mark(`highlight_${ink}`, { 'fo:background-color': INK_COLOURS[ink] })),
    ...TYPEFACES.map((face) => mark(`typeface_${face}`, { 'style:font-name': FONTS[face].name })),
    ...SIZES.map((size) => mark(`size_${size}`, { 'fo:font-size': `${SIZE_RATIOS[size] * 100}%` })),
  ];
}

/** The fonts of the three typefaces. */
export function fonts(): Element {
  return el(
    'office:font-face-decls',
    {},
    Object.values(FONTS).map(({ name, family }) =>
      el('style:font-face', {
        'style:name': name,
        'svg:font-family': `'${name}'`,
        'style:font-family-generic': family,
        'style:font-pitch': family === 'modern' ? 'fixed' : 'variable',
      }),
    ),
  );
}

function listStyle(name: string, kind: string): Element {
  const levels = Array.from({ length: 10 }, (_, i) => {
    const properties = el(
      'style:list-level-properties',
      { 'text:list-level-position-and-space-mode': 'label-alignment' },
      [
        el('style:list-level-label-alignment', {
          'text:label-followed-by': kind === 'check_list' ? 'nothing' : 'listtab',
          'fo:text-indent': kind === 'check_list' ? '0in' : `-${INDENT / 2}in`,
          'fo:margin-left': `${((i + 1) * INDENT).toFixed(2)}in`,
        }),
      ],
    );
    const level = { 'text:level': i + 1 };
    if (kind === 'ordered_list') {
      const format = ['1', 'a', 'i'][i % 3] ?? '1';
      return el(
        'text:list-level-style-number',
        { ...level, 'style:num-format': format, 'style:num-suffix': '.' },
        [properties],
      );
    }
    const bullet = kind === 'check_list' ? '\u200b' : (['\u2022', '\u2013', '\u25aa'][i % 3] ?? '\u2022');
    return el('text:list-level-style-bullet', { ...level, 'text:bullet-char': bullet }, [properties]);
  });
  return el('text:list-style', { 'style:name': name, 'style:display-name': shown(name) }, levels);
}

/** `styles.xml`: the styles a reader may know by name, the page, and where text stands on it. */
export function stylesPart(paper: Paper): Element {
  return el('office:document-styles', { ...DECLARED, ...VERSION }, [
    fonts(),
    el('office:styles', {}, [...textStyles(), ...runningStyles(paper)]),
    el('office:automatic-styles', {}, [pageLayout(paper)]),
    el('office:master-styles', {}, [masterPage(paper)]),
  ]);
}

/** The styles of text, wherever it stands; sizes are in points. */
export function textStyles(size = 12, headings: readonly number[] = HEADING_SIZES): Element[] {
  const around = { 'fo:margin-top': '0in', 'fo:margin-bottom': '0.11in' };
  const text = STYLES.text;
  return [
    el('style:default-style', { 'style:family': 'paragraph' }, [
      el('style:text-properties', { 'style:font-name': FONTS.serif.name, 'fo:font-size': `${size}pt` }),
    ]),
    style('paragraph', 'Standard', null, null, null),
    style('paragraph', text, 'Standard', { ...around, 'fo:line-height': '120%' }, null),
    ...headings.map((points, i) =>
      el(
        'style:style',
        {
          'style:name': `Heading_20_${i + 1}`,
          'style:display-name': `Heading ${i + 1}`,
          'style:family': 'paragraph',
          'style:parent-style-name': 'Standard',
          'style:default-outline-level': i + 1,
        },
        [
          el('style:paragraph-properties', {
            'fo:margin-top': '0.2in',
            'fo:margin-bottom': '0.08in',
            'fo:keep-with-next': 'always',
          }),
          el('style:text-properties', {
            'style:font-name': FONTS.sans.name,
            'fo:font-weight': 'bold',
            'fo:font-size': `${points}pt`,
          }),
        ],
      ),
    ),
    style(
      'paragraph',
      STYLES.quote,
      text,
      { ...around, 'fo:margin-left': `${INDENT}in`, 'fo:margin-right': `${INDENT}in` },
      null,
    ),
    style('paragraph', STYLES.code, 'Standard', around, {
      'style:font-name': FONTS.mono.name,
      'fo:font-size': '10pt',
    }),
    style(
      'paragraph',
      STYLES.rule,
      text,
      { 'fo:border-bottom': '0.5pt solid #d8d2c2', 'fo:padding': '0in' },
      null,
    ),
    style('paragraph', STYLES.footnote, 'Standard', null, { 'fo:font-size': '10pt' }),
    ...imageStyles(),
    style('paragraph', STYLES.pageBreak, 'Standard', { 'fo:break-before': 'page' }, null),
    style('text', STYLES.box, null, null, {}),
    ...markStyles(),
    ...Object.entries(LIST_STYLES).flatMap(([kind, name]) => [
      listStyle(name, kind),
      listStyle(`${MARK_PREFIX}${name}`, kind),
    ]),
  ];
}

/** `content.xml`. */
export function contentPart(flow: OdtFlow, body: readonly Element[]): Element {
  return el('office:document-content', { ...DECLARED, ...VERSION }, [
    fonts(),
    el('office:automatic-styles', {}, usedStyles(flow)),
    el('office:body', {}, [el('office:text', {}, [flow.tracked, ...body])]),
  ]);
}

/** The styles that what was written uses beside those that are always there. */
export function usedStyles(flow: OdtFlow): Element[] {
  const ALIGNS: Readonly<Record<string, string>> = { center: 'center', end: 'end', justify: 'justify' };
  const border = { 'fo:border': '0.5pt solid #d8d2c2', 'fo:padding': '0.05in' };
  const cell = (name: string, more: Properties): Element =>
    el('style:style', { 'style:name': name, 'style:family': 'table-cell' }, [
      el('style:table-cell-properties', { ...border, ...more }),
    ]);
  return [
    ...[...flow.languages].map((language) =>
      style('paragraph', codeStyle(language), STYLES.code, null, null),
    ),
    ...[...flow.derived].map(([name, { parent, align }]) =>
      style(
        'paragraph',
        name,
        parent,
        align === 'start' ? null : { 'fo:text-align': ALIGNS[align] ?? 'start' },
        null,
      ),
    ),
    ...[...flow.widths].map((width) =>
      el('style:style', { 'style:name': columnStyle(width), 'style:family': 'table-column' }, [
        el('style:table-column-properties', {
          'style:column-width': `${(width / PIXELS_PER_INCH).toFixed(4)}in`,
        }),
      ]),
    ),
    cell(STYLES.cell, {}),
    cell(STYLES.headCell, { 'fo:background-color': '#f5f2ea' }),
    el('style:style', { 'style:name': STYLES.container, 'style:family': 'section' }, [
      el('style:section-properties', { 'fo:margin-left': '0in' }),
    ]),
  ];
}

/** `meta.xml` (ODF 1.2 Part 1, 4.3). */
export function metaPart(title: string, author: string, at: string): Element {
  return el('office:document-meta', { ...DECLARED, ...VERSION }, [
    el('office:meta', {}, [
      el('dc:title', {}, [title]),
      el('dc:creator', {}, [author]),
      at ? el('dc:date', {}, [at.slice(0, 19)]) : null,
    ]),
  ]);
}

/** `META-INF/manifest.xml` (ODF 1.2 Part 3, 4). */
export function manifestPart(
  beside: readonly (readonly [name: string, type: string])[],
  type: string = MIME,
): Element {
  const entry = (path: string, type: string): Element =>
    el('manifest:file-entry', { 'manifest:full-path': path, 'manifest:media-type': type });
  return el(
    'manifest:manifest',
    { 'xmlns:manifest': DECLARED['xmlns:manifest'] ?? null, 'manifest:version': '1.2' },
    [
      el('manifest:file-entry', {
        'manifest:full-path': '/',
        'manifest:version': '1.2',
        'manifest:media-type': type,
      }),
      entry('content.xml', 'text/xml'),
      entry('styles.xml', 'text/xml'),
      entry('meta.xml', 'text/xml'),
      ...beside.map(([name, kind]) => entry(name, kind)),
    ],
  );
}
