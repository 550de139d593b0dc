import type { AttributeSpec, NodeSpec } from 'prosemirror-model';
import { rectangular } from '../../content/index.js';
import type { Traits } from '../../content/index.js';
import { check, wholeNumber } from '../attributes.js';
import type { Element } from '../attributes.js';
import { image } from './images.js';
import { footnote, footnoteMark } from './notes.js';
import { pageSetup } from './paper.js';

/** Alignments of a paragraph or heading, in writing-direction terms. */
export const ALIGNMENTS = ['start', 'center', 'end', 'justify'] as const;

const align = check('start', `one of ${ALIGNMENTS.join(', ')}`, (value) =>
  ALIGNMENTS.includes(value as 'start'),
);

const aligned = (value: unknown): Record<string, string> =>
  value === 'start' ? {} : { 'data-align': String(value) };

const readAlign = (dom: Element): string => {
  const value = dom.getAttribute('data-align') ?? dom.style.textAlign;
  const written = value === 'right' ? 'end' : value === 'left' ? 'start' : value;
  return ALIGNMENTS.includes(written as 'start') ? written : 'start';
};

const cellAttrs: Record<string, AttributeSpec> = {
  colspan: wholeNumber(1, 1, 100),
  rowspan: wholeNumber(1, 1, 1000),
  colwidth: check(
    null,
    'a list of column widths in pixels, or null',
    (value) =>
      value === null ||
      (Array.isArray(value) && value.every((width) => Number.isInteger(width) && width >= 0)),
  ),
};

const readWidths = (written: string | null): number[] | null => {
  const widths = (written ?? '').split(',').map(Number);
  return written && widths.every((width) => Number.isInteger(width) && width >= 0) ? widths : null;
};

function cell(tag: 'td' | 'th', role: string): NodeSpec & Traits {
  return {
    content: 'block+',
    attrs: cellAttrs,
    tableRole: role,
    role: 'cell',
    family: 'cell',
    isolating: true,
    parseDOM: [
      {
        tag,
        getAttrs: (dom: Element) => ({
          colspan: Number(dom.getAttribute('colspan') ?? 1) || 1,
          rowspan: Number(dom.getAttribute('rowspan') ?? 1) || 1,
          colwidth: readWidths(dom.getAttribute('data-colwidth')),
        }),
      },
    ],
    toDOM: (node) => {
      const attrs: Record<string, string> = {};
      for (const name of ['colspan', 'rowspan'])
        if (node.attrs[name] !== 1) attrs[name] = String(node.attrs[name]);
      const widths = node.attrs['colwidth'] as number[] | null;
      if (widths) attrs['data-colwidth'] = widths.join(',');
      if (widths?.every((width) => width > 0))
        attrs['style'] = `width:${widths.reduce((sum, width) => sum + width, 0)}px`;
      return [tag, attrs, 0];
    },
  };
}

/** Nodes of the text kind. How to add one: docs/block-types.md. */
export const nodes = {
  doc: { content: 'block+' },
  paragraph: {
    content: 'inline*',
    group: 'block',
    role: 'prose',
    family: 'prose',
    attrs: { align },
    parseDOM: [{ tag: 'p', getAttrs: (dom: Element) => ({ align: readAlign(dom) }) }],
    toDOM: (node) => ['p', aligned(node.attrs['align']), 0],
  },
  heading: {
    content: 'inline*',
    group: 'block',
    role: 'heading',
    family: 'prose',
    defining: true,
    attrs: { level: wholeNumber(1, 1, 6), align },
    parseDOM: [1, 2, 3, 4, 5, 6].map((level) => ({
      tag: `h${level}`,
      getAttrs: (dom: Element) => ({ level, align: readAlign(dom) }),
    })),
    toDOM: (node) => [`h${String(node.attrs['level'])}`, aligned(node.attrs['align']), 0],
  },
  bullet_list: {
    content: 'list_item+',
    group: 'block',
    role: 'list',
    family: 'list',
    parseDOM: [{ tag: 'ul' }],
    toDOM: () => ['ul', 0],
  },
  ordered_list: {
    content: 'list_item+',
    group: 'block',
    role: 'list',
    family: 'list',
    attrs: { start: wholeNumber(1, 0, 1_000_000) },
    parseDOM: [
      { tag: 'ol', getAttrs: (dom: Element) => ({ start: Number(dom.getAttribute('start') ?? 1) || 1 }) },
    ],
    toDOM: (node) =>
      node.attrs['start'] === 1 ? ['ol', 0] : ['ol', { start: String(node.attrs['start']) }, 0],
  },
  check_list: {
    content: 'check_item+',
    group: 'block',
    role: 'list',
    family: 'list',
    parseDOM: [{ tag: 'ul[data-checks]', priority: 60 }],
    toDOM: () => ['ul', { 'data-checks': 'true' }, 0],
  },
  list_item: {
    content: 'block+',
    role: 'item',
    family: 'item',
    defining: true,
    parseDOM: [{ tag: 'li' }],
    toDOM: () => ['li', 0],
  },
  check_item: {
    content: 'block+',
    role: 'item',
    family: 'item',
    defining: true,
    attrs: { checked: { default: false, validate: 'boolean' } },
    parseDOM: [
      {
        tag: 'li[data-checked]',
        priority: 60,
        getAttrs: (dom: Element) => ({ checked: dom.getAttribute('data-checked') === 'true' }),
      },
    ],
    toDOM: (node) => ['li', { 'data-checked': String(node.attrs['checked']) }, 0],
  },
  quote: {
    content: 'block+',
    group: 'block',
    defining: true,
    parseDOM: [{ tag: 'blockquote' }],
    toDOM: () => ['blockquote', 0],
  },
  code_block: {
    content: 'text*',
    marks: '',
    group: 'block',
    code: true,
    defining: true,
    erased: { language: '' },
    attrs: { language: { default: '', validate: 'string' } },
    parseDOM: [
      {
        tag: 'pre',
        preserveWhitespace: 'full',
        getAttrs: (dom: Element) => ({ language: dom.getAttribute('data-language') ?? '' }),
      },
    ],
    toDOM: (node) => [
      'pre',
      node.attrs['language'] ? { 'data-language': String(node.attrs['language']) } : {},
      ['code', 0],
    ],
  },
  rule: { group: 'block', plain: () => '---', parseDOM: [{ tag: 'hr' }], toDOM: () => ['hr'] },
  page_break: {
    group: 'block',
    parseDOM: [{ tag: 'hr[data-page-break]', priority: 60 }],
    toDOM: () => ['hr', { 'data-page-break': 'true' }],
  },
  footnote,
  page_setup: pageSetup,
  table: {
    content: 'table_row+',
    group: 'block',
    tableRole: 'table',
    role: 'table',
    intact: true,
    whole: rectangular,
    isolating: true,
    parseDOM: [{ tag: 'table' }],
    toDOM: () => ['table', ['tbody', 0]],
  },
  table_row: {
    content: '(table_cell | table_header)+',
    tableRole: 'row',
    role: 'row',
    parseDOM: [{ tag: 'tr' }],
    toDOM: () => ['tr', 0],
  },
  table_cell: cell('td', 'cell'),
  table_header: cell('th', 'header_cell'),
  text: { group: 'inline' },
  image,
  footnote_mark: footnoteMark,
  hard_break: {
    inline: true,
    group: 'inline',
    selectable: false,
    role: 'line',
    plain: () => '\n',
    parseDOM: [{ tag: 'br' }],
    toDOM: () => ['br'],
  },
} satisfies Record<string, NodeSpec & Traits>;
