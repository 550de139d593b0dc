import { signal } from '@angular/core';
import type { EditorState } from 'prosemirror-state';
import { textSchema as schema } from '@oxbow/core/kinds/text';
import { search } from 'prosemirror-search';
import { EditorState as State } from 'prosemirror-state';
import { EditorView } from 'prosemirror-view';
import { meOf } from '../session/testing';
import { Room } from '../testing/room';
import { Finding } from './finding';

describe('finding and replacing on the page', () => {
  let room: Room<Finding>;
  let view: EditorView;
  const state = signal<EditorState | null>(null);
  const me = meOf({ id: 'ines', name: 'Ines', initials: 'IN', colour: 0 });
  const said = (): string => room.element.querySelector('.count')?.textContent ?? '';
  const show = async (): Promise<void> => {
    room.fixture.componentRef.setInput('state', state());
    await room.fixture.whenStable();
  };

  beforeEach(async () => {
    const paragraph = (text: string) => schema.node('paragraph', null, [schema.text(text)]);
    const doc = schema.node('doc', null, [
      paragraph('The tide turns the Tide mill.'),
      paragraph('Tides come, tide goes.'),
    ]);
    view = new EditorView(document.createElement('div'), {
      state: State.create({ doc, plugins: [search()] }),
      dispatchTransaction: (tr) => {
        view.updateState(view.state.apply(tr));
        state.set(view.state);
      },
    });
    state.set(view.state);
    room = await Room.open(Finding, me, { view, state: view.state, writable: true });
  });
  afterEach(() => view.destroy());

  const find = async (text: string): Promise<void> => {
    const field = room.element.querySelector<HTMLInputElement>(
      '[formcontrolname=search]',
    ) as HTMLInputElement;
    field.value = text;
    field.dispatchEvent(new Event('input'));
    await show();
    await show();
  };
  const tick = async (name: string): Promise<void> => {
    room.element.querySelector<HTMLInputElement>(`mat-checkbox[formcontrolname=${name}] input`)?.click();
    await show();
    await show();
  };

  it('counts what is found, by case and by whole words', async () => {
    await find('tide');
    expect(said()).toBe('4 found');
    await tick('wholeWord');
    expect(said()).toBe('3 found');
    await tick('caseSensitive');
    expect(said()).toBe('2 found');
    await find('ebb');
    expect(said()).toBe('Nothing found');
  });

  it('goes from one to the next and back, and replaces one or all', async () => {
    await find('tide');
    await room.press('Next');
    await show();
    expect(said()).toBe('1 of 4');
    await room.press('Previous');
    await show();
    expect(said()).toBe('4 of 4');
    const field = room.element.querySelector<HTMLInputElement>(
      '[formcontrolname=replace]',
    ) as HTMLInputElement;
    field.value = 'ebb';
    field.dispatchEvent(new Event('input'));
    await show();
    await room.press('Replace all');
    await show();
    expect(view.state.doc.textContent).toBe('The ebb turns the ebb mill.ebbs come, ebb goes.');
    expect(said()).toBe('Nothing found');
  });
});
