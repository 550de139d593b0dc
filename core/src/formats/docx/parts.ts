import type { Node } from 'prosemirror-model';
import { FONTS } from '../looks.js';
import type { Element } from '../packed/xml.js';
import { el } from '../packed/xml.js';
import { BODY_SIZE, FOOTNOTE_SIZE, HEADING_SIZES, INDENT, STYLES, WRITTEN } from './names.js';

const CONTENT_TYPE = 'application/vnd.openxmlformats-officedocument.wordprocessingml';
const PACKAGE = 'http://schemas.openxmlformats.org/package/2006';

/** Parts beside the body: name within `word/`, type of its relationship and of its content. */
export const SIDE_PARTS = [
  ['styles', `${CONTENT_TYPE}.styles+xml`],
  ['numbering', `${CONTENT_TYPE}.numbering+xml`],
  ['fontTable', `${CONTENT_TYPE}.fontTable+xml`],
  ['settings', `${CONTENT_TYPE}.settings+xml`],
] as const;

/** `[Content_Types].xml` (ECMA-376 Part 2, 6.2.3). `beside` are parts that not every file has: footnotes, headers, footers. */
export function contentTypes(beside: readonly string[]): Element {
  const part = (name: string, type: string): Element =>
    el('Override', { PartName: `/${name}`, ContentType: type });
  const ending = (name: string, type: string): Element =>
    el('Default', { Extension: name, ContentType: type });
  return el('Types', { xmlns: `${PACKAGE}/content-types` }, [
    ending('rels', 'application/vnd.openxmlformats-package.relationships+xml'),
    ending('xml', 'application/xml'),
    ending('png', 'image/png'),
    ending('jpg', 'image/jpeg'),
    ending('gif', 'image/gif'),
    ending('webp', 'image/webp'),
    part('word/document.xml', `${CONTENT_TYPE}.document.main+xml`),
    ...SIDE_PARTS.map(([name, type]) => part(`word/${name}.xml`, type)),
    ...beside.map((name) => part(`word/${name}.xml`, `${CONTENT_TYPE}.${name.replace(/\d+$/, '')}+xml`)),
    part('docProps/core.xml', 'application/vnd.openxmlformats-package.core-properties+xml'),
  ]);
}

export function packageRelations(): Element {
  return relations([
    el('Relationship', { Id: 'main', Type: `${WRITTEN.r}/officeDocument`, Target: 'word/document.xml' }),
    el('Relationship', {
      Id: 'core',
      Type: `${PACKAGE}/relationships/metadata/core-properties`,
      Target: 'docProps/core.xml',
    }),
  ]);
}

export function mainRelations(own: readonly Element[]): Element {
  return relations([...SIDE_PARTS.map(([name]) => besideRelation(name)), ...own]);
}

/** The relationship of the body with a part beside it. */
export function besideRelation(name: string): Element {
  return el('Relationship', { Id: name, Type: `${WRITTEN.r}/${name}`, Target: `${name}.xml` });
}

export function relations(all: readonly Element[]): Element {
  return el('Relationships', { xmlns: `${PACKAGE}/relationships` }, all);
}

/** Core properties (ECMA-376 Part 2, 8). */
export function coreProperties(title: string, author: string, at: string): Element {
  const time = (name: string): Element =>
    el(`dcterms:${name}`, { 'xsi:type': 'dcterms:W3CDTF' }, [`${at.slice(0, 19)}Z`]);
  return el(
    'cp:coreProperties',
    {
      'xmlns:cp': `${PACKAGE}/metadata/core-properties`,
      'xmlns:dc': 'http://purl.org/dc/elements/1.1/',
      'xmlns:dcterms': 'http://purl.org/dc/terms/',
      'xmlns:xsi': 'http://www.w3.org/2001/XMLSchema-instance',
    },
    [
      el('dc:title', {}, [title]),
      el('dc:creator', {}, [author]),
      el('cp:lastModifiedBy', {}, [author]),
      ...(at ? [time('created'), time('modified')] : []),
    ],
  );
}

