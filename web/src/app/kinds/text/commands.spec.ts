import { textSchema as schema } from '@oxbow/core/kinds/text';
import type { Node } from 'prosemirror-model';
import { EditorState, NodeSelection, TextSelection } from 'prosemirror-state';
import type { Command, Transaction } from 'prosemirror-state';
import { AttrStep, ReplaceAroundStep } from 'prosemirror-transform';
import { CellSelection, tableEditing } from 'prosemirror-tables';
import { noteNumbering, notesIn } from '../../document/notes';
import { REMOTE } from '../../document/remote';
import { hasMark, setAttributes } from '../../writing/commands';
import { addressIn, stretchOf } from '../../writing/links';
import { COMMANDS, imageIn } from './commands';
import { byAttributes } from './columns';
import { notesPlugin } from './notes';

const text = (words: string, ...marks: string[]): Node =>
  schema.text(
    words,
    marks.map((name) => schema.mark(name)),
  );
const p = (...content: Node[]): Node => schema.node('paragraph', null, content);
const doc = (...blocks: Node[]): Node => schema.node('doc', null, blocks);
const cell = (words: string): Node => schema.node('table_cell', null, [p(text(words))]);
const table = (): Node =>
  schema.node(
    'table',
    null,
    [0, 1].map((row) => schema.node('table_row', null, [cell(`a${row}`), cell(`b${row}`)])),
  );

