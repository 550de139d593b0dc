import { textSchema as schema } from '@oxbow/core/kinds/text';
import { baseKeymap, chainCommands } from 'prosemirror-commands';
import { dropCursor } from 'prosemirror-dropcursor';
import { gapCursor } from 'prosemirror-gapcursor';
import { InputRule, inputRules, textblockTypeInputRule, wrappingInputRule } from 'prosemirror-inputrules';
import { keymap } from 'prosemirror-keymap';
import { search } from 'prosemirror-search';
import { liftListItem, sinkListItem, splitListItem } from 'prosemirror-schema-list';
import { Plugin } from 'prosemirror-state';
import { goToNextCell, tableEditing } from 'prosemirror-tables';
import { erasedBars } from '../../document/erased';
import { noteNumbering } from '../../document/notes';
import { REMOTE } from '../../document/remote';
import { proseKeys } from '../../writing/keys';
import type { Ways } from '../../writing/keys';
import { columnDragging } from './columns';
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

const items = [nodes.list_item, nodes.check_item];

/** The editor's plugins, with undo and the ways off the page as the desk does them. */
export function writingPlugins(ways: Ways): Plugin[] {
  return [
    rules,
    keymap({
      ...proseKeys(ways, COMMANDS),
      Enter: chainCommands(backToSign, ...items.map((item) => splitListItem(item))),
      Tab: chainCommands(goToNextCell(1), ...items.map((item) => sinkListItem(item))),
      'Shift-Tab': chainCommands(goToNextCell(-1), ...items.map((item) => liftListItem(item))),
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
