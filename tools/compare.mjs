import { readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { buildWhenNeeded, installWhenNeeded } from './steps.mjs';

// `npm run compare -- EARLIER LATER [--format text|json|html] [--repeat N]`: compares two files with core alone.
installWhenNeeded();
buildWhenNeeded({ web: false });
const { assemble, compare, totalsOf } = await import('@oxbow/core/compare');
const { FormatError, NO_IMAGES, formatOfFile, readDocument } = await import('@oxbow/core/formats');

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: { format: { type: 'string', default: 'text' }, repeat: { type: 'string' } },
});
const [earlierFile, laterFile] = positionals;
const repeat = values.repeat === undefined ? 0 : Number(values.repeat);
if (
  !earlierFile ||
  !laterFile ||
  !['text', 'json', 'html'].includes(values.format) ||
  !Number.isInteger(repeat) ||
  repeat < 0
) {
  console.error('Usage: npm run compare -- EARLIER LATER [--format text|json|html] [--repeat N]');
  process.exit(2);
}

function read(file) {
  try {
    return readDocument(formatOfFile(file) ?? 'text', readFileSync(file, 'utf8'), NO_IMAGES);
  } catch (error) {
    if (!(error instanceof FormatError) && error.code === undefined) throw error;
    console.error(`${file}: ${error.message}`);
    process.exit(1);
  }
}

const earlier = read(earlierFile);
const later = read(laterFile);
const comparison = compare(earlier, later);
const exact =
  assemble(comparison, () => 'later').eq(later) && assemble(comparison, () => 'earlier').eq(earlier);
const times = Array.from({ length: repeat }, () => {
  const start = performance.now();
  compare(earlier, later);
  return performance.now() - start;
}).sort((a, b) => a - b);
const result = {
  changes: comparison.changes.map(({ kind, earlier: before, later: after, place }) => ({
    kind,
    earlier: before,
    later: after,
    place,
  })),
  totals: totalsOf(comparison.changes),
  exact,
  ...(repeat > 0 ? { milliseconds: times[times.length >> 1] } : {}),
};

const escape = (text) => text.replace(/[&<>]/g, (sign) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;' })[sign]);
const print = {
  json: () => JSON.stringify(result, null, 2),
  text: () =>
    [
      ...result.changes.map((change) => {
        const lines = [change.kind];
        if (change.kind === 'form') return `form      ${change.later}`;
        if (change.earlier) lines.push(`  - ${change.earlier.replace(/\n/g, '\n    ')}`);
        if (change.later) lines.push(`  + ${change.later.replace(/\n/g, '\n    ')}`);
        return lines.join('\n');
      }),
      `+${result.totals.wordsAdded} -${result.totals.wordsRemoved} words, ${result.totals.wordsMoved} moved, ${result.totals.formChanges} changes of form; exact: ${exact}`,
      ...(repeat > 0 ? [`${result.milliseconds.toFixed(3)} ms (median of ${repeat})`] : []),
    ].join('\n'),
  html: () =>
    `<!doctype html>\n<meta charset="utf-8">\n<title>Changes</title>\n<ol>\n${result.changes
      .map(
        (change) =>
          `<li>${change.kind}: <del>${escape(change.earlier)}</del> <ins>${escape(change.later)}</ins></li>`,
      )
      .join(
        '\n',
      )}\n</ol>\n<p>+${result.totals.wordsAdded} −${result.totals.wordsRemoved} words, ${result.totals.wordsMoved} moved; exact: ${exact}</p>`,
}[values.format];
console.log(print());
if (!exact) process.exit(1);
