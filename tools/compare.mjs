import { readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { buildWhenNeeded, installWhenNeeded } from './steps.mjs';

// `npm run compare -- EARLIER LATER [--format text|json|html] [--repeat N]`: compares two files with core alone.
installWhenNeeded();
buildWhenNeeded({ web: false });
const { assemble, compare, totalsOf } = await import('@oxbow/core/compare');
const { FormatError, NO_IMAGES, comparisonPage, formatOfFile, readDocument } =
  await import('@oxbow/core/formats');

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

const indented = (sign, text) => `  ${sign} ${text.replace(/\n/g, '\n    ')}`;
const told = ({ kind, earlier: before, later: after, form }) => {
  if (kind === 'form') return `form: ${form.join(', ')}\n${indented(' ', after)}`;
  if (kind === 'moved' && before.trim() === after.trim()) return `moved\n${indented('~', after)}`;
  if (kind === 'split') return `split\n${indented('¶', after)}`;
  if (kind === 'joined') return `joined\n${indented('¶', before)}`;
  return [kind, ...(before ? [indented('-', before)] : []), ...(after ? [indented('+', after)] : [])].join(
    '\n',
  );
};
const print = {
  json: () => JSON.stringify(result, null, 2),
  text: () =>
    [
      ...comparison.changes.map(told),
      `+${result.totals.wordsAdded} -${result.totals.wordsRemoved} words, ${result.totals.wordsMoved} moved, ${result.totals.formChanges} changes of form; exact: ${exact}`,
      ...(repeat > 0 ? [`${result.milliseconds.toFixed(3)} ms (median of ${repeat})`] : []),
    ].join('\n'),
  html: () =>
    comparisonPage(comparison, {
      title: laterFile,
      earlier: earlierFile,
      later: laterFile,
      who: () => '',
      images: NO_IMAGES,
    }),
}[values.format];
console.log(print());
if (!exact) process.exit(1);
