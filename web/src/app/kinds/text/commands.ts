import { isNoteId, textSchema as schema } from '@oxbow/core/kinds/text';
import type { ImagePlace } from '@oxbow/core/kinds/text';
import { setBlockType, wrapIn } from 'prosemirror-commands';
import type { Attrs, NodeType } from 'prosemirror-model';
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
import { proseCommands, setAttributes } from '../../writing/commands';
import { columnsEvened, columnWidened } from './columns';

const { nodes } = schema;
const prose = proseCommands(schema);

/** Acts of writing that are done by themselves; the others ask something first. */
export type CommandId = Exclude<WritingActId, 'insertImage' | 'aboutImage' | 'pageSetup'>;

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

/** The image that is selected, and where it stands; null for none. */
export function imageIn(state: EditorState): { readonly position: number; readonly attrs: Attrs } | null {
  const { selection } = state;
  return selection instanceof NodeSelection && selection.node.type === nodes.image
    ? { position: selection.from, attrs: selection.node.attrs }
    : null;
}

function placeImage(place: ImagePlace): Command {
  return (state, dispatch, view) => {
    const image = imageIn(state);
    if (!image || image.attrs['place'] === place) return false;
    return setAttributes(image.position, { place })(state, dispatch, view);
  };
}

/** What each act of writing does to the page. */
export const COMMANDS: Readonly<Record<CommandId, Command>> = {
  ...prose,
  heading1: setBlockType(nodes.heading, { level: 1 }),
  heading2: setBlockType(nodes.heading, { level: 2 }),
  heading3: setBlockType(nodes.heading, { level: 3 }),
  checkList: wrapInList(nodes.check_list),
  quote: wrapIn(nodes.quote),
  codeBlock: setBlockType(nodes.code_block),
  outOf: (state, dispatch) => liftListItem(nodes.check_item)(state, dispatch) || prose.outOf(state, dispatch),
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
