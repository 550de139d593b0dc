import type { Node } from 'prosemirror-model';
import type { Paper } from '../kinds/text/index.js';
import { textSchema as schema } from '../kinds/text/index.js';

/** Builders that make a case one readable line: `doc(h(2, 'The race'), p('Twice a day'))`. */
type Content = string | Node;

const inline = (parts: readonly Content[]): Node[] =>
  parts.filter((part) => part !== '').map((part) => (typeof part === 'string' ? schema.text(part) : part));

export const doc = (...blocks: Node[]): Node => schema.node('doc', null, blocks);
export const p = (...parts: Content[]): Node => schema.node('paragraph', null, inline(parts));
export const h = (level: number, ...parts: Content[]): Node =>
  schema.node('heading', { level }, inline(parts));
export const quote = (...blocks: Node[]): Node => schema.node('quote', null, blocks);
export const li = (...blocks: Node[]): Node => schema.node('list_item', null, blocks);
export const ul = (...items: Node[]): Node => schema.node('bullet_list', null, items);
export const ol = (...items: Node[]): Node => schema.node('ordered_list', null, items);
export const check = (checked: boolean, ...blocks: Node[]): Node =>
  schema.node('check_item', { checked }, blocks);
export const checks = (...items: Node[]): Node => schema.node('check_list', null, items);
export const code = (text: string): Node => schema.node('code_block', null, text ? [schema.text(text)] : []);
export const td = (...blocks: Node[]): Node => schema.node('table_cell', null, blocks);
export const tr = (...cells: Node[]): Node => schema.node('table_row', null, cells);
export const table = (...rows: Node[]): Node => schema.node('table', null, rows);
export const bold = (text: string): Node => schema.text(text, [schema.mark('bold')]);
export const link = (href: string, text: string): Node => schema.text(text, [schema.mark('link', { href })]);
export const th = (...blocks: Node[]): Node => schema.node('table_header', null, blocks);
export const image = (letter: string, alt = '', width: number | null = null): Node =>
  schema.node('image', { hash: letter.repeat(64), alt, width });
export const sign = (note: string): Node => schema.node('footnote_mark', { note });
export const footnote = (note: string, ...parts: Content[]): Node =>
  schema.node('footnote', { note }, inline(parts));
export const paper = (attrs: Partial<Paper> = {}): Node => schema.node('page_setup', attrs);
export const italic = (text: string): Node => schema.text(text, [schema.mark('italic')]);
export const centred = (...parts: Content[]): Node =>
  schema.node('paragraph', { align: 'center' }, inline(parts));
export const strongLink = (href: string, text: string): Node =>
  schema.text(text, [schema.mark('link', { href }), schema.mark('bold')]);
export const wide = (colspan: number, ...blocks: Node[]): Node =>
  schema.node('table_cell', { colspan }, blocks);
