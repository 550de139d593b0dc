import type { Node } from 'prosemirror-model';
import { Step } from 'prosemirror-transform';
import { finished, insertedTokens, isErased, plainText, tokensOf } from '../../content/index.js';
import type { Kind } from '../../kinds/index.js';
import { kindNamed, kindOf } from '../../kinds/index.js';
import type { Token } from '../../content/index.js';
import { checkSources, orderBatch } from '../../history/authority.js';
import type { Source } from '../../history/edit.js';
import { applySteps } from '../../history/edit.js';
import { appendEdit, startProvenance } from '../../history/provenance.js';
import { earnedFrom } from '../../history/quotes.js';
import { textOfBytes } from '../bytes.js';
import { NO_IMAGES, FormatError } from '../format.js';
import { writeMarkdown } from '../markdown/markdown.js';
import type { ZipPart, ZipParts } from '../packed/zip.js';
import { pack, unpack } from '../packed/zip.js';
import { endingOf, pictureOf } from '../picture.js';
import type { SealedEdit } from './seal.js';
import { chainOf, digestOf, unvouchedIn } from './seal.js';

/** What the reader and writer need to know of what an archive says of itself; it may say more. */
export interface About {
  readonly kind: string;
  readonly edits: number;
  readonly chain: string;
  readonly versions: readonly { readonly number: number; readonly seq: number }[];
}

/** The whole history of a document. */
export interface Archive<A extends About> {
  readonly about: A;
  readonly log: readonly SealedEdit[];
  /** Bytes of every image that any moment shows. */
  readonly images: readonly Uint8Array[];
}

/** What an archive may hold at most, in bytes: it has every version, so more than a document. */
const LIMITS = { file: 256 * 2 ** 20, unpacked: 1024 * 2 ** 20, xml: 1024 * 2 ** 20, parts: 50_000 };

/** Writes an archive: a zip file of `archive.json`, `log.jsonl`, and each version and image as a file. */
export function writeArchive<A extends About>({ about, log, images }: Archive<A>): Uint8Array {
  const parts: ZipPart[] = [
    { name: 'archive.json', content: `${JSON.stringify(about, null, 2)}\n` },
    { name: 'log.jsonl', content: log.map((edit) => `${JSON.stringify(edit)}\n`).join('') },
  ];
  const wanted = new Map(about.versions.map(({ number, seq }) => [seq, number]));
  replay(kindNamed(about.kind), log, (doc, seq) => {
    const number = wanted.get(seq);
    if (number !== undefined) parts.push(...versionParts(number, doc));
  });
  for (const bytes of images) {
    const picture = pictureOf(bytes);
    if (picture) parts.push({ name: `images/${picture.hash}.${endingOf(picture)}`, content: bytes });
  }
  return pack(parts);
}

function versionParts(number: number, doc: Node): ZipPart[] {
  const plain =
    kindOf(doc).name === 'text'
      ? { name: `versions/${number}.md`, content: writeMarkdown(doc, NO_IMAGES) }
      : { name: `versions/${number}.txt`, content: `${plainText(doc)}\n` };
  return [{ name: `versions/${number}.json`, content: `${JSON.stringify(doc.toJSON())}\n` }, plain];
}

/** Calls back with the blank beginning and the document after each edit. Throws `RangeError` where a step does not fit. */
function replay(
  { schema, blank }: Kind,
  log: readonly SealedEdit[],
  at: (doc: Node, seq: number) => void,
): void {
  let doc = blank();
  at(doc, 0);
  for (const { seq, steps } of log) {
    doc = applySteps(
      doc,
      steps.map((step) => Step.fromJSON(schema, step)),
    );
    at(doc, seq);
  }
}

/** The same, each edit admitted as if it came from a writer: no step and no source is trusted. Throws `Refusal` too. */
function admit(
  { schema, blank }: Kind,
  log: readonly SealedEdit[],
  at: (doc: Node, seq: number) => void,
): void {
  const stepsOf = (seq: number): Step[] =>
    (log[seq - 1]?.steps ?? []).map((step) => Step.fromJSON(schema, step));
  let doc = blank();
  const provenance = startProvenance(0, doc);
  at(doc, 0);
  for (const { seq, sources: named } of log) {
    const inserted = new Map([[0, tokensOf(blank().content)]]);
    const tokens = (of: number): readonly Token[] => {
      const held = inserted.get(of) ?? insertedTokens(stepsOf(of));
      inserted.set(of, held);
      return held;
    };
    const sources = named as readonly Source[];
    const own = { steps: stepsOf(seq), sources: sources.filter(({ of }) => !of) };
    finished(checkSources(own, (source) => tokens(source.seq)));
    const [verdict] = orderBatch(doc, [own], []);
    if (!verdict?.taken) throw verdict?.refusal ?? new RangeError('a step does not fit');
    if (verdict.steps.length !== own.steps.length)
      throw new RangeError(`edit ${seq} is not in canonical form`);
    const earned = earnedFrom({ seq, ...own }, provenance.runs, tokens);
    // What was erased no longer tells where its words began and ended.
    const isErasedIn = tokens(seq).some(isErased);
    if (!isErasedIn && lengthOf(earned) !== lengthOf(own.sources))
      throw new RangeError(`edit ${seq} credits somebody with letters that never stood together`);
    doc = appendEdit(provenance, doc, { seq, steps: own.steps, sources });
    at(doc, seq);
  }
}

