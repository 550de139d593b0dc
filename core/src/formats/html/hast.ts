import type { Element, ElementContent, Properties, Root } from 'hast';
import type { DOMOutputSpec, Mark, Node } from 'prosemirror-model';
import { childrenOf, roleOf } from '../../content/index.js';
import type { Images } from '../format.js';
import { collapsed } from './inline.js';

/** A document as an HTML syntax tree, drawn by the schema's own rules, check boxes and image addresses added. */
export function toHast(doc: Node, images: Images): Root {
  return { type: 'root', children: contentOf(childrenOf(doc), images) };
}

/** Nodes side by side, marks that go on from one to the next as one element. */
export function contentOf(nodes: readonly Node[], images: Images): ElementContent[] {
  const out: ElementContent[] = [];
  const open: { mark: Mark; into: ElementContent[] }[] = [];
  for (const child of nodes) {
    const marks = child.marks;
    let same = 0;
    while (same < open.length && same < marks.length && open[same]?.mark.eq(marks[same] as Mark)) same++;
    open.length = same;
    for (const mark of marks.slice(same)) {
      const into: ElementContent[] = [];
      (open.at(-1)?.into ?? out).push(
        render(mark.type.spec.toDOM?.(mark, child.isInline) ?? ['span', 0], into),
      );
      open.push({ mark, into });
    }
    (open.at(-1)?.into ?? out).push(elementOf(child, contentOf(childrenOf(child), images), images));
  }
  return out;
}

/** One node with content of its own, or some other. */
export function elementOf(node: Node, content: ElementContent[], images: Images): ElementContent {
  if (node.isText) return { type: 'text', value: node.text ?? '' };
  const element = render(node.type.spec.toDOM?.(node) ?? ['div', 0], content);
  if (node.type.spec.code) lastOf(element).children.push({ type: 'text', value: '\n' });
  else if (node.isTextblock && !isCollapsed(childrenOf(node))) element.properties['style'] = KEEPS_SPACE;
  if (roleOf(node) === 'picture') element.properties['src'] = images.address(String(node.attrs['hash']));
  if (node.type.name === 'check_item') withBox(element, node.attrs['checked'] === true);
  return element;
}

/** What tells readers, browsers among them, that white space counts. */
const KEEPS_SPACE = 'white-space:pre-wrap';

/** Code ends in a line end, as it does in HTML made of Markdown. */
function lastOf(element: Element): Element {
  const last = element.children.at(-1);
  return last?.type === 'element' && last.tagName === 'code' ? last : element;
}

/** Whether inline content reads the same with its white space collapsed. */
function isCollapsed(nodes: readonly Node[]): boolean {
  const after = collapsed(nodes);
  return after.length === nodes.length && after.every((node, i) => node.eq(nodes[i] as Node));
}

function withBox(item: Element, checked: boolean): void {
  const box: Element = {
    type: 'element',
    tagName: 'input',
    properties: { type: 'checkbox', disabled: true, checked },
    children: [],
  };
  const first = item.children[0];
  const into = first?.type === 'element' && first.tagName === 'p' ? first : item;
  into.children.unshift(box, { type: 'text', value: ' ' });
}

/** Renders one of the schema's output specs (`['tag', {attrs}?, ...children or 0]`); `content` may be filled later. */
function render(spec: DOMOutputSpec, content: ElementContent[]): Element {
  const [tag, ...rest] = spec as readonly [string, ...unknown[]];
  const attrs =
    rest[0] !== null && typeof rest[0] === 'object' && !Array.isArray(rest[0])
      ? (rest.shift() as Record<string, string>)
      : {};
  const children =
    rest.length === 1 && rest[0] === 0
      ? content
      : rest.flatMap((part) => (part === 0 ? content : [render(part as DOMOutputSpec, content)]));
  return { type: 'element', tagName: tag, properties: propertiesOf(attrs), children };
}

function propertiesOf(attrs: Record<string, string>): Properties {
  return Object.fromEntries(
    Object.entries(attrs).map(([name, value]) => {
      if (name === 'class') return ['className', [value]];
      if (name === 'colspan' || name === 'rowspan')
        return [name === 'colspan' ? 'colSpan' : 'rowSpan', Number(value)];
      return [name.replace(/-(\w)/g, (_, letter: string) => letter.toUpperCase()), value];
    }),
  );
}
