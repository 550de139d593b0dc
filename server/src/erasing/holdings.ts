import type { HoldingPlace } from '@oxbow/contract';
import { FILLER } from '@oxbow/core/content';
import { soughtText } from '@oxbow/core/erasing';
import type { Stretch } from '@oxbow/core/erasing';
import type { Models } from '../store/models.js';

/** A column that holds words beside the text of documents, where that is said to be. */
export interface WordColumn {
  readonly table: keyof Models;
  readonly column: string;
  readonly place: HoldingPlace;
  /** Which rows belong to `:documents`, in SQL; `:collections` are those whose names may be changed. */
  readonly of: string;
  /** The document that a row belongs to, in SQL; of none where it is not said. */
  readonly document?: string;
  /** Of a column of JSON, which strings are words, by their pointer (RFC 6901); a plain column has none. */
  readonly pointers?: RegExp;
  /** Whether it only says again what another column says: then it is not counted. */
  readonly isEcho?: true;
}

const OWN = { of: 'document IN (:documents)', document: 'document' };

/** Every column in which somebody's words stand that are not a document's text. */
export const WORD_COLUMNS: readonly WordColumn[] = [
  { table: 'documents', column: 'title', place: 'title', of: 'key IN (:documents)', document: 'key' },
  { table: 'edits', column: 'cause', place: 'title', ...OWN, pointers: /^\/(before|after|title|file)$/ },
  { table: 'versions', column: 'comment', place: 'comment', ...OWN, isEcho: true },
  { table: 'pastComments', column: 'comment', place: 'comment', ...OWN },
  { table: 'landmarks', column: 'name', place: 'landmark', ...OWN },
  { table: 'landmarks', column: 'note', place: 'landmark', ...OWN },
  { table: 'notices', column: 'told', place: 'notice', ...OWN, pointers: /^\/text$/ },
  {
    table: 'filings',
    column: 'told',
    place: 'file',
    ...OWN,
    pointers: /^\/(author|title)$|^\/(remarks|tracked)\/\d+\/(text|about|author)$/,
  },
  { table: 'erasures', column: 'reason', place: 'comment', ...OWN },
  { table: 'shareEvents', column: 'named', place: 'name', ...OWN },
  {
    table: 'collections',
    column: 'name',
    place: 'name',
    of: 'id IN (:collections)',
  },
];

/** Tables that hold the text of documents, or what is made of it: `Blanker` and `Derived` see to them. */
export const TEXT_TABLES: ReadonlySet<string> = new Set([
  'edits',
  'checkpoints',
  'provenance',
  'letters',
  'words',
  'gauges',
  'versions',
  'seals',
  'images',
  'documentImages',
]);

/** Tables that hold no words of a document: who somebody is, who may do what, numbers and times. */
export const SILENT_TABLES: ReadonlySet<string> = new Set([
  'people',
  'claims',
  'sessions',
  'invitations',
  'groups',
  'groupMembers',
  'shares',
  'reaches',
  'readingLinks',
  'checkOuts',
  'arrivals',
  'posted',
  'keepingRules',
  'erasedIn',
  'ownership',
  'origins',
  'browsers',
  'memberReaches',
  'looks',
  'watches',
  'facts',
]);

/** Where some texts stand in another, whatever their capitals. */
export function stretchesOf(text: string, wanted: readonly string[]): Stretch[] {
  return wanted.flatMap((one) => soughtText(one).find(text));
}

/** A text with some stretches of it erased. */
export function erasedAt(text: string, stretches: readonly Stretch[]): string {
  return stretches.reduce(
    (held, { from, to }) => held.slice(0, from) + FILLER.repeat(to - from) + held.slice(to),
    text,
  );
}

/** A text with each of some others in it erased, whatever their capitals. */
export function erasedWords(text: string, wanted: readonly string[]): string {
  return erasedAt(text, stretchesOf(text, wanted));
}

/** How often a text holds any of some others. */
export function timesIn(text: string, wanted: readonly string[]): number {
  return stretchesOf(text, wanted).length;
}

/** The words that a column holds, by their pointer; of a plain column all of it, with the pointer ''. */
export function wordsOf(
  { pointers }: Pick<WordColumn, 'pointers'>,
  held: string,
): [pointer: string, text: string][] {
  if (!pointers) return [['', held]];
  const out: [string, string][] = [];
  changed(JSON.parse(held), '', (pointer, text) => {
    if (pointers.test(pointer)) out.push([pointer, text]);
    return text;
  });
  return out;
}

/** What a column holds with the words at a pointer changed. */
export function withWords(held: string, pointer: string, change: (text: string) => string): string {
  if (pointer === '') return change(held);
  return JSON.stringify(changed(JSON.parse(held), '', (at, text) => (at === pointer ? change(text) : text)));
}

function changed(
  value: unknown,
  pointer: string,
  change: (pointer: string, text: string) => string,
): unknown {
  if (typeof value === 'string') return change(pointer, value);
  if (Array.isArray(value)) return value.map((item, i) => changed(item, `${pointer}/${i}`, change));
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value).map(([name, item]) => [name, changed(item, `${pointer}/${name}`, change)]),
  );
}
