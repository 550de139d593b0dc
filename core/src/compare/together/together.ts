import { Fragment, Mark } from 'prosemirror-model';
import type { Node } from 'prosemirror-model';
import { childrenOf, roleOf } from '../../content/index.js';
import type { Outlook } from '../align.js';
import type { TextFlow } from '../flow.js';
import { flowOf } from '../flow.js';
import { commonWords } from '../inline.js';
import { keyOf } from '../keyed.js';
import { Lexicon } from '../lexicon.js';
import { mayBreak } from '../seams.js';
import { tidied, withBlanks } from '../tidy.js';
import { textIn } from '../union.js';
import { chunksOf } from './chunks.js';
import type { Fate } from './doubles.js';
import { doubles } from './doubles.js';
import { opened } from './openings.js';
import type { ByVersion } from './named.js';
import { isSame, namedChildren } from './named.js';
import type { Moving, Spot, Torn } from './order.js';
import { inOneOrder } from './order.js';
import type { Choice, Part, Passage, Placed, Same, Together } from './parts.js';
import { passagesIn } from './parts.js';

export interface TogetherOptions {
  /** Whether passages of text are tidied for people, as marks are; without it they are minimal. */
  readonly tidy?: boolean;
}

/**
 * Brings documents together that come from one. Blocks that all have are gone into, down to words; what one side moved, split or
 * joined is that for what the others did to it as well.
 * Source: S. Khanna, K. Kunal, B. C. Pierce, "A Formal Investigation of Diff3", FSTTCS 2007, for any number of sides: between
 * points that are stable on all of them lie the passages.
 */
export function bringTogether(
  base: Node,
  sides: readonly Node[],
  { tidy = false }: TogetherOptions = {},
): Together {
  const bringing = new Bringing(tidy);
  const root = bringing.node([base, ...sides]);
  const passages = passagesIn(root);
  passages.forEach((passage, id) => (passage.id = id));
  return { root, passages };
}

/** What of the children of one node is decided at several places. */
class Decided {
  readonly moving = new Map<Moving, Passage>();
  readonly parts = new Map<Spot['nodes'], readonly Part[]>();
  readonly torn = new Map<Torn['places'], Passage>();
}

class Bringing {
  private readonly lexicon = new Lexicon();
  private readonly outlook: Outlook = { lexicon: this.lexicon, elsewhere: () => false };

  constructor(private readonly tidy: boolean) {}

  node(versions: readonly Node[]): Part {
    const [base, ...sides] = versions as [Node, ...Node[]];
    if (sides.every((side) => side.eq(base))) return { kind: 'same', nodes: [base] };
    const types = new Set(sides.map(({ type }) => type).filter((type) => type !== base.type));
    const isText = sides.every((side) => side.isTextblock === base.isTextblock);
    const name = keyOf(base);
    if (base.isLeaf && name !== null && sides.every((side) => keyOf(side) === name))
      return { kind: 'asked', passage: formPassage(versions) };
    if (types.size > 1 || !isText || base.isLeaf)
      return this.asked(
        'blocks',
        versions.map((version) => [version]),
      );
    return { kind: 'joined', shape: this.shape(versions), kids: this.kids(versions) };
  }

  private kids(versions: readonly Node[]): Part[] {
    const [base] = versions as [Node];
    if (!base.isTextblock)
      return namedChildren(versions)?.map((nodes) => this.named(nodes)) ?? this.blocks(versions);
    if (roleOf(base) === 'cell') return [this.asked('whole', versions.map(childrenOf))];
    return this.inline(versions.map((version) => [version]));
  }

  private asked(kind: Passage['kind'], versions: ByVersion, about?: readonly Node[]): Part {
    const passage = passageOf(kind, versions, about);
    return passage.forms.length > 0 ? { kind: 'asked', passage } : { kind: 'same', nodes: passage.base };
  }

  private shape(versions: readonly Node[]): Node | Passage {
    const [base] = versions as [Node];
    const isOne = versions.every((version) => version.hasMarkup(base.type, base.attrs, base.marks));
    return isOne ? base : formPassage(versions);
  }

  private blocks(versions: readonly Node[]): Part[] {
    const { rows, spots, torn } = inOneOrder(
      versions.map(childrenOf),
      this.outlook,
      versions.every(mayMoveIn),
    );
    const decided = new Decided();
    const [base = [], ...sides] = rows;
    const matches = sides.map((side) => {
      const at = new Map(side.map(({ key }, i) => [key, i]));
      return base.map(({ key }) => at.get(key) ?? -1);
    });
    return chunksOf(
      matches,
      rows.map((row) => row.length),
    ).map(({ stable, ranges }) => {
      const key = stable ? (base[ranges[0]?.[0] ?? 0]?.key ?? NaN) : NaN;
      const [spot, rent] = [spots.get(key), torn.get(key)];
      if (spot) return this.placed(spot, decided);
      if (rent) return this.choice(rent, decided);
      const nodes = rows.map((row, version) =>
        row.slice(...(ranges[version] ?? [])).flatMap((item) => item.nodes),
      );
      return stable ? this.unit(nodes) : this.asked('blocks', nodes);
    });
  }

