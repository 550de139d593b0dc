import * as fc from 'fast-check';
import { finished } from '../content/index.js';
import { blankDocument, textSchema as schema } from '../kinds/text/index.js';
import { Letters, Tape } from '../past/index.js';
import { FUZZ } from '../testing/budget.js';
import { writePast } from '../testing/pasts.js';
import { Random } from '../testing/random.js';
import { isAccount, isCard, soughtAccounts, soughtCards, soughtText } from './numbers.js';
import { insideOf } from './reach.js';
import { everStood } from './sought.js';
import { goingBy } from './thinning.js';
import type { KeptVersion } from './thinning.js';

const told = (sought: typeof soughtAccounts, text: string): string[] =>
  sought.find(text).map(({ from, to }) => text.slice(from, to));

describe('what is looked for to be erased', () => {
  it('are account numbers as ISO 13616 writes them', () => {
    // The examples of the IBAN registry (SWIFT, release 99), from memory.
    for (const number of [
      'GB29 NWBK 6016 1331 9268 19',
      'DE89 3704 0044 0532 0130 00',
      'FR14 2004 1010 0505 0001 3M02 606',
      'NO93 8601 1117 947',
    ]) {
      expect(isAccount(number.replaceAll(' ', ''))).toBeTrue();
      expect(told(soughtAccounts, `Please pay to ${number} by Friday.`)).toEqual([number]);
      expect(told(soughtAccounts, `(${number.replaceAll(' ', '').toLowerCase()})`).length).toBe(1);
    }
    expect(told(soughtAccounts, 'GB29 NWBK 6016 1331 9268 18 is mistyped')).toEqual([]);
    expect(told(soughtAccounts, 'DE89 3704 0044 0532 0130 00 and 12 more')).toEqual([
      'DE89 3704 0044 0532 0130 00',
    ]);
  });

  it('are card numbers whose check digit holds', () => {
    // Test numbers that card schemes publish; common practice, no one source.
    for (const number of ['4111 1111 1111 1111', '5555-5555-5555-4444', '378282246310005'])
      expect(told(soughtCards, `Card ${number}, please`)).toEqual([number]);
    // Luhn's example, 7992739871 with the check digit 3 (US patent 2,950,048 has the formula; the number from memory).
    expect(isCard('007992739871' + '3')).toBeTrue();
    expect(isCard('007992739871' + '4')).toBeFalse();
    expect(told(soughtCards, 'Order 4111 1111 1111 1112')).toEqual([]);
    expect(told(soughtCards, 'No 12345678901')).toEqual([]);
  });

  it('are words, whatever their capitals, at every place', () => {
    expect(told(soughtText('sluice gate'), 'Sluice Gate and sluice gates')).toEqual([
      'Sluice Gate',
      'sluice gate',
    ]);
  });

  it('is found at every moment at which it stood, as reading every moment finds it', () => {
    const pool = ['mill ', 'tide', ' ', '44', '1', '7 '];
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const past = writePast(random, 40, { text: (own) => own.pick(pool), undo: false });
        const sought = soughtText('441');
        const { passages } = finished(everStood(past.tape, sought));
        const set = insideOf(past.provenance.runs, passages);
        for (const [moment, doc] of past.docs.entries()) {
          const runs = past.provenance.runs.at(moment);
          doc.descendants((node, position) => {
            if (!node.isTextblock) return true;
            for (const { from, to } of sought.find(node.textBetween(0, node.content.size, '', '\ufffc')))
              for (const run of runs.between(position + 1 + from, position + 1 + to))
                expect(set.within(run)).toEqual([{ from: run.offset, to: run.offset + run.length }]);
            return false;
          });
        }
      }),
      { numRuns: 150 * FUZZ },
    );
  });

  it('is nothing in a history of nothing', () => {
    const tape = new Tape(writePast(new Random(1), 1).provenance.runs, Letters.starting(blankDocument()));
    expect(finished(everStood(tape, soughtText('tide'))).passages).toEqual([]);
    expect(schema.text('tide').nodeSize).toBe(4);
  });
});

describe('a rule of keeping', () => {
  const at = (text: string): number => Date.parse(text);
  const versions = (...times: string[]): KeptVersion[] =>
    times.map((time, i) => ({ number: i + 1, at: at(time), stays: false }));

  it('keeps the last so many, the first, and what stays', () => {
    const all = versions(...Array.from({ length: 9 }, (_, i) => `2026-11-0${i + 1}T10:00:00Z`));
    expect(goingBy({ keep: 'everything' }, all, 0)).toEqual([]);
    expect(goingBy({ keep: 'last', last: 3 }, all, 0)).toEqual([2, 3, 4, 5, 6]);
    const named = all.map((one) => ({ ...one, stays: one.number === 4 }));
    expect(goingBy({ keep: 'last', last: 3 }, named, 0)).toEqual([2, 3, 5, 6]);
  });

  it('keeps the last of each sitting, day, week and month once some days have passed', () => {
    const all = versions(
      '2026-10-25T09:00:00Z',
      '2026-10-25T09:05:00Z',
      '2026-10-25T23:59:59Z',
      '2026-10-26T00:00:00Z',
      '2026-10-31T12:00:00Z',
      '2026-11-01T12:00:00Z',
      '2026-11-02T12:00:00Z',
      '2026-11-28T12:00:00Z',
      '2026-11-28T12:01:00Z',
      '2026-11-28T12:02:00Z',
    );
    const now = at('2026-11-29T12:00:00Z');
    const rule = (each: 'sitting' | 'day' | 'week' | 'month', days = 7) =>
      ({ keep: 'thinned', days, each }) as const;
    expect(goingBy(rule('sitting'), all, now)).toEqual([3]);
    expect(goingBy(rule('day'), all, now)).toEqual([2]);
    expect(goingBy(rule('week'), all, now)).toEqual([2, 4, 5]);
    expect(goingBy(rule('month'), all, now)).toEqual([2, 3, 4, 6, 7]);
    expect(goingBy(rule('day', 0), all, now)).toEqual([2, 8, 9]);
  });

  it('knows months as dates do', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 40_000 }), fc.integer({ min: 0, max: 40 }), (day, later) => {
        const [one, other] = [day * 864e5, (day + later) * 864e5];
        const month = (time: number): string => new Date(time).toISOString().slice(0, 7);
        const goes = goingBy(
          { keep: 'thinned', days: 0, each: 'month' },
          [0, one, other, other].map((time, i) => ({ number: i, at: time, stays: i === 2 })),
          Infinity,
        );
        expect(goes.includes(1)).toBe(month(one) === month(other));
      }),
      { numRuns: 500 * FUZZ },
    );
  });
});
