import type { Attrs, Node } from 'prosemirror-model';
import { textSchema as schema } from '../../kinds/text/index.js';
import type { Element } from '../packed/xml.js';
import { down, elementsOf, within } from '../packed/xml.js';
import type { ReadPiece } from '../pieces.js';
import { codeOf, stretchesOf, takeBox } from '../pieces.js';
import type { LeftOutTally } from '../reading.js';
import { orParagraph, squared } from '../table.js';
import { containerOf } from '../container.js';
import type { Container } from '../container.js';
import type { DocxSource, Text } from './inline.js';
import { DocxInlineReader, isGone, propertiesIn } from './inline.js';
import { TWIPS } from './names.js';
import type { Flat, FlatText, Holder } from './nest.js';
import { nest } from './nest.js';
import { indentOf, isOn, valueOf } from './sheet.js';

/** Most rows that a cell may reach over. */
const MOST_SPANNED = 1000;

const OUTSIDE: Holder = { quote: false, list: null };

const ALIGNS: Readonly<Record<string, string>> = {
  center: 'center',
  right: 'end',
  end: 'end',
  both: 'justify',
  distribute: 'justify',
};

/** Reads the body of a text document as it is in one of its two texts. */
export class DocxBodyReader {
  private readonly inline: DocxInlineReader;
  private readonly noted: DocxInlineReader;
  /** Text of a paragraph whose end mark is gone, which goes on in the next. */
  private carried: ReadPiece[] = [];

  constructor(
    /** What the body may refer to, and what footnotes may. */
    private readonly sources: { readonly body: DocxSource; readonly notes: DocxSource },
    private readonly text: Text,
    private readonly tally: LeftOutTally,
    hear: { comment(id: string, at: 'start' | 'end'): void; text(text: string): void },
  ) {
    this.inline = new DocxInlineReader(sources.body, text, tally, hear);
    this.noted = new DocxInlineReader(sources.notes, text, tally, hear);
  }

  blocks(parent: Element, holder: Holder = OUTSIDE): Node[] {
    return nest(this.flats(parent), holder);
  }

  /** Footnotes whose signs were met, in that order. */
  notes(): Node[] {
    const out = new Map<string, Node | null>();
    for (const [name, note] of this.inline.met) out.set(name, this.note(name, note, this.noted));
    return [...out.values()].filter((note) => note !== null);
  }

  /** A footnote, its paragraphs as lines of one; null where it has none in this text. */
  private note(name: string, element: Element, inline: DocxInlineReader): Node | null {
    const lines: ReadPiece[][] = [];
    let open = false;
    for (const child of elementsOf(element)) {
      if (child.name !== 'w:p') {
        if (child.name === 'w:tbl') this.tally.add('tables in footnotes');
        continue;
      }
      const gone = elementsOf(down(child, 'w:pPr', 'w:rPr')).some((mark) => isGone(mark, this.text));
      const read = inline.pieces(child, valueOf(down(child, 'w:pPr', 'w:pStyle')));
      const pieces = within(child, 'w:footnoteRef') ? withoutSpace(read) : read;
      if (pieces.length === 0 && (gone || elementsOf(child, 'w:r').length === 0)) continue;
      if (open) lines.at(-1)?.push(...pieces);
      else lines.push(pieces);
      open = gone;
    }
    if (lines.length === 0) return null;
    const content = lines.flatMap((pieces, i) => [
      ...(i > 0 ? [schema.node('hard_break')] : []),
      ...stretchesOf(pieces, false).flatMap((stretch) => stretch.content),
    ]);
    return schema.node('footnote', { note: name }, content);
  }

  private flats(parent: Element): Flat[] {
    const out = this.within(parent);
    if (this.carried.length > 0) out.push(...this.parted(this.carried, plain()));
    this.carried = [];
    return out;
  }

  private within(parent: Element): Flat[] {
    return elementsOf(parent).flatMap((element): Flat[] => {
      if (isGone(element, this.text)) return [];
      switch (element.name) {
        case 'w:p':
          return this.paragraph(element);
        case 'w:tbl': {
          const table = this.table(element);
          return table ? [{ kind: 'block', node: table }] : [];
        }
        case 'w:sdt':
          return this.control(element);
        case 'w:ins':
        case 'w:del':
        case 'w:moveFrom':
        case 'w:moveTo':
        case 'w:customXml':
        case 'w:smartTag':
          return this.within(element);
        case 'w:altChunk':
          this.tally.add('files within the file');
          return [];
        case 'w:commentRangeStart':
        case 'w:commentRangeEnd':
          this.inline.pieces({ ...element, name: '', children: [element] }, null);
          return [];
        default:
          return [];
      }
    });
  }

