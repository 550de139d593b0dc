import type { Node } from 'prosemirror-model';
import { Transform } from 'prosemirror-transform';
import { FILLER } from '../content/index.js';
import { blankSlide, deckSchema } from '../kinds/deck/index.js';
import { blankBook, sheetsOf, writeCells } from '../kinds/sheet/index.js';
import type { RowView } from '../kinds/sheet/index.js';
import { bold, doc, p } from '../testing/build.js';
import type { ReadFormat } from './index.js';
import { asNextOf, readFile, writeFile } from './index.js';

const ABOUT = { title: 'Stores', author: 'Ines Okell', at: '2026-11-30T09:30:00.000Z', picture: () => null };
const gone = FILLER.repeat(9);

const text = doc(p('Pay ', gone, ' by noon, or ', bold(gone), '.'), p('Bring boots.'));

function book(): Node {
  const tr = new Transform(blankBook());
  const write = (row: number, column: string, text: string): void =>
    writeCells(tr, [{ row: sheetsOf(tr.doc)[0]?.rows[row] as RowView, column, text }]);
  write(0, 'c1', 'Rope');
  write(0, 'c2', `goes to ${gone}`);
  write(1, 'c1', gone);
  write(1, 'c2', '60');
  return tr.doc;
}

function deck(): Node {
  const blank = blankSlide('first', 'a0');
  const title = deckSchema.node('title', null, [deckSchema.text(`Boat day of ${gone}`)]);
  return deckSchema.node('deck', null, [blank.copy(blank.content.replaceChild(0, title))]);
}

describe('a file of a document of which something was erased', () => {
  const written: readonly (readonly [ReadFormat, Node])[] = [
    ['docx', text],
    ['odt', text],
    ['html', text],
    ['markdown', text],
    ['xlsx', book()],
    ['ods', book()],
    ['csv', book()],
    ['pptx', deck()],
    ['odp', deck()],
  ];
  const returned = (format: ReadFormat, before: Node, change = (next: Node): Node => next): Node => {
    const { doc } = readFile(format, writeFile(format, before, ABOUT));
    return asNextOf(change(doc), before, () => 0.5, format);
  };

  for (const [format, before] of written)
    it(`tells it as bars, and coming back has erased there what was erased: ${format}`, () => {
      const file = readFile(format, writeFile(format, before, ABOUT)).doc;
      expect(file.textContent).toContain('█'.repeat(9));
      expect(returned(format, before).textContent).toBe(before.textContent);
    });

  it('has bars of another length, and more of them, as somebody typed them', () => {
    const typed = (next: Node): Node =>
      new Transform(next).insert(next.content.size, [p('█'.repeat(9)), p('█'.repeat(4))]).doc;
    expect(returned('docx', text, typed).textContent).toBe(text.textContent + '█'.repeat(9 + 4));
  });
});
