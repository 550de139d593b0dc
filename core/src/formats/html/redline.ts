import type { Element, ElementContent } from 'hast';
import { toHtml } from 'hast-util-to-html';
import type { Node } from 'prosemirror-model';
import { totalsOf } from '../../compare/changes.js';
import type { Comparison } from '../../compare/compare.js';
import { gistOf } from '../../compare/gist.js';
import type { Handle, Seams, Union } from '../../compare/union.js';
import { textIn } from '../../compare/union.js';
import { noteNumbers, paperOf } from '../../kinds/text/index.js';
import type { Images } from '../format.js';
import { contentOf, elementOf } from './hast.js';
import { withNumbers } from './notes.js';
import { pageRule } from './page.js';

/** What a page says beside the changes themselves. */
export interface RedlineOptions {
  readonly title: string;
  /** What the two ends are, such as "Version 11, 3 Feb 2026, 17:20". */
  readonly earlier: string;
  readonly later: string;
  /** Who made a change and when, by its id; may be empty. */
  readonly who: (change: number) => string;
  readonly images: Images;
}

/** A comparison as one HTML file that needs nothing beside it: what came is underlined, what went struck, what moved framed. */
export function comparisonPage(comparison: Comparison, options: RedlineOptions): string {
  const body = new Redline(comparison, options).content(comparison.union.kids);
  const totals = totalsOf(comparison.changes);
  const words = `+${totals.wordsAdded} −${totals.wordsRemoved} words, ${totals.wordsMoved} moved`;
  const head = [
    element('h1', [text(options.title)]),
    element('p', [text(`From: ${options.earlier}`), element('br', []), text(`To: ${options.later}`)]),
    element('p', [text(`${gistOf(comparison.changes)}. ${words}.`)]),
  ];
  const { earlier, later } = comparison;
  const numbers = new Map([...noteNumbers(earlier), ...noteNumbers(later)]);
  const article = withNumbers(element('article', body), numbers);
  const page = element('main', [element('header', head), article]);
  return `<!doctype html>\n<html lang="en">\n<head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escaped(options.title)}</title><style>${STYLE}${pageRule(paperOf(later))}</style></head>\n<body>${toHtml(page)}</body>\n</html>\n`;
}

/** Text as HTML says it. */
export function escaped(value: string): string {
  return toHtml(text(value));
}

const STYLE = [
  'body{font:17px/1.6 Georgia,serif;color:#17343a;background:#fffdf8;max-width:44em;margin:2em auto;padding:0 1em}',
  'header{border-bottom:1px solid #d8d2c2;margin-bottom:2em}header p{font:14px/1.5 sans-serif;color:#4d656a}',
  'ins{background:#efe9da;text-decoration:underline 2px}del{color:#4d656a;text-decoration:line-through}',
  '.moved{outline:1.5px dotted;outline-offset:2px}.copied{outline:3px double;outline-offset:2px}',
  '.form{text-decoration:underline wavy}.seam{color:#4d656a}',
  'div[data-paper]{display:none}p[data-footnote]{font-size:.85em}img[data-place=start]{float:left;margin-right:1em}img[data-place=end]{float:right;margin-left:1em}img[data-place=wide]{display:block;margin:0 auto}table{border-collapse:collapse}td,th{border:1px solid #d8d2c2;padding:.3em .6em;text-align:start}',
  'img{max-width:100%}pre{background:#efe9da;padding:.6em;white-space:pre-wrap}',
  '@media print{body{margin:0;max-width:none}ins,del,pre{print-color-adjust:exact}h1,h2,h3,h4{break-after:avoid}tr,img,pre{break-inside:avoid}hr[data-page-break]{visibility:hidden;break-after:page}}',
].join('');

function text(value: string): ElementContent {
  return { type: 'text', value };
}

function element(tagName: string, children: ElementContent[], className: string[] = []): Element {
  return { type: 'element', tagName, properties: className.length > 0 ? { className } : {}, children };
}

