import { textSchema, wordCount } from '@oxbow/core/content';
import { compare, gistOf, rowsOf, totalsOf } from '@oxbow/core/compare';
import { FormatError, NO_IMAGES, comparisonPage, formatOfFile, readDocument } from '@oxbow/core/formats';
import { Node } from 'prosemirror-model';
import type { Report, Task } from './messages';

/** Runs `core/compare` away from the page, so that it stays responsive. One task at a time, in order. */
addEventListener('message', ({ data: task }: MessageEvent<Task>) => {
  const say = (report: Report): void => postMessage(report);
  try {
    const earlier = Node.fromJSON(textSchema, task.earlier);
    if (task.kind === 'page') {
      const comparison = compare(earlier, Node.fromJSON(textSchema, task.later));
      const [from, to] = task.ends;
      const who = (change: number): string => task.who[change] ?? '';
      return say({
        id: task.id,
        page: comparisonPage(comparison, {
          title: task.title,
          earlier: from,
          later: to,
          who,
          images: NO_IMAGES,
        }),
      });
    }
    say({ id: task.id, progress: 'reading' });
    const format = formatOfFile(task.name);
    if (!format)
      throw new FormatError(
        'Only Markdown (.md), HTML (.html) and plain text (.txt) files can be read so far.',
      );
    const later = readDocument(format, task.text, NO_IMAGES);
    say({ id: task.id, progress: 'comparing' });
    const comparison = compare(earlier, later);
    say({
      id: task.id,
      compared: {
        content: later.toJSON(),
        words: wordCount(later),
        changes: comparison.changes,
        rows: rowsOf(comparison),
        totals: totalsOf(comparison.changes),
        gist: gistOf(comparison.changes),
      },
    });
  } catch (error) {
    if (!(error instanceof FormatError)) throw error;
    say({ id: task.id, trouble: error.message });
  }
});
