import type { ComparedChange, Person } from '@oxbow/contract';
import { documentOf } from '@oxbow/core/kinds';
import { Node } from 'prosemirror-model';
import { imageAddress } from '../document/drawn';
import { shortTime } from '../look/time';
import { colourOf } from '../look/colours';
import type { Sheet } from './draw';
import { draw } from './draw';
import type { Look } from './look';
import { peopleOf } from './look';
import type { Mark } from './sheet';
import { marksOn } from './sheet';

type People = ReadonlyMap<string, Person>;
/** What stands beside what. */
export type Row = Look['comparison']['rows'][number];

/** Both documents of a look, ready to be drawn row by row. */
export interface Pages {
  readonly look: Look;
  readonly earlier: Sheet;
  /** The earlier document as its blocks show between the later one's, where both are read as one. */
  readonly gone: Sheet;
  readonly later: Sheet;
  readonly rows: readonly Row[];
  /** For each change, the rows it shows in; the first is where it is told. */
  readonly rowsOf: ReadonlyMap<number, readonly number[]>;
  readonly changes: readonly ComparedChange[];
}

/** Prepares the two documents with the marks of the changes that are shown; `rows` are what stands beside what, in the order in which it is read. */
export function pagesOf(
  look: Look,
  shown: readonly ComparedChange[],
  people: People,
  rows: readonly Row[] = look.comparison.rows,
): Pages {
  const imagesOf = (document: string) => (hash: string) => imageAddress(document, hash);
  const bare = (content: unknown): Node => documentOf(content);
  const [a, b] = [bare(look.earlier.content), bare(look.later.content)];
  const alone: Sheet = {
    doc: a,
    ...marksOn('earlier', shown, people),
    other: null,
    image: imagesOf(look.earlier.document),
  };
  const gone = { ...alone, marks: withoutInner(alone.marks, shown) };
  const later: Sheet = {
    doc: b,
    ...marksOn('later', shown, people),
    other: alone,
    image: imagesOf(look.later.document),
  };
  const sides = { earlier: standing(rows, 'earlier'), later: standing(rows, 'later') };
  const rowsOf = new Map(shown.map((change) => [change.id, rowsOfChange(sides, change)]));
  return { look, earlier: alone, gone, later, rows, rowsOf, changes: shown };
}

/** Marks without what was edited in something that moved: of two documents read as one, that is marked where it stands now. */
function withoutInner(marks: readonly Mark[], changes: readonly ComparedChange[]): readonly Mark[] {
  const moved = changes
    .filter(({ kind }) => kind === 'moved')
    .flatMap(({ id, stands }) => stands.earlier.map(({ from, to }) => ({ id, from, to })))
    .sort((one, other) => one.from - other.from);
  if (moved.length === 0) return marks;
  return marks.filter(({ from, to, change }) => {
    const round = lastBefore(moved, from);
    return !round || round.id === change || to > round.to;
  });
}

/** Where the rows that have something on one side begin there, in the order of the document, and which rows they are. */
type Standing = readonly { readonly from: number; readonly row: number }[];

function standing(rows: readonly Row[], side: 'earlier' | 'later'): Standing {
  return rows
    .flatMap((row, index) => (row[side].from < row[side].to ? [{ from: row[side].from, row: index }] : []))
    .sort((one, other) => one.from - other.from);
}

/** Of what begins somewhere, in order, the last that begins at a position or before it. */
export function lastBefore<T extends { readonly from: number }>(
  all: readonly T[],
  position: number,
): T | null {
  let [low, high] = [0, all.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((all[middle]?.from ?? 0) <= position) low = middle + 1;
    else high = middle;
  }
  return all[low - 1] ?? null;
}

function rowsOfChange(sides: Record<'earlier' | 'later', Standing>, change: ComparedChange): number[] {
  const at = (side: 'earlier' | 'later', from: number): number =>
    (lastBefore(sides[side], from) ?? sides[side][0])?.row ?? 0;
  const found = [
    ...change.stands.later.map(({ from }) => at('later', from)),
    ...change.stands.earlier.map(({ from }) => at('earlier', from)),
  ];
  if (found.length === 0) found.push(at('later', change.place.later.from));
  return [...new Set(found)];
}

