import { Fragment } from 'prosemirror-model';
import type { Node } from 'prosemirror-model';
import type { Comparison } from './compare.js';
import type { Pair, Union } from './union.js';

/** Which side of a change to take. `both` keeps the earlier content and puts the later behind it. */
export type Decision = 'earlier' | 'later' | 'both';

/**
 * The document that decisions about each change make of a comparison. Only nodes whose content came from both sides are
 * repaired, so taking every change gives the later document node for node, and taking none the earlier.
 */
export function assemble(
  { union, changes, earlier, later }: Comparison,
  decide: (change: number) => Decision,
): Node {
  const settled = (change: number): Decision => {
    const partner = changes[change]?.moved ?? null;
    const decision = decide(partner === null ? change : Math.min(change, partner));
    return decision === 'both' && partner !== null ? 'later' : decision;
  };
  const [doc] = assemblePair(union, settled).nodes;
  return (
    doc ??
    (changes.every((change) => settled(change.id) === 'later') ? later : earlier.type.createAndFill()) ??
    earlier
  );
}

/** Nodes and the sides they came from: 1 earlier, 2 later, 3 both, 0 neither in particular. */
interface Part {
  readonly nodes: readonly Node[];
  readonly sides: number;
}

function assembleUnion(part: Union, decide: (change: number) => Decision): Part {
  if (part.kind === 'keep') return { nodes: [part.node], sides: 0 };
  if (part.kind === 'pair') return assemblePair(part, decide);
  const decision = decide(part.change);
  if (decision === 'both') return { nodes: [...part.earlier, ...part.later], sides: 3 };
  return decision === 'earlier' ? { nodes: part.earlier, sides: 1 } : { nodes: part.later, sides: 2 };
}

function assemblePair(pair: Pair, decide: (change: number) => Decision): Part {
  const decision = pair.form === null ? null : decide(pair.form);
  const shape = decision === 'earlier' ? pair.earlier : pair.later;
  const own = decision === null ? 0 : decision === 'earlier' ? 1 : 2;
  if (pair.kids.length === 0 && pair.earlier.isInline) return { nodes: [shape], sides: own };
  const kids = pair.kids.map((kid) => assembleUnion(kid, decide));
  const sides = kids.reduce((sum, kid) => sum | kid.sides, own);
  const content = Fragment.fromArray(kids.flatMap((kid) => [...kid.nodes]));
  if (sides !== 3) return { nodes: [shape.copy(content)], sides };
  const node = repaired(shape, content);
  return { nodes: node ? [node] : [], sides };
}

/** A node of a mixed origin made valid: what is missing is filled in; a list or table that lost all it had is left out. */
function repaired(shape: Node, content: Fragment): Node | null {
  if (shape.type.validContent(content)) return shape.copy(content);
  if (content.childCount === 0 && shape.type.name !== 'doc') return null;
  const filled = shape.type.createAndFill(shape.attrs, content, shape.marks);
  if (filled) return filled;
  const fitting: Node[] = [];
  content.forEach((child) => {
    if (shape.type.contentMatch.matchType(child.type) ?? shape.type.contentMatch.defaultType) {
      fitting.push(child.mark(shape.type.allowedMarks(child.marks)));
    }
  });
  return shape.type.createAndFill(shape.attrs, Fragment.fromArray(fitting), shape.marks);
}
