import type { LedgerEntry } from '@oxbow/contract';
import { NO_IMAGES, readHtml } from '@oxbow/core/formats';
import { people } from '../reading/testing/look';
import { drawLedger } from './ledger';

const doc = readHtml('<p>The gate is shut.</p><p>Bring boots.</p>', NO_IMAGES);
const entry = (from: number, to: number, by: string, at: string, writer = by): LedgerEntry => ({
  from,
  to,
  seq: 1,
  by,
  at,
  writer,
});
const NOW = Date.parse('2026-04-20T12:00:00Z');
const entries = [
  entry(1, 10, 'ines', '2026-04-01T09:00:00Z'),
  entry(10, 18, 'tobias', '2026-04-19T09:00:00Z', 'ines'),
  entry(20, 32, 'ines', '2026-04-02T09:00:00Z'),
];
interface Drawn {
  readonly from: number;
  readonly attrs: Record<string, string>;
}
const drawn = (person = '', days = 0): Drawn[] =>
  drawLedger(
    { entries, filter: { person, days }, people },
    NOW,
  )(doc)
    .find()
    .map((one) => ({ from: one.from, attrs: (one as unknown as { type: Pick<Drawn, 'attrs'> }).type.attrs }));

describe('the drawn ledger', () => {
  it('has a tab at each block for who put something there last, and a word at each stretch', () => {
    const tabs = drawn().filter((one) => one.attrs['class'] === 'ledgered');
    expect(tabs.map((one) => [one.from, one.attrs['data-ledger']?.slice(0, 2)])).toEqual([
      [0, 'TR'],
      [19, 'IO'],
    ]);
    const titles = drawn()
      .filter((one) => one.attrs['class'] === 'ledger-by')
      .map((one) => one.attrs['title'] ?? '');
    expect(titles.length).toBe(3);
    expect(
      titles.some((title) => title.startsWith('Tobias Rahn brought back what Ines Okell wrote')),
    ).toBeTrue();
  });

  it('is narrowed to a person, who counts as the writer too, and to an age', () => {
    const dim = (person: string, days: number): number[] =>
      drawn(person, days)
        .filter((one) => one.attrs['class'] === 'ledger-dim')
        .map(({ from }) => from);
    expect(dim('tobias', 0)).toEqual([1, 20]);
    expect(dim('ines', 0)).toEqual([]);
    expect(dim('', 7)).toEqual([1, 20]);
    expect(drawn('', 7).filter((one) => one.attrs['class'] === 'ledgered').length).toBe(1);
  });

  it('leaves out what lies beyond the document', () => {
    const beyond = [entry(30, 99, 'ines', '2026-04-01T09:00:00Z')];
    expect(drawLedger({ entries: beyond, filter: { person: '', days: 0 }, people }, NOW)(doc).find()).toEqual(
      [],
    );
  });
});
