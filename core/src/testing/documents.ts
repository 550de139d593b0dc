import type { Node } from 'prosemirror-model';
import { childrenOf } from '../content/index.js';
import { textSchema as schema } from '../kinds/text/index.js';
import { bold, check, checks, code, doc, h, li, link, ol, p, quote, table, td, tr, ul } from './build.js';
import type { Random } from './random.js';

const ENDS = 'a e o i ent er ing or al ine ury ock ell ar est um'.split(' ');
const STARTS =
  'tid mil slu mar eb flo whe rac ston cree bridg ree gat poo ban boa rop oa hu pat sal wic fen dyk'.split(
    ' ',
  );
const SMALL = 'the of and to a in is it that at on for by with as was'.split(' ');

/** A word: a small one about as often as in English, else one of some five thousand, the first ones more often. */
export function word(random: Random): string {
  if (random.chance(0.4)) return random.pick(SMALL);
  const rank = Math.floor(5000 ** random.next()) - 1;
  const start = STARTS[rank % STARTS.length] as string;
  const rest = Math.floor(rank / STARTS.length);
  return `${start}${ENDS[rest % ENDS.length] as string}${rest >= ENDS.length ? (ENDS[Math.floor(rest / ENDS.length) % ENDS.length] as string) : ''}`;
}

/** A sentence of `least` to `most` words. */
export function sentence(random: Random, least = 5, most = 18): string {
  const words = Array.from({ length: random.between(least, most) }, () => word(random));
  const text = words.map((one, i) => (i > 3 && random.chance(0.08) ? `${one},` : one)).join(' ');
  return `${text.charAt(0).toUpperCase()}${text.slice(1).replace(/,$/, '')}.`;
}

export function prose(random: Random, sentences: number): string {
  return Array.from({ length: sentences }, () => sentence(random)).join(' ');
}

function paragraph(random: Random): Node {
  if (random.chance(0.2))
    return p(`${sentence(random)} `, bold(sentence(random, 2, 4)), ` ${sentence(random)}`);
  if (random.chance(0.1))
    return p(sentence(random), ' ', link('https://mill.example/a', sentence(random, 1, 2)));
  return p(prose(random, random.between(1, 6)));
}

function grid(random: Random): Node {
  const width = random.between(1, 4);
  const rows = Array.from({ length: random.between(1, 5) }, () =>
    tr(...Array.from({ length: width }, () => td(p(sentence(random, 1, 4))))),
  );
  return table(...rows);
}

/** One block of any kind. */
export function block(random: Random): Node {
  const items = (): Node[] =>
    Array.from({ length: random.between(1, 4) }, () => li(p(sentence(random, 1, 9))));
  const kinds: (() => Node)[] = [
    ...Array.from({ length: 8 }, () => () => paragraph(random)),
    () => h(random.between(1, 3), sentence(random, 2, 5)),
    () => ul(...items()),
    () => ol(...items()),
    () => checks(check(random.chance(0.5), p(sentence(random, 1, 6)))),
    () => quote(p(sentence(random)), p(sentence(random))),
    () => code(`${word(random)} = ${random.between(1, 9)}\n${word(random)}()`),
    () => grid(random),
    () => schema.node('rule'),
    () => p(),
  ];
  return random.pick(kinds)();
}

/** A document of any blocks. */
export function document(random: Random, blocks: number): Node {
  return doc(...Array.from({ length: blocks }, () => block(random)));
}

/** A document as people revise one: words changed, sentences and blocks moved, wrapped, split, joined, copied, re-formed. */
export function revised(random: Random, from: Node, acts: number): Node {
  let blocks: Node[] = [];
  from.forEach((child) => blocks.push(child));
  for (let i = 0; i < acts; i++) {
    const at = random.between(0, blocks.length - 1);
    blocks = random.pick(ACTS)(random, blocks, at);
    if (blocks.length === 0) blocks = [p()];
  }
  return doc(...blocks);
}

type Act = (random: Random, blocks: readonly Node[], at: number) => Node[];

const put = (blocks: readonly Node[], at: number, taken: number, ...nodes: Node[]): Node[] => [
  ...blocks.slice(0, at),
  ...nodes,
  ...blocks.slice(at + taken),
];
const one =
  (change: (random: Random, node: Node) => Node): Act =>
  (random, blocks, at) =>
    put(blocks, at, 1, change(random, blocks[at] as Node));

