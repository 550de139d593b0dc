import { MAT_DIALOG_DATA, MatDialogRef } from '@angular/material/dialog';
import { USUAL_PAPER, paperOf, textSchema as schema } from '@oxbow/core/kinds/text';
import type { Paper } from '@oxbow/core/kinds/text';
import { EditorState } from 'prosemirror-state';
import { EditorView } from 'prosemirror-view';
import { meOf } from '../../session/testing';
import { Room } from '../../testing/room';
import { PageSetup, setPaper } from './page-setup';

describe('the set-up of the page', () => {
  const me = meOf({ id: 'ines', name: 'Ines', initials: 'IN', colour: 0 });
  let given: Paper[];

  const open = (paper: Paper): Promise<Room<PageSetup>> => {
    given = [];
    return Room.open(
      PageSetup,
      me,
      {},
      {
        providers: [
          { provide: MatDialogRef, useValue: { close: (one: Paper) => given.push(one) } },
          { provide: MAT_DIALOG_DATA, useValue: paper },
        ],
      },
    );
  };

  it('is shown as it is, and given back with what was changed', async () => {
    const was: Paper = { ...USUAL_PAPER, size: 'A5', header: 'The mill\t\t{page}' };
    const room = await open(was);
    const fields = [...room.element.querySelectorAll<HTMLInputElement>('input[matInput]')];
    expect(fields.map(({ value }) => value)).toEqual([
      '25',
      '25',
      '25',
      '25',
      'The mill',
      '',
      '{page}',
      '',
      '',
      '',
    ]);
    await room.press('Add page numbers');
    await room.press('Set up the page');
    expect(given).toEqual([{ ...was, footer: '\t{page} of {pages}' }]);
  });

  it('is not given back while a margin cannot be', async () => {
    const room = await open(USUAL_PAPER);
    const top = room.element.querySelector<HTMLInputElement>('input[matInput]') as HTMLInputElement;
    top.value = '130';
    top.dispatchEvent(new Event('input'));
    await room.fixture.whenStable();
    const button = [...room.element.querySelectorAll('button')].find((one) =>
      one.textContent?.includes('Set up the page'),
    );
    expect(button?.disabled).toBeTrue();
    expect(given).toEqual([]);
  });

  it('is put at the beginning once, and changed there after that', () => {
    const doc = schema.node('doc', null, [schema.node('paragraph')]);
    const view = new EditorView(null, { state: EditorState.create({ doc }) });
    setPaper(view, USUAL_PAPER);
    expect(view.state.doc.eq(doc)).toBeTrue();
    setPaper(view, { ...USUAL_PAPER, landscape: true });
    setPaper(view, { ...USUAL_PAPER, size: 'A3' });
    expect(view.state.doc.childCount).toBe(2);
    expect(paperOf(view.state.doc)).toEqual(jasmine.objectContaining({ size: 'A3', landscape: false }));
    view.destroy();
  });
});
