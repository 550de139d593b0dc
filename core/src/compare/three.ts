import { Fragment, Mark } from 'prosemirror-model';
import type { Node } from 'prosemirror-model';
import { childrenOf } from '../content/index.js';
import type { Outlook } from './align.js';
import type { TextFlow } from './flow.js';
import { flowOf } from './flow.js';
import { commonWords } from './inline.js';
import { Lexicon } from './lexicon.js';
import { opened } from './openings.js';
import { mayBreak } from './seams.js';
import { doubles } from './three-doubles.js';
import type { Item, Spot, Torn } from './three-order.js';
import { inOneOrder } from './three-order.js';
import type { Choice, Conflict, Placed, Settled, ThreePart, ThreeWay } from './three-parts.js';
import type { Range, Version } from './three-units.js';
import { withBlanks } from './tidy.js';
import { textIn } from './union.js';

/**
 * Compares two documents with the one both come from. Blocks that all three have are gone into, down to words; what one side
 * moved, split or joined is that for what the other did to it as well.
 * Source: S. Khanna, K. Kunal, B. C. Pierce, "A Formal Investigation of Diff3", FSTTCS 2007: stretches between points that
 * are stable on both sides are settled when one side left them alone or both did the same.
 */
export function compareThree(base: Node, ours: Node, theirs: Node): ThreeWay {
  const three = new Three();
  return { root: three.node(base, ours, theirs), conflicts: three.conflicts };
}

/** A stretch of the base and what either side has in its place. */
interface Chunk {
  readonly stable: boolean;
  readonly base: Range;
  readonly ours: Range;
  readonly theirs: Range;
}

interface Match {
  readonly a: number;
  readonly b: number;
}

/** What of the children of one node stands in three places: its conflicts, and what it became. */
class Places {
  readonly conflicts = new Map<number, Conflict>();
  readonly parts = new Map<Spot['nodes'], ThreePart>();
  readonly torn = new Map<Torn['whole'], Conflict>();
}

class Three {
  readonly conflicts: Conflict[] = [];
  private readonly lexicon = new Lexicon();
  private readonly outlook: Outlook = { lexicon: this.lexicon, elsewhere: () => false };

  node(base: Node, ours: Node, theirs: Node): ThreePart {
    const settled = this.settled([base], [ours], [theirs]);
    const isRow =
      base.type.spec['tableRole'] === 'row' && base.type === ours.type && base.type === theirs.type;
    if (settled && !isRow) return settled;
    if (ours.type !== theirs.type && ours.type !== base.type && theirs.type !== base.type)
      return this.conflict('blocks', [base], [ours], [theirs]);
    if (base.isTextblock !== ours.isTextblock || base.isTextblock !== theirs.isTextblock || base.isLeaf)
      return this.conflict('blocks', [base], [ours], [theirs]);
    const shape = this.shape(base, ours, theirs);
    return {
      kind: 'joined',
      shape,
      kids: base.isTextblock ? this.inline([base], [ours], [theirs]) : this.blocks(base, ours, theirs),
    };
  }

  private conflict(
    kind: Conflict['kind'],
    base: readonly Node[],
    ours: readonly Node[],
    theirs: readonly Node[],
    about?: readonly Node[],
  ): Conflict {
    const id = this.conflicts.length;
    const conflict: Conflict = { id, kind, base, ours, theirs, ...(about ? { about } : {}) };
    this.conflicts.push(conflict);
    return conflict;
  }

  /** What stands when one side left the base alone, or both did the same; null for a conflict. */
  private settled(base: readonly Node[], ours: readonly Node[], theirs: readonly Node[]): Settled | null {
    const equal = (one: readonly Node[], other: readonly Node[]): boolean =>
      Fragment.fromArray([...one]).eq(Fragment.fromArray([...other]));
    if (equal(base, ours) || equal(ours, theirs)) return { kind: 'settled', nodes: theirs };
    return equal(base, theirs) ? { kind: 'settled', nodes: ours } : null;
  }

  private shape(base: Node, ours: Node, theirs: Node): Node | Conflict {
    const same = (one: Node, other: Node): boolean => one.hasMarkup(other.type, other.attrs, other.marks);
    if (same(base, ours) || same(ours, theirs)) return theirs;
    if (same(base, theirs)) return ours;
    const bare = (node: Node): Node[] => [node.copy(Fragment.empty)];
    return this.conflict('form', bare(base), bare(ours), bare(theirs), [base]);
  }

  private blocks(base: Node, ours: Node, theirs: Node): ThreePart[] {
    const rows = { base: childrenOf(base), ours: childrenOf(ours), theirs: childrenOf(theirs) };
    const { spots, torn, ...order } = inOneOrder(rows, this.outlook, [base, ours, theirs].every(mayMoveIn));
    const places = new Places();
    const matches = (other: readonly Item[]): Match[] => {
      const at = new Map(other.map(({ key }, i) => [key, i]));
      return order.base.flatMap(({ key }, a) => {
        const b = at.get(key);
        return b === undefined ? [] : [{ a, b }];
      });
    };
    const lengths = [order.base.length, order.ours.length, order.theirs.length] as const;
    return chunks(matches(order.ours), matches(order.theirs), ...lengths).map(({ stable, ...at }) => {
      const nodes = (version: Version): Node[] =>
        order[version].slice(...at[version]).flatMap((item) => item.nodes);
      const key = stable ? (order.base[at.base[0]] as Item).key : NaN;
      const [spot, rent] = [spots.get(key), torn.get(key)];
      if (spot) return this.placed(spot, places);
      if (rent) return this.choice(rent, places);
      const [one, two, three] = [nodes('base'), nodes('ours'), nodes('theirs')];
      if (stable) return this.unit(one, two, three);
      const settled = this.settled(one, two, three);
      return settled ? { ...settled, added: one.length === 0 } : this.conflict('blocks', one, two, three);
    });
  }

