import type { Node } from 'prosemirror-model';
import type { Line, Passage, Piece, Together, ToldPassage } from '../../compare/index.js';
import { aboveOf, formOf, linesOf, toldPassage } from '../../compare/index.js';
import { deckTeller } from '../deck/together.js';
import type { KindName } from '../index.js';
import { kindOf } from '../index.js';
import { sheetTeller } from '../sheet/together.js';
import type { Teller, Where } from '../telling.js';

/** Documents brought together, in words. */
export interface ToldTogether {
  /** What is read, with the passages in it; of sheets a line for each passage. */
  readonly lines: readonly Line[];
  /** By number. */
  readonly passages: readonly ToldPassage[];
}

const TELLERS: Readonly<Partial<Record<KindName, (versions: readonly Node[]) => Teller>>> = {
  sheet: sheetTeller,
  deck: deckTeller,
};

/** What several made of one document, as it is told to people: of other kinds than text each passage with where it stands. */
export function toldTogether(together: Together, versions: readonly Node[]): ToldTogether {
  const [base] = versions as [Node];
  const teller = TELLERS[kindOf(base).name]?.(versions);
  if (!teller) return { lines: linesOf(together), passages: together.passages.map(toldPassage) };
  const above = aboveOf(together);
  const found = together.passages.map((passage) => toldBy(teller, passage, above.get(passage.id) ?? []));
  const rank = new Map(
    [...found]
      .sort((one, other) => inOrder(one.where.order, other.where.order))
      .map(({ told }, i) => [told.id, i]),
  );
  const passages = found.map(({ told }) => told);
  const lines: readonly Line[] = teller.inLines
    ? linesOf(together)
    : passages.map(({ id }) => ({ kind: '', pieces: [{ passage: id }] }));
  const placeOf = ({ pieces }: Line): number =>
    Math.min(...pieces.flatMap((piece: Piece) => ('passage' in piece ? (rank.get(piece.passage) ?? 0) : [])));
  const told = lines.filter((line) => Number.isFinite(placeOf(line)));
  return { lines: told.sort((one, other) => placeOf(one) - placeOf(other)), passages };
}

function toldBy(
  teller: Teller,
  passage: Passage,
  above: readonly Node[],
): { readonly told: ToldPassage; readonly where: Where } {
  const { id, kind, base, sides, forms, about } = passage;
  const own = (about ?? (base.length > 0 ? base : forms[0]?.nodes))?.[0];
  const version = about || base.length > 0 ? 0 : (forms[0]?.by[0] ?? 0) + 1;
  const where = teller.where(own && !own.isText ? [...above, own] : above, version);
  const all = [base, ...sides];
  const versions = [
    { nodes: base, of: 0 },
    ...forms.map(({ nodes, by }) => ({ nodes, of: (by[0] ?? 0) + 1 })),
  ];
  const tell = (exact: boolean): string[] =>
    versions.map(({ nodes, of }) =>
      kind === 'form' ? formSaid(teller, nodes, all, of === 0) : teller.words(nodes, above, of, exact),
    );
  const few = tell(false);
  const [was = '', ...made] = areApart(few) ? few : tell(true);
  const told: ToldPassage = {
    id,
    kind,
    base: was,
    forms: forms.map(({ by }, i) => {
      const [text = '', others] = [made[i], [was, ...made.filter((_, other) => other !== i)]];
      return { text: others.includes(text) ? `${text} (stands or looks otherwise)`.trim() : text, by };
    }),
    ...(about ? { about: teller.words(about, above, 0, false) } : {}),
    where: where.said,
  };
  return { told, where };
}

/** Whether no two texts are equal. */
function areApart(texts: readonly string[]): boolean {
  return new Set(texts).size === texts.length;
}

/** The form of a node in words: what of it differs among all. */
function formSaid(
  { forms }: Teller,
  nodes: readonly Node[],
  all: readonly (readonly Node[])[],
  isBase: boolean,
): string {
  const [node] = nodes;
  const tell = node && forms[node.type.name];
  if (!node || !tell) return formOf(nodes, all);
  const is = (one: Node | undefined, name: string): string => JSON.stringify(one?.attrs[name] ?? null);
  const differs = Object.keys(tell).filter((name) =>
    all.some(([other]) => is(other, name) !== is(node, name)),
  );
  return [...new Set(differs.map((name) => tell[name]?.(node.attrs[name], isBase) ?? ''))].join(', ');
}

function inOrder(one: readonly number[], other: readonly number[]): number {
  for (let i = 0; i < Math.max(one.length, other.length); i++) {
    const apart = (one[i] ?? -1) - (other[i] ?? -1);
    if (apart !== 0) return apart;
  }
  return 0;
}
