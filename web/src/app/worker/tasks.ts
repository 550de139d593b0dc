import { textSchema, wordCount } from '@oxbow/core/content';
import { assemble, compare, gistOf, rowsOf, totalsOf } from '@oxbow/core/compare';
import type { Comparison } from '@oxbow/core/compare';
import { FormatError, NO_IMAGES, comparisonPage, formatOfFile, readDocument } from '@oxbow/core/formats';
import { Node } from 'prosemirror-model';
import type { AssembleTask, FileTask, PageTask, Report, Task } from './messages';

/** Does a task and says how it goes: the worker's whole work, without the worker. */
export function runTask(task: Task, say: (report: Report) => void): void {
  try {
    if (task.kind === 'page') say({ id: task.id, page: pageOf(task) });
    else if (task.kind === 'assemble') say({ id: task.id, assembled: assembledOf(task) });
    else compareFile(task, say);
  } catch (error) {
    if (!(error instanceof FormatError)) throw error;
    say({ id: task.id, trouble: error.message });
  }
}

function pageOf({ earlier, later, title, ends, who }: PageTask): string {
  const comparison = compare(Node.fromJSON(textSchema, earlier), Node.fromJSON(textSchema, later));
  return comparisonPage(comparison, {
    title,
    earlier: ends[0],
    later: ends[1],
    who: (change) => who[change] ?? '',
    images: NO_IMAGES,
  });
}

/** The pair last assembled from, so that each decision does not compare it anew. */
let held: { earlier: Node; later: Node; comparison: Comparison } | null = null;

function assembledOf({ earlier, later, takes }: AssembleTask): unknown {
  const [a, b] = [Node.fromJSON(textSchema, earlier), Node.fromJSON(textSchema, later)];
  if (!held?.earlier.eq(a) || !held.later.eq(b)) held = { earlier: a, later: b, comparison: compare(a, b) };
  const taken = new Map(takes);
  return assemble(held.comparison, (change) => taken.get(change) ?? 'later').toJSON();
}

function compareFile(task: FileTask, say: (report: Report) => void): void {
  const { id, earlier } = task;
  say({ id, progress: 'Reading the file …' });
  const later = task.content ? Node.fromJSON(textSchema, task.content) : read(task);
  let told = -1;
  const comparison = compare(Node.fromJSON(textSchema, earlier), later, {
    tell: (share) => {
      const percent = Math.floor(share * 10) * 10;
      if (percent > told) say({ id, progress: `Comparing … ${(told = percent)} %` });
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
      gist: gistOf(comparison.changes),
    },
  });
}

function read({ name, text }: FileTask): Node {
  const format = formatOfFile(name);
  if (!format)
    throw new FormatError(
      'Only Markdown (.md), HTML (.html) and plain text (.txt) files can be read so far.',
    );
  return readDocument(format, text, NO_IMAGES);
}
