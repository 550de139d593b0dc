import { ALIGNMENTS, isNoteId, textSchema as schema } from '@oxbow/core/kinds/text';
import type { ImagePlace } from '@oxbow/core/kinds/text';
import { lift, setBlockType, toggleMark, wrapIn } from 'prosemirror-commands';
import type { Attrs, MarkType, NodeType } from 'prosemirror-model';
import { liftListItem, wrapInList } from 'prosemirror-schema-list';
import { NodeSelection, TextSelection } from 'prosemirror-state';
import type { Command, EditorState } from 'prosemirror-state';
import {
  addColumnAfter,
  addColumnBefore,
  addRowAfter,
  addRowBefore,
  deleteColumn,
  deleteRow,
  deleteTable,
  mergeCells,
  splitCell,
  toggleHeaderColumn,
  toggleHeaderRow,
} from 'prosemirror-tables';
import type { WritingActId } from '../../acting/writing-acts';
import { columnsEvened, columnWidened } from './columns';

const { nodes, marks } = schema;

/** Acts of writing that are done by themselves; the others ask something first. */
export type CommandId = Exclude<WritingActId, 'insertImage' | 'aboutImage' | 'pageSetup'>;

/** A mark with a value: sets it, or takes it off where it is set already. */
export function setMark(type: MarkType, attrs: Attrs): Command {
  return (state, dispatch) => {
    const { from, to, empty } = state.selection;
    if (empty) return false;
    const held =
      state.doc.rangeHasMark(from, to, type) &&
      type.isInSet(state.doc.resolve(from + 1).marks())?.eq(type.create(attrs));
    dispatch?.(held ? state.tr.removeMark(from, to, type) : state.tr.addMark(from, to, type.create(attrs)));
    return true;
  };
}

/** Takes off every mark that is about looks. */
const plainLook: Command = (state, dispatch) => {
  const { from, to, empty } = state.selection;
  if (empty) return false;
  const tr = state.tr;
  for (const type of Object.values(marks)) if (type !== marks.link) tr.removeMark(from, to, type);
  if (!tr.docChanged) return false;
  dispatch?.(tr);
  return true;
};

function insert(type: NodeType): Command {
  return (state, dispatch) => {
    dispatch?.(state.tr.replaceSelectionWith(type.create()).scrollIntoView());
    return true;
  };
}

const insertTable: Command = (state, dispatch) => {
  const row = (type: NodeType) =>
    nodes.table_row.create(
      null,
      [0, 1, 2].flatMap(() => type.createAndFill() ?? []),
    );
  const table = nodes.table.create(null, [
    row(nodes.table_header),
    row(nodes.table_cell),
    row(nodes.table_cell),
  ]);
  dispatch?.(state.tr.replaceSelectionWith(table).scrollIntoView());
  return true;
};

/** The sign at the end of what is selected, the footnote at the end of the document, and the caret in it. */
const insertFootnote: Command = (state, dispatch) => {
  const { $to } = state.selection;
  if (!$to.parent.inlineContent || !$to.parent.canReplaceWith($to.index(), $to.index(), nodes.footnote_mark))
    return false;
  if ($to.parent.type === nodes.footnote) return false;
  if (!dispatch) return true;
  const note = newNoteId();
  const tr = state.tr.insert($to.pos, nodes.footnote_mark.create({ note }));
  const end = tr.doc.content.size;
  tr.insert(end, nodes.footnote.create({ note }));
  dispatch(tr.setSelection(TextSelection.create(tr.doc, end + 1)).scrollIntoView());
  return true;
};

function newNoteId(): string {
  const id = crypto.randomUUID().replaceAll('-', '').slice(0, 12);
  if (!isNoteId(id)) throw new Error(`${id} names no footnote`);
  return id;
}

function align(value: string): Command {
  return (state, dispatch) => {
    const tr = state.tr;
    state.doc.nodesBetween(state.selection.from, state.selection.to, (node, position) => {
      if ('align' in node.attrs && node.attrs['align'] !== value)
        tr.setNodeAttribute(position, 'align', value);
    });
    if (!tr.docChanged) return false;
    dispatch?.(tr);
    return true;
  };
}

