import { SaxesParser } from 'saxes';
import { textOfBytes } from '../bytes.js';
import { toXml } from 'xast-util-to-xml';
import { FormatError } from '../format.js';

/** Elements nested deeper than this are refused: no document needs them, and a stack has an end. */
const DEEPEST = 400;
const MOST_ELEMENTS = 1_000_000;

/** An element of an XML part, after the syntax tree of `xast` but without what a part never holds. */
export interface Element {
  readonly type: 'element';
  readonly name: string;
  readonly attributes: Record<string, string>;
  readonly children: (Element | Text)[];
}

interface Text {
  readonly type: 'text';
  readonly value: string;
}

/** Namespace names with the prefix the reader knows each by, whatever prefix a file gives it. */
export type Namespaces = Readonly<Record<string, string>>;

/**
 * Reads an XML part into a tree; names get the prefixes of `namespaces`, those of unknown ones `?`. No document type is
 * taken, so no entity is ever expanded (ECMA-376 Part 2, 6.2.5: a package part holds no DTD). Throws `FormatError`.
 */
export function parseXml(bytes: Uint8Array, namespaces: Namespaces): Element {
  const parser = new SaxesParser({ xmlns: true });
  const holder: Element = { type: 'element', name: '', attributes: {}, children: [] };
  const open: Element[] = [holder];
  let text = '';
  let count = 0;
  const flush = (): void => {
    if (text) open.at(-1)?.children.push({ type: 'text', value: text });
    text = '';
  };
  const named = (uri: string, prefix: string, local: string): string =>
    uri === '' ? local : `${prefix === 'xml' ? 'xml' : (namespaces[uri] ?? '?')}:${local}`;
  parser.on('doctype', () => {
    throw new FormatError('This file holds a document type definition, which no document needs.');
  });
  parser.on('error', () => {
    throw new FormatError('This file is damaged: a part of it is not well-formed XML.');
  });
  parser.on('text', (value) => (text += value));
  parser.on('cdata', (value) => (text += value));
  parser.on('opentag', (tag) => {
    if (open.length > DEEPEST || ++count > MOST_ELEMENTS)
      throw new FormatError('This file is nested too deeply, or is too large, to be read.');
    flush();
    const attributes: Record<string, string> = {};
    for (const { uri, prefix, local, value } of Object.values(tag.attributes))
      if (prefix !== 'xmlns' && local !== 'xmlns') attributes[named(uri, prefix, local)] = value;
    const element: Element = {
      type: 'element',
      name: named(tag.uri, tag.prefix, tag.local),
      attributes,
      children: [],
    };
    open.at(-1)?.children.push(element);
    open.push(element);
  });
  parser.on('closetag', () => {
    flush();
    open.pop();
  });
  parser.write(textOfBytes(bytes)).close();
  const root = holder.children.find((child) => child.type === 'element');
  if (!root) throw new FormatError('This file is damaged: a part of it is empty.');
  return root;
}

/** An XML part as text, with its declaration. */
export function printXml(root: Element): string {
  return `<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n${toXml(root, { closeEmptyElements: true })}`;
}

/** The elements among an element's children, or those of one name. */
export function elementsOf(element: Element | null | undefined, name?: string): Element[] {
  return (element?.children ?? []).filter(
    (child): child is Element => child.type === 'element' && (name === undefined || child.name === name),
  );
}

/** The first element down a path of names, or null. */
export function down(element: Element | null | undefined, ...path: readonly string[]): Element | null {
  let at: Element | null = element ?? null;
  for (const name of path) at = elementsOf(at, name)[0] ?? null;
  return at;
}

/** An element's own text, without that of elements in it. */
export function ownText(element: Element): string {
  return element.children.map((child) => (child.type === 'text' ? child.value : '')).join('');
}

/** All the text in an element. */
export function textIn(node: Element | Text): string {
  return node.type === 'text' ? node.value : node.children.map(textIn).join('');
}

/** The first element of a name anywhere within. */
export function within(element: Element, name: string): Element | null {
  for (const child of elementsOf(element)) {
    const found = child.name === name ? child : within(child, name);
    if (found) return found;
  }
  return null;
}

/** An element to write. Attributes without a value are left out, and so are children that are null. */
export function el(
  name: string,
  attributes: Readonly<Record<string, string | number | null | undefined>> = {},
  children: readonly (Element | string | null)[] = [],
): Element {
  const held = Object.entries(attributes).filter(([, value]) => value !== null && value !== undefined);
  return {
    type: 'element',
    name,
    attributes: Object.fromEntries(held.map(([key, value]) => [key, String(value)])),
    children: children
      .filter((child) => child !== null)
      .map((child) => (typeof child === 'string' ? { type: 'text', value: writable(child) } : child)),
  };
}

/** Text as XML can hold it: the two code points of the first plane that are no characters become replacement characters. */
function writable(text: string): string {
  return text.replace(/[\ufffe\uffff]/g, '\ufffd');
}
