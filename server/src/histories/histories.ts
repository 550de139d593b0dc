import type { Token } from '@oxbow/core/content';
import { tokensOf } from '@oxbow/core/content';
import type { Kind } from '@oxbow/core/kinds';
import {
  Boundary,
  appendEdit,
  besides,
  earnedSources,
  quotedFrom,
  quotesOf,
  startProvenance,
} from '@oxbow/core/history';
import type { Cause, Provenance, Quote, Source, Trace } from '@oxbow/core/history';
import type { Node } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';
import type { Reach, View } from '../access/view.js';
import { parseEdit } from '../store/log.js';
import type { StoredEdit } from '../store/log.js';
import { DocumentCache } from '../store/epochs.js';
import type { Epochs } from '../store/epochs.js';
import type { Moments } from '../store/moments.js';
import { Slices } from '../threads/slices.js';
import { Turns } from '../threads/turns.js';

/** A document with where everything in it came from, up to edit `seq`. */
export interface ToldHead {
  readonly doc: Node;
  readonly seq: number;
  readonly provenance: Provenance;
}

/** The same, with the sources of its edits as they are told. */
interface Held extends ToldHead {
  readonly sources: Map<number, readonly Source[]>;
}

/** A history as far as it is told to somebody: with the document's id, by which its causes name it. */
export type Told = Pick<View, 'key' | 'first' | 'id' | 'since'>;

/** An edit as the log has it, without what it did. */
type TracedEdit = Trace & { readonly cause: string | null };

const MOST_BOUNDARIES = 2000;
/** Bytes that histories which begin somewhere may take here before the longest unused is let go. */
const MOST_BYTES = 128 * 1024 * 1024;

/**
 * What histories tell. One that begins somewhere is told from there as if it were all: with a provenance of its own, and nothing
 * in it that was before. Whoever answers people asks here, not the log.
 */
export class Histories {
  private readonly boundaries: DocumentCache<Promise<Boundary>>;
  private readonly held: DocumentCache<Held>;
  private readonly turns = new Turns<string>();

  /** `heads` gives whole documents as they are stored now. */
  constructor(
    epochs: Epochs,
    private readonly moments: Moments,
    private readonly heads: { of(document: number): Promise<ToldHead> },
  ) {
    this.boundaries = new DocumentCache(epochs, { max: MOST_BOUNDARIES });
    this.held = new DocumentCache(epochs, {
      maxSize: MOST_BYTES,
      weight: ({ doc, provenance, sources }) =>
        doc.content.size * 8 + provenance.runs.size * 24 + sources.size * 200 + 4096,
    });
  }

  /** The document right after an edit; 0 is where its history begins. */
  moment({ key, first }: Reach, seq: number): Promise<Node> {
    return this.moments.open(key, seq + first);
  }

  /** The edits after one up to another, in order. Of those that others than `person` made, the counter says nothing. */
  async edits(told: Told, after: number, upTo: number, person = 0): Promise<StoredEdit[]> {
    const { key, first } = told;
    const rows = await this.moments.log.between(key, after + first, upTo + first);
    return this.told(told, rows, person);
  }

  /** Edits of the log as they are told. */
  async told(told: Told, rows: readonly StoredEdit[], person = 0): Promise<StoredEdit[]> {
    const boundary = await this.boundary(told);
    if (!boundary) return [...rows];
    const { sources } = await this.heldOf(told, await this.heads.of(told.key));
    return rows.map((row) => {
      const seq = row.seq - told.first;
      const own = sources.get(seq);
      return {
        ...row,
        seq,
        counter: row.author === person && isOfBrowser(row.client) ? row.counter : 0,
        sources: own ? JSON.stringify(own) : null,
        quoted: null,
        cause: toldCause(row.cause, boundary),
      };
    });
  }

  /** The edits after one up to another without their content, in order; `author` gives the outside's name of a person. */
  async traces(
    told: Told,
    author: (key: number) => string,
    after = 0,
    upTo = Number.MAX_SAFE_INTEGER - told.first,
  ): Promise<TracedEdit[]> {
    const { key, first } = told;
    const traces = await this.moments.log.traces(key, author, after + first, upTo + first);
    const boundary = await this.boundary(told);
    if (!boundary) return traces;
    return traces.map((trace) => ({
      ...trace,
      seq: trace.seq - first,
      cause: toldCause(trace.cause, boundary),
    }));
  }

  /** The steps of the edits after one up to another, in order, as JSON. */
  async steps({ key, first }: Reach, after: number, upTo: number): Promise<string[]> {
    return this.moments.log.storedSteps(key, after + first, upTo + first);
  }

  /** Whether some edit's steps hold a word of letters and digits, such as the hash of an image. */
  hasNamed({ key, first }: Reach, word: string): Promise<boolean> {
    return this.moments.log.hasNamed(key, first, word);
  }

