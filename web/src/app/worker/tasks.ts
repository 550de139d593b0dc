import { asTold, wordCount } from '@oxbow/core/content';
import { documentOf } from '@oxbow/core/kinds';
import { toldGist } from '@oxbow/core/kinds/told';
import { assemble, compare, rowsOf, totalsOf } from '@oxbow/core/compare';
import type { Comparison } from '@oxbow/core/compare';
import {
  FormatError,
  asNextOf,
  formatOfFile,
  handsOf,
  pictureOf,
  readFile,
  writeRedline,
} from '@oxbow/core/formats';
import type { Reading } from '@oxbow/core/formats';
import { Node } from 'prosemirror-model';
import type { AssembleTask, FileAbout, FileTask, ReadTask, RedlineTask, Report, Task } from './messages';

/** Does a task and says how it goes: the worker's whole work, without the worker. */
export function runTask(task: Task, say: (report: Report) => void): void {
  try {
    if (task.kind === 'redline') say({ id: task.id, redline: redlineOf(task) });
    else if (task.kind === 'read') say({ id: task.id, about: aboutOf(read(task, say)) });
    else if (task.kind === 'assemble') say({ id: task.id, assembled: assembledOf(task) });
    else compareFile(task, say);
  } catch (error) {
    if (!(error instanceof FormatError)) throw error;
    say({ id: task.id, trouble: error.message });
  }
}

function redlineOf({
  format,
  earlier,
  later,
  who,
  credits,
  images,
  ...about
}: RedlineTask): Uint8Array<ArrayBuffer> {
  const [one, other] = [earlier, later].map((content) => asTold(documentOf(content)));
  const comparison = compare(one as Node, other as Node);
  const pictures = images.map((bytes) => pictureOf(bytes)).filter((picture) => picture !== null);
  const byHash = new Map(pictures.map((picture) => [picture.hash, picture]));
  const file = writeRedline(format, comparison, handsOf(credits), {
    ...about,
    who: (change) => who[change] ?? '',
    picture: (hash) => byHash.get(hash) ?? null,
  });
  return new Uint8Array(file);
}

/** The pair last assembled from, so that each decision does not compare it anew. */
let held: { earlier: Node; later: Node; comparison: Comparison } | null = null;

function assembledOf({ earlier, later, takes }: AssembleTask): unknown {
  const [a, b] = [documentOf(earlier), documentOf(later)];
  if (!held?.earlier.eq(a) || !held.later.eq(b)) held = { earlier: a, later: b, comparison: compare(a, b) };
  const taken = new Map(takes);
  return assemble(held.comparison, (change) => taken.get(change) ?? 'later').toJSON();
}

function compareFile(task: FileTask, say: (report: Report) => void): void {
  const { id, earlier } = task;
  const reading = task.content ? null : read(task, say);
  const before = documentOf(earlier);
  const later = reading
    ? asNextOf(reading.doc, before, Math.random, formatOfFile(task.name))
    : documentOf(task.content);
  let told = -1;
  const comparison = compare(before, later, {
    tell: (share) => {
      const percent = Math.floor(share * 10) * 10;
      if (percent > told) say({ id, progress: (told = percent) });
    },
  });
  say({
    id,
    compared: {
      content: later.toJSON(),
      words: wordCount(later),
      changes: comparison.changes,
      rows: rowsOf(comparison),
      totals: totalsOf(comparison.changes),
      gist: toldGist(comparison.earlier, later, comparison.changes),
      about: reading && aboutOf(reading),
    },
  });
}

function read({ id, name, bytes }: FileTask | ReadTask, say: (report: Report) => void): Reading {
  say({ id, progress: null });
  return readFile(formatOfFile(name), bytes);
}

function aboutOf({ author, title, tracked, remarks, leftOut }: Reading): FileAbout {
  return { author, title, tracked, remarks, leftOut };
}
