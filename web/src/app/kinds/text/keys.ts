import { textSchema as schema } from '@oxbow/core/kinds/text';
import { baseKeymap, chainCommands, exitCode } from 'prosemirror-commands';
import { dropCursor } from 'prosemirror-dropcursor';
import { gapCursor } from 'prosemirror-gapcursor';
import { InputRule, inputRules, textblockTypeInputRule, wrappingInputRule } from 'prosemirror-inputrules';
import { keymap } from 'prosemirror-keymap';
import { search } from 'prosemirror-search';
import { liftListItem, sinkListItem, splitListItem } from 'prosemirror-schema-list';
import { Plugin } from 'prosemirror-state';
import type { Command } from 'prosemirror-state';
import { goToNextCell, tableEditing } from 'prosemirror-tables';
import type { Act } from '../../acting/act';
import { WRITING_ACTS } from '../../acting/writing-acts';
import { erasedBars } from '../../document/erased';
import { noteNumbering } from '../../document/notes';
import { REMOTE } from '../../document/remote';
import { columnDragging } from './columns';
import type { CommandId } from './commands';
import { COMMANDS } from './commands';
import { backToSign, notesPlugin } from './notes';

const { nodes } = schema;

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
      ...keysOfActs(),
      'Shift-Enter': lineBreak,
      Enter: chainCommands(backToSign, ...items.map((item) => splitListItem(item))),
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
    columnDragging(),
    erasedBars(),
    tables(),
    noteNumbering(),
    notesPlugin(),
  ];
}

/** The keys of the acts of writing, as the editor names them. */
function keysOfActs(): Record<string, Command> {
  return Object.fromEntries(
    (Object.keys(COMMANDS) as CommandId[]).flatMap((id) => {
      const { keys }: Act = WRITING_ACTS[id];
      return keys
        ? [[keys.replace('mod', 'Mod').replace('alt', 'Alt').replaceAll('+', '-'), COMMANDS[id]]]
        : [];
    }),
  );
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