/** The image that is selected, and where it stands; null for none. */
export function imageIn(state: EditorState): { readonly position: number; readonly attrs: Attrs } | null {
  const { selection } = state;
  return selection instanceof NodeSelection && selection.node.type === nodes.image
    ? { position: selection.from, attrs: selection.node.attrs }
    : null;
}

/** Changes attributes of the node at a position, each by itself, so that what others change of it stays. */
export function setAttributes(position: number, attrs: Attrs): Command {
  return (state, dispatch) => {
    const node = state.doc.nodeAt(position);
    if (!node) return false;
    const tr = state.tr;
    for (const [name, value] of Object.entries(attrs))
      if (node.attrs[name] !== value) tr.setNodeAttribute(position, name, value);
    if (tr.docChanged && state.selection instanceof NodeSelection)
      tr.setSelection(NodeSelection.create(tr.doc, state.selection.from));
    dispatch?.(tr);
    return true;
  };
}

function placeImage(place: ImagePlace): Command {
  return (state, dispatch, view) => {
    const image = imageIn(state);
    if (!image || image.attrs['place'] === place) return false;
    return setAttributes(image.position, { place })(state, dispatch, view);
  };
}

const [start, center, end, justify] = ALIGNMENTS;

/** What each act of writing does to the page. */
export const COMMANDS: Readonly<Record<CommandId, Command>> = {
  paragraph: setBlockType(nodes.paragraph),
  heading1: setBlockType(nodes.heading, { level: 1 }),
  heading2: setBlockType(nodes.heading, { level: 2 }),
  heading3: setBlockType(nodes.heading, { level: 3 }),
  bulletList: wrapInList(nodes.bullet_list),
  numberedList: wrapInList(nodes.ordered_list),
  checkList: wrapInList(nodes.check_list),
  quote: wrapIn(nodes.quote),
  codeBlock: setBlockType(nodes.code_block),
  outOf: (state, dispatch) =>
    liftListItem(nodes.list_item)(state, dispatch) ||
    liftListItem(nodes.check_item)(state, dispatch) ||
    lift(state, dispatch),
  bold: toggleMark(marks.bold),
  italic: toggleMark(marks.italic),
  underline: toggleMark(marks.underline),
  strike: toggleMark(marks.strike),
  subscript: toggleMark(marks.subscript),
  superscript: toggleMark(marks.superscript),
  code: toggleMark(marks.code),
  plainLook,
  alignStart: align(start),
  alignCenter: align(center),
  alignEnd: align(end),
  alignJustify: align(justify),
  insertTable,
  insertFootnote,
  insertRule: insert(nodes.rule),
  insertPageBreak: insert(nodes.page_break),
  rowAbove: addRowBefore,
  rowBelow: addRowAfter,
  columnBefore: addColumnBefore,
  columnAfter: addColumnAfter,
  removeRow: deleteRow,
  removeColumn: deleteColumn,
  mergeCells,
  splitCell,
  headingRow: toggleHeaderRow,
  headingColumn: toggleHeaderColumn,
  wider: columnWidened(40),
  narrower: columnWidened(-40),
  evenColumns: columnsEvened,
  removeTable: deleteTable,
  imageInLine: placeImage('line'),
  imageAtStart: placeImage('start'),
  imageAtEnd: placeImage('end'),
  imageWide: placeImage('wide'),
};

/** Marks by the acts that set them, for telling whether they are set. */
export const MARK_OF: Partial<Record<CommandId, MarkType>> = {
  bold: marks.bold,
  italic: marks.italic,
  underline: marks.underline,
  strike: marks.strike,
  subscript: marks.subscript,
  superscript: marks.superscript,
  code: marks.code,
};

/** Whether the text in hand has a mark. */
export function hasMark(state: EditorState, type: MarkType): boolean {
  const { from, $from, to, empty } = state.selection;
  return empty
    ? type.isInSet(state.storedMarks ?? $from.marks()) !== undefined
    : state.doc.rangeHasMark(from, to, type);
}
