import { readSteps } from '@oxbow/core/history';
import type { Node } from 'prosemirror-model';
import { ReplaceStep } from 'prosemirror-transform';
import { NOBODY } from '../access/view.js';
import type { StoredEdit } from '../store/log.js';
import { Slices } from '../threads/slices.js';

/**
 * Edits as they are told to somebody who has a document only as it is now and was away: from what they had they come to what is there now,
 * without the moments between. Their own edits stay as they are, so that they know which were taken; of others' in a row
 * the last one holds all the difference and the rest nothing, and nobody made them. `before` is the document they had.
 */
export async function blended(
  edits: readonly StoredEdit[],
  before: Node,
  isOwn: (edit: StoredEdit) => boolean,
): Promise<StoredEdit[]> {
  const slices = new Slices();
  const told: StoredEdit[] = [];
  let [from, now] = [before, before];
  for (const [i, edit] of edits.entries()) {
    for (const step of readSteps(now.type.schema, JSON.parse(edit.steps) as object[])) {
      const { doc } = step.apply(now);
      if (!doc) throw new Error(`Edit ${edit.seq} of document ${edit.document} cannot be applied`);
      now = doc;
    }
    await slices.rest();
    if (isOwn(edit)) told.push(edit);
    else {
      const next = edits[i + 1];
      const isLast = !next || isOwn(next);
      const steps = isLast ? difference(from, now).map((step) => step.toJSON() as object) : [];
      told.push({
        ...edit,
        author: NOBODY,
        client: '',
        counter: 0,
        steps: JSON.stringify(steps),
        sources: null,
        quoted: null,
        cause: null,
        wordsIn: 0,
        wordsOut: 0,
      });
    }
    if (!edits[i + 1] || isOwn(edit) || isOwn(edits[i + 1] as StoredEdit)) from = now;
  }
  return told;
}

/** The one step from a document to another. */
function difference(from: Node, to: Node): ReplaceStep[] {
  const start = from.content.findDiffStart(to.content);
  const end = from.content.findDiffEnd(to.content);
  if (start === null || !end) return [];
  const overlap = Math.max(0, start - Math.min(end.a, end.b));
  return [new ReplaceStep(start, end.a + overlap, to.slice(start, end.b + overlap))];
}
