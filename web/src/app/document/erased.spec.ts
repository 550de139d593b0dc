import { ERASED_IMAGE, FILLER } from '@oxbow/core/content';
import { textSchema as schema } from '@oxbow/core/kinds/text';
import { Fragment, Slice } from 'prosemirror-model';
import { EditorState } from 'prosemirror-state';
import { EditorView } from 'prosemirror-view';
import { erasedBars, withoutErased } from './erased';
import { nodeViews } from './drawn';

describe('what was erased', () => {
  const page = schema.node('doc', null, [
    schema.node('paragraph', null, [
      schema.text(`Pay ${FILLER.repeat(4)}`),
      schema.text(FILLER, [schema.mark('bold')]),
      schema.text(' now'),
      schema.node('image', { hash: ERASED_IMAGE }),
    ]),
    schema.node('paragraph', null, [schema.text('Thank you.')]),
  ]);

  it('stands on a page as bars that say how long they are, and an image as one', () => {
    const view = new EditorView(document.createElement('div'), {
      state: EditorState.create({ doc: page, plugins: [erasedBars()] }),
      nodeViews: nodeViews('stores'),
    });
    const bars = [...view.dom.querySelectorAll('.erased')].map((bar) => bar.getAttribute('aria-label'));
    expect(bars).toEqual([
      'erased by an owner, 4 letters',
      'erased by an owner, 1 letter',
      'an image erased by an owner',
    ]);
    view.dispatch(view.state.tr.insertText('Please ', 1));
    expect(view.dom.querySelectorAll('.erased').length).toBe(3);
    view.destroy();
  });

  it('is not copied, and what is copied beside it is', () => {
    const copied = withoutErased(new Slice(page.content, 1, 1));
    expect(copied.content.firstChild?.textContent).toBe('Pay  now');
    expect(copied.content.firstChild?.childCount).toBe(1);
    expect(copied.content.lastChild).toBe(page.lastChild);
    const plain = new Slice(Fragment.from(page.lastChild), 1, 1);
    expect(withoutErased(plain)).toBe(plain);
  });
});
