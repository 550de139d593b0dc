import type { Random } from '@oxbow/core/testing';

/** A section of a text, as it reads in the end: paragraphs, each of them sentences. */
export interface Section {
  readonly title: string;
  readonly paragraphs: readonly (readonly string[])[];
}

/** A text with what happens to it on the way. */
export interface Text {
  readonly sections: readonly Section[];
  /** Sentences that are written in a section and dropped again. */
  readonly drafts: readonly (readonly [section: string, sentence: string])[];
  /** Words that are put otherwise, one way or the other. */
  readonly turns: readonly (readonly [one: string, other: string])[];
}

/** A sentence that is to be written. */
export interface Line {
  readonly section: string;
  readonly sentence: string;
  /** What stands before it in its paragraph; nothing where it begins one. */
  readonly after: readonly string[];
  /** How the paragraph before its own begins, where it begins one and another stands before it. */
  readonly behind: string | null;
}

/** Hands out the sentences of a text, in an order that a section grows by, until all are said. */
export class Supply {
  private readonly said = new Set<string>();
  private readonly drafts: (readonly [string, string])[];

  /** How often an act writes a new sentence, so that all are said when some three fifths of `acts` are done. */
  readonly pace: number;

  constructor(
    readonly text: Text,
    acts: number,
  ) {
    this.drafts = [...text.drafts];
    const sentences = text.sections.flatMap(({ paragraphs }) => paragraphs.flat()).length;
    this.pace = Math.min(0.6, sentences / (0.6 * Math.max(1, acts)));
  }

  /** The next sentence, of any section; the first of a section before all others. Null when all is said. */
  next(random: Random): Line | null {
    const open = this.text.sections.flatMap((section) => this.openOf(section));
    if (open.length === 0) return null;
    const first = open.find(({ behind, after }) => behind === null && after.length === 0);
    const line = first ?? random.pick(open);
    this.said.add(line.sentence);
    return line;
  }

  /** The sentences of a section that could come next: of each paragraph that is begun, and the first of the one after. */
  private openOf({ title, paragraphs }: Section): Line[] {
    const out: Line[] = [];
    for (const [i, sentences] of paragraphs.entries()) {
      const at = sentences.findIndex((sentence) => !this.said.has(sentence));
      if (at < 0) continue;
      out.push({
        section: title,
        sentence: sentences[at] ?? '',
        after: sentences.slice(0, at),
        behind: at === 0 && i > 0 ? (paragraphs[i - 1]?.[0] ?? null) : null,
      });
      if (at === 0) break;
    }
    return out;
  }

  /** A sentence that will not stay, each once; null when there is none left. */
  draft(random: Random): Line | null {
    if (this.drafts.length === 0) return null;
    const [draft] = this.drafts.splice(random.between(0, this.drafts.length - 1), 1);
    return draft ? { section: draft[0], sentence: draft[1], after: [], behind: null } : null;
  }

  /** The sentences that do not stay. */
  get passing(): readonly string[] {
    return this.text.drafts.map(([, sentence]) => sentence);
  }
}
