import type { Mark, Node } from 'prosemirror-model';
import {
  ALIGNMENTS,
  IMAGE_PLACES,
  INKS,
  SIZES,
  TYPEFACES,
  textSchema as schema,
} from '../kinds/text/index.js';
import type { Paper } from '../kinds/text/index.js';
import { sentence, word } from './documents.js';
import { pngPicture } from './png.js';
import type { Random } from './random.js';

/** Images that the documents show. */
export const PICTURES = [pngPicture(3, 2), pngPicture(40, 30, 200), pngPicture(900, 10, 60)];

/** A document with anything in it that the schema holds, however unlikely, nested a few levels deep. */
export function anything(random: Random, blocks: number): Node {
  const body = several(random, blocks, 0);
  const notes: Node[] = [];
  const signed = body.map((one) => withSign(random, one, notes));
  const set = random.chance(0.3) ? [schema.node('page_setup', { ...anyPaper(random) })] : [];
  return schema.node('doc', null, [...set, ...signed, ...notes]);
}

/** A paper that is not the usual one. */
function anyPaper(random: Random): Paper {
  const running = (): string =>
    random.pick(['', 'The mill', '\tGuide & “mill”', '{page}\t\t{page} of {pages}']);
  return {
    size: random.pick(['A3', 'A5', 'letter', 'legal'] as const),
    landscape: random.chance(0.3),
    top: random.between(0, 60),
    right: random.between(0, 60),
    bottom: random.between(0, 60),
    left: random.between(0, 60),
    header: running(),
    footer: running(),
  };
}

/** A paragraph of the body with the sign of a footnote at its end, and the footnote. */
function withSign(random: Random, block: Node, notes: Node[]): Node {
  if (block.type.name !== 'paragraph' || !random.chance(0.3)) return block;
  const note = `${
    word(random)
      .toLowerCase()
      .replace(/[^a-z]/g, '') || 'x'
  }${notes.length}`.slice(-24);
  const content = random.chance(0.8) ? [schema.text(sentence(random), marks(random))] : [];
  notes.push(schema.node('footnote', { note }, content));
  return block.copy(block.content.addToEnd(schema.node('footnote_mark', { note })));
}

function several(random: Random, most: number, depth: number): Node[] {
  return Array.from({ length: random.between(1, most) }, () => block(random, depth));
}

function block(random: Random, depth: number): Node {
  const align = random.chance(0.2) ? random.pick(ALIGNMENTS) : 'start';
  const leaves: (() => Node)[] = [
    () => schema.node('paragraph', { align }, inline(random)),
    () => schema.node('paragraph', { align }, inline(random)),
    () => schema.node('paragraph'),
    () => schema.node('heading', { level: random.between(1, 6), align }, inline(random)),
    () => code(random),
    () => schema.node(random.pick(['rule', 'page_break'] as const)),
  ];
  const holders: (() => Node)[] = [
    () => schema.node('quote', null, several(random, 3, depth + 1)),
    () => schema.node('bullet_list', null, items(random, depth)),
    () => schema.node('ordered_list', { start: random.pick([1, 1, 0, 7, 2026]) }, items(random, depth)),
    () =>
      schema.node(
        'check_list',
        null,
        Array.from({ length: random.between(1, 3) }, () =>
          schema.node('check_item', { checked: random.chance(0.5) }, content(random, depth)),
        ),
      ),
    () => table(random, depth),
  ];
  return random.pick(depth < 4 && random.chance(0.45) ? holders : leaves)();
}

function items(random: Random, depth: number): Node[] {
  return Array.from({ length: random.between(1, 3) }, () =>
    schema.node('list_item', null, content(random, depth)),
  );
}

/** Most items hold a paragraph, perhaps with a list below it. */
function content(random: Random, depth: number): Node[] {
  if (random.chance(0.3)) return several(random, 3, depth + 1);
  const first = schema.node('paragraph', null, inline(random));
  const more =
    random.chance(0.3) && depth < 3 ? [schema.node('bullet_list', null, items(random, depth + 1))] : [];
  return [first, ...(random.chance(0.2) ? [schema.node('paragraph', null, inline(random))] : []), ...more];
}

