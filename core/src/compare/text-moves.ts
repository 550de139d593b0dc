import type { Node } from 'prosemirror-model';
import { childrenOf, countWords, proseOf, roleOf } from '../content/index.js';
import type { Lexicon } from './lexicon.js';
import { MOVED } from './thresholds.js';
import type { Difference, Handle, Move, Moved, Pair, Side, Union } from './union.js';
import { difference, eachDifference, textOf } from './union.js';

/** Compares the text of two text blocks word by word. */
export type Words = (earlier: Node, later: Node) => readonly Union[];

/** A word in more stretches than this says nothing about which one is meant. */
const COMMON = 12;

/** A stretch of text that left or came: inside a block, or all of one that stands in a difference between blocks. */
interface TextPlace {
  readonly part: Difference;
  readonly side: Side;
  readonly nodes: readonly Node[];
  /** Which of the difference's blocks it is. */
  readonly at: number;
  /** Its text without what stands round it: blanks, and the sign that ends a sentence. */
  readonly text: string;
}

/**
 * Stretches of text that one paragraph lost and another, or another place of it, gained: word for word, then edited on the way; a
 * sentence that became a paragraph, and a paragraph that became a sentence, among them.
 * Differences in `taken` are told otherwise already.
 */
export function textMoves(
  root: Pair,
  taken: ReadonlyMap<Difference, readonly Union[]>,
  lexicon: Lexicon,
  words: Words,
): Map<Difference, readonly Union[]> {
  const places: Record<Side, TextPlace[]> = { earlier: [], later: [] };
  eachDifference(root, (part) => {
    if (taken.size > 0 && taken.has(part)) return;
    for (const place of textsIn(part))
      if (countWords(place.text) >= leastWords(part)) places[place.side].push(place);
  });
  const moves = new Map<Difference, Standing[]>();
  const free = new Set([...places.earlier, ...places.later]);
  const put = ({ part, side, at }: TextPlace, moved: Moved): void => {
    const own = moves.get(part) ?? [];
    moves.set(part, own);
    own.push({ at, move: { kind: 'move', at: side, moved } });
  };
  const claim = (from: TextPlace, to: TextPlace, inner?: (change: Handle) => readonly Union[]): void => {
    const change: Handle = { id: -1 };
    const moved: Moved = {
      change,
      earlier: from.nodes,
      later: to.nodes,
      body: null,
      ...(inner ? { words: inner(change) } : {}),
      parents: { earlier: '', later: '' },
      from: -1,
      to: -1,
      across: { from: -1, to: -1 },
      regrouped: false,
    };
    for (const place of [from, to]) {
      put(place, moved);
      free.delete(place);
    }
  };
  claimEqual(places, claim);
  const isLeft = (place: TextPlace): boolean => free.has(place) && !isFilled(place.part);
  claimEdited(places.earlier.filter(isLeft), places.later.filter(isLeft), lexicon, words, claim);
  return new Map([...moves].map(([part, own]) => [part, cutOut(part, own)]));
}

/** One of the two places of something that moved, and which of a difference's blocks it is. */
interface Standing {
  readonly at: number;
  readonly move: Move;
}

type Claim = (from: TextPlace, to: TextPlace, inner?: (change: Handle) => readonly Union[]) => void;

function claimEqual({ earlier, later }: Record<Side, readonly TextPlace[]>, claim: Claim): void {
  const leaving = new Map<string, { readonly inline: TextPlace[]; readonly blocks: TextPlace[] }>();
  for (const place of earlier) {
    const known = leaving.get(place.text) ?? { inline: [], blocks: [] };
    leaving.set(place.text, known);
    (place.part.inline ? known.inline : known.blocks).push(place);
  }
  for (const to of later) {
    const known = leaving.get(to.text);
    if (known?.inline[0]?.part === to.part) continue;
    // Whole blocks that stand elsewhere as blocks were looked at before.
    const from = known?.inline.shift() ?? (to.part.inline ? known?.blocks.shift() : undefined);
    if (from) claim(from, to);
  }
}

/** Text inside blocks that shares most of its words with text that left another place. */
function claimEdited(
  earlier: readonly TextPlace[],
  later: readonly TextPlace[],
  lexicon: Lexicon,
  words: Words,
  claim: Claim,
): void {
  const leaving = earlier
    .filter(({ part }) => part.inline)
    .map((place) => ({ place, block: blockOf(place) }));
  if (leaving.length === 0) return;
  const homes = new Map<number, number[]>();
  leaving.forEach(({ block }, i) => {
    for (const word of new Set(lexicon.bags.words(block))) homes.set(word, [...(homes.get(word) ?? []), i]);
  });
  const gone = new Set<number>();
  for (const to of later.filter(({ part }) => part.inline)) {
    const block = blockOf(to);
    const likely = new Set<number>();
    for (const word of lexicon.bags.words(block)) {
      const home = homes.get(word) ?? [];
      if (home.length <= COMMON) for (const i of home) likely.add(i);
    }
    let best = -1;
    let bestLike: number = MOVED.editedLikeness;
    for (const i of likely) {
      const one = leaving[i];
      if (!one || gone.has(i) || one.place.part === to.part) continue;
      const like = lexicon.bags.similarity(one.block, block);
      if (like >= bestLike) [best, bestLike] = [i, like];
    }
    const from = leaving[best];
    if (!from) continue;
    gone.add(best);
    claim(from.place, to, (change) => edited(from.block, block, words, change));
  }
}

