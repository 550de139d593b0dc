import { ALIGNMENTS } from '@oxbow/core/kinds/text';
import { lift, setBlockType, toggleMark } from 'prosemirror-commands';
import type { Attrs, MarkType, Schema } from 'prosemirror-model';
import { liftListItem, wrapInList } from 'prosemirror-schema-list';
import { NodeSelection } from 'prosemirror-state';
import type { Command, EditorState } from 'prosemirror-state';
import type { WritingActId } from '../acting/writing-acts';

/** Marks that are there or not, by the acts that set them. */
const TOGGLES = ['bold', 'italic', 'underline', 'strike', 'subscript', 'superscript', 'code'] as const;

/** What any text can be, whatever document it stands in. */
export type ProseCommandId = Extract<
  WritingActId,
  | (typeof TOGGLES)[number]
  | 'paragraph'
  | 'bulletList'
  | 'numberedList'
  | 'outOf'
  | 'plainLook'
  | 'alignStart'
  | 'alignCenter'
  | 'alignEnd'
  | 'alignJustify'
>;

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
  for (const type of Object.values(state.schema.marks))
    if (type.name !== 'link') tr.removeMark(from, to, type);
  if (!tr.docChanged) return false;
  dispatch?.(tr);
  return true;
};

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

/** What is done to text in a document of a schema that has paragraphs, lists and the marks of text. */
export function proseCommands({
  nodes,
  marks,
}: Schema<'paragraph' | 'bullet_list' | 'ordered_list' | 'list_item', (typeof TOGGLES)[number]>): Readonly<
  Record<ProseCommandId, Command>
> {
  const [start, center, end, justify] = ALIGNMENTS;
  const toggles = Object.fromEntries(TOGGLES.map((name) => [name, toggleMark(marks[name])]));
  return {
    ...(toggles as Record<(typeof TOGGLES)[number], Command>),
    paragraph: setBlockType(nodes.paragraph),
    bulletList: wrapInList(nodes.bullet_list),
    numberedList: wrapInList(nodes.ordered_list),
    outOf: (state, dispatch) => liftListItem(nodes.list_item)(state, dispatch) || lift(state, dispatch),
    plainLook,
    alignStart: align(start),
    alignCenter: align(center),
    alignEnd: align(end),
    alignJustify: align(justify),
  };
}

/** Whether an act sets a mark, and the text in hand has it. */
export function isOn(state: EditorState, id: WritingActId): boolean {
  const type = (TOGGLES as readonly string[]).includes(id) ? state.schema.marks[id] : undefined;
  return type !== undefined && hasMark(state, type);
}

/** Whether the text in hand has a mark. */
export function hasMark(state: EditorState, type: MarkType): boolean {
  const { from, $from, to, empty } = state.selection;
  return empty
    ? type.isInSet(state.storedMarks ?? $from.marks()) !== undefined
    : state.doc.rangeHasMark(from, to, type);
}
