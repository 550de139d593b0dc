import type {
  Contest,
  Contributors,
  FoundInTime,
  FoundPage,
  Ledger,
  PassageLife,
  RemovedPage,
  Whereabouts,
} from '@oxbow/contract';
import { plainText } from '@oxbow/core/content';
import {
  appearancesOf,
  contestsIn,
  contributions,
  holdsAll,
  ledgerOf,
  lifeOf,
  presence,
  removedPassages,
  settledForms,
  termsOf,
  textAt,
  textsWithout,
  together,
  whereaboutsOf,
  wordsByDay,
} from '@oxbow/core/past';
import type { PassageForm, RemovedPassage, Term } from '@oxbow/core/past';
import type { Node } from 'prosemirror-model';
import type { Signed } from '../access/people.js';
import { Slices } from '../threads/slices.js';
import { Trouble } from '../trouble/trouble.js';
import type { View } from '../access/view.js';
import type { Chronicle, Chronicles, Place } from './chronicles.js';
import { CHUNK } from './words.js';

/** Passages on a page. */
const PAGE = 60;
/** Appearances told of one term, in one document and in each of many. */
const TOLD = 200;
/** Documents that are opened together when words are looked for in many, and that are told at once if there are as many. */
const TOGETHER = 6;
/** Documents that are opened to fill a page once there is something to tell. */
const MOST_OPENED = 60;
const TOLD_OF_MANY = 4;
/** Idle time that parts two forms of a passage that one person made. */
const SETTLED = 10 * 60_000;
/** Contests told. */
const CONTESTS = 40;

/** Answers what a history tells: what was removed, what became of a passage, when words were there, who wrote how much. */
export class LookingBack {
  constructor(private readonly chronicles: Chronicles) {}

  /** What left a document, newest first; with words, only what holds them, and the present text that does. */
  async removed(document: View, query: string, skip: number): Promise<RemovedPage> {
    const { doc, tape, makers } = await this.chronicles.open(document);
    const terms = termsOf(query);
    const held = removedPassages(tape, makers, plainText(doc)).filter(({ text }) => holdsAll(text, terms));
    return {
      items: held.slice(skip, skip + PAGE).map((passage) => tellRemoved(passage, makers)),
      total: held.length,
      present: terms.length > 0 ? presentWith(doc, terms) : [],
      next: held.length > skip + PAGE ? String(skip + PAGE) : null,
    };
  }

  /** Where the content of some positions of a moment is now. */
  async whereabouts(document: View, moment: number, from: number, to: number): Promise<Whereabouts> {
    const { tape } = await this.chronicles.open(document);
    if (from >= to) throw Trouble.field('to', 'must be behind from');
    return { seq: tape.now, ...whereaboutsOf(tape, moment, from, to) };
  }

  /** The life of the text block at a position of a moment. Throws 422 where no text stands. */
  async life(document: View, moment: number, position: number): Promise<PassageLife> {
    const { tape, makers } = await this.chronicles.open(document);
    const atom = textAt(tape, position, moment);
    const forms = atom === null ? [] : lifeOf(tape, atom, moment);
    if (forms.length === 0) throw Trouble.field('position', 'is not in a text of that moment');
    const settled = settledForms(forms, makers, SETTLED);
    return {
      forms: settled.map((form) => ({
        ...form,
        with: [...form.with],
        by: makers(form.seq).author,
        at: time(makers(form.seq).at),
      })),
      contests: this.contestsOf(settled, position, makers),
    };
  }

  /** Wording of the present document that went back and forth. */
  async contests(document: View): Promise<Contest[]> {
    const { doc, tape, makers } = await this.chronicles.open(document);
    const found: Contest[] = [];
    doc.descendants((block, position) => {
      if (!block.isTextblock) return true;
      if (block.content.size > 0) {
        const { atom } = tape.at(position + 1, tape.now);
        const forms = settledForms(lifeOf(tape, atom, tape.now), makers, SETTLED);
        found.push(...this.contestsOf(forms, position + 1, makers));
      }
      return false;
    });
    return found.sort((a, b) => b.turns.length - a.turns.length).slice(0, CONTESTS);
  }

  private contestsOf(
    forms: readonly PassageForm[],
    position: number,
    makers: Chronicle['makers'],
  ): Contest[] {
    const passage = forms.at(-1)?.text ?? '';
    return contestsIn(forms, makers).map(({ one, other, turns }) => ({
      one,
      other,
      turns: turns.map((turn) => ({ ...turn, at: time(makers(turn.seq).at) })),
      passage,
      position,
    }));
  }

  /** When some words were in a document. */
  async find(document: View, query: string): Promise<FoundInTime> {
    return this.findIn(document, asked(query), TOLD);
  }

  /**
   * Documents that held all of some words at one moment at least, those last written in first, and of those that are told at
   * once those that hold them now. Only what is told is opened: which may hold the words, the index says.
   */
  async findEverywhere(person: Signed, query: string, cursor?: string): Promise<FoundPage> {
    const terms = asked(query);
    const words = [...new Set(terms.flatMap((term) => term.words))];
    const found: FoundInTime[] = [];
    let place = cursor === undefined ? FIRST : placeOf(cursor);
    for (let opened = TOGETHER; ; opened += TOGETHER) {
      const some = await this.chronicles.mayHold(person, words, place, TOGETHER);
      const told = await Promise.all(some.map((document) => this.findIn(document, terms, TOLD_OF_MANY)));
      found.push(...told.filter(({ moments }) => moments.length > 0));
      const last = some.at(-1);
      if (last) place = { changedAt: last.changedAt, key: last.key };
      const more = some.length === TOGETHER;
      const isFull = found.length >= TOGETHER || (found.length > 0 && opened >= MOST_OPENED);
      if (more && !isFull) continue;
      const now = ({ moments }: FoundInTime): number => Number(moments.some(([, went]) => went === 0));
      return {
        items: found.sort((a, b) => now(b) - now(a)),
        next: more ? `${place.changedAt}.${place.key}` : null,
      };
    }
  }