describe('acts of writing', () => {
  /** A state with the caret where a text begins, or with that text selected. */
  function at(page: Node, words: string, select = false): EditorState {
    let position = -1;
    page.descendants((node, offset) => {
      const found = node.isText ? (node.text ?? '').indexOf(words) : -1;
      if (position < 0 && found >= 0) position = offset + found;
    });
    const selection = TextSelection.create(page, position, select ? position + words.length : position);
    const plugins = [tableEditing(), noteNumbering(), notesPlugin()];
    return EditorState.create({ doc: page, selection, plugins });
  }
  /** What comes of a command, with what plugins add to it, and the transactions it took. */
  function run(state: EditorState, command: Command): { state: EditorState; made: readonly Transaction[] } {
    let out = { state, made: [] as readonly Transaction[] };
    const could = command(state, (tr) => {
      const { state: after, transactions } = state.applyTransaction(tr);
      out = { state: after, made: transactions };
    });
    expect(could).toBeTrue();
    out.state.doc.check();
    return out;
  }

  it('set marks and take them off, and tell whether they are set', () => {
    const state = at(doc(p(text('the gate'))), 'gate', true);
    const bold = run(state, COMMANDS.bold).state;
    expect([hasMark(state, schema.marks.bold), hasMark(bold, schema.marks.bold)]).toEqual([false, true]);
    const linked = doc(p(schema.text('gate', [schema.mark('link', { href: '#a' }), schema.mark('bold')])));
    const plain = run(at(linked, 'gate', true), COMMANDS.plainLook).state;
    expect(plain.doc.firstChild?.firstChild?.marks.map(({ type }) => type.name)).toEqual(['link']);
    expect(COMMANDS.plainLook(at(doc(p(text('gate'))), 'gate', true))).toBeFalse();
  });

  it('put a footnote at the end with its sign where one was, and take it out with its sign', () => {
    const { state } = run(at(doc(p(text('gate'))), 'gate', true), COMMANDS.insertFootnote);
    expect(state.selection.$head.parent.type.name).toBe('footnote');
    const [sign, note] = notesIn(state.doc);
    expect([sign?.isSign, note?.isSign, sign?.name === note?.name]).toEqual([true, false, true]);
    expect(COMMANDS.insertFootnote(state)).toBeFalse();
    const without = state.applyTransaction(state.tr.delete(sign?.at ?? 0, (sign?.at ?? 0) + 1));
    expect(without.transactions.length).toBe(2);
    expect(without.state.doc.eq(doc(p(text('gate'))))).toBeTrue();
    const remote = state.tr.delete(sign?.at ?? 0, (sign?.at ?? 0) + 1).setMeta(REMOTE, true);
    expect(state.applyTransaction(remote).transactions.length).toBe(1);
  });

  it('number footnotes in the order of their signs', () => {
    const sign = (note: string): Node => schema.node('footnote_mark', { note });
    const note = (name: string): Node => schema.node('footnote', { note: name });
    const page = doc(p(text('a'), sign('two'), sign('one')), note('one'), note('two'), note('none'));
    const { plugins } = at(page, 'a');
    const numbers = plugins
      .flatMap(
        (plugin) => (plugin.getState(at(page, 'a')) as { find?: () => object[] } | undefined)?.find?.() ?? [],
      )
      .map((one) => one as { from: number; type: { attrs: Record<string, string> } })
      .sort((a, b) => a.from - b.from)
      .map(({ type }) => type.attrs['data-number']);
    expect(numbers).toEqual(['1', '2', '2', '1', '3']);
  });

  it('add, remove, merge and split cells, and change widths by attributes alone', () => {
    const state = at(doc(table()), 'b1');
    const shape = ({ doc: page }: EditorState): number[] =>
      page.firstChild?.children.map(({ childCount }) => childCount) ?? [];
    expect(shape(run(state, COMMANDS.rowAbove).state)).toEqual([2, 2, 2]);
    expect(shape(run(state, COMMANDS.columnBefore).state)).toEqual([3, 3]);
    expect(shape(run(state, COMMANDS.removeColumn).state)).toEqual([1, 1]);
    const wider = run(run(state, COMMANDS.wider).state, COMMANDS.narrower);
    expect(wider.made[0]?.steps.every((step) => step instanceof AttrStep)).toBeTrue();
    const widths = wider.state.doc.firstChild?.children.map((row) => row.child(1).attrs['colwidth']);
    expect(widths).toEqual([[140], [140]]);
    expect(run(wider.state, COMMANDS.evenColumns).state.doc.eq(state.doc)).toBeTrue();
    const both = state.apply(state.tr.setSelection(CellSelection.create(state.doc, 2, 8)));
    const merged = run(both, COMMANDS.mergeCells).state;
    expect(shape(merged)).toEqual([1, 2]);
    expect(COMMANDS.rowAbove(at(doc(p(text('x'))), 'x'))).toBeFalse();
  });

  it('tell a dragged column as attributes, and leave what does more as it is', () => {
    const state = at(doc(table()), 'a0');
    const dragged = state.tr.setNodeMarkup(2, null, { colspan: 1, rowspan: 1, colwidth: [90] });
    expect(dragged.steps[0]).toBeInstanceOf(ReplaceAroundStep);
    const told = byAttributes(state, dragged);
    expect(told?.steps.map((step) => (step instanceof AttrStep ? [step.attr, step.value] : null))).toEqual([
      ['colwidth', [90]],
    ]);
    expect(told?.doc.eq(dragged.doc)).toBeTrue();
    expect(byAttributes(state, state.tr.insertText('x', 4))).toBeNull();
    expect(byAttributes(state, state.tr.setNodeMarkup(2, schema.nodes.table_header))).toBeNull();
  });

  it('place an image, and change one thing of it at a time', () => {
    const image = schema.node('image', { hash: 'a'.repeat(64), alt: 'wheel' });
    const page = doc(p(image));
    const state = EditorState.create({ doc: page, selection: NodeSelection.create(page, 1) });
    const placed = run(state, COMMANDS.imageAtEnd);
    expect(imageIn(placed.state)?.attrs['place']).toBe('end');
    expect(COMMANDS.imageAtEnd(placed.state)).toBeFalse();
    const told = run(placed.state, setAttributes(1, { alt: 'wheel', caption: 'In 1911', width: null }));
    expect(told.made[0]?.steps.map((step) => (step as AttrStep).attr)).toEqual(['caption']);
    expect(imageIn(at(doc(p(text('x'))), 'x'))).toBeNull();
  });

  it('find the whole link round the caret, and where it leads', () => {
    const link = schema.mark('link', { href: 'https://mill.example' });
    const page = doc(
      p(text('to '), schema.text('the ', [link]), schema.text('mill', [link, schema.mark('bold')])),
    );
    const state = at(page, 'ill');
    expect(stretchOf(state)).toEqual({ from: 4, to: 12 });
    expect(addressIn(state, { from: 4, to: 12 })).toBe('https://mill.example');
    expect(stretchOf(at(page, 'o '))).toBeNull();
  });
});
