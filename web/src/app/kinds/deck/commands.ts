import { deckSchema as schema, slidesOf } from '@oxbow/core/kinds/deck';
import { baseKeymap, chainCommands } from 'prosemirror-commands';
import { dropCursor } from 'prosemirror-dropcursor';
import { inputRules, wrappingInputRule } from 'prosemirror-inputrules';
import { keymap } from 'prosemirror-keymap';
import { liftListItem, sinkListItem, splitListItem } from 'prosemirror-schema-list';
import { search } from 'prosemirror-search';
import { NodeSelection } from 'prosemirror-state';
import type { Command, EditorState, Plugin } from 'prosemirror-state';
import { erasedBars } from '../../document/erased';
import { proseCommands } from '../../writing/commands';
import { proseKeys } from '../../writing/keys';
import type { Ways } from '../../writing/keys';
import { inHand, oneSlide } from './in-hand';
import type { Thing } from './things';
import { enter, placeOf, putAt, selectionOf, stationsOf, thingIn } from './things';

/** What each act of writing does on a slide. */
export const COMMANDS = proseCommands(schema);

/** How far an arrow key moves a box, in units of the slide. */
const STEP = 200;
const ARROWS = {
  ArrowLeft: [-STEP, 0],
  ArrowRight: [STEP, 0],
  ArrowUp: [0, -STEP],
  ArrowDown: [0, STEP],
} as const;

/** What typing at the start of a line turns it into. */
const rules = inputRules({
  rules: [
    wrappingInputRule(/^\s*[-*]\s$/, schema.nodes.bullet_list),
    wrappingInputRule(/^(\d+)\.\s$/, schema.nodes.ordered_list, (match) => ({ start: Number(match[1]) })),
  ],
});

/** What stands on the slide in hand, and which of it the selection is in or is. */
function stationsIn(state: EditorState): { stations: Thing[]; index: number } {
  const at = inHand(state);
  const slide = slidesOf(state.doc).find((one) => one.at === at);
  const stations = slide ? stationsOf(slide) : [];
  const { from } = state.selection;
  return {
    stations,
    index: stations.findIndex((one) => from >= one.at && from < one.at + one.node.nodeSize),
  };
}

/** To what stands before or behind on the slide; at the ends the keys go where they go. */
function toNext(by: 1 | -1): Command {
  return (state, dispatch) => {
    const { stations, index } = stationsIn(state);
    const next = stations[index + by];
    if (!next || index < 0) return false;
    dispatch?.(enter(state.tr, next).scrollIntoView());
    return true;
  };
}

/** Selects the whole box that the caret is in. */
const pickBox: Command = (state, dispatch) => {
  const thing = thingIn(state);
  if (!thing || state.selection instanceof NodeSelection) return false;
  dispatch?.(state.tr.setSelection(NodeSelection.create(state.doc, thing.at)));
  return true;
};

/** Into the text of a box that is selected. */
const enterBox: Command = (state, dispatch) => {
  const { selection } = state;
  const thing = selection instanceof NodeSelection ? thingIn(state) : null;
  if (!thing || thing.node.isLeaf) return false;
  dispatch?.(enter(state.tr, thing));
  return true;
};

/** A title is one line: what follows is the first box. */
const outOfTitle: Command = (state, dispatch) =>
  state.selection.$from.parent.type.name === 'title' && toNext(1)(state, dispatch);

/** All of the text that one is in. */
const pickText: Command = (state, dispatch) => {
  const { stations, index } = stationsIn(state);
  const here = stations[index];
  if (!here) return false;
  dispatch?.(state.tr.setSelection(selectionOf(state.tr, here)));
  return true;
};

/** Moves or sizes the box or picture that is selected. */
function nudge(key: keyof typeof ARROWS, sizes: boolean): Command {
  return (state, dispatch) => {
    const thing = state.selection instanceof NodeSelection ? thingIn(state) : null;
    if (!thing) return false;
    const { tr } = state;
    const { x, y, width, height } = placeOf(thing);
    const [right, down] = ARROWS[key];
    putAt(
      tr,
      thing,
      sizes
        ? { x, y, width: width + right, height: height + down }
        : { x: x + right, y: y + down, width, height },
    );
    if (tr.docChanged) dispatch?.(tr);
    return true;
  };
}

/** What the keys of a deck lead to, beside those of any text. */
export interface DeckWays extends Ways {
  readonly toSlide: (by: 1 | -1) => void;
  readonly mayWrite: () => boolean;
}

/** The editor's plugins, with undo and the ways off the page as the desk does them. */
export function deckPlugins(ways: DeckWays): Plugin[] {
  const go =
    (by: 1 | -1): Command =>
    () => {
      ways.toSlide(by);
      return true;
    };
  const writes =
    (command: Command): Command =>
    (state, dispatch, view) =>
      ways.mayWrite() && command(state, dispatch, view);
  const arrows = (Object.keys(ARROWS) as (keyof typeof ARROWS)[]).flatMap((key) => [
    [key, writes(nudge(key, false))] as const,
    [`Shift-${key}`, writes(nudge(key, true))] as const,
  ]);
  const item = schema.nodes.list_item;
  return [
    oneSlide(),
    rules,
    keymap({
      ...proseKeys(ways, COMMANDS),
      ...Object.fromEntries(arrows),
      Enter: chainCommands(enterBox, outOfTitle, splitListItem(item)),
      Tab: chainCommands(writes(sinkListItem(item)), toNext(1)),
      'Shift-Tab': chainCommands(writes(liftListItem(item)), toNext(-1)),
      Escape: pickBox,
      'Mod-a': pickText,
      PageUp: go(-1),
      PageDown: go(1),
    }),
    keymap(baseKeymap),
    dropCursor({ color: 'var(--accent)' }),
    search(),
    erasedBars(),
  ];
}
