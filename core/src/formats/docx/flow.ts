import type { Node } from 'prosemirror-model';
import type { Moved, Seams, Side, Union } from '../../compare/union.js';
import { spans } from '../../compare/union.js';
import { childrenOf } from '../../content/index.js';
import { textSchema } from '../../kinds/text/index.js';
import type { Element } from '../packed/xml.js';
import { el } from '../packed/xml.js';
import type { Picture } from '../picture.js';
import { ShownMoves, changeIn, sideOf } from '../sides.js';
import type { Hand, Hands } from '../writing.js';
import type { Container } from '../container.js';
import { tagOf } from '../container.js';
import { fits } from './fits.js';
import type { Layout } from './layout.js';
import { BODY_SIZE, FOOTNOTE_SIZE, HEADING_SIZES } from './names.js';
import type { Paper } from './paper.js';
import { paragraphProperties, placeProperties } from './paragraph.js';
import type { RunPiece, Track } from './runs.js';
import { runsOf, trackAttributes } from './runs.js';
import type { At, Whole } from './at.js';
import { shifted, standing } from './at.js';
import { spaced, tableOf } from './table.js';
import { DocxTrackedInline } from './tracked-inline.js';
import { Tracking } from './tracking.js';

/** Writes a comparison as the body of a file, changes tracked; a document alone is a comparison with itself. */
export class DocxFlow {
  /** Numbers of lists, by their position on either side. */
  private readonly numbers: Record<Side, Map<number, number>> = { earlier: new Map(), later: new Map() };
  private readonly shown = new ShownMoves();
  private readonly tracking: Tracking;
  private readonly inline: DocxTrackedInline;
  /** Who changed the set-up of the page; null when nobody did. */
  setUpBy: Hand | null = null;

  /** `moves` is what an earlier pass found to be shown as moved at both places. */
  constructor(
    private readonly layouts: Record<Side, Layout>,
    readonly paper: Paper,
    hands: Hands,
    private readonly picture: (hash: string) => Picture | null,
    moves: ShownMoves,
  ) {
    this.tracking = new Tracking(hands, moves, this.shown);
    this.inline = new DocxTrackedInline(this.tracking);
  }

  get movesShown(): ShownMoves {
    return this.shown;
  }

  /** Blocks side by side. */
  parts(parts: readonly Union[], a: number, b: number): Element[] {
    let [x, y] = [a, b];
    return parts.flatMap((part) => {
      const elements = this.block(part, x, y);
      const [before, after] = spans(part);
      x += before;
      y += after;
      return elements;
    });
  }

  private block(part: Union, a: number, b: number): Element[] {
    if (!fits(part, a, b, this.layouts.earlier, this.layouts.later)) {
      const change = changeIn(part);
      return [
        ...this.nodes(sideOf(part, 'earlier'), { a, b: null }, { kind: 'del', change }),
        ...this.nodes(sideOf(part, 'later'), { a: null, b }, { kind: 'ins', change }),
      ];
    }
    return this.fitting(part, a, b);
  }

  private fitting(part: Union, a: number, b: number): Element[] {
    switch (part.kind) {
      case 'keep':
        return this.node(part.node, { a, b }, null);
      case 'pair':
        this.tracking.met(part.form);
        if (part.later.type.name === 'page_setup') return this.setUp(part.form?.id ?? null, { a, b });
        if (part.earlier.isTextblock)
          return this.placed(
            part.later,
            this.textblock(part, { a, b }, this.inline.parts(part.kids, a + 1, b + 1), null),
          );
        if (part.later.type.name === 'table') return [tableOf(part.later, { a, b }, part.kids, null, this)];
        return this.contained(part.later, { a, b }, () => this.parts(part.kids, a + 1, b + 1));
      case 'sole': {
        this.tracking.met(part.change);
        const own = part.side === 'earlier';
        return this.parts(part.kids, a + Number(own), b + Number(!own));
      }
      case 'seams':
        return this.seams(part, a, b);
      case 'difference': {
        const { id } = part.change;
        this.tracking.met(part.change);
        return [
          ...this.nodes(part.earlier, { a, b: null }, { kind: 'del', change: id }),
          ...this.nodes(part.later, { a: null, b }, { kind: 'ins', change: id }),
        ];
      }
      case 'move':
        return this.move(part.moved, part.at, standing(part.at, a, b));
      case 'break':
        return [];
    }
  }

