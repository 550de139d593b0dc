import { Fragment, Mark } from 'prosemirror-model';
import type { Node } from 'prosemirror-model';
import { childrenOf, raggedIn, rectangleSteps } from '../content/index.js';
import { applySteps } from '../history/index.js';
import { alignBlocks } from './align.js';
import type { Outlook } from './align.js';
import { repaired } from './assemble.js';
import type { TextFlow } from './flow.js';
import { flowOf, nodesOf } from './flow.js';
import { commonWords } from './inline.js';
import { Lexicon } from './lexicon.js';
import { withBlanks } from './tidy.js';

/** Something both sides changed, differently; all three forms of it. A conflict of form holds single nodes without their content. */
export interface Conflict {
  readonly id: number;
  readonly kind: 'text' | 'blocks' | 'form';
  readonly base: readonly Node[];
  readonly ours: readonly Node[];
  readonly theirs: readonly Node[];
}

/** What to take of a conflict. `both` puts theirs behind ours; of a form it takes ours. */
export type Settlement = 'base' | 'ours' | 'theirs' | 'both';

/** Two documents that come from one, brought together: what only one side changed is taken, the rest are conflicts. */
export interface ThreeWay {
  readonly root: ThreePart;
  readonly conflicts: readonly Conflict[];
}

/** A part of the whole: settled, in conflict, or a node whose content has parts of its own. */
export type ThreePart = Settled | Conflict | Joined;

export interface Settled {
  readonly kind: 'settled';
  readonly nodes: readonly Node[];
  /** Whether one side, or both, put it where the base has nothing. */
  readonly added?: boolean;
}

export interface Joined {
  readonly kind: 'joined';
  readonly shape: Node | Conflict;
  readonly kids: readonly ThreePart[];
}

/**
 * Compares two documents with the one both come from. Blocks that all three have are gone into, down to words.
 * Source: S. Khanna, K. Kunal, B. C. Pierce, "A Formal Investigation of Diff3", FSTTCS 2007: stretches between points that
 * are stable on both sides are settled when one side left them alone or both did the same.
 */
export function compareThree(base: Node, ours: Node, theirs: Node): ThreeWay {
  const three = new Three();
  return { root: three.node(base, ours, theirs), conflicts: three.conflicts };
}

/** The document that settling each conflict makes; always valid, and its tables rectangular. */
export function assembleThree({ root }: ThreeWay, settle: (conflict: number) => Settlement): Node {
  const added = new Set<Node>();
  const taken = (conflict: Conflict): readonly Node[] => {
    const settlement = settle(conflict.id);
    if (settlement !== 'both') return conflict[settlement];
    return conflict.kind === 'form' ? conflict.ours : [...conflict.ours, ...conflict.theirs];
  };
  const nodes = (part: ThreePart): readonly Node[] => {
    if (part.kind === 'settled') {
      for (const node of part.added ? part.nodes : []) noteCells(node, added);
      return part.nodes;
    }
    if (part.kind !== 'joined') return taken(part);
    const shape = 'id' in part.shape ? taken(part.shape)[0] : part.shape;
    const node = shape && repaired(shape, Fragment.fromArray(part.kids.flatMap((kid) => [...nodes(kid)])));
    return node ? [node] : [];
  };
  const [doc] = nodes(root);
  if (!doc) throw new RangeError('a document always stands');
  return applySteps(
    doc,
    rectangleSteps(raggedIn(doc, -1), (cell) => added.has(cell)),
  );
}

/** The cells in a node, itself too if it is one. */
function noteCells(node: Node, cells: Set<Node>): void {
  if (/cell$/.test(String(node.type.spec['tableRole'] ?? ''))) cells.add(node);
  else if (!node.isTextblock) node.forEach((child) => noteCells(child, cells));
}

/** A stretch of the base and what either side has in its place. */
interface Chunk {
  readonly stable: boolean;
  readonly base: readonly [number, number];
  readonly ours: readonly [number, number];
  readonly theirs: readonly [number, number];
}

interface Match {
  readonly a: number;
  readonly b: number;
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
      kids: base.isTextblock ? this.inline(base, ours, theirs) : this.blocks(base, ours, theirs),
    };
  }

  private conflict(
    kind: Conflict['kind'],
    base: readonly Node[],
    ours: readonly Node[],
    theirs: readonly Node[],
  ): Conflict {
    const conflict = { id: this.conflicts.length, kind, base, ours, theirs };
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
    return this.conflict('form', bare(base), bare(ours), bare(theirs));
  }

  private blocks(base: Node, ours: Node, theirs: Node): ThreePart[] {
    const [o, a, b] = [childrenOf(base), childrenOf(ours), childrenOf(theirs)];
    return chunks(
      alignBlocks(o, a, this.outlook),
      alignBlocks(o, b, this.outlook),
      o.length,
      a.length,
      b.length,
    ).map(({ stable, ...at }) => {
      const [one, two, three] = [o.slice(...at.base), a.slice(...at.ours), b.slice(...at.theirs)];
      if (stable) return this.node(one[0] as Node, two[0] as Node, three[0] as Node);
      const settled = this.settled(one, two, three);
      return settled ? { ...settled, added: one.length === 0 } : this.conflict('blocks', one, two, three);
    });
  }

  private inline(base: Node, ours: Node, theirs: Node): ThreePart[] {
    const [o, a, b] = [base, ours, theirs].map((node) => flowOf([node], this.lexicon)) as [
      TextFlow,
      TextFlow,
      TextFlow,
    ];
    const matches = (other: TextFlow): Match[] =>
      withBlanks(commonWords(o, other, this.lexicon), o, other, this.lexicon).flatMap((run) =>
        Array.from({ length: run.length }, (_, i) => ({ a: run.a + i, b: run.b + i })),
      );
    return chunks(matches(a), matches(b), o.numbers.length, a.numbers.length, b.numbers.length).map(
      ({ stable, ...at }) => {
        const [one, two, three] = [nodesOf(o, ...at.base), nodesOf(a, ...at.ours), nodesOf(b, ...at.theirs)];
        const settled = this.settled(one, two, three);
        if (settled) return settled;
        return stable
          ? { kind: 'settled', nodes: formed(one, two, three) }
          : this.conflict('text', one, two, three);
      },
    );
  }
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
