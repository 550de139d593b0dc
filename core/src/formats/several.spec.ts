import type { Node } from 'prosemirror-model';
import { bringTogether } from '../compare/index.js';
import { toldTogether } from '../kinds/told/index.js';
import { blankSlide, deckSchema } from '../kinds/deck/index.js';
import { Random } from '../testing/random.js';
import type { ReadFormat } from './index.js';
import { asNextsOf, readFile, writeFile } from './index.js';

const ABOUT = { title: 'Stores', author: 'Ines Okell', at: '2026-11-30T09:30:00.000Z', picture: () => null };

/** What is told of several files that go on with one document. */
function told(now: Node, format: ReadFormat, files: readonly Node[]): string[] {
  const random = new Random(5);
  const read = files.map((doc) => ({ doc: readFile(format, writeFile(format, doc, ABOUT)).doc, format }));
  const sides = asNextsOf(read, now, () => random.next());
  const { passages } = toldTogether(bringTogether(now, sides), [now, ...sides]);
  return passages.map(
    ({ where = '', base, forms }) =>
      `${where}: ${base} > ${forms.map(({ text, by }) => `${text} (${by.join()})`).join(' | ')}`,
  );
}

describe('several files that go on with one document', () => {
  const sheets = (...lines: string[]): Node =>
    readFile('csv', new TextEncoder().encode(lines.join('\n'))).doc;

  it('have a row that several added as one, and as one in two forms where it is not the same', () => {
    const base = ['Item,Cost', 'Rope,120', 'Paint,60'];
    const [head = '', rope = '', paint = ''] = base;
    for (const format of ['xlsx', 'csv'] as const)
      expect(
        told(sheets(...base), format, [
          sheets(head, rope, 'Sails,90', paint),
          sheets(head, rope, 'Oars,35', paint, 'Tar,12'),
          sheets(head, rope, 'Sails,90', 'Oars,40', paint),
        ]),
      )
        .withContext(format)
        .toEqual([
          'Row 3 · Sails:  > Sails · 90 (0,2)',
          'Row 3 · Oars:  > Oars · 35 (1) | Oars · 40 (2)',
          'Row 5 · Tar:  > Tar · 12 (1)',
        ]);
  });

  it('have a slide that several added as one', () => {
    const slide = (id: string, place: string, title: string): Node => {
      const blank = blankSlide(id, place);
      return blank.copy(
        blank.content.replaceChild(0, deckSchema.node('title', null, [deckSchema.text(title)])),
      );
    };
    const deck = (...titles: string[]): Node =>
      deckSchema.node(
        'deck',
        null,
        titles.map((title, i) => slide(`s${i}`, `a${i}`, title)),
      );
    expect(
      told(deck('High water', 'Slack'), 'pptx', [
        deck('High water', 'Slack', 'What to bring'),
        deck('High water', 'Slack', 'What to bring', 'Who to ask'),
      ]),
    ).toEqual(['Slide 3 · What to bring:  > What to bring (0,1)', 'Slide 4 · Who to ask:  > Who to ask (1)']);
  });
});
