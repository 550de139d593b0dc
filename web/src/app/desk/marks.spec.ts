import type { ComparedChange, Person } from '@oxbow/contract';
import { compare } from '@oxbow/core/compare';
import { readHtml, NO_IMAGES } from '@oxbow/core/formats';
import { EditorState } from 'prosemirror-state';
import { EditorView } from 'prosemirror-view';
import { marksOf } from './marks';

const people = new Map<string, Person>([
  ['ines', { id: 'ines', name: 'Ines Okell', initials: 'IO', colour: 0 }],
]);

/** The page with the marks of a comparison of two texts, as its reader sees it. */
function page(before: string, after: string): HTMLElement {
  const [earlier, later] = [readHtml(before, NO_IMAGES), readHtml(after, NO_IMAGES)];
  const changes = compare(earlier, later).changes.map((change): ComparedChange => ({
    ...change,
    form: [...change.form],
    stands: { earlier: [...change.stands.earlier], later: [...change.stands.later] },
    credits: [
      {
        ...change.place.later,
        side: 'later',
        seq: 1,
        at: '2026-01-01T00:00:00Z',
        person: 'ines',
        writer: 'ines',
        file: null,
      },
    ],
  }));
  const place = document.createElement('div');
  const view = new EditorView(place, {
    state: EditorState.create({ doc: later }),
    decorations: () => marksOf({ earlier, later, changes, people }, 0),
  });
  return view.dom;
}

const texts = (dom: HTMLElement, selector: string): (string | null)[] =>
  [...dom.querySelectorAll(selector)].map((element) => element.textContent);

describe('marks', () => {
  it('rule what was added and strike what was removed, where it stood', () => {
    const dom = page('<p>two sacks of flour</p>', '<p>three sacks of flour</p>');
    expect(texts(dom, 'ins.was-added')).toEqual(['three']);
    expect(texts(dom, 'del.was-removed')).toEqual(['two']);
    expect(dom.querySelector<HTMLElement>('ins')?.style.getPropertyValue('--who')).toBe('#0072b2');
  });

  it('show removed blocks, list items and rows in place', () => {
    expect(
      texts(page('<p>one</p><p>gone for good</p><p>two</p>', '<p>one</p><p>two</p>'), 'p.block-removed'),
    ).toEqual(['gone for good']);
    expect(
      texts(page('<ul><li>rope</li><li>boat hook</li></ul>', '<ul><li>rope</li></ul>'), 'li.block-removed'),
    ).toEqual(['boat hook']);
    expect(
      texts(
        page(
          '<table><tr><td>a</td></tr><tr><td>b c d</td></tr></table>',
          '<table><tr><td>a</td></tr></table>',
        ),
        'tr.block-removed',
      ),
    ).toEqual(['b c d']);
  });

  it('wave under what changed in form only, and frame what moved', () => {
    expect(texts(page('<p>so bold</p>', '<p>so <b>bold</b></p>'), '.was-formed')).toEqual(['bold']);
    const moved = page(
      '<p>the wheel turns at the ebb</p><p>a</p><p>b</p>',
      '<p>a</p><p>b</p><p>the wheel turns at the ebb</p>',
    );
    expect(moved.querySelectorAll('.was-moved').length).toBe(2);
  });

  it('bring the change in hand to the fore', () => {
    expect(page('<p>a b</p>', '<p>a c</p>').querySelectorAll('.at-hand').length).toBeGreaterThan(0);
  });
});
