import type { Node, NodeSpec } from 'prosemirror-model';
import type { Traits } from '../../content/index.js';
import { check, line, oneOf, wholeNumber } from '../attributes.js';
import type { Element } from '../attributes.js';
import { lineId, linePlace } from '../lines.js';
import { oneCellAColumn } from './doubles.js';

/** Inks a cell may be filled with; none is the plain paper. */
export const FILLS = ['', 'sand', 'reed', 'sky', 'rose'] as const;
/** How the text of a cell stands; none is by what it holds, numbers at the end. */
export const CELL_ALIGNMENTS = ['', 'start', 'center', 'end'] as const;
/** Most letters of a sheet's name and of a number format. */
export const LONGEST_SHEET_NAME = 100;
export const LONGEST_FORMAT = 100;

const [id, place] = [lineId, linePlace];
const said = (value: unknown): string => String(value);
const read = (dom: Element, name: string): string => dom.getAttribute(`data-${name}`) ?? '';

/**
 * Nodes of the sheet kind. Sheets and rows stand side by side in the book, in no order that counts: a row names its sheet, a cell its
 * column, and sheets, columns and rows say where they are shown by a key of order. So adding, moving and sorting what several people do at the same
 * time never cross: each sets what is its own. What names a sheet or a column that is gone is shown nowhere, and is there again when that comes
 * back.
 */
export const nodes = {
  book: { content: 'sheet (sheet | row)*' },
  sheet: {
    content: 'column*',
    attrs: {
      id: id('first'),
      name: line(LONGEST_SHEET_NAME),
      place,
      frozenRows: wholeNumber(0, 0, 100),
      frozenColumns: wholeNumber(0, 0, 100),
    },
    key: 'id',
    free: true,
    plain: ({ attrs }: Node) => said(attrs['name']),
    erased: { name: '' },
    parseDOM: [
      {
        tag: 'div[data-sheet]',
        getAttrs: (dom: Element) => ({
          id: read(dom, 'sheet'),
          name: read(dom, 'name'),
          place: read(dom, 'place') || 'a0',
          frozenRows: Number(read(dom, 'frozen-rows')) || 0,
          frozenColumns: Number(read(dom, 'frozen-columns')) || 0,
        }),
      },
    ],
    toDOM: ({ attrs }) => [
      'div',
      {
        'data-sheet': said(attrs['id']),
        'data-name': said(attrs['name']),
        'data-place': said(attrs['place']),
        'data-frozen-rows': said(attrs['frozenRows']),
        'data-frozen-columns': said(attrs['frozenColumns']),
      },
      0,
    ],
  },
  column: {
    attrs: { id: id(), place, width: wholeNumber(96, 8, 2000) },
    identity: 'id',
    key: 'id',
    free: true,
    parseDOM: [
      {
        tag: 'span[data-column-head]',
        getAttrs: (dom: Element) => ({
          id: read(dom, 'column-head'),
          place: read(dom, 'place') || 'a0',
          width: Number(read(dom, 'width')) || 96,
        }),
      },
    ],
    toDOM: ({ attrs }) => [
      'span',
      {
        'data-column-head': said(attrs['id']),
        'data-place': said(attrs['place']),
        'data-width': said(attrs['width']),
      },
    ],
  },
  row: {
    content: 'cell*',
    attrs: { id: id(), sheet: id('first'), place },
    role: 'record',
    key: 'id',
    free: true,
    whole: oneCellAColumn,
    parseDOM: [
      {
        tag: 'div[data-row]',
        getAttrs: (dom: Element) => ({
          id: read(dom, 'row'),
          sheet: read(dom, 'of'),
          place: read(dom, 'place') || 'a0',
        }),
      },
    ],
    toDOM: ({ attrs }) => [
      'div',
      { 'data-row': said(attrs['id']), 'data-of': said(attrs['sheet']), 'data-place': said(attrs['place']) },
      0,
    ],
  },
  cell: {
    content: 'text*',
    marks: '',
    code: true,
    role: 'cell',
    key: 'column',
    free: true,
    attrs: {
      column: id(),
      format: line(LONGEST_FORMAT),
      align: oneOf(CELL_ALIGNMENTS, ''),
      bold: check(false, 'true or false', (value) => typeof value === 'boolean'),
      fill: oneOf(FILLS, ''),
    },
    erased: { format: '' },
    parseDOM: [
      {
        tag: 'span[data-column]',
        preserveWhitespace: 'full',
        getAttrs: (dom: Element) => ({
          column: read(dom, 'column'),
          format: read(dom, 'format'),
          align: read(dom, 'align'),
          bold: read(dom, 'bold') === 'true',
          fill: read(dom, 'fill'),
        }),
      },
    ],
    toDOM: ({ attrs }) => {
      const shown: Record<string, string> = { 'data-column': said(attrs['column']) };
      for (const name of ['format', 'align', 'fill'])
        if (attrs[name]) shown[`data-${name}`] = said(attrs[name]);
      if (attrs['bold']) shown['data-bold'] = 'true';
      return ['span', shown, 0];
    },
  },
  text: {},
} satisfies Record<string, NodeSpec & Traits>;
