import type { Node } from 'prosemirror-model';
import { textSchema as schema } from '../kinds/text/index.js';

/**
 * Reads a document that is written down in plain lines, a block each:
 *
 *     # heading     - item     1. numbered item     [x] ticked item     > quote     ``` code     | cell |= head cell |2 wide |
 *
 * Two blanks more put a line into the item above it. `¶` is an empty paragraph, `⏎` ends a line within a block, `^` sets one in the
 * middle. Within text: `**bold**`, `[words](address)`, `![words](letter width)` for an image.
 */
export function documentOf(lines: readonly string[]): Node {
  return schema.node('doc', null, blocksOf(lines));
}

const ITEM = /^(- |\d+\. |\[[ x]\] )/;
const LISTS: Record<string, string> = { '-': 'bullet_list', '[': 'check_list' };

function blocksOf(lines: readonly string[]): Node[] {
  const out: Node[] = [];
  for (let i = 0; i < lines.length;) {
    const line = lines[i] as string;
    const end = endOf(lines, i);
    const own = lines.slice(i, end);
    if (ITEM.test(line)) out.push(listOf(own));
    else if (line.startsWith('> '))
      out.push(schema.node('quote', null, blocksOf(own.map((one) => one.slice(2)))));
    else if (line.startsWith('|')) out.push(schema.node('table', null, own.map(rowOf)));
    else if (line.startsWith('```')) out.push(codeOf(own));
    else out.push(textOf(line));
    i = end;
  }
  return out;
}

/** Where the block that begins at a line ends. */
function endOf(lines: readonly string[], from: number): number {
  const line = lines[from] as string;
  if (line.startsWith('```')) return lines.indexOf('```', from + 1) + 1;
  const sign = line.charAt(0);
  const kind = /\d/.test(sign) ? /^\d+\. / : undefined;
  const belongs = (one: string): boolean => {
    if (ITEM.test(line))
      return one.startsWith('  ') || (kind ? kind.test(one) : one.startsWith(sign) && ITEM.test(one));
    return (sign === '|' || line.startsWith('> ')) && one.startsWith(sign);
  };
  let end = from + 1;
  while (end < lines.length && belongs(lines[end] as string)) end++;
  return end;
}

function listOf(lines: readonly string[]): Node {
  const list = LISTS[(lines[0] as string).charAt(0)] ?? 'ordered_list';
  const items: string[][] = [];
  for (const line of lines)
    if (ITEM.test(line)) items.push([line]);
    else items.at(-1)?.push(line.slice(2));
  return schema.node(
    list,
    null,
    items.map(([first = '', ...rest]) => {
      const inside = blocksOf([first.replace(ITEM, ''), ...rest]);
      return list === 'check_list'
        ? schema.node('check_item', { checked: first.startsWith('[x]') }, inside)
        : schema.node('list_item', null, inside);
    }),
  );
}

function rowOf(line: string): Node {
  const cells = line
    .replace(/^\|/, '')
    .replace(/\|\s*$/, '')
    .split('|');
  return schema.node(
    'table_row',
    null,
    cells.map((cell) => {
      const [, head, span, text = ''] = /^(=?)(\d*)\s?(.*?)\s?$/.exec(cell) ?? [];
      const attrs = span ? { colspan: Number(span) } : null;
      return schema.node(head ? 'table_header' : 'table_cell', attrs, [textOf(text)]);
    }),
  );
}

function codeOf(lines: readonly string[]): Node {
  const text = lines.slice(1, -1).join('\n');
  return schema.node('code_block', null, text ? [schema.text(text)] : []);
}

function textOf(line: string): Node {
  const level = /^#+(?= )/.exec(line)?.[0].length;
  if (level) return schema.node('heading', { level }, inlineOf(line.slice(level + 1)));
  if (line.startsWith('^ ')) return schema.node('paragraph', { align: 'center' }, inlineOf(line.slice(2)));
  return schema.node('paragraph', null, line === '¶' ? [] : inlineOf(line));
}

const INLINE = /\*\*(.+?)\*\*|!\[([^\]]*)\]\((\w)(?: (\d+))?\)|\[([^\]]+)\]\((\S+?)\)|⏎/g;

function inlineOf(text: string, isBold = false): Node[] {
  const out: Node[] = [];
  const bold = isBold ? [schema.mark('bold')] : [];
  let from = 0;
  const plain = (to: number): void => {
    if (to > from) out.push(schema.text(text.slice(from, to), bold));
  };
  for (const found of text.matchAll(INLINE)) {
    const [all, strong, alt, letter, width, words, href] = found;
    plain(found.index);
    from = found.index + all.length;
    if (strong !== undefined) out.push(...inlineOf(strong, true));
    else if (letter !== undefined)
      out.push(schema.node('image', { hash: letter.repeat(64), alt, width: width ? Number(width) : null }));
    else if (words !== undefined) out.push(schema.text(words, [schema.mark('link', { href }), ...bold]));
    else out.push(schema.node('hard_break'));
  }
  plain(text.length);
  return out;
}
