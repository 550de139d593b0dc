import { nextEvent } from './block.js';
import type { Work } from '../content/index.js';
import type { Tape } from './tape.js';
import type { PlacedWord, AtomSpot, Unit, Window } from './window.js';
import { foldedWords, windowRound, windowsAt } from './window.js';

/** A word or phrase that stood at one place in the document for a while. */
export interface Appearance {
  /** The edit that brought it about, and the one that ended it; 0 while it stands. */
  readonly came: number;
  readonly went: number;
  /** It and the words round it when it came about. */
  readonly round: () => Round;
  /** Where on the tape its first letter is. */
  readonly atom: number;
  readonly inside: number;
}

export interface Round {
  readonly before: string;
  readonly match: string;
  readonly after: string;
}

/** The words that came about in the edits after `after` up to `upTo`, folded; a few of their neighbours may be among them. */
export function* wordsBegun(tape: Tape, after: number, upTo: number): Work<Set<string>> {
  const words = new Set<string>();
  for (const { atom, seq } of events(tape, (edit) => edit > after && edit <= upTo)) {
    for (const window of windowsAt(tape, atom, seq, 0)) for (const { word } of window.words) words.add(word);
    yield;
  }
  return words;
}

/** How many words of its surroundings an appearance is told with. */
const ROUND = 6;
/** Units to either side that are enough to know the place. */
const CONTEXT = 70;

/**
 * Every appearance of a phrase of folded words, in the order in which they came about. `rare` says which of its words to
 * look for, best the rarest, and `maybe` in which edits that word may have come about; the edits it is false for are not
 * looked at. Exact: at each moment as many appearances stand as the text then holds the phrase.
 */
export function* appearancesOf(
  tape: Tape,
  phrase: readonly string[],
  rare = 0,
  maybe: (seq: number) => boolean = () => true,
): Work<Appearance[]> {
  const wanted = phrase[rare];
  if (wanted === undefined) return [];
  const ended = new Map<string, number>();
  const found: Appearance[] = [];
  for (const { atom, seq } of events(tape, maybe)) {
    for (const window of windowsAt(tape, atom, seq, 0)) {
      if (!window.mayHold(wanted)) continue;
      for (const placed of window.words) {
        if (placed.word !== wanted) continue;
        const name = nameOf(placed);
        if ((ended.get(name) ?? -1) > seq) continue;
        const { until, appearances } = follow(tape, phrase, rare, placed, seq);
        ended.set(name, until);
        found.push(...appearances);
        yield;
      }
    }
    yield;
  }
  return found.sort((a, b) => a.came - b.came || a.atom - b.atom || a.inside - b.inside);
}

/** What happened to atoms, in order of time. */
function events(tape: Tape, wanted: (seq: number) => boolean): { atom: number; seq: number }[] {
  const out: { atom: number; seq: number }[] = [];
  for (let atom = 0; atom < tape.size; atom++) {
    const [born, died] = [tape.born(atom), tape.died(atom)];
    if (wanted(born)) out.push({ atom, seq: born });
    if (died !== 0 && wanted(died)) out.push({ atom, seq: died });
  }
  return out.sort((a, b) => a.seq - b.seq);
}

function nameOf({ first, last }: PlacedWord): string {
  return `${first.atom}.${first.inside} ${last.atom}.${last.inside}`;
}

/** Follows a word from the edit it came about in for as long as it stands, and the phrase round it. */
function follow(
  tape: Tape,
  phrase: readonly string[],
  rare: number,
  { first, last }: PlacedWord,
  begin: number,
): { until: number; appearances: Appearance[] } {
  const appearances: Appearance[] = [];
  const reach = Math.max(phrase.length, 1);
  const name = nameOf({ first, last } as PlacedWord);
  let open: Appearance | null = null;
  const close = (went: number): void => {
    if (open) appearances.push({ ...open, went });
    open = null;
  };
  for (let moment = begin; ;) {
    const window: Window | null = tape.aliveAt(first.atom, moment)
      ? windowRound(tape, spotOf(first), moment, reach)
      : null;
    const index = window?.words.findIndex((word) => nameOf(word) === name) ?? -1;
    if (!window || index < 0) {
      close(moment);
      return { until: moment, appearances };
    }
    const start = index - rare;
    const stands = phrase.every((word, i) => window.words[start + i]?.word === word);
    if (!stands) close(moment);
    else open ??= appearance(tape, window, start, phrase.length);
    const next = nextEvent(tape, window);
    if (next === null) {
      close(0);
      return { until: Infinity, appearances };
    }
    moment = next;
  }
}