const val = (name: string, value: string | number): Element => el(name, { 'w:val': value });
const spacing = (before: number, after: number): Element =>
  el('w:spacing', { 'w:before': before, 'w:after': after });

function style(
  type: 'paragraph' | 'character' | 'table',
  { id, name }: { readonly id: string; readonly name: string },
  paragraph: readonly Element[],
  run: readonly Element[],
  more: readonly Element[] = [],
): Element {
  const basis = { paragraph: 'Normal', character: 'DefaultParagraphFont', table: 'TableNormal' }[type];
  return el('w:style', { 'w:type': type, 'w:styleId': id }, [
    val('w:name', name),
    val('w:basedOn', basis),
    el('w:qFormat'),
    paragraph.length > 0 ? el('w:pPr', {}, paragraph) : null,
    run.length > 0 ? el('w:rPr', {}, run) : null,
    ...more,
  ]);
}

function fontsOf(name: string): Element {
  return el('w:rFonts', { 'w:ascii': name, 'w:hAnsi': name, 'w:cs': name });
}

function defaultStyle(type: string, id: string, name: string, more: readonly Element[] = []): Element {
  return el('w:style', { 'w:type': type, 'w:default': 1, 'w:styleId': id }, [val('w:name', name), ...more]);
}

/** The style sheet. Names are the built-in ones where there is one, so that a program knows what they are for. */
export function styles(): Element {
  const margins = ['top', 'left', 'bottom', 'right'].map((side) =>
    el(`w:${side}`, { 'w:w': side === 'top' || side === 'bottom' ? 0 : 108, 'w:type': 'dxa' }),
  );
  const borders = ['top', 'left', 'bottom', 'right', 'insideH', 'insideV'].map((side) =>
    el(`w:${side}`, { 'w:val': 'single', 'w:sz': 4, 'w:space': 0, 'w:color': 'D8D2C2' }),
  );
  return el('w:styles', { 'xmlns:w': WRITTEN.w }, [
    el('w:docDefaults', {}, [
      el('w:rPrDefault', {}, [
        el('w:rPr', {}, [fontsOf(FONTS.serif.name), val('w:sz', BODY_SIZE), val('w:szCs', BODY_SIZE)]),
      ]),
      el('w:pPrDefault', {}, [
        el('w:pPr', {}, [el('w:spacing', { 'w:after': 160, 'w:line': 288, 'w:lineRule': 'auto' })]),
      ]),
    ]),
    defaultStyle('paragraph', 'Normal', 'Normal', [el('w:qFormat')]),
    defaultStyle('character', 'DefaultParagraphFont', 'Default Paragraph Font'),
    defaultStyle('table', 'TableNormal', 'Normal Table', [
      el('w:tblPr', {}, [el('w:tblInd', { 'w:w': 0, 'w:type': 'dxa' }), el('w:tblCellMar', {}, margins)]),
    ]),
    defaultStyle('numbering', 'NoList', 'No List'),
    ...HEADING_SIZES.map((size, i) =>
      style(
        'paragraph',
        { id: `Heading${i + 1}`, name: `heading ${i + 1}` },
        [el('w:keepNext'), el('w:keepLines'), spacing(i < 2 ? 360 : 240, 120), val('w:outlineLvl', i)],
        [fontsOf(FONTS.sans.name), el('w:b'), val('w:sz', size), val('w:szCs', size)],
      ),
    ),
    style('paragraph', STYLES.quote, [el('w:ind', { 'w:left': INDENT, 'w:right': INDENT })], [el('w:i')]),
    style('paragraph', STYLES.item, [spacing(0, 80)], []),
    style(
      'paragraph',
      STYLES.code,
      [el('w:shd', { 'w:val': 'clear', 'w:color': 'auto', 'w:fill': 'F5F2EA' })],
      [fontsOf(FONTS.mono.name), val('w:sz', 20)],
    ),
    style(
      'paragraph',
      STYLES.between,
      [el('w:spacing', { 'w:before': 0, 'w:after': 0, 'w:line': 120, 'w:lineRule': 'exact' })],
      [val('w:sz', 4)],
    ),
    style(
      'paragraph',
      STYLES.footnote,
      [spacing(0, 60)],
      [val('w:sz', FOOTNOTE_SIZE), val('w:szCs', FOOTNOTE_SIZE)],
    ),
    style('paragraph', STYLES.header, [spacing(0, 0)], [val('w:sz', 20), val('w:szCs', 20)]),
    style('paragraph', STYLES.footer, [spacing(0, 0)], [val('w:sz', 20), val('w:szCs', 20)]),
    style('character', STYLES.footnoteSign, [], [val('w:vertAlign', 'superscript')]),
    style('character', STYLES.inlineCode, [], [fontsOf(FONTS.mono.name)]),
    style('character', STYLES.link, [], [val('w:color', '0E7490'), val('w:u', 'single')]),
    style('table', STYLES.table, [spacing(0, 0)], [], [el('w:tblPr', {}, [el('w:tblBorders', {}, borders)])]),
  ]);
}

