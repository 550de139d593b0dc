import { PAGE_WIDTH } from '../looks.js';
import type { Namespaces } from '../packed/xml.js';

const OOXML = 'http://schemas.openxmlformats.org';
const STRICT = 'http://purl.oclc.org/ooxml';

/** The namespaces that are written, by prefix. Source: ECMA-376 (5th ed.) Parts 1 and 4; w14 after [MS-DOCX] 2.5. */
export const WRITTEN = {
  w: `${OOXML}/wordprocessingml/2006/main`,
  r: `${OOXML}/officeDocument/2006/relationships`,
  wp: `${OOXML}/drawingml/2006/wordprocessingDrawing`,
  a: `${OOXML}/drawingml/2006/main`,
  pic: `${OOXML}/drawingml/2006/picture`,
  mc: `${OOXML}/markup-compatibility/2006`,
  w14: 'http://schemas.microsoft.com/office/word/2010/wordml',
  v: 'urn:schemas-microsoft-com:vml',
  o: 'urn:schemas-microsoft-com:office:office',
} as const;

/** The namespaces that are read, those of the strict form (Part 1) under the same prefixes as the transitional ones (Part 4). */
export const READ: Namespaces = {
  ...Object.fromEntries(Object.entries(WRITTEN).map(([prefix, uri]) => [uri, prefix])),
  [`${STRICT}/wordprocessingml/main`]: 'w',
  [`${STRICT}/officeDocument/relationships`]: 'r',
  [`${STRICT}/drawingml/wordprocessingDrawing`]: 'wp',
  [`${STRICT}/drawingml/main`]: 'a',
  [`${STRICT}/drawingml/picture`]: 'pic',
  [`${OOXML}/officeDocument/2006/math`]: 'm',
  [`${STRICT}/officeDocument/math`]: 'm',
  [`${OOXML}/package/2006/relationships`]: 'rel',
  [`${OOXML}/package/2006/content-types`]: 'ct',
  [`${OOXML}/package/2006/metadata/core-properties`]: 'cp',
  'http://purl.org/dc/elements/1.1/': 'dc',
};

/** Twentieths of a point to a CSS pixel, and English metric units to one (ECMA-376 Part 1, 17.18.105 and 20.1.10.16). */
export const TWIPS = 15;
export const EMUS = 9525;
export const TWIPS_PER_MM = 1440 / 25.4;
/** How far a level of a list or quote is set in, in twentieths of a point. */
export const INDENT = 480;
/** Width of the text, in twentieths of a point. */
export const TEXT_WIDTH = PAGE_WIDTH * TWIPS;

/** Ids and names of the styles that are written. The names are the built-in ones where there is one. */
export const STYLES = {
  quote: { id: 'Quote', name: 'Quote' },
  item: { id: 'ListParagraph', name: 'List Paragraph' },
  code: { id: 'SourceCode', name: 'Source Code' },
  between: { id: 'BetweenTables', name: 'Between Tables' },
  table: { id: 'TableGrid', name: 'Table Grid' },
  link: { id: 'Hyperlink', name: 'Hyperlink' },
  footnote: { id: 'FootnoteText', name: 'footnote text' },
  footnoteSign: { id: 'FootnoteReference', name: 'footnote reference' },
  header: { id: 'Header', name: 'header' },
  footer: { id: 'Footer', name: 'footer' },
  inlineCode: { id: 'VerbatimChar', name: 'Verbatim Char' },
} as const;

/** Highlighter inks and the colours that stand for them (Part 1, 17.18.40). */
export const INK_COLOURS = { sand: 'yellow', reed: 'green', sky: 'cyan', rose: 'magenta' } as const;

/** Sizes of body text and of headings in half points. */
export const BODY_SIZE = 24;
export const FOOTNOTE_SIZE = 20;
export const HEADING_SIZES = [40, 32, 28, 26, 24, 24] as const;