  private control(element: Element): Flat[] {
    const gallery = valueOf(down(element, 'w:sdtPr', 'w:docPartObj', 'w:docPartGallery'));
    if (gallery === 'Table of Contents') {
      this.tally.add('tables of contents');
      return [];
    }
    const content = down(element, 'w:sdtContent');
    const container = containerOf(valueOf(down(element, 'w:sdtPr', 'w:tag')) ?? '');
    if (!content || !container) return content ? this.within(content) : [];
    const node = this.container(content, container);
    return node ? [{ kind: 'block', node }] : [];
  }

  /** A container that the file names; null for one that holds nothing in this text. */
  private container(content: Element, container: Container): Node | null {
    switch (container.kind) {
      case 'quote': {
        const blocks = this.blocks(content, { ...OUTSIDE, quote: true });
        return blocks.length > 0 ? schema.node('quote', null, blocks) : null;
      }
      case 'code_block': {
        const lines = this.flats(content).flatMap((flat) => (flat.kind === 'text' ? [flat.content] : []));
        return lines.length > 0 ? codeOf(lines, container.language) : null;
      }
      case 'footnote':
        return this.note(container.note, content, this.inline);
      case 'item':
        return null;
      default: {
        const items = elementsOf(content, 'w:sdt').flatMap((item) => this.item(item, container));
        return items.length > 0 ? schema.node(container.kind, container.attrs, items) : null;
      }
    }
  }

  private item(element: Element, list: Container & { readonly number: string }): Node[] {
    const content = down(element, 'w:sdtContent');
    const container = containerOf(valueOf(down(element, 'w:sdtPr', 'w:tag')) ?? '');
    if (!content || container?.kind !== 'item') return [];
    const blocks = this.blocks(content, { ...OUTSIDE, list: list.number });
    if (blocks.length === 0) return [];
    const checked = container.checked;
    return [
      checked === null
        ? schema.node('list_item', null, blocks)
        : schema.node('check_item', { checked }, blocks),
    ];
  }

  private paragraph(element: Element): Flat[] {
    const own = down(element, 'w:pPr');
    const properties = propertiesIn(this.text, own, 'w:pPrChange');
    const style = valueOf(down(properties, 'w:pStyle'));
    const outside = this.inline.inLeftOut;
    const pieces = [...this.carried, ...this.inline.pieces(element, style)];
    this.carried = [];
    if (pieces.length === 0 && (outside || this.inline.inLeftOut)) return [];
    if (elementsOf(down(own, 'w:rPr')).some((mark) => isGone(mark, this.text))) {
      this.carried = pieces;
      return [];
    }
    const { sheet } = this.sources.body;
    const property = (name: string): Element | null =>
      down(properties, name) ?? sheet.paragraphProperty(style, name);
    const form = sheet.paragraphKind(style);
    const numbered = property('w:numPr');
    const id = valueOf(down(numbered, 'w:numId')) ?? '0';
    const level = Number(valueOf(down(numbered, 'w:ilvl')) ?? 0);
    const held = sheet.level(id, String(level));
    if (form.kind === 'heading' && held) this.tally.add('numbers of headings');
    const flats = this.parted(pieces, {
      kind: 'text',
      form,
      numbering: held && { ...held, id, level },
      align: ALIGNS[valueOf(property('w:jc')) ?? ''] ?? 'start',
      checked: null,
      left: indentOf(properties),
    });
    const section = down(own, 'w:sectPr');
    const breaks = section !== null && valueOf(down(section, 'w:type')) !== 'continuous';
    return [
      ...(isOn(property('w:pageBreakBefore')) ? [leaf('page_break')] : []),
      ...flats,
      ...(breaks ? [leaf('page_break')] : []),
    ];
  }

  /** A paragraph's content, in several paragraphs where something stands in it that documents hold between them. */
  private parted(pieces: readonly ReadPiece[], like: Omit<FlatText, 'content'>): Flat[] {
    const stretches = stretchesOf(pieces, like.form.kind === 'code');
    return stretches.flatMap(({ content, checked, parts }, i): Flat[] => {
      const numbering = i === 0 ? like.numbering : null;
      const box = numbering || checked !== null ? takeBox(content, checked) : null;
      const text: Flat = {
        ...like,
        numbering,
        content: box?.content ?? content,
        checked: box?.checked ?? null,
      };
      const empty = content.length === 0 && (stretches.length > 1 || like.form.kind === 'between');
      return [...(empty ? [] : [text]), ...(parts ? [leaf(parts)] : [])];
    });
  }

