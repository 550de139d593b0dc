import { isNoteId } from '../../kinds/text/index.js';
import type { Element } from '../packed/xml.js';
import { el, elementsOf } from '../packed/xml.js';
import { STYLES, WRITTEN } from './names.js';

/** Numbers of the two lines that part footnotes from the text; footnotes have those after them. */
const LINES = [
  [-1, 'separator'],
  [0, 'continuationSeparator'],
] as const;

/** A bookmark in a footnote keeps its name here, past a program that numbers footnotes anew. */
const BOOKMARK = '_note_';

/** The footnotes of a file that is written: what each holds, and where its signs stand (ECMA-376 Part 1, 17.11). */
export class DocxNotes {
  private readonly contents = new Map<string, Element[]>();
  private readonly signs: string[] = [];

  /** The number that one of its signs names a footnote by; each sign has one of its own. */
  sign(name: string): number {
    return this.signs.push(name);
  }

  /** Adds a paragraph to a footnote. */
  hold(name: string, paragraph: Element): void {
    this.contents.set(name, [...(this.contents.get(name) ?? []), paragraph]);
  }

  /** Footnotes that have no sign, with what they hold. */
  get unsigned(): readonly (readonly [name: string, paragraphs: readonly Element[]])[] {
    return [...this.contents].filter(([name]) => !this.signs.includes(name));
  }

  get any(): boolean {
    return this.signs.length > 0;
  }

  /** The part that holds them. `next` numbers bookmarks. */
  part(next: () => number): Element {
    for (const paragraphs of this.contents.values()) begin(paragraphs[0] as Element);
    const seen = new Map<string, number>();
    const notes = this.signs.map((name, i) => {
      const nth = (seen.get(name) ?? 0) + 1;
      seen.set(name, nth);
      const id = next();
      const bookmark = `${BOOKMARK}${name}${nth > 1 ? `_${nth}` : ''}`;
      return el('w:footnote', { 'w:id': i + 1 }, [
        el('w:bookmarkStart', { 'w:id': id, 'w:name': bookmark }),
        el('w:bookmarkEnd', { 'w:id': id }),
        ...(this.contents.get(name) ?? [el('w:p', {}, [styled])]),
      ]);
    });
    const spaces = Object.fromEntries(
      Object.entries(WRITTEN).map(([prefix, uri]) => [`xmlns:${prefix}`, uri]),
    );
    return el('w:footnotes', { ...spaces, 'mc:Ignorable': 'w14' }, [
      ...LINES.map(([id, kind]) =>
        el('w:footnote', { 'w:type': kind, 'w:id': id }, [el('w:p', {}, [el('w:r', {}, [el(`w:${kind}`)])])]),
      ),
      ...notes,
    ]);
  }

  /** What the settings of the file say about them. */
  get settings(): Element {
    return el(
      'w:footnotePr',
      {},
      LINES.map(([id]) => el('w:footnote', { 'w:id': id })),
    );
  }
}

const styled = el('w:pPr', {}, [el('w:pStyle', { 'w:val': STYLES.footnote.id })]);

/** Puts the number of the footnote at the beginning of a paragraph. */
function begin(paragraph: Element): void {
  const number = el('w:r', {}, [
    el('w:rPr', {}, [el('w:rStyle', { 'w:val': STYLES.footnoteSign.id })]),
    el('w:footnoteRef'),
  ]);
  const space = el('w:r', {}, [el('w:t', { 'xml:space': 'preserve' }, [' '])]);
  const properties = elementsOf(paragraph)[0]?.name === 'w:pPr' ? 1 : 0;
  paragraph.children.splice(properties, 0, number, space);
}

/** Footnotes of a file that is read, by the number that signs name them by. */
export function notesIn(part: Element | null): ReadonlyMap<string, Element> {
  return new Map(
    elementsOf(part, 'w:footnote')
      .filter(({ attributes }) => attributes['w:type'] === undefined || attributes['w:type'] === 'normal')
      .map((note) => [note.attributes['w:id'] ?? '', note]),
  );
}

/** The name of a footnote: the one it had here, or one from its number. */
export function noteName(note: Element): string {
  const own = elementsOf(note, 'w:bookmarkStart')
    .concat(elementsOf(note, 'w:p').flatMap((paragraph) => elementsOf(paragraph, 'w:bookmarkStart')))
    .map(({ attributes }) => /^_note_([a-z0-9]+)/.exec(attributes['w:name'] ?? '')?.[1])
    .find(isNoteId);
  return own ?? `n${(note.attributes['w:id'] ?? '').replace(/[^a-z0-9]/g, '').slice(0, 20)}`;
}
