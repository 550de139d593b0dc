import type { Mark, ResolvedPos } from 'prosemirror-model';
import type { EditorState } from 'prosemirror-state';

/** The link among marks. */
function linkIn(marks: readonly Mark[] = []): Mark | undefined {
  return marks.find(({ type }) => type.name === 'link');
}

/** A stretch of the page that a link is on, or can be put on. */
export interface Stretch {
  readonly from: number;
  readonly to: number;
}

/** The whole link that a place is in, or at the edge of; null where it is in none. */
function linkRound($at: ResolvedPos): Stretch | null {
  const { nodeAfter, nodeBefore } = $at;
  const held = linkIn(nodeAfter?.marks) ?? linkIn(nodeBefore?.marks);
  if (!held) return null;
  const { parent } = $at;
  const holds = (index: number): boolean => {
    const node = index >= 0 && index < parent.childCount ? parent.child(index) : null;
    return node !== null && held.isInSet(node.marks);
  };
  let [first, last] = [$at.index(), $at.index()];
  if (!holds(first)) first = last = first - 1;
  while (holds(first - 1)) first--;
  while (holds(last + 1)) last++;
  const from = $at.posAtIndex(first);
  return { from, to: $at.posAtIndex(last) + parent.child(last).nodeSize };
}

/** What a link would be put on: what is selected, or the whole link that the caret is in; null for neither. */
export function stretchOf({ selection }: EditorState): Stretch | null {
  const { from, to, empty, $from } = selection;
  return empty ? linkRound($from) : { from, to };
}

/** Where the first link in a stretch leads; empty for none. */
export function addressIn({ doc }: EditorState, { from, to }: Stretch): string {
  let href = '';
  doc.nodesBetween(from, to, (node) => {
    href ||= String(linkIn(node.marks)?.attrs['href'] ?? '');
  });
  return href;
}