function spotOf({ atom, inside }: Unit): AtomSpot {
  return { atom, from: inside, to: inside + 1 };
}

function appearance(tape: Tape, { moment, words }: Window, start: number, length: number): Appearance {
  const [first, last] = [words[start] as PlacedWord, words[start + length - 1] as PlacedWord];
  return { came: moment, went: 0, round: () => roundOf(tape, moment, first, last), ...first.first };
}

function roundOf(tape: Tape, moment: number, first: PlacedWord, last: PlacedWord): Round {
  const wide = windowRound(tape, spotOf(first.first), moment, ROUND);
  const at = wide.words.find((word) => nameOf(word) === nameOf(first))?.from ?? 0;
  const end = at + last.to - first.from;
  return {
    before: lastOf(wide.text.slice(wide.whole.from, at)),
    match: wide.text.slice(at, end),
    after: firstOf(wide.text.slice(end, wide.whole.to)),
  };
}

/** The end of a text, whole words, and its beginning: what stands round an appearance. */
function lastOf(text: string): string {
  return text.length <= CONTEXT ? text : text.slice(text.indexOf(' ', text.length - CONTEXT) + 1);
}

function firstOf(text: string): string {
  if (text.length <= CONTEXT) return text;
  const end = text.lastIndexOf(' ', CONTEXT);
  return text.slice(0, end < 0 ? CONTEXT : end);
}

/** Stretches of a history in which at least one of some appearances stood, as first edit and first edit after; 0 is now. */
export function presence(appearances: readonly Pick<Appearance, 'came' | 'went'>[]): [number, number][] {
  const sorted = appearances
    .map(({ came, went }): [number, number] => [came, went === 0 ? Infinity : went])
    .sort((a, b) => a[0] - b[0]);
  const out: [number, number][] = [];
  for (const [came, went] of sorted) {
    const last = out.at(-1);
    if (last && came <= last[1]) last[1] = Math.max(last[1], went);
    else out.push([came, went]);
  }
  return out.map(([came, went]) => [came, went === Infinity ? 0 : went]);
}

/** Stretches in which all of several presences stood. */
export function together(presences: readonly (readonly [number, number][])[]): [number, number][] {
  const [first = [], ...rest] = presences;
  return rest.reduce<[number, number][]>(
    (held, other) =>
      held.flatMap(([came, went]) =>
        other.flatMap(([begin, end]): [number, number][] => {
          const from = Math.max(came, begin);
          const to = went === 0 ? end : end === 0 ? went : Math.min(went, end);
          return to === 0 || from < to ? [[from, to]] : [];
        }),
      ),
    [...first],
  );
}

/** One thing that is looked for: a word, or the words of a phrase, folded. */
export interface Term {
  readonly said: string;
  readonly words: readonly string[];
}

/** What a query asks for: what stands in quotes as a phrase, every other word by itself. */
export function termsOf(query: string): Term[] {
  const terms: Term[] = [];
  for (const [part, straight, curly] of query.matchAll(/"([^"]*)"?|“([^”]*)”?|[^\s"“]+/g)) {
    const said = (straight ?? curly ?? part).trim();
    const words = foldedWords(said);
    if (words.length > 0) terms.push({ said, words });
  }
  return terms;
}

/** Whether a text holds every one of some terms. */
export function holdsAll(text: string, terms: readonly Term[]): boolean {
  const words = foldedWords(text);
  return terms.every((term) =>
    words.some((_word, at) => term.words.every((word, i) => words[at + i] === word)),
  );
}