  /** Nodes side by side that stand together, or are tracked as a whole. */
  nodes(nodes: readonly Node[], where: At, whole: Whole | null): Element[] {
    let offset = 0;
    return nodes.flatMap((node) => {
      const elements = this.node(node, shifted(where, offset), whole);
      offset += node.nodeSize;
      return elements;
    });
  }

  private node(node: Node, where: At, whole: Whole | null): Element[] {
    if (node.isTextblock) {
      const content = this.inline.plain(childrenOf(node), shifted(where, 1), whole);
      return this.placed(node, this.textblock({ earlier: node, later: node }, where, content, whole));
    }
    if (node.type.name === 'page_setup') return whole ? this.setUp(whole.change, where) : [];
    if (node.type.name === 'table') return [tableOf(node, where, null, whole, this)];
    if (node.isLeaf) return [this.leaf(node, where, whole)];
    return this.contained(node, where, () => this.nodes(childrenOf(node), shifted(where, 1), whole));
  }

  /** A paragraph where it stands: that of a footnote in a part of its own. */
  private placed(node: Node, paragraph: Element): Element[] {
    if (node.type.name !== 'footnote') return [paragraph];
    this.paper.notes.hold(String(node.attrs['note']), paragraph);
    return [];
  }

  /** The set-up of the page is told at the end of the body; here only who changed it is learnt. */
  private setUp(change: number | null, where: At): Element[] {
    if (change !== null) this.setUpBy = this.tracking.track({ kind: 'ins', change }, where);
    return [];
  }

  /** What a container holds, and the container where it has to be named. */
  private contained(node: Node, { a, b }: At, inside: () => Element[]): Element[] {
    if (
      a !== null &&
      b !== null &&
      this.layouts.later.lists.has(b) &&
      this.layouts.earlier.lists.get(a)?.hasMarkup(node.type, node.attrs)
    )
      this.numbers.earlier.set(a, this.number('later', b));
    const named =
      (b !== null && this.layouts.later.named.get(b)) || (a !== null && this.layouts.earlier.named.get(a));
    if (!named) return inside();
    const content = spaced(inside());
    return [this.control(named, content, b !== null ? 'later' : 'earlier')];
  }

  /** Footnotes without a sign, as paragraphs of the body that say what they are. */
  unsignedNotes(): Element[] {
    return this.paper.notes.unsigned.map(([note, paragraphs]) =>
      this.control({ kind: 'footnote', note }, paragraphs, 'later'),
    );
  }

  private control(container: Container, content: readonly Element[], side: Side): Element {
    const told =
      'number' in container
        ? { ...container, number: String(this.number(side, Number(container.number))) }
        : container;
    return el('w:sdt', {}, [
      el('w:sdtPr', {}, [el('w:tag', { 'w:val': tagOf(told) }), el('w:id', { 'w:val': this.paper.next() })]),
      el('w:sdtContent', {}, content),
    ]);
  }

  /** The number that the items of a list show their marks by. */
  private number(side: Side, position: number): number {
    const held = this.numbers[side].get(position);
    if (held !== undefined) return held;
    const number = this.paper.list(this.layouts[side].lists.get(position) as Node);
    this.numbers[side].set(position, number);
    return number;
  }

  /** A text block with its content; `whole` tracks the end of the paragraph. */
  private textblock(shapes: Shapes, where: At, content: readonly RunPiece[], whole: Whole | null): Element {
    const mark = whole && this.tracking.track(whole, where, shapes.later.nodeSize);
    const { a, b } = where;
    const named = b !== null ? this.layouts.later.named.get(b) : this.layouts.earlier.named.get(a ?? -1);
    const paragraph = this.paragraph(shapes, where, content, mark);
    return named ? this.control(named, [paragraph], 'later') : paragraph;
  }

  private paragraph(shapes: Shapes, where: At, content: readonly RunPiece[], mark: Track | null): Element {
    const { later } = shapes;
    const pieces = [...this.boxes(where, mark), ...content];
    return this.around(shapes, where, runsOf(pieces, sizeOf(later), this.paper, this.picture), mark);
  }

  /** A block without text: a break or a line across the page, in a paragraph of its own. */
  private leaf(node: Node, where: At, whole: Whole | null): Element {
    const track = whole && this.tracking.track(whole, where);
    const content =
      node.type.name === 'page_break'
        ? el('w:br', { 'w:type': 'page' })
        : el('w:pict', {}, [
            el('v:rect', {
              style: 'width:0;height:1.5pt',
              'o:hralign': 'center',
              'o:hrstd': 't',
              'o:hr': 't',
              fillcolor: '#D8D2C2',
              stroked: 'f',
            }),
          ]);
    const run = el('w:r', {}, [content]);
    const shown = track ? el(`w:${track.kind}`, trackAttributes(this.paper, track), [run]) : run;
    return this.around({ earlier: node, later: node }, where, [shown], track);
  }

