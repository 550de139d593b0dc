import type { Namespaces } from '../packed/xml.js';

const ODF = 'urn:oasis:names:tc:opendocument:xmlns';

/** Namespaces by prefix. Source: OpenDocument 1.2 (ISO/IEC 26300) Part 1, 1.3. */
export const SPACES = {
  office: `${ODF}:office:1.0`,
  style: `${ODF}:style:1.0`,
  text: `${ODF}:text:1.0`,
  table: `${ODF}:table:1.0`,
  draw: `${ODF}:drawing:1.0`,
  fo: `${ODF}:xsl-fo-compatible:1.0`,
  svg: `${ODF}:svg-compatible:1.0`,
  meta: `${ODF}:meta:1.0`,
  manifest: `${ODF}:manifest:1.0`,
  xlink: 'http://www.w3.org/1999/xlink',
  dc: 'http://purl.org/dc/elements/1.1/',
} as const;

export const READ: Namespaces = {
  ...Object.fromEntries(Object.entries(SPACES).map(([prefix, uri]) => [uri, prefix])),
  'http://www.w3.org/1998/Math/MathML': 'math',
};

/** Attributes that declare the namespaces of a part. */
export const DECLARED = Object.fromEntries(
  Object.entries(SPACES).map(([prefix, uri]) => [`xmlns:${prefix}`, uri]),
);

/** Names of the paragraph styles that are written, as they are encoded in XML (19.498): `_20_` stands for a space. */
export const STYLES = {
  text: 'Text_20_body',
  quote: 'Quotations',
  code: 'Preformatted_20_Text',
  rule: 'Horizontal_20_Line',
  footnote: 'Footnote',
  header: 'Header',
  footer: 'Footer',
  pageBreak: 'Page_20_Break',
  box: 'Check_20_Box',
  cell: 'Cell',
  headCell: 'Heading_20_Cell',
  container: 'Container',
} as const;

/** Highlighter inks as colours. */
export const INK_COLOURS = { sand: '#fff3b0', reed: '#cfe8cf', sky: '#cfe4f5', rose: '#f6d5dd' } as const;

/** Names of list styles by kind of list; in a container that is named, a list of one item only shows its mark. */
export const LIST_STYLES = {
  bullet_list: 'Bullets',
  ordered_list: 'Numbers',
  check_list: 'Checks',
} as const;
/** Graphic styles of images that text flows past, or that stand across the page. */
export const IMAGE_STYLES = { start: 'Image_20_start', end: 'Image_20_end', wide: 'Image_20_wide' } as const;
export const MARK_PREFIX = 'Mark_20_';

export const PIXELS_PER_INCH = 96;

export const MIME = 'application/vnd.oasis.opendocument.text';
