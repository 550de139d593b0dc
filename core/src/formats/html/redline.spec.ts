import * as fc from 'fast-check';
import type { Node } from 'prosemirror-model';
import { compare } from '../../compare/index.js';
import { isWord, plainText, segments } from '../../content/index.js';
import { FUZZ } from '../../testing/budget.js';
import { bold, doc, h, li, p, quote, table, td, tr, ul } from '../../testing/build.js';
import { document, revised } from '../../testing/documents.js';
import { Random } from '../../testing/random.js';
import { NO_IMAGES } from '../format.js';
import { readHtml, writeHtml } from './html.js';
import { comparisonPage } from './redline.js';

const page = (earlier: Node, later: Node): string =>
  /<article>(.*)<\/article>/s.exec(
    comparisonPage(compare(earlier, later), {
      title: 'Guide <1>',
      earlier: 'version 1',
      later: 'version 2',
      who: (change) => `Ines ${change}`,
      images: NO_IMAGES,
    }),
  )?.[1] ?? '';

describe('a comparison as a page', () => {
  it('strikes what went and underlines what came, and says who', () => {
    expect(page(doc(p('two sacks')), doc(p('three sacks')))).toBe(
      '<p><del title="replaced: Ines 0">two</del><ins title="replaced: Ines 0">three</ins> sacks</p>',
    );
    expect(page(doc(ul(li(p('rope')))), doc(ul(li(p('rope')), li(p('oars')))))).toContain(
      '<li><p><ins title="added: Ines 0">oars</ins></p></li>',
    );
    expect(page(doc(table(tr(td(p('a'))), tr(td(p('b c d'))))), doc(table(tr(td(p('a'))))))).toContain(
      '<td><p><del title="removed: Ines 0">b c d</del></p></td>',
    );
  });

  it('frames what moved at both places, and tells form and splits', () => {
    const [one, two, three] = [
      p('the wheel turns at the ebb'),
      p('the gates are shut'),
      p('the marsh fills up'),
    ];
    const moved = page(doc(one, two, three), doc(two, three, one));
    expect(moved.match(/class="moved"/g)?.length).toBe(2);
    expect(page(doc(p('so bold')), doc(p('so ', bold('bold'))))).toContain(
      '<span class="form" title="form: Ines 0">',
    );
    const items = page(
      doc(ul(li(p('Bring a rope. Mind the step.')))),
      doc(ul(li(p('Bring a rope.')), li(p('Mind the step.')))),
    );
    expect(items).toMatch(
      /^<ul><li><p>Bring a rope\..*<ins class="seam".*¶<\/ins><\/p><\/li><li><p>Mind the step\.<\/p><\/li><\/ul>$/,
    );
    expect(
      page(
        doc(p('The wheel turns. The gates are shut.')),
        doc(p('The wheel turns.'), p('The gates are shut.')),
      ),
    ).toContain('¶');
    expect(page(doc(p('the wheel turns')), doc(quote(p('the wheel turns'))))).toContain(
      '<blockquote class="form"',
    );
    expect(page(doc(h(1, 'Race')), doc(h(2, 'Race')))).toBe(
      '<h2 class="form" title="form: Ines 0">Race</h2>',
    );
  });

  it('reads as the later document without what is struck, whatever changed', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const random = new Random(seed);
        const earlier = document(random, random.between(1, 8));
        const later = revised(random, earlier, random.between(1, 8));
        const { changes } = compare(earlier, later);
        const whole = page(earlier, later);
        const words = (html: string): string[] =>
          segments(plainText(readHtml(html, NO_IMAGES)))
            .filter(isWord)
            .sort();
        const kept = whole.replace(/<del\b[^>]*>.*?<\/del>/gs, '').replaceAll('¶', ' ');
        const plain = changes.every(
          ({ kind }) => kind === 'added' || kind === 'removed' || kind === 'replaced',
        );
        if (plain) expect(words(kept)).toEqual(words(`<div>${writeHtml(later, NO_IMAGES)}</div>`));
        else
          for (const word of words(writeHtml(later, NO_IMAGES)))
            expect(kept).toContain(word.replace('&', '&#x26;'));
      }),
      { numRuns: 150 * FUZZ },
    );
  });

  it('needs nothing beside it, and nothing in a title can break out', () => {
    const whole = comparisonPage(compare(doc(p('a')), doc(p('b'))), {
      title: '</title><script>',
      earlier: '',
      later: '',
      who: () => '',
      images: NO_IMAGES,
    });
    expect(whole).not.toContain('<script');
    expect(whole).not.toMatch(/(?:src|href)=/);
  });
});
