import { textSchema as schema } from '@oxbow/core/kinds/text';
import { Plugin, TextSelection } from 'prosemirror-state';
import type { Command, EditorState, Transaction } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';
import { notesIn } from '../../document/notes';
import { REMOTE } from '../../document/remote';
import { OWN } from '../../document/own-acts';

const { footnote, footnote_mark } = schema.nodes;

/** A click on the sign of a footnote leads to it; a footnote whose last sign its writer takes out goes with it. */
export function notesPlugin(): Plugin {
  return new Plugin({
    props: {
      handleClickOn: (view, _position, node) =>
        node.type === footnote_mark && goTo(view, String(node.attrs['note']), false),
    },
    appendTransaction: (transactions, before, after) => withoutOrphans(transactions, before, after),
  });
}

function withoutOrphans(
  transactions: readonly Transaction[],
  before: EditorState,
  after: EditorState,
): Transaction | null {
  const typed = transactions.some(
    (tr) => tr.docChanged && tr.getMeta(REMOTE) === undefined && tr.getMeta(OWN) === undefined,
  );
  if (!typed) return null;
  const signs = (state: EditorState): Set<string> =>
    new Set(notesIn(state.doc).flatMap(({ name, isSign }) => (isSign ? [name] : [])));
  const [had, has] = [signs(before), signs(after)];
  const gone = [...had].filter((name) => !has.has(name));
  if (gone.length === 0) return null;
  const tr = after.tr;
  for (const { name, isSign, at, size } of notesIn(after.doc).reverse())
    if (!isSign && gone.includes(name)) tr.delete(at, at + size);
  return tr.docChanged ? tr : null;
}

/** Goes to a footnote, or to its first sign. */
function goTo(view: EditorView, name: string, toSign: boolean): boolean {
  const found = notesIn(view.state.doc).find((one) => one.name === name && one.isSign === toSign);
  if (!found) return false;
  const at = toSign ? found.at + found.size : found.at + found.size - 1;
  view.dispatch(view.state.tr.setSelection(TextSelection.create(view.state.doc, at)).scrollIntoView());
  view.focus();
  return true;
}

/** In a footnote: back to where its sign stands. */
export const backToSign: Command = (state, _dispatch, view) => {
  const { parent } = state.selection.$head;
  return parent.type === footnote && view !== undefined && goTo(view, String(parent.attrs['note']), true);
};
