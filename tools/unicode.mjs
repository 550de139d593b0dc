import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './steps.mjs';

// `npm run unicode`: makes the tables and cases of core/src/content/unicode from Debian's package unicode-data. Only needed
// to move to another version of Unicode; what it makes is kept in the repository.
const folder = '/usr/share/unicode';
if (!existsSync(join(folder, 'auxiliary'))) {
  console.error('Install the Debian package unicode-data first.');
  process.exit(1);
}
const read = (name) => readFileSync(join(folder, name), 'utf8');
const rows = (text) =>
  text
    .split('\n')
    .map((line) => line.replace(/#.*/, '').trim())
    .filter(Boolean);

/** Gives each code point of a property file its value. */
function property(name, wanted) {
  const values = new Map();
  for (const row of rows(read(name))) {
    const [range, value] = row.split(';').map((part) => part.trim());
    if (wanted && value !== wanted) continue;
    const [first, last = first] = range.split('..').map((hex) => parseInt(hex, 16));
    for (let code = first; code <= last; code++) values.set(code, value);
  }
  return values;
}

const word = property('auxiliary/WordBreakProperty.txt');
const grapheme = property('auxiliary/GraphemeBreakProperty.txt');
const pictographic = property('emoji/emoji-data.txt', 'Extended_Pictographic');
const version = /WordBreakProperty-([\d.]+)\.txt/.exec(read('auxiliary/WordBreakProperty.txt'))?.[1];

const classes = [['Other', 'Other', false]];
const numbers = new Map([[JSON.stringify(classes[0]), 0]]);
const classOf = (code) => {
  const value = [word.get(code) ?? 'Other', grapheme.get(code) ?? 'Other', pictographic.has(code)];
  const key = JSON.stringify(value);
  if (!numbers.has(key)) {
    numbers.set(key, classes.length);
    classes.push(value);
  }
  return numbers.get(key);
};
const ranges = [];
for (let code = 0, last = 0; code <= 0x10ffff; code++) {
  const value = classOf(code);
  const range = ranges.at(-1);
  if (range && range.value === value && range.first + range.length === code) range.length++;
  else if (value !== 0) {
    ranges.push({ first: code, gap: code - last, length: 1, value });
  }
  if (value !== 0) last = code + 1;
}
const packed = ranges
  .map(({ gap, length, value }) => [gap, length, value].map((n) => n.toString(36)).join(' '))
  .join(',');

/** A break test as its pieces, each a list of code points. */
const cases = (name) =>
  rows(read(name)).map((row) =>
    row
      .split('÷')
      .map((piece) =>
        piece
          .replaceAll('×', ' ')
          .trim()
          .split(/\s+/)
          .filter(Boolean)
          .map((hex) => parseInt(hex, 16)),
      )
      .filter((piece) => piece.length > 0),
  );

const place = join(root, 'core/src/content/unicode');
const licence = 'Derived from the Unicode Character Database; see LICENCE.md in this folder.';
writeFileSync(join(place, 'tables.json'), JSON.stringify({ licence, version, classes, ranges: packed }));
writeFileSync(
  join(place, 'cases.json'),
  JSON.stringify({
    licence,
    version,
    word: cases('auxiliary/WordBreakTest.txt'),
    grapheme: cases('auxiliary/GraphemeBreakTest.txt'),
  }),
);
