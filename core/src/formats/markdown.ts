import type { Root } from 'hast';
import type { Handle } from 'hast-util-to-mdast';
import { defaultHandlers, toMdast } from 'hast-util-to-mdast';
import { raw } from 'hast-util-raw';
import { fromMarkdown } from 'mdast-util-from-markdown';
import { gfmFromMarkdown, gfmToMarkdown } from 'mdast-util-gfm';
import { toHast as markdownToHast } from 'mdast-util-to-hast';
import { toMarkdown } from 'mdast-util-to-markdown';
import { gfm } from 'micromark-extension-gfm';
import type { Node } from 'prosemirror-model';
import type { Images } from './format.js';
import { toHast } from './hast.js';
import { fromHast, guarded } from './read.js';

/** Reads CommonMark 0.31 with tables, check lists and strike-through; HTML within it is cleaned like any other. */
export function readMarkdown(text: string, images: Images): Node {
  return guarded(() => {
    const tree = fromMarkdown(text, { extensions: [gfm()], mdastExtensions: [gfmFromMarkdown()] });
    return fromHast(raw(markdownToHast(tree, { allowDangerousHtml: true })) as Root, images);
  });
}

const asHtml =
  (tag: string): Handle =>
  (state, element) => [{ type: 'html', value: `<${tag}>` }, ...state.all(element), { type: 'html', value: `</${tag}>` }] as never;

const pageBreakOrRule: Handle = (state, element, parent) =>
  element.properties['dataPageBreak'] === undefined
    ? defaultHandlers.hr(state, element)
    : (void parent, { type: 'html', value: '<hr data-page-break="true">' });

/** A document as Markdown. What Markdown has no sign for (underline, sub- and superscript, page breaks) is inline HTML. */
export function writeMarkdown(doc: Node, images: Images): string {
  const handlers = { u: asHtml('u'), sub: asHtml('sub'), sup: asHtml('sup'), mark: asHtml('mark'), hr: pageBreakOrRule };
  const tree = toMdast(toHast(doc, images), { handlers, document: true });
  return toMarkdown(tree, { extensions: [gfmToMarkdown()], bullet: '-', emphasis: '_', rule: '-' });
}
