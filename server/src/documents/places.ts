import { BEFORE } from '@oxbow/contract';
import type { History, Moment } from '@oxbow/contract';
import { wordsIn } from '@oxbow/core/content';
import type { Cause } from '@oxbow/core/history';
import type { Node } from 'prosemirror-model';
import type { People } from '../access/people.js';
import type { Histories } from '../histories/histories.js';
import type { View } from '../access/view.js';
import { Slices } from '../threads/slices.js';
import { Trouble } from '../trouble/trouble.js';
import type { ToldVersions } from '../versions/told-versions.js';

/** A document as it stood at a moment. */
export interface Stand extends Omit<Moment, 'words' | 'content'> {
  readonly doc: Node;
}

/** Finds moments in the history of a document and tells what stood there. */
export class Places {
  constructor(
    private readonly histories: Histories,
    private readonly versions: ToldVersions,
    private readonly people: People,
  ) {}

  /** The edit that a version number or `@SEQ` means. */
  async seqOf(document: View, moment: string, field = 'moment'): Promise<number> {
    if (moment.startsWith('@')) {
      const seq = Number(moment.slice(1) || NaN);
      if (!Number.isInteger(seq) || seq > document.seq)
        throw new Trouble(404, 'Unknown moment', `The document has ${document.seq} edits.`, [
          { path: field, message: 'is not a moment of this document' },
        ]);
      return seq;
    }
    const version = await this.versions.byNumber(document, Number(moment));
    if (!version)
      throw new Trouble(404, 'Unknown version', `There is no version ${moment}.`, [
        { path: field, message: 'is not a version of this document' },
      ]);
    return version.seq;
  }

  /** What stood at a moment, and how long it is. */
  async moment(document: View, seq: number): Promise<Moment> {
    const { doc, ...stand } = await this.at(document, seq);
    const words = await new Slices().through(wordsIn(doc));
    return { ...stand, words, content: doc.toJSON() as Moment['content'] };
  }

  /** What stood at a moment, and who made it so. */
  async at(document: View, seq: number): Promise<Stand> {
    const [doc, version, [edit]] = await Promise.all([
      this.histories.moment(document, seq),
      this.versions.at(document, seq),
      seq > 0 ? this.histories.edits(document, seq - 1, seq) : [],
    ]);
    return {
      document: document.id,
      seq,
      at: new Date(Number(edit?.acceptedAt ?? document.createdAt)).toISOString(),
      by: edit || document.first === 0 ? this.people.id(edit?.author ?? document.changedBy) : BEFORE,
      title: document.title,
      version: document.history === 'none' ? null : (version?.number ?? null),
      doc,
    };
  }

  /** Edits after `after` without their content. */
  async history(document: View, after: number): Promise<History> {
    const traces = await this.histories.traces(document, (key) => this.people.id(key), after);
    const people = [...new Set(traces.map(({ author }) => author))];
    return {
      from: after + 1,
      people,
      at: traces.map(({ at }) => at),
      who: traces.map(({ author }) => people.indexOf(author)),
      wordsIn: traces.map(({ wordsIn }) => wordsIn),
      wordsOut: traces.map(({ wordsOut }) => wordsOut),
      events: traces.flatMap(({ seq, cause }) =>
        cause ? [{ seq, cause: JSON.parse(cause) as Cause }] : [],
      ) as History['events'],
    };
  }
}
