import type { ComparedChange, ComparisonResult, Moment } from '@oxbow/contract';
import type { Arrived } from '../filing/filing';
import type { FileAbout } from '../worker/messages';

/** Two moments, or a moment and a file, to be read against each other. */
export interface Look {
  readonly earlier: Moment;
  readonly later: Moment;
  readonly comparison: ComparisonResult;
  /** The name of a file from outside that `later` is, or null. */
  readonly file: string | null;
  /** That file itself. */
  readonly source?: File | null;
  /** The message it came in; null for one that was chosen or dropped. */
  readonly arrived?: Arrived | null;
  /** What came in it beside its text. */
  readonly about?: FileAbout | null;
  /** Whether that is no file but a stranded draft of one's own. */
  readonly draft?: boolean;
}

/** The three ways to read one comparison. */
export type Mode = 'flowing' | 'facing' | 'digest';

/** Who is answerable for one side of a change: whoever did the last of it. */
export function personOf(change: ComparedChange, side: 'earlier' | 'later'): string | null {
  return (change.credits.findLast((credit) => credit.side === side) ?? change.credits.at(-1))?.person ?? null;
}

/** Everybody who had a hand in a change. */
export function peopleOf(change: ComparedChange): string[] {
  return [...new Set(change.credits.map(({ person }) => person))];
}

const NAMES: Record<string, string> = {
  align: $localize`alignment`,
  alt: $localize`alternative text`,
  bold: $localize`bold`,
  italic: $localize`italic`,
  underline: $localize`underline`,
  strike: $localize`strike-through`,
  superscript: $localize`superscript`,
  subscript: $localize`subscript`,
  highlight: $localize`highlight`,
  typeface: $localize`typeface`,
  size: $localize`size`,
  code: $localize`code`,
  link: $localize`link`,
  level: $localize`heading level`,
  heading: $localize`made a heading`,
  paragraph: $localize`made a paragraph`,
  bullet_list: $localize`made a bullet list`,
  ordered_list: $localize`made a numbered list`,
  check_list: $localize`made a check list`,
  list_item: $localize`list item`,
  check_item: $localize`check-list item`,
  quote: $localize`quote`,
  checked: $localize`tick`,
  table_header: $localize`made headings of a table`,
  table_cell: $localize`made cells of a table`,
  start: $localize`first number`,
  width: $localize`width`,
  hash: $localize`image`,
  language: $localize`language of the code`,
  colspan: $localize`columns spanned`,
  rowspan: $localize`rows spanned`,
  place: $localize`moved`,
  format: $localize`number format`,
  fill: $localize`fill`,
  name: $localize`name`,
  frozenRows: $localize`rows kept in view`,
  frozenColumns: $localize`columns kept in view`,
  x: $localize`place on the slide`,
  y: $localize`place on the slide`,
  height: $localize`height`,
  layout: $localize`layout`,
  hidden: $localize`whether it is shown`,
};

const DEEDS: Record<Exclude<ComparedChange['kind'], 'form'>, string> = {
  added: $localize`added`,
  removed: $localize`removed`,
  replaced: $localize`replaced`,
  moved: $localize`moved`,
  copied: $localize`copied`,
  split: $localize`split here`,
  joined: $localize`joined here`,
  typography: $localize`typography`,
};

/** A rename as one is told it: what it was, and what it is. */
export function renameOf(group: string): string {
  return group.replace(' > ', ' → ');
}

/** What a change does, in a word or two. */
export function deedOf(change: Pick<ComparedChange, 'kind' | 'form' | 'section' | 'group'>): string {
  if (change.kind === 'moved' && change.section !== null)
    return $localize`moved the section ${change.section}`;
  if (change.kind === 'replaced' && change.group !== null) return $localize`renamed throughout`;
  if (change.kind !== 'form') return DEEDS[change.kind];
  const names = new Set(change.form.map((name) => NAMES[name] ?? name.replaceAll('_', ' ')));
  return $localize`form: ${[...names].join(', ') || $localize`changed`}`;
}

/** Where something that moved or was copied came from, or went to, as seen from where it stands on one side. */
export function whereOf(change: ComparedChange, side: 'earlier' | 'later'): string | null {
  const stand = change.stands[side][0];
  if (!stand) return null;
  if (change.kind === 'copied')
    return (
      change.copyOf &&
      (change.copyOf.from < stand.across ? $localize`copied from above` : $localize`copied from below`)
    );
  const other = change.stands[side === 'later' ? 'earlier' : 'later'][0];
  if (change.kind !== 'moved' || !other) return null;
  const above = other.from < stand.across;
  // What moved in several stretches at once is a column, which keeps its rows.
  if (change.stands[side].length > 1)
    return side === 'later'
      ? above
        ? $localize`came from the left`
        : $localize`came from the right`
      : above
        ? $localize`went left`
        : $localize`went right`;
  return side === 'later'
    ? above
      ? $localize`came from above`
      : $localize`came from below`
    : above
      ? $localize`went up`
      : $localize`went down`;
}
