import { textSchema as schema } from '@oxbow/core/kinds/text';
import { EditorState, TextSelection } from 'prosemirror-state';
import { EditorView } from 'prosemirror-view';
import { writingPlugins } from './keys';

describe('writing with the keys', () => {
  let view: EditorView;
  const undone: string[] = [];

  beforeEach(() => {
    undone.length = 0;
    const plugins = writingPlugins({
      undo: (which) => undone.push(which) > 0,
      toTools: () => true,
      toLife: () => undefined,
    });
    view = new EditorView(document.createElement('div'), { state: EditorState.create({ schema, plugins }) });
  });
  afterEach(() => view.destroy());

  /** Types as a person would, so that input rules see each letter. */
  function type(text: string): void {
    for (const letter of text) {
      const { from, to } = view.state.selection;
      const taken = view.someProp('handleTextInput', (handle) =>
        handle(view, from, to, letter, () => view.state.tr),
      );
      if (!taken) view.dispatch(view.state.tr.insertText(letter, from, to));
    }
  }
  const press = (key: string, modifiers: KeyboardEventInit = {}): boolean =>
    view.someProp('handleKeyDown', (handle) =>
      handle(view, new KeyboardEvent('keydown', { key, ...modifiers })),
    ) ?? false;
  const shape = (): string => view.state.doc.toString();

  it('makes headings, lists, check lists, quotes and code at the start of a block', () => {
    const made: Record<string, string> = {
      '## ': 'heading',
      '- ': 'bullet_list',
      '3. ': 'ordered_list',
      '[ ] ': 'check_list',
      '> ': 'quote',
      '```': 'code_block',
    };
    for (const [typed, name] of Object.entries(made)) {
      view.updateState(EditorState.create({ schema, plugins: view.state.plugins }));
      type(typed);
      expect(view.state.doc.firstChild?.type.name).toBe(name);
    }
  });

  it('goes on with a list on Enter, nests with Tab and comes back with Shift+Tab', () => {
    type('- rope');
    press('Enter');
    type('oars');
    expect(shape()).toBe('doc(bullet_list(list_item(paragraph("rope")), list_item(paragraph("oars"))))');
    press('Tab');
    expect(shape()).toBe(
      'doc(bullet_list(list_item(paragraph("rope"), bullet_list(list_item(paragraph("oars"))))))',
    );
    press('Tab', { shiftKey: true });
    expect(shape()).toBe('doc(bullet_list(list_item(paragraph("rope")), list_item(paragraph("oars"))))');
  });

  it('sets marks, breaks lines, and hands undo to the desk', () => {
    type('tide');
    view.dispatch(view.state.tr.setSelection(TextSelection.create(view.state.doc, 1, 5)));
    press('b', { ctrlKey: true });
    expect(shape()).toBe('doc(paragraph(bold("tide")))');
    view.dispatch(view.state.tr.setSelection(TextSelection.create(view.state.doc, 5)));
    press('Enter', { shiftKey: true });
    expect(shape()).toContain('hard_break');
    press('z', { ctrlKey: true });
    press('y', { ctrlKey: true });
    expect(undone).toEqual(['undo', 'redo']);
  });
});
