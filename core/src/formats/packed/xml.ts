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
  const parser = new SaxesParser();
  const holder: Element = { type: 'element', name: '', attributes: {}, children: [] };
  const open: Element[] = [holder];
  let text = '';
  let count = 0;
  const flush = (): void => {
    if (text) open.at(-1)?.children.push({ type: 'text', value: text });
    text = '';
  };
  const scopes = [new Scope(new Map([['xml', 'xml']]))];
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
    const scope = (scopes.at(-1) as Scope).within(tag.attributes, namespaces);
    const attributes: Record<string, string> = {};
    for (const name in tag.attributes)
      if (!isDeclaration(name)) attributes[scope.attribute(name)] = tag.attributes[name] as string;
    const element: Element = { type: 'element', name: scope.element(tag.name), attributes, children: [] };
    open.at(-1)?.children.push(element);
    open.push(element);
    scopes.push(scope);
  });
  parser.on('closetag', () => {
    flush();
    open.pop();
    scopes.pop();
  });
  parser.write(textOfBytes(bytes)).close();
  const root = holder.children.find((child) => child.type === 'element');
  if (!root) throw new FormatError('This file is damaged: a part of it is empty.');
  return root;
}

/**
 * The namespaces that hold at a place (Namespaces in XML 1.0, 6). Kept by ourselves, since most elements declare none and
 * share the scope round them: the parser's own resolving takes half its time.
 */
class Scope {
  private readonly elements = new Map<string, string>();
  private readonly attributes = new Map<string, string>();

  /** `known` has the reader's prefix for each of the file's; a default namespace stands under the empty one. */
  constructor(private readonly known: ReadonlyMap<string, string>) {}

  /** The scope of an element with these attributes. */
  within(attributes: Readonly<Record<string, string>>, namespaces: Namespaces): Scope {
    let known: Map<string, string> | null = null;
    for (const name in attributes) {
      if (!isDeclaration(name)) continue;
      const uri = attributes[name] ?? '';
      known ??= new Map(this.known);
      if (uri === '') known.delete(name.slice('xmlns:'.length));
      else known.set(name.slice('xmlns:'.length), namespaces[uri] ?? '?');
    }
    return known ? new Scope(known) : this;
  }

  element(name: string): string {
    return this.resolved(this.elements, name, this.known.get(''));
  }

  /** A name without a prefix is in no namespace. */
  attribute(name: string): string {
    return this.resolved(this.attributes, name, undefined);
  }

  private resolved(held: Map<string, string>, name: string, usual: string | undefined): string {
    const found = held.get(name);
    if (found !== undefined) return found;
    const colon = name.indexOf(':');
    const prefix = colon < 0 ? usual : (this.known.get(name.slice(0, colon)) ?? '?');
    const resolved = prefix === undefined ? name : `${prefix}:${name.slice(colon + 1)}`;
    held.set(name, resolved);
    return resolved;
  }
}

function isDeclaration(name: string): boolean {
  return name === 'xmlns' || name.startsWith('xmlns:');
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