  /** One of the places of what moved, which is brought together once. */
  private placed({ moving, at, nodes, trail }: Spot, decided: Decided): Placed {
    const { about, behind, places } = moving;
    const passage = decided.moving.get(moving) ?? {
      id: -1,
      kind: 'place',
      base: behind[0] ?? [],
      sides: behind.slice(1),
      forms: places.map((place) => ({
        nodes: behind[place[0] ?? 0] ?? [],
        by: place.map((version) => version - 1),
      })),
      about,
    };
    decided.moving.set(moving, passage);
    const parts = decided.parts.get(nodes) ?? [
      this.unit(nodes),
      ...(trail.some((one) => one.length > 0) ? [this.asked('blocks', trail)] : []),
    ];
    decided.parts.set(nodes, parts);
    const form = places.findIndex((place) => place[0] === at.find((version) => version > 0));
    return { kind: 'placed', passage, at: at.includes(0) ? 'base' : form, parts };
  }

  /** What one side joined and another put in several places. */
  private choice({ places, place }: Torn, decided: Decided): Choice {
    const whole = (places[0] ?? []).map((_, version) => places.flatMap((one) => one[version] ?? []));
    const isSame = (version: number, other: number): boolean =>
      places.every((one) => equal(one[version] ?? [], one[other] ?? []));
    const passage = decided.torn.get(places) ?? passageOf('blocks', whole, undefined, isSame);
    decided.torn.set(places, passage);
    const here = places[place] ?? [];
    const forms = passage.forms.map(({ by }) => here[(by[0] ?? 0) + 1] ?? []);
    return { kind: 'choice', passage, base: here[0] ?? [], forms };
  }

  /** Something with a name, which some may not have. */
  private named(versions: ByVersion): Part {
    const all = versions.flat();
    return all.length === versions.length ? this.node(all) : this.asked('whole', versions);
  }

  /** What all have: a node of each, or text that a side split or joined. */
  private unit(versions: ByVersion): Part {
    if (versions.every((nodes) => nodes.length === 1))
      return this.node(versions.map(([node]) => node as Node));
    const all = versions.flat();
    const isText = all.every((node) => mayBreak(node) && node.isTextblock === all[0]?.isTextblock);
    if (!isText || versions.some((nodes) => nodes.length === 0)) return this.asked('blocks', versions);
    return {
      kind: 'seamed',
      shape: this.shape(versions.map(([first]) => first as Node)),
      kids: this.inline(versions),
    };
  }

  private inline(versions: ByVersion): Part[] {
    const flows = versions.map((nodes) => flowOf(nodes.map(textIn), this.lexicon));
    const [base] = flows as [TextFlow];
    const first = versions[0]?.[0] as Node;
    const cut = (ranges: readonly (readonly [number, number])[]): ByVersion =>
      flows.map((flow, version) =>
        opened(flow, versions[version] ?? [], ranges[version] ?? [0, 0], this.lexicon, first),
      );
    const matches = flows.slice(1).map((flow) => this.matches(base, flow));
    const fates: Fate[] = [];
    const parts: Part[] = [];
    for (const { stable, ranges } of chunksOf(
      matches,
      flows.map(({ numbers }) => numbers.length),
    )) {
      const nodes = cut(ranges);
      const part = stable && nodes[0]?.[0]?.isInline ? formed(nodes) : this.asked('text', nodes);
      fates.push({ ranges, forms: part.kind === 'asked' ? part.passage.forms : [] });
      add(part, parts);
    }
    if (!doubles(flows, fates, this.lexicon)) return parts;
    return [this.asked('text', cut(flows.map(({ numbers }) => [0, numbers.length])))];
  }

  /** For each piece of the base its counterpart, or -1. */
  private matches(base: TextFlow, other: TextFlow): number[] {
    const words = commonWords(base, other, this.lexicon);
    const runs = (this.tidy ? tidied : withBlanks)(words, base, other, this.lexicon);
    const out = new Array<number>(base.numbers.length).fill(-1);
    for (const { a, b, length } of runs) for (let i = 0; i < length; i++) out[a + i] = b + i;
    return out;
  }
}

function equal(one: readonly Node[], other: readonly Node[]): boolean {
  return one.length === other.length && one.every((node, i) => isSame(node, other[i] as Node));
}

