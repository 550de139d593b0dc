import { chainCommands, exitCode } from 'prosemirror-commands';
import type { Command } from 'prosemirror-state';
import type { Act } from '../acting/act';
import { WRITING_ACTS } from '../acting/writing-acts';
import type { WritingActId } from '../acting/writing-acts';

/** What the keys of an editor lead to beside it. */
export interface Ways {
  readonly undo: (which: 'undo' | 'redo') => boolean;
  readonly toTools: () => boolean;
  /** To the life of the paragraph at a position. */
  readonly toLife: (position: number) => void;
}

/** A new line in the same paragraph. */
const lineBreak: Command = chainCommands(exitCode, ({ schema, tr }, dispatch) => {
  const node = schema.nodes['hard_break']?.create();
  if (node) dispatch?.(tr.replaceSelectionWith(node).scrollIntoView());
  return node !== undefined;
});

/** The keys that every page of text has, by how the editor names them: undo as the desk does it, the ways off the page, and those of acts. */
export function proseKeys(
  { undo, toTools, toLife }: Ways,
  commands: Readonly<Partial<Record<WritingActId, Command>>>,
): Record<string, Command> {
  return {
    'Mod-z': () => undo('undo'),
    'Mod-y': () => undo('redo'),
    'Shift-Mod-z': () => undo('redo'),
    ...keysOfActs(commands),
    'Shift-Enter': lineBreak,
    'Alt-Enter': toTools,
    'Alt-l': (state) => {
      toLife(state.selection.head);
      return true;
    },
  };
}

/** The keys of the acts of writing, as the editor names them. */
function keysOfActs(commands: Readonly<Partial<Record<WritingActId, Command>>>): Record<string, Command> {
  return Object.fromEntries(
    (Object.entries(commands) as [WritingActId, Command][]).flatMap(([id, command]) => {
      const { keys }: Act = WRITING_ACTS[id];
      return keys ? [[keys.replace('mod', 'Mod').replace('alt', 'Alt').replaceAll('+', '-'), command]] : [];
    }),
  );
}
