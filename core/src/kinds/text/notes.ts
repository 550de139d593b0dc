import type { Node, NodeSpec } from 'prosemirror-model';
import type { Traits } from '../../content/index.js';
import { check } from '../attributes.js';
import type { Element } from '../attributes.js';

const NOTE_ID = /^[a-z0-9]{1,24}$/;

/** Whether a name can be that of a footnote. */
export function isNoteId(value: unknown): value is string {
  return typeof value === 'string' && NOTE_ID.test(value);
}

const note = check(undefined, 'the name of a footnote, small letters and figures', isNoteId);

/**
 * The sign of a footnote in the text. The footnote itself is a block of the same name, by custom at the end of the document; so
 * its letters are text like any other, with their writers and their history.
 */
export const footnoteMark: NodeSpec & Traits = {
  inline: true,
  group: 'inline',
  identity: 'note',
  plain: () => '[*]',
  attrs: { note },
  parseDOM: [{ tag: 'sup[data-note]', priority: 60, getAttrs: (dom: Element) => named(dom, 'data-note') }],
  toDOM: (node) => ['sup', { 'data-note': String(node.attrs['note']) }],
};

/** A footnote. */
export const footnote: NodeSpec = {
  content: 'inline*',
  group: 'block',
  defining: true,
  attrs: { note },
  parseDOM: [
    { tag: 'p[data-footnote]', priority: 60, getAttrs: (dom: Element) => named(dom, 'data-footnote') },
  ],
  toDOM: (node) => ['p', { 'data-footnote': String(node.attrs['note']) }, 0],
};

function named(dom: Element, attribute: string): { note: string } | false {
  const id = dom.getAttribute(attribute);
  return isNoteId(id) && { note: id };
}

/** Numbers of footnotes by name, from 1, in the order of their signs; those that no sign is of come last. */
export function noteNumbers(doc: Node): ReadonlyMap<string, number> {
  const signs = new Set<string>();
  const notes = new Set<string>();
  doc.descendants((node) => {
    if (node.type.name === 'footnote_mark') signs.add(String(node.attrs['note']));
    if (node.type.name === 'footnote') notes.add(String(node.attrs['note']));
  });
  return new Map([...new Set([...signs, ...notes])].map((id, i) => [id, i + 1]));
}
