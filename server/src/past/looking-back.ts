import type {
  Contest,
  Contributors,
  FoundInTime,
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
  together,
  whereaboutsOf,
  wordsByDay,
} from '@oxbow/core/past';
import type { Form, RemovedPassage, Term } from '@oxbow/core/past';
import type { Node } from 'prosemirror-model';
import { Trouble } from '../trouble/trouble.js';
import type { StoredDocument } from '../store/models.js';
import type { Chronicle, Chronicles } from './chronicles.js';
import { CHUNK } from './words.js';

/** Passages on a page. */
const PAGE = 60;
/** Appearances told of one term, in one document and in each of many. */
const TOLD = 200;
const TOLD_OF_MANY = 4;
/** Idle time that parts two forms of a passage that one person made. */
const SETTLED = 10 * 60_000;
/** Contests told. */
const CONTESTS = 40;

/** Answers what a history tells: what was removed, what became of a passage, when words were there, who wrote how much. */
export class LookingBack {
  constructor(private readonly chronicles: Chronicles) {}

  /** What left a document, newest first; with words, only what holds them, and the present text that does. */
  async removed(document: StoredDocument, query: string, skip: number): Promise<RemovedPage> {
    const { doc, tape, makers } = await this.chronicles.open(document.key);
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
  async whereabouts(
    document: StoredDocument,
    moment: number,
    from: number,
    to: number,
  ): Promise<Whereabouts> {
    const { tape } = await this.chronicles.open(document.key);
    if (from >= to) throw Trouble.field('to', 'must be behind from');
    return { seq: tape.now, ...whereaboutsOf(tape, moment, from, to) };
  }

  /** The life of the text block at a position of a moment. Throws 422 where no text stands. */
  async life(document: StoredDocument, moment: number, position: number): Promise<PassageLife> {
    const { tape, makers } = await this.chronicles.open(document.key);
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
  async contests(document: StoredDocument): Promise<Contest[]> {
    const { doc, tape, makers } = await this.chronicles.open(document.key);
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

  private contestsOf(forms: readonly Form[], position: number, makers: Chronicle['makers']): Contest[] {
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
  async find(document: StoredDocument, query: string): Promise<FoundInTime> {
    return this.findIn(document, asked(query), TOLD);
  }

  /** The documents that held all of some words at one moment at least, those that hold them now first. */
  async findEverywhere(documents: readonly StoredDocument[], query: string): Promise<FoundInTime[]> {
    const terms = asked(query);
    const keys = documents.map(({ key }) => key);
    const possible = await Promise.all(
      terms.flatMap(({ words }) =>
        words.map(
          async (word) => new Set((await this.chronicles.words.find(word, keys)).map((one) => one.document)),
        ),
      ),
    );
    const found: FoundInTime[] = [];
    for (const document of documents) {
      const unread = (await this.chronicles.storedUpTo(document.key)) < document.seq;
      if (!unread && !possible.every((one) => one.has(document.key))) continue;
      const told = await this.findIn(document, terms, TOLD_OF_MANY);
      if (told.moments.length > 0) found.push(told);
    }
    const now = ({ moments }: FoundInTime): number => Number(moments.some(([, went]) => went === 0));
    return found.sort((a, b) => now(b) - now(a));
  }

  private async findIn(document: StoredDocument, terms: readonly Term[], most: number): Promise<FoundInTime> {
    const { tape, makers } = await this.chronicles.open(document.key);
    const stored = await this.chronicles.storedUpTo(document.key);
    const all = await Promise.all(
      terms.map(async ({ words }) => {
        const chunks = await Promise.all(
          words.map(async (word) => {
            const rows = await this.chronicles.words.find(word, [document.key]);
            return new Set(rows.map(({ chunk }) => chunk));
          }),
        );
        const rare = rarest(words, chunks);
        const within = chunks[rare] ?? new Set<number>();
        return appearancesOf(
          tape,
          words,
          rare,
          (seq) => seq > stored || within.has(Math.floor(Math.max(0, seq - 1) / CHUNK)),
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
            .map(({ came, went, before, match, after, atom, inside }) => ({
              came: who(came),
              went: went === 0 ? null : who(went),
              before,
              match,
              after,
              position: tape.position(atom, came) + inside,
            })),
        };
      }),
    };
  }

  /** What each person did after one moment up to another. */
  async contributors(document: StoredDocument, after: number, upTo: number): Promise<Contributors> {
    const { tape, makers, traces } = await this.chronicles.open(document.key);
    const end = Math.min(upTo, tape.now);
    const range = traces.slice(after, end);
    return {
      after,
      upTo: end,
      people: contributions(tape, makers, range, after, end).map(({ author, ...rest }) => ({
        person: author,
        ...rest,
      })),
      days: wordsByDay(tape, makers, after, end).map(({ from, words }) => ({
        day: time(from).slice(0, 10),
        words: [...words],
      })),
    };
  }

  /** Who put each stretch of the present document there. */
  async ledger(document: StoredDocument): Promise<Ledger> {
    const { doc, tape, makers, runs } = await this.chronicles.open(document.key);
    const entries = ledgerOf(doc, runs.at(tape.now), makers);
    return { seq: tape.now, entries: entries.map((entry) => ({ ...entry, at: time(entry.at) })) };
  }
}

function tellRemoved(passage: RemovedPassage, makers: Chronicle['makers']): RemovedPage['items'][number] {
  const { text, words, by, first, last, moment, from, to, place, writers } = passage;
  const at = time(makers(last).at);
  return { text, words, by, first, last, at, moment, from, to, place, writers: [...writers] };
}

function time(at: number): string {
  return new Date(at).toISOString();
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
