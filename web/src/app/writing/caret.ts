import type { EditorView } from 'prosemirror-view';

/**
 * Lets the editor hear where the caret is now. A browser that is busy tells of a moved caret only after the next key, which would then
 * be done where the caret was before. The editor has no public way to be asked; without this one it hears as late as it always did.
 */
export function hearCaret(view: EditorView): boolean {
  const { domObserver } = view as unknown as {
    domObserver?: { forceFlush?: () => void; flush?: () => void };
  };
  domObserver?.forceFlush?.();
  domObserver?.flush?.();
  return false;
}