class Redline {
  constructor(
    private readonly comparison: Comparison,
    private readonly options: RedlineOptions,
  ) {}

  content(parts: readonly Union[]): ElementContent[] {
    return parts.flatMap((part) => this.part(part));
  }

  private part(part: Union): ElementContent[] {
    const { images } = this.options;
    switch (part.kind) {
      case 'keep':
        return contentOf([part.node], images);
      case 'pair':
        if (part.earlier.isInline)
          return [this.dressed('span', part.form, 'form', contentOf([part.later], images))];
        return [this.named(elementOf(part.later, this.content(part.kids), images), part.form, 'form')];
      case 'seams':
        return this.seams(part);
      case 'difference':
        return [
          ...this.side('del', part.change, part.earlier, ''),
          ...this.side('ins', part.change, part.later, part.copyOf ? 'copied' : ''),
        ];
      case 'sole':
        return [
          this.named(
            elementOf(part.shape, this.content(part.kids), images),
            part.change,
            part.side === 'later' ? 'form' : 'gone',
          ),
        ];
      case 'move': {
        const { change, earlier, later, body } = part.moved;
        if (part.at === 'earlier') return this.side('del', change, earlier, 'moved');
        if (!body) return this.side('ins', change, later, 'moved');
        return this.part(body).map((content) => this.named(content, change, 'moved'));
      }
      case 'break':
        return [];
    }
  }

  /** Content of one side: words in the line, or blocks marked as such and struck or underlined within. */
  private side(tag: 'ins' | 'del', change: Handle, nodes: readonly Node[], extra: string): ElementContent[] {
    if (nodes.length === 0) return [];
    const { images } = this.options;
    if (nodes.every((node) => node.isInline))
      return [this.dressed(tag, change, extra, contentOf(nodes, images))];
    const marked = (node: Node): ElementContent => {
      if (!node.isTextblock) {
        const kids: ElementContent[] = [];
        node.forEach((child) => kids.push(marked(child)));
        return elementOf(node, kids, images);
      }
      const inline: Node[] = [];
      node.forEach((child) => inline.push(child));
      return elementOf(node, [this.dressed(tag, change, '', contentOf(inline, images))], images);
    };
    return nodes.map((node) => this.named(marked(node), extra ? change : null, extra));
  }

  private dressed(
    tag: string,
    change: Handle | null,
    extra: string,
    children: ElementContent[],
  ): ElementContent {
    return this.named(element(tag, children), change, extra);
  }

  private named(content: ElementContent, change: Handle | null, extra: string): ElementContent {
    if (change === null || content.type !== 'element') return content;
    const who = this.options.who(change.id);
    const kind = this.comparison.changes[change.id]?.kind ?? '';
    const classes = [
      ...((content.properties['className'] as string[] | undefined) ?? []),
      ...(extra ? [extra] : []),
    ];
    return {
      ...content,
      properties: {
        ...content.properties,
        ...(classes.length > 0 ? { className: classes } : {}),
        title: who ? `${kind}: ${who}` : kind,
      },
    };
  }

  private seams(seams: Seams): ElementContent[] {
    const { images } = this.options;
    const blocks: { shape: Node; content: ElementContent[] }[] = [
      { shape: seams.later[0] as Node, content: [] },
    ];
    for (const kid of seams.kids) {
      const last = blocks.at(-1) as (typeof blocks)[number];
      if (kid.kind !== 'break') last.content.push(...this.part(kid));
      else {
        last.content.push(
          this.dressed(kid.side === 'later' ? 'ins' : 'del', kid.change, 'seam', [text('¶')]),
        );
        if (kid.side === 'later') blocks.push({ shape: kid.shape, content: [] });
        else last.content.push(...contentOf(kid.gap, images));
      }
    }
    return blocks.map(({ shape, content }) =>
      shape.isTextblock
        ? elementOf(shape, content, images)
        : elementOf(shape, [elementOf(textIn(shape), content, images)], images),
    );
  }
}
