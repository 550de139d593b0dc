import { build } from '@oxbow/core/testing';
import { compare, gistOf } from '@oxbow/core/compare';
import { Comparisons } from './comparisons.js';

const { doc, p } = build;

describe('comparisons in worker threads', () => {
  let comparisons: Comparisons;
  beforeEach(() => {
    comparisons = new Comparisons();
  });
  afterEach(async () => {
    await comparisons.close();
  });

  it('give what comparing here gives, and the same again for the same contents', async () => {
    const [earlier, later] = [doc(p('two sacks of flour')), doc(p('three sacks of flour'), p('and salt'))];
    const compared = await comparisons.compare(earlier, later);
    const here = compare(earlier, later);
    expect(compared.changes).toEqual(here.changes);
    expect(compared.gist).toBe(gistOf(here.changes));
    expect(await comparisons.compare(doc(p('two sacks of flour')), later)).toBe(compared);
    expect(await comparisons.compare(later, earlier)).not.toBe(compared);
  });

  it('answer many at once, each pair compared once, and go on after one that fails', async () => {
    const pages = Array.from({ length: 6 }, (_, i) => doc(p(`page ${i} of the book`)));
    const [first, ...others] = pages;
    if (!first) throw new Error('there are pages');
    const twice = [...others, ...others].map((page) => comparisons.compare(first, page));
    const compared = await Promise.all(twice);
    expect(new Set(compared).size).toBe(others.length);
    expect(compared.map(({ changes }) => changes[0]?.later)).toEqual([
      '1',
      '2',
      '3',
      '4',
      '5',
      '1',
      '2',
      '3',
      '4',
      '5',
    ]);
    const broken = { type: first.type, toJSON: () => ({ type: 'no such node' }) } as unknown as typeof first;
    await expectAsync(comparisons.compare(first, broken)).toBeRejectedWithError(/no kind that is known/);
    await expectAsync(comparisons.compare(first, broken)).toBeRejected();
    expect((await comparisons.compare(first, doc(p('another book')))).changes.length).toBeGreaterThan(0);
  });

  it('make a page that says who', async () => {
    const page = await comparisons.redline(doc(p('a b')), doc(p('a c')), {
      format: 'html',
      title: 'Guide',
      author: 'Ines',
      at: '2026-11-24T09:00:00.000Z',
      images: [],
      ends: ['version 1', 'version 2'],
      who: ['Ines'],
      credits: [],
    });
    expect(Buffer.from(page).toString()).toContain('<ins title="replaced: Ines">c</ins>');
  });
});
