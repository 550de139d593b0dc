import * as fc from 'fast-check';
import { FUZZ } from '../testing/budget.js';
import { graphemeBreaks } from './unicode/breaks.js';
import { eachSegment, segments } from './segments.js';
import { countWords } from './words.js';

describe('segments', () => {
  const cut = (text: string): string => segments(text).join('|');

  it('keeps numbers, dates, amounts, addresses and compounds whole', () => {
    expect(cut('Tue 14/04/2026, 09:41:12')).toBe('Tue| |14/04/2026|,| |09:41:12');
    expect(cut('2026-04-14: £1,250.00 (12%)')).toBe('2026-04-14|:| |£1,250.00| |(|12%|)');
    expect(cut('fell −5° to 3.5 m')).toBe('fell| |−5°| |to| |3.5| |m');
    expect(cut('See https://mill.example/a?b=1#c, or ines@withy.example.')).toBe(
      'See| |https://mill.example/a?b=1#c|,| |or| |ines@withy.example|.',
    );
    expect(cut('the half-tide gate — “Ines’s”')).toBe('the| |half-tide| |gate| |—| |“|Ines’s|”');
  });

  it('cuts other scripts by the standard, and never a grapheme cluster', () => {
    expect(cut('潮汐 mill')).toBe('潮|汐| |mill');
    expect(cut('น้ำขึ้น')).toBe('น้ำ|ขึ้|น');
    expect(cut('שלום עולם')).toBe('שלום| |עולם');
    expect(cut('👩🏽‍🌾🇳🇱🇫🇷')).toBe('👩🏽‍🌾|🇳🇱|🇫🇷');
    expect(cut('a \u0301b')).toBe('a| \u0301|b');
    expect(cut('one\n  two')).toBe('one|\n|  |two');
  });

  it('gives the text back, cutting only where clusters end, whatever the text', () => {
    const sign = fc.oneof(
      fc.constantFrom(
        ' ',
        '\n',
        '\r\n',
        '\u0301',
        '\u200d',
        '👩',
        '🌾',
        'ก',
        'ำ',
        'א',
        '"',
        '潮',
        'カ',
        '9',
        '.',
        '-',
        '@',
        ':',
        '/',
      ),
      fc.string({ unit: 'grapheme', maxLength: 3 }),
    );
    fc.assert(
      fc.property(fc.array(sign, { maxLength: 16 }), (signs) => {
        const text = signs.join('');
        const parts = segments(text);
        expect(parts.join('')).toBe(text);
        const clusters = new Set(graphemeBreaks(text));
        let at = 0;
        for (const part of parts) expect(clusters.has((at += part.length))).toBe(true);
      }),
      { numRuns: 1000 * FUZZ },
    );
  });

  it('are told for a text while another is being cut, and for halves of surrogate pairs', () => {
    const told: string[] = [];
    eachSegment('The weir holds', (from, to) => {
      eachSegment('a mill', (low, high) => void (from === 4 && told.push('a mill'.slice(low, high))));
      told.push('The weir holds'.slice(from, to));
    });
    expect(told).toEqual(['The', ' ', 'a', ' ', 'mill', 'weir', ' ', 'holds']);
    const broken = `${'long '.repeat(20)}\ud83d end`;
    expect(segments(broken).join('')).toBe(broken);
  });

  /** What an address is, said in one expression, which takes quadratic time. */
  const ADDRESS =
    /(?:[A-Za-z][A-Za-z0-9+.-]*:\/\/|[Ww]{3}\.|[\w.+-]+@(?=[\w-]+\.))[^\s<>"“”]*[^\s<>"“”.,;:!?)\]}'’»]/;

  it('keeps whole what one expression says an address is, and cuts what stands between as if it stood alone', () => {
    const sign = fc.constantFrom(...'a9_-.+@:/w<"é ', 'www.', '://', 'x@y.z');
    fc.assert(
      fc.property(fc.array(sign, { maxLength: 14 }), (signs) => {
        const text = signs.join('');
        const expected = text.split(/( +)/).flatMap((chunk) => {
          const out: string[] = [];
          let rest = chunk;
          for (let found = ADDRESS.exec(rest); found; found = ADDRESS.exec(rest)) {
            out.push(...segments(rest.slice(0, found.index)), found[0]);
            rest = rest.slice(found.index + found[0].length);
          }
          return [...out, ...segments(rest)];
        });
        expect(segments(text)).toEqual(expected);
      }),
      { numRuns: 3000 * FUZZ },
    );
  });

  it('take no longer than their text is long, whatever stands in it', () => {
    const size = 1 << 20;
    const long = (piece: string): string => piece.repeat(size / piece.length);
    expect(segments(`${long('a-Zx')}.${long('_9b+')}`).length).toBeLessThan(4 * size);
    expect(segments(long('x@y.zz<')).slice(0, 4)).toEqual(['x@y.zz', '<', 'x@y.zz', '<']);
    for (const piece of ['a@', 'a:', '://', 'www', 'é-', '1:', '\u0301\u0301', "é'\u0301", '🌾-', '<a@b'])
      expect(segments(long(piece)).join('')).toBe(long(piece));
  });

  it('counts words', () => {
    expect(['half-tide', 'Ines’s', '3.5', '', ' — ', 'a/b c', '潮汐'].map(countWords)).toEqual([
      1, 1, 1, 0, 0, 2, 2,
    ]);
  });
});