  /** Why edits were made that are not plain writing, in order. */
  async causes(told: Told): Promise<{ seq: number; cause: Cause }[]> {
    const stored = await this.moments.log.causes(told.key, told.first);
    const boundary = await this.boundary(told);
    return stored.flatMap(({ seq, cause: text }) => {
      const json = boundary ? toldCause(text, boundary) : text;
      return json === null ? [] : [{ seq: seq - told.first, cause: JSON.parse(json) as Cause }];
    });
  }

  /** Of which kind a document is. */
  kindOf(document: number): Promise<Kind> {
    return this.moments.kindOf(document);
  }

  /** What some edits inserted, by seq; edit 0 is what stood where the history begins. */
  async tokens({ key, first }: Reach, seqs: Iterable<number>): Promise<(seq: number) => readonly Token[]> {
    const named = [...seqs].filter((seq) => seq > 0);
    const tokens = await this.moments.log.tokens(
      key,
      named.map((seq) => seq + first),
    );
    const start = tokensOf((await this.moments.open(key, first)).content);
    return (seq) => (seq === 0 ? start : (tokens.get(seq + first) ?? []));
  }

  /** The document as it is stored now. */
  async head(told: Told): Promise<ToldHead> {
    return this.headOf(told, await this.heads.of(told.key));
  }

  /** The same of a document of which all is known, and stored. */
  async headOf(told: Told, head: ToldHead): Promise<ToldHead> {
    return told.first === 0 ? head : this.heldOf(told, head);
  }

  private heldOf(told: Told, head: ToldHead): Promise<Held> {
    const name = nameOf(told);
    return this.turns.take(name, () => this.followed(told, head));
  }

  /** A told head brought up to a whole one. What fails half-way is made anew the next time. */
  private async followed(told: Told, head: ToldHead): Promise<Held> {
    const { key, first } = told;
    const entry = this.held.entry(key, first);
    const held = entry.value ?? (await this.begun(told));
    this.held.delete(key, first);
    let { doc } = held;
    const upTo = Math.max(held.seq, head.seq - first);
    const slices = new Slices();
    for (const row of await this.moments.log.between(key, held.seq + first, upTo + first)) {
      const edit = parseEdit(doc.type.schema, row, String);
      const seq = row.seq - first;
      const sources = await this.sourcesOf(told, held, row, edit.steps, slices);
      if (sources.length > 0) held.sources.set(seq, sources);
      doc = appendEdit(held.provenance, doc, { seq, steps: edit.steps, sources });
      await slices.rest();
    }
    const next = { ...held, doc, seq: upTo };
    entry.set(next);
    return next;
  }

  /**
   * An edit's sources as they are told. What keeps its credit is judged anew by what is told: in all of the history it may
   * depend on what was before.
   */
  private async sourcesOf(
    told: Told,
    { provenance: { runs } }: Held,
    { seq, sources, quoted }: StoredEdit,
    steps: readonly Step[],
    slices: Slices,
  ): Promise<Source[]> {
    const boundary = await this.boundary(told);
    if (!boundary || (sources === null && quoted === null)) return [];
    const said = JSON.parse(quoted ?? sources ?? '[]') as Quote[];
    const own = boundary.sources(said.filter(({ of }) => !of));
    const found = await slices.through(quotedFrom(own, runs));
    const tokens = await this.tokens(told, new Set([...own.map((one) => one.seq), ...besides(found)]));
    const quotes = [...(await slices.through(quotesOf(found, tokens))), ...said.filter(({ of }) => of)];
    quotes.sort((a, b) => a.step - b.step || a.at - b.at);
    return slices.through(earnedSources(seq - told.first, steps, quotes, runs));
  }

  private async begun({ key, first }: Reach): Promise<Held> {
    const doc = await this.moments.open(key, first);
    return { doc, seq: 0, provenance: startProvenance(0, doc), sources: new Map() };
  }

  /** Where a history begins; null where that is the beginning. */
  private async boundary(told: Told): Promise<Boundary | null> {
    if (told.first === 0) return null;
    const { key, first } = told;
    const entry = this.boundaries.entry(key, first);
    if (entry.value) return entry.value;
    const made = this.heads
      .of(told.key)
      .then(({ provenance }) => new Boundary(told.id, told.first, provenance.runs.at(told.first)));
    entry.set(made);
    made.catch(() => this.boundaries.delete(key, first));
    return made;
  }
}

/** What a history is called by: two of one document that begin at different moments are two. */
export function nameOf({ key, first }: Reach): string {
  return `${key} ${first}`;
}

/** Whether a client is somebody's browser: one of a server counts the edits of everybody. */
function isOfBrowser(client: string): boolean {
  return client.includes('.');
}

function toldCause(stored: string | null, boundary: Boundary): string | null {
  if (stored === null) return null;
  const cause = boundary.cause(JSON.parse(stored) as Cause);
  return cause.kind === 'writing' ? null : JSON.stringify(cause);
}