function code(random: Random): Node {
  const text = random.pick(['', 'a = 1', '\tif a < b && c:\n\t\treturn "é"', '\n\n', ' x  y ']);
  return schema.node(
    'code_block',
    { language: random.pick(['', '', 'js']) },
    text ? [schema.text(text)] : [],
  );
}

function table(random: Random, depth: number): Node {
  const width = random.between(1, 3);
  const columns = random.chance(0.2) ? Array.from({ length: width }, () => random.between(40, 200)) : null;
  const spanning = random.chance(0.2) && width > 1;
  const cell = (column: number, colspan: number, rowspan: number): Node =>
    schema.node(
      random.chance(0.2) ? 'table_header' : 'table_cell',
      { colspan, rowspan, colwidth: columns?.slice(column, column + colspan) ?? null },
      random.chance(0.2) ? several(random, 2, depth + 2) : [schema.node('paragraph', null, inline(random))],
    );
  const plain = (): Node =>
    schema.node(
      'table_row',
      null,
      Array.from({ length: width }, (_, i) => cell(i, 1, 1)),
    );
  const rows = Array.from({ length: random.between(1, 3) }, plain);
  if (spanning) {
    rows.push(schema.node('table_row', null, [cell(0, width, 1)]));
    rows.push(
      schema.node('table_row', null, [
        cell(0, 1, 2),
        ...Array.from({ length: width - 1 }, (_, i) => cell(i + 1, 1, 1)),
      ]),
    );
    rows.push(
      schema.node(
        'table_row',
        null,
        Array.from({ length: width - 1 }, (_, i) => cell(i + 1, 1, 1)),
      ),
    );
  }
  return schema.node('table', null, rows);
}

function marks(random: Random): readonly Mark[] {
  if (random.chance(0.5)) return [];
  const any: (() => Mark)[] = [
    () => schema.mark('bold'),
    () => schema.mark('italic'),
    () => schema.mark('underline'),
    () => schema.mark('strike'),
    () => schema.mark(random.pick(['subscript', 'superscript'] as const)),
    () => schema.mark('highlight', { ink: random.pick(INKS) }),
    () => schema.mark('code'),
    () => schema.mark('typeface', { face: random.pick(TYPEFACES) }),
    () => schema.mark('size', { size: random.pick(SIZES) }),
    () =>
      schema.mark('link', {
        href: random.pick(['https://mill.example/a?b=c&d', '#race', 'mailto:ines@mill.example', '/here']),
        title: random.chance(0.3) ? 'The “mill”' : null,
      }),
  ];
  return Array.from({ length: random.between(1, 3) }, () => random.pick(any)()).reduce<readonly Mark[]>(
    (set, mark) => mark.addToSet(set),
    [],
  );
}

function inline(random: Random): Node[] {
  const out: Node[] = [];
  for (let i = random.between(0, 4); i > 0; i--) {
    const picture = random.pick(PICTURES);
    const any: (() => Node)[] = [
      () => schema.node('hard_break', null, undefined, marks(random)),
      () =>
        schema.node(
          'image',
          {
            hash: picture.hash,
            alt: random.pick(['', 'the wheel']),
            width: random.pick([null, 77]),
            place: random.pick(IMAGE_PLACES),
            caption: random.pick(['', '', 'The wheel in 1911']),
          },
          undefined,
          marks(random),
        ),
      () => schema.text(random.pick([' ', 'é <&> "x"', '🌊𝒜', 'a  b', '潮汐', 'עברית'])),
    ];
    out.push(
      random.chance(0.25)
        ? random.pick(any)()
        : schema.text(random.chance(0.5) ? `${word(random)} ` : sentence(random), marks(random)),
    );
  }
  return out;
}
