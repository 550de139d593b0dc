import type { Element, ElementContent, Root, RootContent } from 'hast';
import type { Code } from 'mdast';
import type { Handle } from 'hast-util-to-mdast';
import { defaultHandlers, toMdast } from 'hast-util-to-mdast';
import { raw } from 'hast-util-raw';
import { toHtml } from 'hast-util-to-html';
import { fromMarkdown } from 'mdast-util-from-markdown';
import { gfmFromMarkdown, gfmToMarkdown } from 'mdast-util-gfm';
import { defaultHandlers as toHastHandlers, toHast as markdownToHast } from 'mdast-util-to-hast';
import type { Handler as ToHast } from 'mdast-util-to-hast';
import { toMarkdown } from 'mdast-util-to-markdown';
import { gfm } from 'micromark-extension-gfm';
import type { Node } from 'prosemirror-model';
import type { Images } from '../format.js';
import { toHast } from '../html/hast.js';
import { fromHast, guarded } from '../html/read.js';
import { MarkdownNotes } from './notes.js';

/** Reads CommonMark 0.31 with tables, check lists and strike-through; HTML within it is cleaned like any other. */
export function readMarkdown(text: string, images: Images): Node {
  return guarded(() => {
    const tree = fromMarkdown(text, { extensions: [gfm()], mdastExtensions: [gfmFromMarkdown()] });
    const notes = new MarkdownNotes(tree);
    const handlers = { code: codeBlock, ...notes.handlers };
    return fromHast(raw(markdownToHast(notes.atEnd, { allowDangerousHtml: true, handlers })) as Root, images);
  });
}

/** Code, its first line end doubled where it begins with one: an HTML parser drops one there (HTML Standard, 13.2.6.4.7). */
const codeBlock: ToHast = (state, node: Code) =>
  toHastHandlers.code(state, { ...node, value: node.value.replace(/^\n/, '\n\n') });

const asHtml =
  (tag: string): Handle =>
  (state, element) =>
    [
      { type: 'html', value: `<${tag}>` },
      ...state.all(element),
      { type: 'html', value: `</${tag}>` },
    ] as never;

const signOrSuperscript: Handle = (state, element, parent) => {
  const note = element.properties['dataNote'];
  return typeof note === 'string'
    ? { type: 'footnoteReference', identifier: note, label: note }
    : asHtml('sup')(state, element, parent);
};

const noteOrParagraph: Handle = (state, element) => {
  const note = element.properties['dataFootnote'];
  const paragraph = defaultHandlers.p(state, element);
  if (typeof note !== 'string') return paragraph;
  return {
    type: 'footnoteDefinition',
    identifier: note,
    label: note,
    children: [paragraph ?? { type: 'paragraph', children: [] }],
  };
};

/** The set-up of a page, for which Markdown has no sign, as the HTML it is; other divisions as what they hold. */
const paperOrContent: Handle = (state, element) =>
  element.properties['dataPaper'] === undefined
    ? defaultHandlers.div(state, element)
    : ({ type: 'html', value: toHtml(element) } as never);

const pageBreakOrRule: Handle = (state, element, parent) =>
  element.properties['dataPageBreak'] === undefined
    ? defaultHandlers.hr(state, element)
    : (void parent, { type: 'html', value: '<hr data-page-break="true">' });

/** Markdown has no table without a heading row, so the first row of each becomes that. */
function headTables(node: Root | ElementContent): void {
  if (!('children' in node)) return;
  const isElement = (child: RootContent, tag: string): child is Element =>
    child.type === 'element' && child.tagName === tag;
  for (const child of node.children) {
    if (isElement(child, 'tbody')) {
      const first = child.children.find((row) => isElement(row, 'tr'));
      if (first && 'children' in first)
        for (const cell of first.children) if (isElement(cell, 'td')) cell.tagName = 'th';
    }
    if (child.type === 'element') headTables(child);
  }
}

/** A document as Markdown. What Markdown has no sign for (underline, sub- and superscript, page breaks) is inline HTML. */
export function writeMarkdown(doc: Node, images: Images): string {
  const handlers = {
    u: asHtml('u'),
    sub: asHtml('sub'),
    sup: signOrSuperscript,
    p: noteOrParagraph,
    div: paperOrContent,
    mark: asHtml('mark'),
    hr: pageBreakOrRule,
  };
  const html = toHast(doc, images);
  headTables(html);
  const tree = toMdast(html, { handlers, document: true });
  return toMarkdown(tree, { extensions: [gfmToMarkdown()], bullet: '-', emphasis: '_', rule: '-' });
}