/** Marks of bullets by level. A check list shows its boxes only, so its mark has no width. */
const BULLETS = ['\u2022', '\u2013', '\u25aa'];
const KINDS = ['bullet_list', 'ordered_list', 'check_list'];

/** Numbering: one definition a kind of list, and one instance a list (ECMA-376 Part 1, 17.9). */
export function numbering(lists: readonly Node[]): Element {
  const levels = (kind: string): Element[] =>
    Array.from({ length: 9 }, (_, i) =>
      el('w:lvl', { 'w:ilvl': i }, [
        val('w:start', 1),
        val(
          'w:numFmt',
          kind === 'ordered_list' ? (['decimal', 'lowerLetter', 'lowerRoman'][i % 3] as string) : 'bullet',
        ),
        val(
          'w:lvlText',
          kind === 'ordered_list'
            ? `%${i + 1}.`
            : kind === 'check_list'
              ? '\u200b'
              : (BULLETS[i % 3] as string),
        ),
        val('w:lvlJc', 'left'),
        el('w:pPr', {}, [
          el('w:ind', { 'w:left': INDENT * (i + 1), 'w:hanging': kind === 'check_list' ? 0 : INDENT / 2 }),
        ]),
      ]),
    );
  return el('w:numbering', { 'xmlns:w': WRITTEN.w }, [
    ...KINDS.map((kind, i) =>
      el('w:abstractNum', { 'w:abstractNumId': i }, [val('w:multiLevelType', 'multilevel'), ...levels(kind)]),
    ),
    ...lists.map((list, i) =>
      el('w:num', { 'w:numId': i + 1 }, [
        val('w:abstractNumId', KINDS.indexOf(list.type.name)),
        ...Array.from({ length: 9 }, (_, level) =>
          el('w:lvlOverride', { 'w:ilvl': level }, [
            val('w:startOverride', Number(list.attrs['start'] ?? 1)),
          ]),
        ),
      ]),
    ),
  ]);
}

export function fontTable(): Element {
  return el(
    'w:fonts',
    { 'xmlns:w': WRITTEN.w },
    Object.values(FONTS).map(({ name, family }) =>
      el('w:font', { 'w:name': name }, [
        val('w:family', family),
        val('w:pitch', family === 'modern' ? 'fixed' : 'variable'),
      ]),
    ),
  );
}

/** Settings; `notes` is what they say about footnotes. */
export function settings(notes: Element | null): Element {
  return el('w:settings', { 'xmlns:w': WRITTEN.w }, [
    notes,
    el('w:compat', {}, [
      el('w:compatSetting', {
        'w:name': 'compatibilityMode',
        'w:uri': 'http://schemas.microsoft.com/office/word',
        'w:val': 15,
      }),
    ]),
  ]);
}