  /** A paragraph round runs, with the properties it has and, where they differ, those it had. */
  private around(
    { earlier, later }: Shapes,
    { a, b }: At,
    runs: readonly Element[],
    mark: Track | null,
  ): Element {
    const on = (side: Side, position: number | null, shape: Node): Element[] | null => {
      const place = position === null ? undefined : this.layouts[side].places.get(position);
      if (!place) return null;
      return placeProperties(place, place.list === null ? null : this.number(side, place.list), shape);
    };
    const [before, now] = [on('earlier', a, earlier), on('later', b, later)];
    const changed = now && before && JSON.stringify(now) !== JSON.stringify(before);
    const change = changed ? { properties: before, by: this.tracking.recentHand('later', b ?? 0) } : null;
    return el('w:p', {}, [paragraphProperties(now ?? before ?? [], mark, change, this.paper), ...runs]);
  }

  /** The check box a paragraph begins with, on either side. */
  private boxes({ a, b }: At, mark: Track | null): RunPiece[] {
    const of = (side: Side, position: number | null): boolean | null =>
      position === null ? null : (this.layouts[side].places.get(position)?.box ?? null);
    const [before, after] = [of('earlier', a), of('later', b)];
    const space = (track: Track | null): RunPiece => ({ node: textSchema.text(' '), track });
    if (a === null || b === null || before === after) {
      const box = b === null ? before : after;
      return box === null ? [] : [{ box, track: mark }, space(mark)];
    }
    const gone = before === null ? null : this.tracking.trackRecent('del', 'earlier', a);
    const come = after === null ? null : this.tracking.trackRecent('ins', 'later', b);
    return [
      ...(gone && before !== null ? [{ box: before, track: gone }] : []),
      ...(come && after !== null ? [{ box: after, track: come }] : []),
      space(before === null ? come : after === null ? gone : null),
    ];
  }

  /** Text blocks in a row: each break that one side has is an end of a paragraph that came or went. */
  private seams({ earlier, later, kids, form }: Seams, a: number, b: number): Element[] {
    this.tracking.met(form);
    const out: Element[] = [];
    const starts = (nodes: readonly Node[], from: number): number[] => {
      let position = from;
      return nodes.map((node) => (position += node.nodeSize) - node.nodeSize);
    };
    const [startsA, startsB] = [starts(earlier, a), starts(later, b)];
    let [i, j] = [0, 0];
    let content: RunPiece[] = [];
    let [x, y] = [a + 1, b + 1];
    for (const kid of kids) {
      const [before, after] = spans(kid);
      if (kid.kind === 'break') {
        const come = kid.side === 'later';
        const track = this.tracking.trackAt(come ? 'ins' : 'del', kid.change.id, kid.side, come ? y : x);
        content.push(...this.inline.gap(kid, come ? x : y));
        const shape = (come ? later[j] : earlier[i]) as Node;
        const where: At = come ? { a: null, b: startsB[j] ?? b } : { a: startsA[i] ?? a, b: null };
        out.push(this.paragraph({ earlier: shape, later: shape }, where, content, track));
        content = [];
        if (come) j++;
        else i++;
      } else content.push(...this.inline.parts([kid], x, y));
      x += before;
      y += after;
    }
    const shapes = { earlier: earlier[i] as Node, later: later[j] as Node };
    out.push(this.paragraph(shapes, { a: startsA[i] ?? a, b: startsB[j] ?? b }, content, null));
    return out;
  }

  private move(moved: Moved, side: Side, where: At): Element[] {
    this.tracking.met(moved.change);
    const kind = this.tracking.moveKind(moved, side);
    const elements = this.nodes(moved[side], where, { kind, change: moved.change.id });
    return this.tracking.ranged(moved, side, where, this.paper, elements);
  }

  /** How a block is tracked as a whole. */
  track(whole: Whole, where: At): Track {
    return this.tracking.track(whole, where);
  }
}

/** The size of a block's text by its style, in half points. */
function sizeOf({ type, attrs }: Node): number {
  if (type.name === 'footnote') return FOOTNOTE_SIZE;
  return type.name === 'heading' ? (HEADING_SIZES[Number(attrs['level']) - 1] ?? BODY_SIZE) : BODY_SIZE;
}

interface Shapes {
  readonly earlier: Node;
  readonly later: Node;
}