  /** What stands in three places, brought together once; what moved together is decided as one. */
  private placed({ at, nodes, behind, number, moved }: Spot, places: Places): Placed {
    const conflict =
      places.conflicts.get(number) ?? this.conflict('place', behind.base, behind.ours, behind.theirs, moved);
    places.conflicts.set(number, conflict);
    const part = places.parts.get(nodes) ?? this.unit(nodes.base, nodes.ours, nodes.theirs);
    places.parts.set(nodes, part);
    return { kind: 'placed', at, conflict, part };
  }

  /** What one side joined and the other put in several places. */
  private choice({ whole, here }: Torn, places: Places): Choice {
    const conflict = places.torn.get(whole) ?? this.conflict('blocks', whole.base, whole.ours, whole.theirs);
    places.torn.set(whole, conflict);
    return { kind: 'choice', conflict, here };
  }

  /** What all three have: a node of each, or text that one side split or joined. */
  private unit(base: readonly Node[], ours: readonly Node[], theirs: readonly Node[]): ThreePart {
    const [first, one, other] = [base[0] as Node, ours[0] as Node, theirs[0] as Node];
    if (base.length === 1 && ours.length === 1 && theirs.length === 1) return this.node(first, one, other);
    const settled = this.settled(base, ours, theirs);
    if (settled) return settled;
    const all = [...base, ...ours, ...theirs];
    if (!all.every((node) => mayBreak(node) && node.isTextblock === first.isTextblock))
      return this.conflict('blocks', base, ours, theirs);
    return { kind: 'seamed', shape: this.shape(first, one, other), kids: this.inline(base, ours, theirs) };
  }

  private inline(base: readonly Node[], ours: readonly Node[], theirs: readonly Node[]): ThreePart[] {
    const flows = [base, ours, theirs].map((nodes) => flowOf(nodes.map(textIn), this.lexicon));
    const [o, a, b] = flows as [TextFlow, TextFlow, TextFlow];
    const matches = (other: TextFlow): Match[] =>
      withBlanks(commonWords(o, other, this.lexicon), o, other, this.lexicon).flatMap((run) =>
        Array.from({ length: run.length }, (_, i) => ({ a: run.a + i, b: run.b + i })),
      );
    const mark = this.conflicts.length;
    const cut = (flow: TextFlow, blocks: readonly Node[], range: Range): Node[] =>
      opened(flow, blocks, range, this.lexicon, base[0] as Node);
    const all = chunks(matches(a), matches(b), o.numbers.length, a.numbers.length, b.numbers.length);
    const parts = all.map(({ stable, ...at }): { part: ThreePart; at: typeof at; is: Version | null } => {
      const [one, two, three] = [cut(o, base, at.base), cut(a, ours, at.ours), cut(b, theirs, at.theirs)];
      const settled = this.settled(one, two, three);
      if (settled) return { part: settled, at, is: settled.nodes === two ? 'ours' : 'theirs' };
      if (stable && one[0]?.isInline)
        return { part: { kind: 'settled', nodes: formed(one, two, three) }, at, is: 'base' };
      return { part: this.conflict('text', one, two, three), at, is: null };
    });
    if (!doubles({ base: o, ours: a, theirs: b }, parts, this.lexicon)) return parts.map(({ part }) => part);
    this.conflicts.length = mark;
    const whole = (flow: TextFlow, blocks: readonly Node[]): Node[] =>
      cut(flow, blocks, [0, flow.numbers.length]);
    return [this.conflict('text', whole(o, base), whole(a, ours), whole(b, theirs))];
  }
}

/** Whether the order of a node's children is theirs to choose: cells keep their columns, and rows what spans them. */
function mayMoveIn(node: Node): boolean {
  if (node.type.spec['tableRole'] === 'row') return false;
  const isSpanned = (cell: Node): boolean => cell.attrs['colspan'] !== 1 || cell.attrs['rowspan'] !== 1;
  return node.type.name !== 'table' || !node.children.some((row) => row.children.some(isSpanned));
}

/** A piece that all three have and both sides gave another form: every mark that came stays, every one that went is gone. */
function formed(base: readonly Node[], ours: readonly Node[], theirs: readonly Node[]): Node[] {
  const marks = (nodes: readonly Node[]): readonly Mark[] => nodes[0]?.marks ?? [];
  return theirs.map((node) => {
    const gone = marks(base).filter((mark) => !mark.isInSet(marks(ours)));
    const come = marks(ours).filter((mark) => !mark.isInSet(marks(base)));
    const left = node.marks.filter((mark) => !mark.isInSet(gone));
    return node.mark(come.reduce((set, mark) => mark.addToSet(set), Mark.setFrom(left)));
  });
}

/** Cuts three sequences at what is stable: items of the base that both sides have. */
function chunks(ours: readonly Match[], theirs: readonly Match[], o: number, a: number, b: number): Chunk[] {
  const inTheirs = new Map(theirs.map((match) => [match.a, match.b]));
  const out: Chunk[] = [];
  let [x, y, z] = [0, 0, 0];
  for (const match of [...ours, { a: o, b: a }]) {
    const at = match.a === o ? b : inTheirs.get(match.a);
    if (at === undefined) continue;
    if (match.a > x || match.b > y || at > z)
      out.push({ stable: false, base: [x, match.a], ours: [y, match.b], theirs: [z, at] });
    if (match.a < o)
      out.push({
        stable: true,
        base: [match.a, match.a + 1],
        ours: [match.b, match.b + 1],
        theirs: [at, at + 1],
      });
    [x, y, z] = [match.a + 1, match.b + 1, at + 1];
  }
  return out;
}
