import { readFileSync, writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { buildWhenNeeded, installWhenNeeded } from './steps.mjs';

// `npm run compare -- EARLIER LATER [--format text|json|html] [--repeat N] [--output REDLINE.docx]`: compares two files with
// core alone, whatever formats they are in; `--output` writes the comparison as a .docx, .odt or .html file.
installWhenNeeded();
buildWhenNeeded({ web: false });
const { assemble, compare, totalsOf } = await import('@oxbow/core/compare');
const { FormatError, READ_ENDINGS, formatOfFile, handsOf, readFile, writeRedline } =
  await import('@oxbow/core/formats');

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: {
    format: { type: 'string', default: 'text' },
    repeat: { type: 'string' },
    output: { type: 'string' },
  },
});
const [earlierFile, laterFile] = positionals;
const repeat = values.repeat === undefined ? 0 : Number(values.repeat);
if (
  !earlierFile ||
  !laterFile ||
  !['text', 'json', 'html'].includes(values.format) ||
  !/^$|\.(docx|odt|html)$/.test(values.output ?? '') ||
  !Number.isInteger(repeat) ||
  repeat < 0
) {
  console.error(
    'Usage: npm run compare -- EARLIER LATER [--format text|json|html] [--repeat N] [--output REDLINE.docx]',
  );
  process.exit(2);
}

function read(file) {
  try {
    const known = READ_ENDINGS.some((ending) => file.toLowerCase().endsWith(ending));
    return readFile(known ? formatOfFile(file) : 'text', readFileSync(file));
  } catch (error) {
    if (!(error instanceof FormatError) && error.code === undefined) throw error;
    console.error(`${file}: ${error.message}`);
    process.exit(1);
  }
}

const readings = [read(earlierFile), read(laterFile)];
const [earlier, later] = readings.map(({ doc }) => doc);
const comparison = compare(earlier, later);
const exact =
  assemble(comparison, () => 'later').eq(later) && assemble(comparison, () => 'earlier').eq(earlier);
const times = Array.from({ length: repeat }, () => {
  const start = performance.now();
  compare(earlier, later);
  return performance.now() - start;
}).sort((a, b) => a - b);
const result = {
  changes: comparison.changes.map(({ kind, group, earlier: before, later: after, place }) => ({
    kind,
    ...(group === null ? {} : { group }),
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
const redline = (format) => {
  const pictures = readings.flatMap((reading) => reading.pictures);
  const [author, at] = [readings[1].author || laterFile, new Date().toISOString()];
  const hand = { author, at, from: 0, to: Infinity };
  const credits = comparison.changes.map(() => ['earlier', 'later'].map((side) => ({ ...hand, side })));
  return writeRedline(format, comparison, handsOf(credits), {
    title: laterFile,
    author,
    at,
    ends: [earlierFile, laterFile],
    who: () => '',
    picture: (hash) => pictures.find((picture) => picture.hash === hash) ?? null,
  });
};
const print = {
  json: () => JSON.stringify(result, null, 2),
  text: () =>
    [
      ...comparison.changes.map(told),
      `+${result.totals.wordsAdded} -${result.totals.wordsRemoved} words, ${result.totals.wordsMoved} moved, ${result.totals.formChanges} changes of form; exact: ${exact}`,
      ...(repeat > 0 ? [`${result.milliseconds.toFixed(3)} ms (median of ${repeat})`] : []),
    ].join('\n'),
  html: () => Buffer.from(redline('html')).toString(),
}[values.format];
if (values.output) writeFileSync(values.output, redline(values.output.split('.').at(-1)));
console.log(print());
if (!exact) process.exit(1);
