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

  it('make a page that says who', async () => {
    const page = await comparisons.page(doc(p('a b')), doc(p('a c')), {
      title: 'Guide',
      earlier: 'version 1',
      later: 'version 2',
      who: ['Ines'],
    });
    expect(page).toContain('<ins title="replaced: Ines">c</ins>');
  });
});
