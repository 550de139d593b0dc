import { bold, check, checks, doc, h, li, p, table, td, tr, ul } from '../testing/build.js';
import { FILLER, spoken, told, untold } from './erased.js';
import { canonicalText, isBounded } from './canonical.js';
import { isRectangular } from './tables.js';
import { isSafeLink } from '../kinds/text/marks.js';
import { blankDocument, textSchema } from '../kinds/text/schema.js';
import { plainText, wordCount } from './text.js';
import { sliceFromTokens, tokensOf } from './tokens.js';

describe('content', () => {
  it('has stable plain text and word counts', () => {
    const one = doc(
      h(1, 'The race'),
      p('Twice a ', bold('day'), '.'),
      ul(li(p('rope'))),
      checks(check(true, p('oars'))),
      table(tr(td(p('Mon')), td(p('Jun')))),
    );
    expect(plainText(one)).toBe('The race\nTwice a day.\nrope\noars\nMon\tJun');
    expect(wordCount(one)).toBe(9);
    expect(plainText(blankDocument())).toBe('');
  });

  it('tells tokens apart as positions do, and builds documents from them again', () => {
    const one = doc(ul(li(p('a', bold('b')), p('c'))), textSchema.node('rule'));
    const tokens = tokensOf(one.content);
    expect(tokens.length).toBe(one.content.size);
    expect(sliceFromTokens(textSchema, tokens)?.content.eq(one.content)).toBe(true);
    const split = sliceFromTokens(
      textSchema,
      [{ kind: 'close' }, ...tokensOf(doc(p('x')).content).slice(0, 2)],
      [p('before')],
    );
    expect([split?.openStart, split?.openEnd]).toEqual([1, 1]);
  });

  it('brings text into the canonical form of UAX #15 (NFC), without control characters', () => {
    expect(canonicalText('cafe\u0301\u0000\u0007', false)).toBe('café');
    expect(canonicalText('a\tb\r\nc', false)).toBe('a b c');
    expect(canonicalText('a\tb\r\nc', true)).toBe('a\tb\nc');
    expect(canonicalText('\u1112\u1161\u11ab', false)).toBe('한');
  });

  it('knows a rectangular table from a ragged one', () => {
    const cell = (colspan: number, rowspan: number) =>
      textSchema.node('table_cell', { colspan, rowspan }, [p()]);
    expect(isRectangular(table(tr(cell(2, 1)), tr(cell(1, 1), cell(1, 1))))).toBe(true);
    expect(isRectangular(table(tr(cell(1, 2), cell(1, 1)), tr(cell(1, 1))))).toBe(true);
    expect(isRectangular(table(tr(cell(1, 1)), tr(cell(1, 1), cell(1, 1))))).toBe(false);
    expect(isRectangular(table(tr(cell(1, 3), cell(1, 1)), tr(cell(1, 1))))).toBe(false);
  });

  it('lets links go to the web, mail and telephone only', () => {
    for (const good of [
      'https://withy.example',
      'mailto:ines@withy.example',
      'tel:+440',
      '#top',
      '/documents/1',
    ])
      expect(isSafeLink(good)).toBe(true);
    for (const bad of [
      'javascript:1',
      ' javascript:1',
      'data:text/html,1',
      '//evil.example',
      'file:///etc',
      'java\nscript:1',
      7,
      null,
    ])
      expect(isSafeLink(bad)).toBe(false);
  });

  it('tells what was erased as a bar or a word, and knows the bar again where it stood', () => {
    const text = `goes to ${FILLER.repeat(3)} by noon`;
    expect(told(text)).toBe('goes to \u2588\u2588\u2588 by noon');
    expect(spoken(told(text), 'erased')).toBe('goes to erased by noon');
    expect(untold(told(text).replace('noon', 'ten'), text)).toBe(text.replace('noon', 'ten'));
    expect(untold('\u2588\u2588 of ten', 'nothing erased')).toBe('\u2588\u2588 of ten');
  });

  it('bounds depth and size without recursing', () => {
    let deep: unknown = 1;
    for (let i = 0; i < 100_000; i++) deep = [deep];
    expect(isBounded(deep, 50, 1e6)).toBe(false);
    expect(isBounded(Array(100).fill({}), 50, 50)).toBe(false);
    expect(isBounded({ a: [1, { b: 2 }] }, 5, 10)).toBe(true);
  });
});