  private async findIn(document: View, terms: readonly Term[], most: number): Promise<FoundInTime> {
    const slices = new Slices();
    const { tape, makers } = await this.chronicles.open(document);
    // The index tells of all of a document: what begins somewhere is looked at itself.
    const stored = document.first === 0 ? await this.chronicles.storedUpTo(document.key) : 0;
    const all = await Promise.all(
      terms.map(async ({ words }) => {
        const chunks = await Promise.all(
          words.map(async (word) => {
            return new Set(stored === 0 ? [] : await this.chronicles.words.find(word, document.key));
          }),
        );
        const rare = rarest(words, chunks);
        const within = chunks[rare] ?? new Set<number>();
        return slices.through(
          appearancesOf(
            tape,
            words,
            rare,
            (seq) => seq > stored || within.has(Math.floor(Math.max(0, seq - 1) / CHUNK)),
          ),
        );
      }),
    );
    const who = (seq: number) => ({ seq, by: makers(seq).author, at: time(makers(seq).at) });
    return {
      document: document.id,
      title: document.title,
      moments: together(all.map(presence)),
      terms: terms.map(({ said }, i) => {
        const appearances = all[i] ?? [];
        return {
          term: said,
          total: appearances.length,
          appearances: [...appearances]
            .reverse()
            .slice(0, most)
            .map(({ came, went, round, atom, inside }) => ({
              came: who(came),
              went: went === 0 ? null : who(went),
              ...round(),
              position: tape.position(atom, came) + inside,
            })),
        };
      }),
    };
  }

  /** What each person did after one moment up to another; days are those of a time zone. Throws 422 for an unknown one. */
  async contributors(document: View, after: number, upTo: number, zone = 'UTC'): Promise<Contributors> {
    const dayOf = daysIn(zone);
    const { tape, makers, traces } = await this.chronicles.open(document);
    const end = Math.min(upTo, tape.now);
    const range = traces.slice(after, end);
    return {
      after,
      upTo: end,
      people: contributions(tape, makers, range, after, end).map(({ author, ...rest }) => ({
        person: author,
        ...rest,
      })),
      days: wordsByDay(tape, makers, after, end, dayOf).map(({ day, words }) => ({ day, words: [...words] })),
    };
  }

  /** What a stretch of a document would read without some edits that cannot be undone on their own; see `textsWithout`. */
  async textsWithout(
    document: View,
    seqs: readonly number[],
    from: number,
    to: number,
  ): Promise<ReturnType<typeof textsWithout>> {
    const { tape } = await this.chronicles.open(document);
    return textsWithout(tape, new Set(seqs), from, to);
  }

  /** Who put each stretch of the present document there. */
  async ledger(document: View): Promise<Ledger> {
    const { doc, tape, makers, runs } = await this.chronicles.open(document);
    const entries = ledgerOf(doc, runs.at(tape.now), makers);
    return { seq: tape.now, entries: entries.map((entry) => ({ ...entry, at: time(entry.at) })) };
  }
}

/** Before all documents in a list by recency. */
const FIRST: Place = { changedAt: Number.MAX_SAFE_INTEGER, key: 0 };

/** The place in a list by recency that a cursor stands for. Throws 422 for one that was not given out. */
function placeOf(cursor: string): Place {
  const [, at, key] = /^(\d{1,15})\.(\d{1,12})$/.exec(cursor) ?? [];
  if (at === undefined || key === undefined) throw Trouble.field('cursor', 'is not one that was given out');
  return { changedAt: Number(at), key: Number(key) };
}

function tellRemoved(passage: RemovedPassage, makers: Chronicle['makers']): RemovedPage['items'][number] {
  const { text, words, by, first, last, moment, from, to, place, writers } = passage;
  const at = time(makers(last).at);
  return { text, words, by, first, last, at, moment, from, to, place, writers: [...writers] };
}

function time(at: number): string {
  return new Date(at).toISOString();
}

/** Tells which day a time is on in a time zone, as year, month and day. */
function daysIn(zone: string): (at: number) => string {
  try {
    const days = new Intl.DateTimeFormat('en-CA', { timeZone: zone, dateStyle: 'short' });
    return (at) => days.format(at);
  } catch (error) {
    if (error instanceof RangeError) throw Trouble.field('zone', 'is no time zone that is known here');
    throw error;
  }
}

function asked(query: string): Term[] {
  const terms = termsOf(query);
  if (terms.length === 0) throw Trouble.field('q', 'holds no word to look for');
  return terms;
}

/** The word of a phrase that came about in the fewest chunks; of equals the first, so that each phrase is found once. */
function rarest(words: readonly string[], chunks: readonly ReadonlySet<number>[]): number {
  let best = 0;
  for (let i = 1; i < words.length; i++) if ((chunks[i]?.size ?? 0) < (chunks[best]?.size ?? 0)) best = i;
  return words.indexOf(words[best] ?? '');
}

function presentWith(doc: Node, terms: readonly Term[]): RemovedPage['present'] {
  const found: RemovedPage['present'] = [];
  doc.descendants((block, position) => {
    if (!block.isTextblock) return true;
    if (holdsAll(block.textContent, terms))
      found.push({ text: block.textContent, from: position + 1, to: position + 1 + block.content.size });
    return false;
  });
  return found.slice(0, PAGE);
}
