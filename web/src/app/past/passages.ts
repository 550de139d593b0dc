import type { Returned, Takes } from '@oxbow/contract';
import { shortened } from '@oxbow/core/content';

/** Something that readers changed. */
export type Passage = Returned['passages'][number];
/** What is taken of a passage. */
export type Take = Takes[number][1];
type Line = Returned['lines'][number];

/** Most letters that are shown of something whose form is decided. */
const LETTERS = 160;

/** A line with passages in it, or how many in a row have none. */
export type Shown =
  | { readonly kept: number; readonly at: number }
  | {
      readonly at: number;
      /** Where it stands, in documents whose lines have names. */
      readonly where: string;
      readonly pieces: readonly ShownPiece[];
      readonly passages: readonly Passage[];
    };

/** A stretch of a line: text, or a passage with what stands there as it is decided. */
export interface ShownPiece {
  readonly text: string;
  readonly passage: number | null;
}

/** What of a passage is taken: what was chosen, else its only form; null while that is open. */
export function takeOf(passage: Passage, takes: ReadonlyMap<number, Take>): Take | null {
  return takes.get(passage.id) ?? (passage.forms.length === 1 ? 0 : null);
}

/** Lines as they are shown: each passage where it first stands, with what is taken of it. */
export function shownOf({ lines, passages }: Returned, takes: ReadonlyMap<number, Take>): Shown[] {
  const out: Shown[] = [];
  const told = new Set<number>();
  lines.forEach((line, at) => {
    const own = line.pieces.flatMap(({ passage }) => (passage === undefined ? [] : [passage]));
    if (own.length === 0) {
      const last = out.at(-1);
      if (last && 'kept' in last) out[out.length - 1] = { kept: last.kept + 1, at: last.at };
      else out.push({ kept: 1, at });
      return;
    }
    const first = [...new Set(own)].filter((id) => !told.has(id));
    first.forEach((id) => told.add(id));
    out.push({
      at,
      where: passages[own[0] ?? -1]?.where ?? '',
      pieces: line.pieces.map((piece) => shownPiece(piece, passages, takes)),
      passages: first.flatMap((id) => passages[id] ?? []),
    });
  });
  return out;
}

/** The numbers that passages are called by: from 1, in the order of reading. */
export function numbersOf({ lines }: Pick<Returned, 'lines'>): Map<number, number> {
  const read = lines.flatMap(({ pieces }) => pieces.flatMap(({ passage }) => passage ?? []));
  return new Map([...new Set(read)].map((id, i) => [id, i + 1]));
}

function shownPiece(
  { text, passage: id, at }: Line['pieces'][number],
  passages: readonly Passage[],
  takes: ReadonlyMap<number, Take>,
): ShownPiece {
  const passage = id === undefined ? undefined : passages[id];
  if (!passage) return { text: text ?? '', passage: null };
  const take = takeOf(passage, takes) ?? 'base';
  if (passage.kind === 'place') {
    const here = (take === 'all' ? 0 : take) === at;
    return { text: here ? (text ?? '') : '', passage: passage.id };
  }
  if (passage.kind === 'form')
    return { text: text ?? shortened(passage.about ?? '', LETTERS), passage: passage.id };
  if (take === 'base') return { text: passage.base, passage: passage.id };
  const texts = passage.forms.map((form) => form.text);
  return { text: take === 'all' ? texts.join(' ') : (texts[take] ?? ''), passage: passage.id };
}

/** Takes all that one reader changed, and else what nobody disputes: of passages that the reader left alone nothing changes. */
export function takenOf(
  reader: number,
  passages: readonly Passage[],
  takes: ReadonlyMap<number, Take>,
): Map<number, Take> {
  const out = new Map(takes);
  for (const { id, forms } of passages) {
    const form = forms.findIndex(({ by }) => by.includes(reader));
    if (form >= 0) out.set(id, form);
  }
  return out;
}