/** Changes the text of one text block somewhere in a node. */
function inText(random: Random, node: Node, change: (text: string) => string): Node {
  if (node.isTextblock) {
    const text = change(node.textContent);
    return node.copy(schema.node('paragraph', null, text ? [schema.text(text)] : []).content);
  }
  if (node.childCount === 0) return node;
  const at = random.between(0, node.childCount - 1);
  return node.copy(node.content.replaceChild(at, inText(random, node.child(at), change)));
}

const inWords = (change: (random: Random, words: string[], at: number) => void): Act =>
  one((random, node) =>
    inText(random, node, (text) => {
      const words = text.split(' ');
      change(random, words, random.between(0, words.length - 1));
      return words.join(' ');
    }),
  );

const restructured = (random: Random, node: Node): Node => {
  const { name } = node.type;
  if (name === 'table') return reshapedTable(random, node);
  if (name === 'bullet_list') return schema.node('ordered_list', null, node.content);
  if (name === 'ordered_list' || name === 'check_list') {
    const items: Node[] = [];
    node.forEach((item) => items.push(li(...childrenOf(item))));
    return name === 'check_list'
      ? ul(...items)
      : checks(...items.map((item) => check(false, ...childrenOf(item))));
  }
  if (name === 'paragraph')
    return random.pick([quote(node), ul(li(node)), h(2, node.textContent), p(bold('so '), node.textContent)]);
  if (name === 'heading') return h(random.between(1, 4), ...childrenOf(node));
  return node;
};

function reshapedTable(random: Random, node: Node): Node {
  const rows: Node[][] = [];
  node.forEach((row) => rows.push(childrenOf(row)));
  const width = rows[0]?.length ?? 1;
  const at = random.between(0, width - 1);
  const spans = rows.flat().some(({ attrs }) => Number(attrs['colspan']) * Number(attrs['rowspan']) > 1);
  const act = spans ? 4 : random.between(0, 4);
  if (act === 0)
    rows.splice(
      random.between(0, rows.length),
      0,
      Array.from({ length: width }, () => td(p(sentence(random, 1, 3)))),
    );
  else if (act === 1 && rows.length > 1) rows.splice(random.between(0, rows.length - 1), 1);
  else if (act === 2 && width > 1) for (const row of rows) row.splice(at, 1);
  else if (act === 3) for (const row of rows) row.splice(at, 0, td(p(sentence(random, 1, 3))));
  else rows[0] = (rows[0] ?? []).map((cell) => schema.node('table_header', cell.attrs, cell.content));
  return table(...rows.map((cells) => tr(...cells)));
}

const ACTS: Act[] = [
  inWords((random, words, at) => (words[at] = word(random))),
  inWords((random, words, at) => (words[at] = word(random))),
  inWords((random, words, at) => words.splice(at, 0, word(random))),
  inWords((random, words, at) => words.splice(at, random.between(1, 6))),
  inWords((random, words) => words.push(sentence(random))),
  one(restructured),
  one(restructured),
  (random, blocks, at) => put(blocks, at, 0, block(random)),
  (_random, blocks, at) => put(blocks, at, 1),
  (random, blocks, at) => {
    const rest = put(blocks, at, 1);
    return put(rest, random.between(0, rest.length), 0, blocks[at] as Node);
  },
  (random, blocks, at) => put(blocks, random.between(0, blocks.length), 0, blocks[at] as Node),
  (random, blocks, at) => {
    const node = blocks[at] as Node;
    const text = node.textContent;
    const cut = text.indexOf('. ') + 1;
    if (!node.isTextblock || node.type.spec.code || cut === 0) return [...blocks];
    return put(
      blocks,
      at,
      1,
      node.type.create(node.attrs, schema.text(text.slice(0, cut))),
      p(text.slice(cut + random.between(0, 1))),
    );
  },
  (_random, blocks, at) => {
    const [a, b] = [blocks[at], blocks[at + 1]];
    if (a?.type.name !== 'paragraph' || b?.type.name !== 'paragraph' || !a.textContent || !b.textContent)
      return [...blocks];
    return put(blocks, at, 2, p(`${a.textContent} ${b.textContent}`));
  },
  (random, blocks, at) => {
    const node = blocks[at] as Node;
    const into = random.between(0, blocks.length - 1);
    const home = blocks[into] as Node;
    if (into === at || !node.isTextblock || home.type.name !== 'bullet_list') return [...blocks];
    const grown = home.copy(home.content.addToEnd(li(node)));
    return put(put(blocks, into, 1, grown), at, 1);
  },
  (_random, blocks, at) => {
    const node = blocks[at] as Node;
    return ['quote', 'list_item'].includes(node.type.name)
      ? put(blocks, at, 1, ...childrenOf(node))
      : [...blocks];
  },
];
