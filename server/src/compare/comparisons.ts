import { createHash } from 'node:crypto';
import { LRUCache } from 'lru-cache';
import { tellDocument, tellJson } from '@oxbow/core/content';
import { kindOf, readAnyDocument } from '@oxbow/core/kinds';
import type { Change, Credit, Settlement, Take } from '@oxbow/core/compare';
import type { ReadFormat, ReadSide } from '@oxbow/core/formats';
import type { Node } from 'prosemirror-model';
import { Step } from 'prosemirror-transform';
import { Slices } from '../threads/slices.js';
import { Threads, TooLong } from '../threads/threads.js';
import { Trouble } from '../trouble/trouble.js';
import type {
  Compared,
  Decisions,
  Done,
  EditWords,
  From,
  Gathered,
  Redline,
  Sourced,
  Task,
  ToldConflict,
} from './compare-task.js';

/** Characters of compared text whose results are kept at hand. */
const CACHE = 32_000_000;
/** How long comparing may take, in milliseconds. */
const LONGEST = 60_000;
/** How deep changes stand in what is told of them together. */
const CHANGE = 3;

/** How one document becomes another, and where what is inserted stood in the documents it may have come from. */
export interface Turned {
  readonly steps: readonly Step[];
  readonly sources: readonly Sourced[];
}

/** Three documents put together, and where two of them changed the same differently. */
export interface Merged {
  readonly conflicts: readonly ToldConflict[];
  readonly doc: Node;
}

/** Compares documents off the main thread. A pair asked for again comes from a cache keyed by the two contents. */
export class Comparisons {
  private readonly threads = new Threads<Task, Done>(new URL('./compare-task.js', import.meta.url));
  private readonly held = new LRUCache<string, { compared: Promise<Compared>; size: number }>({
    maxSize: CACHE,
    sizeCalculation: ({ size }) => size,
  });

  async compare(one: Node, other: Node): Promise<Compared> {
    checkSameKind([one, other]);
    const [earlier, later] = [await jsonOf(one), await jsonOf(other)];
    const key = createHash('sha256').update(earlier).update('\0').update(later).digest('base64');
    const found = this.held.get(key);
    if (found) return found.compared;
    const compared = this.run({ kind: 'compare', earlier, later }, ({ compared }) => compared);
    this.held.set(key, { compared, size: earlier.length + later.length });
    compared.catch(() => this.held.delete(key));
    return compared;
  }

  /** Words that each edit brought and took away between two documents, by who is credited with what of their changes. */
  async words(
    earlier: Node,
    later: Node,
    changes: readonly Change[],
    credits: readonly (readonly Credit[])[],
  ): Promise<readonly EditWords[]> {
    const task = {
      kind: 'words',
      earlier: await jsonOf(earlier),
      later: await jsonOf(later),
      credited: await new Slices().through(tellJson({ changes, credits }, CHANGE)),
    } as const;
    return this.run(task, ({ words }) => words);
  }

  /** The comparison as a file. */
  async redline(earlier: Node, later: Node, redline: Redline): Promise<Uint8Array> {
    const documents = { earlier: await jsonOf(earlier), later: await jsonOf(later) };
    const task = { kind: 'redline', ...documents, redline } as const;
    return this.run(task, ({ file }) => file);
  }

  /** The document that decisions make of a comparison. */
  async assembled(earlier: Node, later: Node, decisions: Decisions): Promise<Node> {
    const documents = { earlier: await jsonOf(earlier), later: await jsonOf(later) };
    const task = { kind: 'assemble', ...documents, decisions } as const;
    return nodeOf(await this.run(task, ({ assembled }) => assembled));
  }

  /**
   * The steps that turn a document into another. `from` are the documents that it may have content of, the likeliest first; of a target that was
   * read from a file, what is likely the same takes its names in the document.
   */
  async turning(now: Node, target: Node, from: readonly Node[], read?: ReadFormat): Promise<Turned> {
    checkSameKind([now, target]);
    const task = {
      kind: 'become',
      ...(read ? { read } : {}),
      now: await jsonOf(now),
      target: await jsonOf(target),
      from: await Promise.all(
        from.map(async (doc): Promise<From> =>
          doc === target ? 'target' : doc === now ? 'now' : { json: await jsonOf(doc) },
        ),
      ),
    } as const;
    const turned = await this.run(task, (done) => done.turned);
    return {
      sources: turned.sources,
      steps: turned.steps.map((step) => Step.fromJSON(now.type.schema, step)),
    };
  }

  /** What two documents made of one they began as, put together. Of a conflict that is not settled, `theirs` is taken. */
  async three(
    base: Node,
    ours: Node,
    theirs: Node,
    settled: ReadonlyMap<number, Settlement> = new Map(),
  ): Promise<Merged> {
    checkSameKind([base, ours, theirs]);
    const task = {
      kind: 'three',
      base: await jsonOf(base),
      ours: await jsonOf(ours),
      theirs: await jsonOf(theirs),
      settled: [...settled],
    } as const;
    const { conflicts, merged } = await this.run(task, (done) => done.three);
    return { conflicts, doc: await nodeOf(merged) };
  }

  /** What several made of one document, brought together, and the document that decisions make of it. */
  async together(
    base: Node,
    sides: readonly ReadSide[],
    takes: readonly (readonly [passage: number, take: Take])[] = [],
  ): Promise<Omit<Gathered, 'outcome'> & { readonly doc: Node }> {
    checkSameKind([base, ...sides.map(({ doc }) => doc)]);
    const told = await Promise.all(
      sides.map(async ({ doc, format }) => ({ json: await jsonOf(doc), format })),
    );
    const task = { kind: 'together', base: await jsonOf(base), sides: told, takes } as const;
    const { outcome, ...gathered } = await this.run(task, (done) => done.gathered);
    return { ...gathered, doc: await nodeOf(outcome) };
  }

  /** Lets go of all results that are at hand. */
  forget(): void {
    this.held.clear();
  }

  async close(): Promise<void> {
    await this.threads.close();
  }

  private async run<T>(task: Task, pick: (done: Done) => T | undefined): Promise<T> {
    try {
      const value = pick(await this.threads.run(task, { longest: LONGEST }));
      if (value === undefined) throw new Error(`Comparing answered nothing to ${task.kind}`);
      return value;
    } catch (error) {
      if (!(error instanceof TooLong)) throw error;
      throw new Trouble(
        422,
        'This takes too long to compare',
        'After a minute it was given up. Nothing was changed.',
      );
    }
  }
}

/** Throws 422 for documents of different kinds: nothing in them is the same. */
function checkSameKind(docs: readonly Node[]): void {
  const [first] = docs;
  if (docs.some((doc) => first && kindOf(doc) !== kindOf(first)))
    throw new Trouble(
      422,
      'These are documents of different kinds',
      'Text and sheets cannot be compared, or become one another. Nothing was changed.',
    );
}

function jsonOf(doc: Node): Promise<string> {
  return new Slices().through(tellDocument(doc));
}

function nodeOf(json: string): Promise<Node> {
  return new Slices().through(readAnyDocument(json));
}