function lengthOf(sources: readonly Source[]): number {
  return sources.reduce((sum, { length }) => sum + length, 0);
}

/** An archive as it was read, its shape not yet checked, and its parts. */
export interface ReadArchive {
  readonly about: unknown;
  readonly log: readonly unknown[];
  readonly parts: ZipParts;
}

/** Unpacks an archive. Throws `FormatError` for a file that is none. */
export function readArchive(bytes: Uint8Array): ReadArchive {
  const parts = unpack(bytes, LIMITS);
  const text = (name: string): string => {
    const data = parts.get(name);
    if (!data) throw new FormatError(`This file is no archive of a history: it has no ${name}.`);
    return textOfBytes(data);
  };
  try {
    const lines = text('log.jsonl').split('\n').filter(Boolean);
    return { about: JSON.parse(text('archive.json')), log: lines.map((line) => JSON.parse(line)), parts };
  } catch (error) {
    if (error instanceof SyntaxError)
      throw new FormatError('This archive is damaged: a part of it is no JSON.');
    throw error;
  }
}

/** The images among the parts of an archive. */
export function imagesIn(parts: ZipParts): Uint8Array[] {
  return [...parts].flatMap(([name, data]) => (name.startsWith('images/') ? [data] : []));
}

/**
 * What is wrong with an archive, in words, at most twenty: gaps in the log, edits that are not what was sealed, a chain that
 * ends elsewhere, steps that do not apply, versions that are not what the log gives. Empty when it is whole.
 */
export function faultsOf(about: About, log: readonly SealedEdit[], parts: ZipParts): string[] {
  const faults: string[] = [];
  const fault = (words: string): void => {
    if (faults.length < 20) faults.push(words);
  };
  if (log.length !== about.edits) fault(`the log has ${log.length} edits, not ${about.edits}`);
  const unvouched = unvouchedIn(log);
  const once = new Set<string>();
  log.forEach((edit, i) => {
    const name = `${edit.client} ${edit.counter}`;
    if (edit.seq !== i + 1) fault(`edit ${edit.seq} stands where ${i + 1} should`);
    else if (edit.salt === null && unvouched.has(edit.seq))
      fault(`edit ${edit.seq} has lost its salt: nothing proves who made it, and when`);
    else if (edit.salt !== null && digestOf(edit.salt, edit) !== edit.digest)
      fault(`edit ${edit.seq} is not what was sealed`);
    if (edit.acceptedAt < (log[i - 1]?.acceptedAt ?? 0))
      fault(`edit ${edit.seq} is older than the one before it`);
    if (once.has(name)) fault(`edit ${edit.seq} has the number of another one of its client`);
    once.add(name);
  });
  about.versions.forEach(({ number, seq }, i) => {
    if (number !== i + 1) fault(`version ${number} stands where ${i + 1} should`);
    if (i > 0 && seq <= (about.versions[i - 1]?.seq ?? 0))
      fault(`version ${number} is not behind the one before it`);
  });
  if (chainOf(log.map(({ digest }) => digest)) !== about.chain) fault('the chain of seals ends elsewhere');
  const wanted = new Map(about.versions.map(({ number, seq }) => [seq, number]));
  try {
    admit(kindNamed(about.kind), log, (doc, seq) => {
      const number = wanted.get(seq);
      if (number === undefined) return;
      wanted.delete(seq);
      for (const { name, content } of versionParts(number, doc)) {
        const data = parts.get(name);
        if (!data) fault(`${name} is missing`);
        else if (textOfBytes(data) !== content) fault(`${name} is not what the log gives`);
      }
    });
  } catch (error) {
    fault(`the log cannot be replayed: ${error instanceof Error ? error.message : String(error)}`);
  }
  for (const number of wanted.values()) fault(`version ${number} is of a moment that is not in the log`);
  for (const [name, data] of parts)
    if (name.startsWith('images/') && !name.startsWith(`images/${pictureOf(data)?.hash ?? '-'}`))
      fault(`${name} is not the image it is named after`);
  return faults;
}
