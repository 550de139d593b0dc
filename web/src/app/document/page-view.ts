import type { EditorState, Transaction } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';
import type { Standpoint } from './kinds';

/** What shows the page and takes what is written on it: the editor of whichever kind the document is. */
export interface PageView {
  readonly state: EditorState;
  /** Where one stands on it, for others to see. */
  readonly standpoint: Standpoint;
  dispatch(tr: Transaction): void;
  /** How high in the window a position stands, in pixels; null where it is not shown. */
  heightOf(position: number): number | null;
  /** The position that stands at a height of the window. */
  positionAt(top: number): number | null;
}

/** An editor as the document it shows has it. */
export function pageOf(view: EditorView): PageView {
  const left = (): number => view.dom.getBoundingClientRect().left + 8;
  return {
    get state() {
      return view.state;
    },
    get standpoint() {
      const { anchor, head } = view.state.selection;
      return { anchor, head };
    },
    dispatch: (tr) => view.dispatch(tr),
    heightOf: (position) => view.coordsAtPos(position).top,
    positionAt: (top) => view.posAtCoords({ left: left(), top })?.pos ?? null,
  };
}
