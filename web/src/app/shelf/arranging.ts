import type { DocumentSummary } from '@oxbow/contract';
import type { Board } from '../documents/shelf.store';

/** Orders that documents can stand in, within their collection. */
export const ORDERS = ['changed', 'title', 'made', 'new'] as const;
export type Order = (typeof ORDERS)[number];
/** Which documents are shown. */
export const SELECTIONS = ['all', 'favourites', 'recent', 'new'] as const;
export type Selection = (typeof SELECTIONS)[number];

/** How somebody wants to see the shelf; what is empty leaves nothing out. */
export interface Wish {
  /** Words that the title has to hold. */
  readonly title: string;
  /** Somebody who wrote in it. */
  readonly person: string;
  readonly collection: string;
  readonly kind: string;
  readonly only: Selection;
  readonly order: Order;
}

/** Documents one has marked, and those one was last in on this device, the last one first. */
export interface Marks {
  readonly favourites: ReadonlySet<string>;
  readonly recent: readonly string[];
}

/** A line of the shelf: the name of a collection, that nothing is in it, or a document. */
export type Row =
  | { readonly kind: 'board'; readonly id: string; readonly board: Board }
  | { readonly kind: 'none'; readonly id: string }
  | { readonly kind: 'document'; readonly id: string; readonly document: DocumentSummary };

const BY: Readonly<Record<Order, (a: DocumentSummary, b: DocumentSummary) => number>> = {
  changed: (a, b) => b.changedAt.localeCompare(a.changedAt),
  title: (a, b) => a.title.localeCompare(b.title, undefined, { numeric: true }),
  made: (a, b) => b.createdAt.localeCompare(a.createdAt),
  new: (a, b) => b.fresh.sittings - a.fresh.sittings || b.changedAt.localeCompare(a.changedAt),
};

/** Whether somebody wrote in a document, as far as its small tideline reaches back. */
function wroteIn(person: string, { changedBy, gauge }: DocumentSummary): boolean {
  return changedBy === person || gauge.some(({ shares }) => shares.some(([one]) => one === person));
}

function isWanted(document: DocumentSummary, wish: Wish, marks: Marks): boolean {
  const { title, person, kind, only } = wish;
  const words = title.toLocaleLowerCase().split(/\s+/).filter(Boolean);
  const told = document.title.toLocaleLowerCase();
  return (
    words.every((word) => told.includes(word)) &&
    (person === '' || wroteIn(person, document)) &&
    (kind === '' || document.kind === kind) &&
    (only !== 'favourites' || marks.favourites.has(document.id)) &&
    (only !== 'recent' || marks.recent.includes(document.id)) &&
    (only !== 'new' || document.fresh.sittings > 0)
  );
}

/** The lines of the shelf. Collections that nothing is found in are left out, unless all of the shelf is shown. */
export function arranged(boards: readonly Board[], wish: Wish, marks: Marks, narrowed: boolean): Row[] {
  const documentsOf = (documents: readonly DocumentSummary[]): Row[] =>
    documents.map((document) => ({ kind: 'document', id: document.id, document }));
  const wanted = (documents: readonly DocumentSummary[]): DocumentSummary[] =>
    documents.filter((document) => isWanted(document, wish, marks)).sort(BY[wish.order]);
  const shown = boards.filter(({ id }) => wish.collection === '' || (id ?? 'none') === wish.collection);
  if (wish.only === 'recent') {
    const at = new Map(marks.recent.map((id, i) => [id, i]));
    const found = wanted(shown.flatMap(({ documents }) => documents));
    return documentsOf(found.sort((a, b) => (at.get(a.id) ?? 0) - (at.get(b.id) ?? 0)));
  }
  return shown.flatMap((board): Row[] => {
    const documents = wanted(board.documents);
    if (narrowed && documents.length === 0) return [];
    const name = board.id ?? 'none';
    return [
      { kind: 'board', id: `board ${name}`, board },
      ...(documents.length > 0 ? documentsOf(documents) : [{ kind: 'none' as const, id: `none ${name}` }]),
    ];
  });
}