/** What was edited in text that moved. Blanks at its ends go with the move. */
function edited(earlier: Node, later: Node, words: Words, change: Handle): Union[] {
  const [one, other] = [endsOf(earlier), endsOf(later)];
  const ends = (at: 0 | 2): Union[] => {
    const [gone, come] = [childrenOf(one[at]), childrenOf(other[at])];
    return gone.length + come.length > 0 ? [difference(gone, come, change)] : [];
  };
  return [...ends(0), ...words(one[1], other[1]), ...ends(2)];
}

/** A text block cut into the blanks before its text, this, and the blanks behind it. */
function endsOf(block: Node): readonly [Node, Node, Node] {
  const text = block.textContent;
  const from = text.length - text.trimStart().length;
  const to = Math.max(from, text.trimEnd().length);
  return [block.cut(0, from), block.cut(from, to), block.cut(to)];
}

/** The text of a place as a block of its own. */
function blockOf({ nodes }: TextPlace): Node {
  const [first] = nodes as [Node];
  return proseOf(first.type.schema).create(null, [...nodes]);
}

const NO_TEXTS: readonly TextPlace[] = [];

/** What of a difference that one side has may have moved as text. */
function textsIn(part: Difference): readonly TextPlace[] {
  const [gone, come] = part.sizes;
  const place = (side: Side, nodes: readonly Node[], at: number): TextPlace => ({
    part,
    side,
    nodes,
    at,
    text: textOf(nodes)
      .trim()
      .replace(/[.!?…]+$/u, ''),
  });
  if (part.inline) {
    const texts: TextPlace[] = [];
    for (const [side, size] of [
      ['earlier', gone],
      ['later', come],
    ] as const) {
      if (size < shortest(part) || !mayHoldWords(part.text(side), leastWords(part))) continue;
      const nodes = part[side];
      if (nodes.every((node) => node.isText)) texts.push(place(side, nodes, 0));
    }
    return texts;
  }
  if (isFilled(part)) return NO_TEXTS;
  const side = come > 0 ? 'later' : 'earlier';
  const isPlain = (node: Node): boolean =>
    roleOf(node) === 'prose' && node.children.every((child) => child.isText);
  return part[side].flatMap((node, at) => (isPlain(node) ? [place(side, [node], at)] : NO_TEXTS));
}

/** Whether something came where something went. */
function isFilled({ sizes: [gone, come] }: Difference): boolean {
  return gone > 0 && come > 0;
}

/** Fewest words for which text of a difference is told as moved. */
function leastWords(part: Difference): number {
  return isFilled(part) ? MOVED.filledWords : MOVED.textWords;
}

/** Positions that such a text fills at least. */
function shortest(part: Difference): number {
  return isFilled(part) ? MOVED.filledSize : 2 * MOVED.textWords - 1;
}

/** Whether a text may hold so many words, before they are counted: most hold one. */
function mayHoldWords(text: string, words: number): boolean {
  let blanks = 0;
  for (let i = 0; i < text.length; i++) {
    const unit = text.charCodeAt(i);
    // From Thai on there are scripts that set no blanks between words.
    if (unit >= 0x0e00 || (unit === 0x20 && ++blanks === words - 1)) return true;
  }
  return false;
}

/** A difference without what moved, and this where it stood. */
function cutOut(part: Difference, moves: readonly Standing[]): Union[] {
  if (part.inline) {
    const on = (side: Side): Union[] => {
      const found = moves.find(({ move }) => move.at === side);
      if (found) return [found.move];
      const [gone, come] = side === 'earlier' ? [part.earlier, []] : [[], part.later];
      return gone.length + come.length > 0 ? [difference(gone, come)] : [];
    };
    return [...on('earlier'), ...on('later')];
  }
  const side = part.sizes[0] > 0 ? 'earlier' : 'later';
  const out: Union[] = [];
  let rest: Node[] = [];
  const flush = (): void => {
    if (rest.length > 0) out.push(difference(side === 'earlier' ? rest : [], side === 'later' ? rest : []));
    rest = [];
  };
  for (const [i, node] of part[side].entries()) {
    const found = moves.find(({ at }) => at === i);
    if (!found) rest.push(node);
    else {
      flush();
      out.push(found.move);
    }
  }
  flush();
  return out;
}
