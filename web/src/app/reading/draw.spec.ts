import type { Mode } from './look';
import { drawFacing, drawFlowing, guessHeight, pagesOf, tabsOf } from './rows';
import { lookAt, people } from './testing/look';

/** A whole comparison as its reader sees it. */
function page(before: string, after: string, mode: Mode = 'flowing'): HTMLElement {
  const look = lookAt(before, after);
  const pages = pagesOf(look, look.comparison.changes, people);
  const place = document.createElement('div');
  pages.rows.forEach((_, i) =>
    mode === 'facing' ? place.append(...drawFacing(pages, i)) : place.append(drawFlowing(pages, i)),
  );
  return place;
}

const texts = (dom: HTMLElement, selector: string): (string | null)[] =>
  [...dom.querySelectorAll(selector)].map((element) => element.textContent);

describe('drawing a comparison', () => {
  it('rules what was added and strikes what was removed, where it stood, in the colour of who did it', () => {
    const dom = page('<p>two sacks of <b>flour</b></p>', '<p>three sacks of <b>flour</b></p>');
    expect(dom.textContent).toBe('twothree sacks of flour');
    expect(texts(dom, 'ins.was-added')).toEqual(['three']);
    expect(texts(dom, 'del.was-removed')).toEqual(['two']);
    expect(texts(dom, 'strong')).toEqual(['flour']);
    expect(dom.querySelector<HTMLElement>('ins')?.style.getPropertyValue('--who')).toBe('#0072b2');
  });

  it('shows removed paragraphs, list items, rows and columns in their place', () => {
    expect(texts(page('<p>one</p><p>gone for good</p><p>two</p>', '<p>one</p><p>two</p>'), 'p')).toEqual([
      'one',
      'gone for good',
      'two',
    ]);
    expect(texts(page('<ul><li>rope</li><li>hook</li></ul>', '<ul><li>rope</li></ul>'), 'li')).toEqual([
      'rope',
      'hook',
    ]);
    expect(
      texts(
        page('<table><tr><td>a</td></tr><tr><td>b c</td></tr></table>', '<table><tr><td>a</td></tr></table>'),
        'tr.block-removed',
      ),
    ).toEqual(['b c']);
    const column = page(
      '<table><tr><td>Mon</td><td>x1</td></tr><tr><td>Tue</td><td>y2</td></tr></table>',
      '<table><tr><td>Mon</td></tr><tr><td>Tue</td></tr></table>',
    );
    expect(texts(column, 'tr')).toEqual(['Monx1', 'Tuey2']);
    expect(texts(column, 'td.block-removed')).toEqual(['x1', 'y2']);
  });

  it('says of a column that moved where it went once, at its head', () => {
    const moved = page(
      '<table><tr><th>Day</th><th>Who</th><th>Boat</th></tr><tr><td>Mon</td><td>Jun</td><td>Heron</td></tr></table>',
      '<table><tr><th>Who</th><th>Boat</th><th>Day</th></tr><tr><td>Jun</td><td>Heron</td><td>Mon</td></tr></table>',
    );
    const labels = [...moved.querySelectorAll<HTMLElement>('.block-moved')].map(
      ({ dataset }) => dataset['where'],
    );
    expect(labels.filter((label) => label)).toEqual(['went right', 'came from the left']);
    expect(labels.length).toBe(4);
  });

  it('marks what was edited in something that moved at its later place only', () => {
    const wheel = (turns: string): string => `<p>the wheel ${turns} at every ebb and rests at the flood</p>`;
    const moved = page(
      `${wheel('turns')}<p>gates are shut</p><p>marsh fills up</p>`,
      `<p>gates are shut</p><p>marsh fills up</p>${wheel('stands')}`,
    );
    expect(texts(moved, '.block-moved.was-gone')).toEqual([
      'the wheel turns at every ebb and rests at the flood',
    ]);
    expect(texts(moved, '.was-gone del, .was-gone ins')).toEqual([]);
    expect(texts(moved, '.block-moved:not(.was-gone) del')).toEqual(['turns']);
    expect(texts(moved, '.block-moved:not(.was-gone) ins')).toEqual(['stands']);
  });

  it('frames what moved at both places, and waves under form', () => {
    const wheel = '<p>the wheel turns at the ebb</p>';
    const moved = page(
      `${wheel}<p>gates are shut</p><p>marsh fills up</p>`,
      `<p>gates are shut</p><p>marsh fills up</p>${wheel}`,
    );
    expect(texts(moved, '.block-moved').length).toBe(2);
    expect(texts(moved, '.block-moved.was-gone').length).toBe(1);
    expect(
      [...moved.querySelectorAll<HTMLElement>('.block-moved')].map(({ dataset }) => dataset['where']),
    ).toEqual(['went down', 'came from above']);
    const section = '<h2>Costs</h2><p>the oak is most of it</p>';
    const rest = '<h2>Work</h2><p>ten people dig for a week</p><p>and two hang the gates</p>';
    const together = page(section + rest, rest + section);
    expect(
      [...together.querySelectorAll<HTMLElement>('.block-moved:not(.was-gone)')].map(
        ({ dataset }) => dataset['where'],
      ),
    ).toEqual(['came from above', undefined]);
    const alone = page(
      '<p>The wheel turns. Bring a rope of thirty feet.</p><p>gates are shut</p>',
      '<p>The wheel turns.</p><p>gates are shut</p><p>Bring a rope of thirty feet.</p>',
    );
    expect(texts(alone, 'span.was-moved.was-gone')).toEqual([' Bring a rope of thirty feet.']);
    expect(texts(alone, 'p.block-moved')).toEqual(['Bring a rope of thirty feet.']);
    const rope = '<p>a rope of thirty feet long</p>';
    const copied = page(`${rope}<p>a b</p>`, `${rope}<p>a b</p>${rope}`);
    expect(copied.querySelector<HTMLElement>('.block-copied')?.dataset['where']).toBe('copied from above');
    expect(texts(page('<p>so bold</p>', '<p>so <b>bold</b></p>'), '.was-formed')).toEqual(['bold']);
    expect(texts(page('<h1>Race</h1>', '<h2>Race</h2>'), 'h2.block-formed')).toEqual(['Race']);
  });

  it('shows a text once whose surroundings only changed, and nothing of the earlier one when no mark is shown', () => {
    const quoted = page(
      '<p>call the harbour master</p>',
      '<blockquote><p>call the harbour master</p></blockquote>',
    );
    expect(quoted.textContent).toBe('call the harbour master');
    expect(texts(quoted, '.block-formed')).toEqual(['call the harbour master']);
    const look = lookAt('<p>gone for good now</p><p>stays here</p>', '<p>stays here</p>');
    const bare = pagesOf(look, [], people);
    const texted = bare.rows.map((_, i) => drawFlowing(bare, i).textContent);
    expect(texted.join('')).toBe('stays here');
  });

  it('marks where a paragraph was split and where two were joined', () => {
    const [one, two] = ['The wheel turns at the ebb.', 'The gates are shut by noon.'];
    expect(texts(page(`<p>${one} ${two}</p>`, `<p>${one}</p><p>${two}</p>`), '.was-split')).toEqual(['¶']);
    const joined = page(`<p>${one}</p><p>${two}</p>`, `<p>${one} ${two}</p>`);
    expect(texts(joined, '.was-joined')).toEqual(['¶']);
    expect(texts(joined, 'p').length).toBe(1);
  });

  it('faces each paragraph with its counterpart, and nothing with emptiness', () => {
    const dom = page(
      '<p>one here</p><p>two there</p>',
      '<p>one here</p><p>two where</p><p>three</p>',
      'facing',
    );
    expect(texts(dom, '.side')).toEqual(['one here', 'one here', 'two there', 'two where', '', 'three']);
    expect(dom.querySelectorAll('.absent').length).toBe(1);
    expect(texts(dom, '.earlier del')).toEqual(['there']);
    expect(texts(dom, '.later del')).toEqual([]);
  });

  it('says everything of both documents once, whatever changed', () => {
    const before = '<h2>Gates</h2><p>Shut both gates early.</p><ul><li>rope</li><li>oars</li></ul>';
    const after =
      '<p>Shut all gates.</p><ol><li>oars</li><li>bailer</li></ol><blockquote>So be it</blockquote>';
    const dom = page(before, after);
    for (const gone of dom.querySelectorAll('del, .block-removed')) gone.remove();
    expect(dom.textContent?.replace(/\s/g, '')).toBe('Shutallgates.oarsbailerSobeit');
  });

  it('takes the images of each side from its own document', () => {
    const look = lookAt('<p>a</p>', '<p>a</p>');
    const pages = pagesOf({ ...look, earlier: { ...look.earlier, document: 'rota' } }, [], people);
    expect(pages.earlier.image('f00')).toBe('/api/documents/rota/images/f00');
    expect(pages.later.image('f00')).toBe('/api/documents/guide/images/f00');
  });

  it('guesses more height for more text, and puts tabs that would collide together', () => {
    const look = lookAt(
      '<p>a b e f</p><p>long text of many words here</p>',
      '<p>c b e f d</p><p>long text of many words here</p>',
    );
    const pages = pagesOf(look, look.comparison.changes, people);
    expect(guessHeight(pages, 1, true)).toBeGreaterThanOrEqual(guessHeight(pages, 0, true));
    const row = drawFlowing(pages, 0);
    document.body.append(row);
    expect(tabsOf(row, pages.changes)).toEqual([jasmine.objectContaining({ people: ['ines', 'tobias'] })]);
    row.remove();
  });
});
