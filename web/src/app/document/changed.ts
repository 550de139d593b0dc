import type { Transaction } from 'prosemirror-state';
import { AttrStep } from 'prosemirror-transform';
import type { OwnMeta } from './own-acts';
import { OWN } from './own-acts';

/** Whether a transaction undoes or redoes something of one's own. */
export function isReversal(tr: Transaction): boolean {
  const own = tr.getMeta(OWN) as OwnMeta | undefined;
  return own?.cause.kind === 'undo' || own?.cause.kind === 'redo';
}

/** Where a transaction changed something, as positions after it. */
export function changedIn(tr: Transaction): number[] {
  return tr.steps.flatMap((step, i) => {
    const after = tr.mapping.slice(i + 1);
    const found: number[] = [];
    step.getMap().forEach((_from, _to, from, to) => found.push(after.map(to > from ? from + 1 : from, 1)));
    if (step instanceof AttrStep) found.push(after.map(step.pos + 1));
    return found;
  });
}