/** Draws one row for reading both documents as one text: what only the earlier one has stands before what took its place. */
export function drawFlowing({ gone, later, rows }: Pages, index: number): HTMLElement {
  const text = box('text page-text');
  const row = rows[index];
  if (!row) return text;
  if (!row.paired && hasGone(gone, row.earlier)) text.append(draw(gone, row.earlier.from, row.earlier.to));
  text.append(draw(later, row.later.from, row.later.to));
  return text;
}

/** Whether something of a stretch of the earlier document is shown as gone; what only changed its form is not. */
function hasGone({ marks }: Sheet, { from, to }: Row['earlier']): boolean {
  return marks.some((mark) => mark.from < to && mark.to > from && /was-(?:removed|gone)/.test(mark.name));
}

/** Draws one row for reading the two side by side. */
export function drawFacing({ earlier, later, rows }: Pages, index: number): [HTMLElement, HTMLElement] {
  const row = rows[index];
  const sides = (['earlier', 'later'] as const).map((side) => {
    const text = box(`side page-text ${side}`);
    const sheet = side === 'earlier' ? earlier : { ...later, other: null };
    if (!row) return text;
    const { from, to } = row[side];
    if (from === to) text.classList.add('absent');
    else text.append(draw(sheet, from, to));
    return text;
  });
  return sides as [HTMLElement, HTMLElement];
}

/** About how high a row will be, in pixels, before it is drawn. */
export function guessHeight({ earlier, later, rows }: Pages, index: number, facing: boolean): number {
  const row = rows[index];
  if (!row) return 0;
  const signs = (side: 'earlier' | 'later'): number => row[side].to - row[side].from;
  const wide = facing ? 46 : 70;
  const most = facing
    ? Math.max(signs('earlier'), signs('later'))
    : signs('later') + (row.paired ? 0 : signs('earlier'));
  const inTable = [earlier.doc.nodeAt(row.earlier.from), later.doc.nodeAt(row.later.from)].some(
    (node) => node?.type.name === 'table',
  );
  return inTable ? most / 2 + 40 : Math.ceil(most / wide) * 27 + 12;
}

/** A tab of the ledger: who changed a passage, and when. Tabs that would collide are one. */
export interface Tab {
  readonly change: number;
  readonly top: number;
  readonly people: readonly string[];
  readonly at: string;
}

/** The tabs of a drawn row, each in line with its change. */
export function tabsOf(row: HTMLElement, changes: readonly ComparedChange[]): Tab[] {
  const tabs: Tab[] = [];
  const top = row.getBoundingClientRect().top;
  for (const change of changes) {
    const mark = row.querySelector(`[data-change="${change.id}"]`);
    const last = change.credits.at(-1);
    if (!mark || !last) continue;
    const y = mark.getBoundingClientRect().top - top;
    tabs.push({ change: change.id, top: y, people: peopleOf(change), at: last.at });
  }
  const out: Tab[] = [];
  for (const tab of tabs.sort((a, b) => a.top - b.top)) {
    const before = out.at(-1);
    if (before && tab.top - before.top < 22)
      out[out.length - 1] = {
        ...before,
        people: [...new Set([...before.people, ...tab.people])],
        at: before.at > tab.at ? before.at : tab.at,
      };
    else out.push(tab);
  }
  return out;
}

/** Draws a tab as a button. */
export function drawTab(
  tab: Tab,
  people: People,
  title: string,
  chosen: (change: number) => void,
): HTMLElement {
  const button = document.createElement('button');
  button.type = 'button';
  button.className = 'tab';
  button.style.top = `${tab.top}px`;
  button.title = title;
  button.setAttribute('aria-label', title);
  const time = document.createElement('span');
  time.className = 'time';
  time.textContent = shortTime(tab.at);
  button.append(time);
  for (const id of tab.people.slice(0, 3)) {
    const person = people.get(id);
    const who = document.createElement('span');
    who.className = 'who';
    who.style.setProperty('--who', colourOf(person?.colour ?? 0));
    who.textContent = person?.initials ?? '?';
    button.append(who);
  }
  button.addEventListener('click', () => chosen(tab.change));
  return button;
}

export function box(name: string): HTMLElement {
  const element = document.createElement('div');
  element.className = name;
  return element;
}
