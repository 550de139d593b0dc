import { BUDGETS } from '@oxbow/contract';
import type { EditsMessage } from '@oxbow/contract';
import { Trouble } from '../trouble/trouble.js';

/**
 * Holds a message against the budgets that no schema can state, before anything of it is worked on. Throws 413 or 422
 * naming the one that it goes beyond.
 */
export function checkBudgets(edits: EditsMessage['edits']): void {
  const bytes = weightOf(edits);
  if (bytes > BUDGETS.messageBytes)
    throw new Trouble(
      413,
      'This is too much at once',
      `A message may hold ${BUDGETS.messageBytes} bytes (messageBytes). Bring a large text in as a file.`,
      [{ path: 'edits', message: 'hold too many bytes' }],
    );
  bounded('steps', 'messageSteps', edits);
  bounded('sources', 'messageSources', edits);
}

function bounded(
  what: 'steps' | 'sources',
  budget: 'messageSteps' | 'messageSources',
  edits: EditsMessage['edits'],
): void {
  const held = edits.reduce((sum, edit) => sum + edit[what].length, 0);
  if (held > BUDGETS[budget])
    throw Trouble.field(
      'edits',
      `hold ${held} ${what}; at most ${BUDGETS[budget]} are taken at once (${budget})`,
    );
}

/** About the bytes that a plain value takes as JSON. Never recurses. */
function weightOf(value: unknown): number {
  const stack: unknown[] = [value];
  let bytes = 0;
  while (stack.length > 0) {
    const one = stack.pop();
    bytes += typeof one === 'string' ? one.length + 3 : 4;
    if (typeof one !== 'object' || one === null) continue;
    for (const [name, held] of Object.entries(one)) {
      bytes += name.length;
      stack.push(held);
    }
  }
  return bytes;
}