/** A passage of what each version has, with what is equal as one form. */
function passageOf(
  kind: Passage['kind'],
  versions: ByVersion,
  about?: readonly Node[],
  isSame = (version: number, other: number): boolean => equal(versions[version] ?? [], versions[other] ?? []),
): Passage {
  const [base = [], ...sides] = versions;
  const forms: { nodes: readonly Node[]; by: number[] }[] = [];
  sides.forEach((nodes, side) => {
    if (isSame(0, side + 1)) return;
    const known = forms.find(({ by }) => isSame((by[0] ?? 0) + 1, side + 1));
    if (known) known.by.push(side);
    else forms.push({ nodes, by: [side] });
  });
  return { id: -1, kind, base, sides, forms, ...(about ? { about } : {}) };
}

/** Puts a part behind others, as one with the last where both are the same for all, or were given their form by the same. */
function add(part: Part, parts: Part[]): void {
  const last = parts.at(-1);
  if (last?.kind === 'same' && part.kind === 'same')
    parts[parts.length - 1] = { kind: 'same', nodes: [...last.nodes, ...part.nodes] };
  else if (last?.kind === 'asked' && part.kind === 'asked' && isOneForm(last.passage, part.passage))
    parts[parts.length - 1] = { kind: 'asked', passage: behind(last.passage, part.passage) };
  else parts.push(part);
}

function isOneForm(one: Passage, other: Passage): boolean {
  if (one.kind !== 'form' || other.kind !== 'form' || one.forms.length !== 1 || other.forms.length !== 1)
    return false;
  return String(one.forms[0]?.by) === String(other.forms[0]?.by);
}

function behind(one: Passage, other: Passage): Passage {
  return {
    ...one,
    base: [...one.base, ...other.base],
    sides: one.sides.map((nodes, side) => [...nodes, ...(other.sides[side] ?? [])]),
    forms: one.forms.map(({ nodes, by }) => ({ nodes: [...nodes, ...(other.forms[0]?.nodes ?? [])], by })),
  };
}

/** Whether the order of a node's children is theirs to choose: cells keep their columns, and rows what spans them. */
function mayMoveIn(node: Node): boolean {
  if (node.type.spec['tableRole'] === 'row') return false;
  const isSpanned = (cell: Node): boolean => cell.attrs['colspan'] !== 1 || cell.attrs['rowspan'] !== 1;
  return roleOf(node) !== 'table' || !node.children.some((row) => row.children.some(isSpanned));
}

/** A piece that all have; where several gave it marks, every mark that came stays, every one that went is gone. */
function formed(versions: ByVersion): Part {
  const passage = passageOf('form', versions);
  const [base = [], ...sides] = versions;
  if (passage.forms.length === 0) return { kind: 'same', nodes: base } satisfies Same;
  const isMarks = sides.every((nodes) =>
    nodes.every(
      (node, i) =>
        base[i]?.isText || node.hasMarkup((base[i] as Node).type, (base[i] as Node).attrs, node.marks),
    ),
  );
  if (passage.forms.length === 1 || !isMarks) return { kind: 'asked', passage };
  const was = base[0]?.marks ?? [];
  const gone = was.filter((mark) => sides.some((nodes) => !mark.isInSet(nodes[0]?.marks ?? [])));
  const come = sides.flatMap((nodes) => (nodes[0]?.marks ?? []).filter((mark) => !mark.isInSet(was)));
  const left = Mark.setFrom(was.filter((mark) => !mark.isInSet(gone)));
  const marks = come.reduce((set, mark) => mark.addToSet(set), left);
  const nodes = base.map((node) => node.mark(marks));
  return { kind: 'asked', passage: { ...passage, forms: [{ nodes, by: allBy(passage) }] } };
}

/** The form of a node: as one where nobody made different things of one attribute. */
function formPassage(versions: readonly Node[]): Passage {
  const shapes = versions.map((version) => version.copy(Fragment.empty));
  const passage = passageOf(
    'form',
    shapes.map((shape) => [shape]),
    versions.slice(0, 1),
  );
  const node = passage.forms.length > 1 ? ofOneForm(shapes) : null;
  return node ? { ...passage, forms: [{ nodes: [node], by: allBy(passage) }] } : passage;
}

/** Who made something of a passage. */
function allBy({ forms }: Passage): number[] {
  return forms.flatMap(({ by }) => by).sort((x, y) => x - y);
}

/** A node without content in the forms that several gave it, the base's first, as one: null where two made different things of one attribute. */
function ofOneForm(versions: readonly Node[]): Node | null {
  const [base, ...sides] = versions as [Node, ...Node[]];
  if (sides.some((side) => side.type !== base.type || !Mark.sameSet(side.marks, base.marks))) return null;
  const attrs: Record<string, unknown> = { ...base.attrs };
  for (const name of Object.keys(attrs)) {
    const is = (value: unknown): string => JSON.stringify(value);
    const changed = sides
      .map((side) => side.attrs[name] as unknown)
      .filter((value) => is(value) !== is(base.attrs[name]));
    if (new Set(changed.map(is)).size > 1) return null;
    if (changed.length > 0) attrs[name] = changed[0];
  }
  return base.type.create(attrs, null, base.marks);
}
