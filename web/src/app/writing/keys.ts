import { textSchema as schema } from '@oxbow/core/content';
import { baseKeymap, chainCommands, exitCode, setBlockType, toggleMark, wrapIn } from 'prosemirror-commands';
import { dropCursor } from 'prosemirror-dropcursor';
import { gapCursor } from 'prosemirror-gapcursor';
import { InputRule, inputRules, textblockTypeInputRule, wrappingInputRule } from 'prosemirror-inputrules';
import { keymap } from 'prosemirror-keymap';
import { search } from 'prosemirror-search';
import { liftListItem, sinkListItem, splitListItem } from 'prosemirror-schema-list';
import { Plugin } from 'prosemirror-state';
import type { Command } from 'prosemirror-state';
import { goToNextCell, tableEditing } from 'prosemirror-tables';
import { REMOTE } from '../document/remote';

const { nodes, marks } = schema;

/** What typing at the start of a block turns it into. */
const rules = inputRules({
  rules: [
    textblockTypeInputRule(/^(#{1,3})\s$/, nodes.heading, (match) => ({ level: match[1]?.length ?? 1 })),
    textblockTypeInputRule(/^```$/, nodes.code_block),
    wrappingInputRule(/^\s*[-*]\s$/, nodes.bullet_list),
    wrappingInputRule(/^(\d+)\.\s$/, nodes.ordered_list, (match) => ({ start: Number(match[1]) })),
    wrappingInputRule(/^\[\s?\]\s$/, nodes.check_list),
    wrappingInputRule(/^>\s$/, nodes.quote),
    new InputRule(/^---$/, (state, _match, start, end) =>
      state.tr.replaceRangeWith(start - 1, end, nodes.rule.create()),
    ),
  ],
});

const lineBreak: Command = chainCommands(exitCode, (state, dispatch) => {
  dispatch?.(state.tr.replaceSelectionWith(nodes.hard_break.create()).scrollIntoView());
  return true;
});

const items = [nodes.list_item, nodes.check_item];

/** What the keys of the editor lead to on the desk. */
export interface Ways {
  readonly undo: (which: 'undo' | 'redo') => boolean;
  readonly toTools: () => boolean;
  /** To the life of the paragraph at a position. */
  readonly toLife: (position: number) => void;
}

/** The editor's plugins, with undo and the ways off the page as the desk does them. */
export function writingPlugins({ undo, toTools, toLife }: Ways): Plugin[] {
  return [
    rules,
    keymap({
      'Mod-z': () => undo('undo'),
      'Mod-y': () => undo('redo'),
      'Shift-Mod-z': () => undo('redo'),
      'Mod-b': toggleMark(marks.bold),
      'Mod-i': toggleMark(marks.italic),
      'Mod-u': toggleMark(marks.underline),
      'Mod-e': toggleMark(marks.code),
      'Mod-Alt-0': setBlockType(nodes.paragraph),
      'Mod-Alt-1': setBlockType(nodes.heading, { level: 1 }),
      'Mod-Alt-2': setBlockType(nodes.heading, { level: 2 }),
      'Mod-Alt-3': setBlockType(nodes.heading, { level: 3 }),
      'Mod-Shift-9': wrapIn(nodes.quote),
      'Shift-Enter': lineBreak,
      Enter: chainCommands(...items.map((item) => splitListItem(item))),
      Tab: chainCommands(goToNextCell(1), ...items.map((item) => sinkListItem(item))),
      'Shift-Tab': chainCommands(goToNextCell(-1), ...items.map((item) => liftListItem(item))),
      'Alt-Enter': toTools,
      'Alt-l': (state) => {
        toLife(state.selection.head);
        return true;
      },
    }),
    keymap(baseKeymap),
    dropCursor({ color: 'var(--accent)' }),
    gapCursor(),
    search(),
    tables(),
  ];
}

/** Editing of tables; what comes from the server is left as it is, for the server mends tables itself. */
function tables(): Plugin {
  const plugin = tableEditing();
  const { spec } = plugin;
  return new Plugin({
    ...spec,
    appendTransaction: (transactions, before, after) =>
      transactions.some((tr) => tr.getMeta(REMOTE) === true)
        ? null
        : spec.appendTransaction?.apply(plugin, [transactions, before, after]),
  });
}
