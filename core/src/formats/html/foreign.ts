import type { Element, ElementContent, Root, RootContent } from 'hast';

/**
 * HTML as word processors, spreadsheets and web editors put it on the clipboard or save it, brought to what it means: marks
 * that stand in styles become elements, list paragraphs become lists, and what is there for the program alone is taken out.
 */
export function tidied(root: Root): Root {
  return { ...root, children: tidy(root.children) };
}

function tidy<T extends RootContent | ElementContent>(nodes: readonly T[]): T[] {
  const out = nodes.flatMap((node): T[] => {
    if (node.type !== 'element') return [node];
    const style = styleOf(node);
    if (isForTheProgram(node, style)) return [];
    if (isConvertedSpace(node)) return [{ type: 'text', value: ' ' } as T];
    const children = tidy(node.children);
    const whole: Element = { ...node, children: isList(node) ? gathered(children) : children };
    return marked(whole, style) as T[];
  });
  return listed(out);
}

/** The declarations of an element's `style`, names and values in small letters. */
function styleOf(element: Element): ReadonlyMap<string, string> {
  const { style } = element.properties;
  if (typeof style !== 'string') return NO_STYLE;
  return new Map(
    style.split(';').flatMap((declaration) => {
      const [name = '', ...value] = declaration.split(':');
      return value.length > 0 ? [[name.trim().toLowerCase(), value.join(':').trim().toLowerCase()]] : [];
    }),
  );
}

const NO_STYLE: ReadonlyMap<string, string> = new Map();

function isForTheProgram({ tagName }: Element, style: ReadonlyMap<string, string>): boolean {
  return (
    tagName === 'o:p' ||
    tagName === 'xml' ||
    style.get('display') === 'none' ||
    style.get('visibility') === 'hidden' ||
    style.get('mso-hide') === 'all'
  );
}

/** Some browsers put a space that must not be lost on the clipboard as one that does not break. */
function isConvertedSpace({ properties }: Element): boolean {
  const { className } = properties;
  return Array.isArray(className) && className.includes('Apple-converted-space');
}

const MARKS: readonly {
  readonly tags: readonly string[];
  readonly on: (style: ReadonlyMap<string, string>) => boolean | null;
}[] = [
  {
    tags: ['strong', 'b'],
    on: (style) => {
      const weight = style.get('font-weight');
      if (weight === undefined) return null;
      return weight.startsWith('bold') || Number(weight) >= 600;
    },
  },
  {
    tags: ['em', 'i'],
    on: (style) => (style.has('font-style') ? /italic|oblique/.test(style.get('font-style') ?? '') : null),
  },
  { tags: ['u'], on: (style) => decorated(style, 'underline') },
  { tags: ['s', 'strike', 'del'], on: (style) => decorated(style, 'line-through') },
  { tags: ['sub'], on: (style) => (style.get('vertical-align') === 'sub' ? true : null) },
  { tags: ['sup'], on: (style) => (style.get('vertical-align') === 'super' ? true : null) },
];

function decorated(style: ReadonlyMap<string, string>, what: string): boolean | null {
  const value = style.get('text-decoration') ?? style.get('text-decoration-line');
  if (value === undefined) return null;
  return value.includes(what) ? true : value === 'none' ? false : null;
}

/** Only these carry marks in their style; a paragraph's or a heading's weight is that of its kind. */
const INLINE = new Set('span font b strong i em u s strike del sub sup a code'.split(' '));

/** An element with the marks of its style round its content, or its content alone where the style takes its mark away. */
function marked(element: Element, style: ReadonlyMap<string, string>): ElementContent[] {
  if (style.size === 0 || !INLINE.has(element.tagName)) return [element];
  let children = element.children;
  let keeps = true;
  for (const { tags, on } of MARKS) {
    const wanted = on(style);
    const own = tags.includes(element.tagName);
    if (wanted === false && own) keeps = false;
    if (wanted === true && !own && !(tags[0] === 'u' && element.tagName === 'a'))
      children = [{ type: 'element', tagName: tags[0] ?? 'span', properties: {}, children }];
  }
  return keeps ? [{ ...element, children }] : children;
}

function isList({ tagName }: Element): boolean {
  return tagName === 'ul' || tagName === 'ol';
}

/** A list's items, a list that stands between two of them moved into the one before it; boxes that are only said, as boxes. */
function gathered(children: readonly ElementContent[]): ElementContent[] {
  const out: ElementContent[] = [];
  for (const child of children) {
    if (child.type !== 'element') {
      out.push(child);
      continue;
    }
    const last = out.findLast((one): one is Element => one.type === 'element' && one.tagName === 'li');
    if (isList(child) && last) last.children.push(child);
    else out.push(boxed(child));
  }
  return out;
}

function boxed(item: Element): Element {
  const { role, ariaChecked } = item.properties;
  if (item.tagName !== 'li' || (role !== 'checkbox' && ariaChecked === undefined)) return item;
  const checked = String(ariaChecked) === 'true';
  const box: Element = {
    type: 'element',
    tagName: 'input',
    properties: { type: 'checkbox', checked },
    children: [],
  };
  return { ...item, children: [box, ...item.children] };
}

interface Paragraph {
  readonly level: number;
  readonly ordered: boolean;
  readonly element: Element;
}

/** Paragraphs that say they are items of a list (`mso-list: l0 level2 lfo1`), gathered into lists. */
function listed<T extends RootContent | ElementContent>(nodes: readonly T[]): T[] {
  const out: T[] = [];
  const open: { level: number; list: Element }[] = [];
  for (const node of nodes) {
    const paragraph = node.type === 'element' ? itemOf(node) : null;
    if (!paragraph) {
      if (node.type !== 'text' || node.value.trim() !== '') open.length = 0;
      if (open.length === 0) out.push(node);
      continue;
    }
    while (open.length > 0 && (open.at(-1)?.level ?? 0) > paragraph.level) open.pop();
    if (open.at(-1)?.level !== paragraph.level) {
      const tagName = paragraph.ordered ? 'ol' : 'ul';
      const list: Element = { type: 'element', tagName, properties: {}, children: [] };
      const home = open.at(-1)?.list.children.at(-1);
      if (home?.type === 'element') home.children.push(list);
      else out.push(list as unknown as T);
      open.push({ level: paragraph.level, list });
    }
    const item: Element = { type: 'element', tagName: 'li', properties: {}, children: [paragraph.element] };
    open.at(-1)?.list.children.push(item);
  }
  return out;
}

function itemOf(element: Element): Paragraph | null {
  const said = element.tagName === 'p' ? styleOf(element).get('mso-list') : undefined;
  const level = Number(/level(\d)/.exec(said ?? '')?.[1] ?? 0);
  if (level === 0) return null;
  const sign = { text: '' };
  const children = withoutSign(element.children, sign);
  return { level, ordered: /[0-9a-z][.)]/i.test(sign.text), element: { ...element, children } };
}

/** Content without the sign that is drawn before an item, which is collected in `sign`. */
function withoutSign(nodes: readonly ElementContent[], sign: { text: string }): ElementContent[] {
  return nodes.flatMap((node): ElementContent[] => {
    if (node.type !== 'element') return [node];
    if (styleOf(node).get('mso-list') === 'ignore') {
      sign.text += textIn(node);
      return [];
    }
    return [{ ...node, children: withoutSign(node.children, sign) }];
  });
}

function textIn(node: ElementContent): string {
  if (node.type === 'text') return node.value;
  return node.type === 'element' ? node.children.map(textIn).join('') : '';
}