  private table(element: Element): Node | null {
    const fixed = valueOf(down(element, 'w:tblPr', 'w:tblLayout'), 'w:type') === 'fixed';
    const grid = elementsOf(down(element, 'w:tblGrid'), 'w:gridCol').map((column) =>
      fixed ? Math.max(0, Math.round(Number(valueOf(column, 'w:w')) / TWIPS) || 0) : 0,
    );
    const rows: Node[][] = [];
    /** Cells that go on downwards, by the column they begin in. */
    let above = new Map<number, { row: number; index: number }>();
    for (const row of this.rowsOf(element)) {
      const properties = down(row, 'w:trPr');
      if (elementsOf(properties).some((mark) => isGone(mark, this.text))) continue;
      const heads = isOn(down(properties, 'w:tblHeader'));
      const cells: Node[] = [];
      const going = new Map<number, { row: number; index: number }>();
      let column = Number(valueOf(down(properties, 'w:gridBefore')) ?? 0) || 0;
      for (const cell of this.cellsOf(row)) {
        const cellProperties = down(cell, 'w:tcPr');
        const wide = Math.min(100, Math.max(1, Number(valueOf(down(cellProperties, 'w:gridSpan'))) || 1));
        const merge = down(cellProperties, 'w:vMerge');
        const begun = merge && valueOf(merge) !== 'restart' ? above.get(column) : undefined;
        const head = begun && rows.length - begun.row < MOST_SPANNED ? begun : undefined;
        if (head) {
          const spanning = rows[head.row]?.[head.index] as Node;
          const rowspan = rows.length - head.row + 1;
          (rows[head.row] as Node[])[head.index] = spanning.type.create(
            { ...spanning.attrs, rowspan },
            spanning.content,
          );
          going.set(column, head);
        } else {
          if (merge) going.set(column, { row: rows.length, index: cells.length });
          cells.push(this.cell(cell, heads || isHead(cellProperties), wide, widthsOf(grid, column, wide)));
        }
        column += wide;
      }
      above = going;
      rows.push(cells);
    }
    if (rows.some((cells) => cells.length > 0)) return squared(rows.length > 0 ? rows : []);
    return null;
  }

  private cell(element: Element, heads: boolean, colspan: number, colwidth: readonly number[] | null): Node {
    const attrs: Attrs = { colspan, rowspan: 1, colwidth };
    return schema.node(heads ? 'table_header' : 'table_cell', attrs, orParagraph(this.blocks(element)));
  }

  private rowsOf(table: Element): Element[] {
    return unwrapped(table, 'w:tr');
  }

  private cellsOf(row: Element): Element[] {
    return unwrapped(row, 'w:tc');
  }
}

/** Elements of a name, also within controls. */
function unwrapped(parent: Element, name: string): Element[] {
  return elementsOf(parent).flatMap((child) => {
    if (child.name === name) return [child];
    const inner =
      child.name === 'w:sdt' ? down(child, 'w:sdtContent') : child.name === 'w:customXml' ? child : null;
    return inner ? unwrapped(inner, name) : [];
  });
}

/** Whether a cell is one of a first row or column that is set apart (ECMA-376 Part 1, 17.4.8). */
function isHead(properties: Element | null): boolean {
  const attributes = down(properties, 'w:cnfStyle')?.attributes ?? {};
  const flags = attributes['w:val'] ?? '';
  const on = (name: string, at: number): boolean =>
    ['1', 'true', 'on'].includes(attributes[name] ?? '') || flags.charAt(at) === '1';
  return on('w:firstRow', 0) || on('w:firstColumn', 2);
}

function widthsOf(grid: readonly number[], column: number, wide: number): number[] | null {
  const widths = grid.slice(column, column + wide);
  return widths.length === wide && widths.some((width) => width > 0) ? widths : null;
}

function plain(): Omit<FlatText, 'content'> {
  return {
    kind: 'text',
    form: { kind: 'paragraph' },
    numbering: null,
    align: 'start',
    checked: null,
    left: null,
  };
}

/** What stands in a footnote's first line, without the space between its number and its text. */
function withoutSpace([first, ...rest]: readonly ReadPiece[]): ReadPiece[] {
  if (!first) return [];
  if (!('text' in first) || !/^[ \t]/.test(first.text)) return [first, ...rest];
  return first.text.length === 1 ? rest : [{ ...first, text: first.text.slice(1) }, ...rest];
}

function leaf(name: 'page_break' | 'rule'): Flat {
  return { kind: 'block', node: schema.node(name) };
}
