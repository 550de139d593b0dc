import { ReplaceAroundStep, ReplaceStep } from 'prosemirror-transform';
import type { Step } from 'prosemirror-transform';
import { FILLER, isErased, tokensIn } from '../content/index.js';
import type { Token, Work } from '../content/index.js';
import { insertedLengths } from '../history/index.js';
import type { Source } from '../history/index.js';
import { blankedInsertion, unclaimedInsertion } from './blank-steps.js';
import { Instances } from './instances.js';

/**
 * Steps that somebody sends, with what they bring of erased content erased in them too, as when it was cut out before and put in again by
 * somebody who was away; and without signs that only say that something was erased. `tokens` gives what the edit that a source
 * names inserted, as it stands now. No map changes. Rests now and then.
 */
export function* withErased(
  steps: readonly Step[],
  sources: readonly Source[],
  tokens: (source: Source) => readonly Token[],
): Work<readonly Step[]> {
  const starts = startsOf(steps);
  const gone: { seq: number; offset: number; length: number }[] = [];
  for (const source of sources) {
    const { step, at, length, offset } = source;
    const held = tokens(source);
    for (let i = 0; i < length; i++) {
      const token = held[offset + i];
      if (token && isErased(token)) gone.push({ seq: 0, offset: (starts[step] ?? 0) + at + i, length: 1 });
    }
    yield;
  }
  if (gone.length === 0 && !steps.some(claims)) return steps;
  const spans = Instances.of(gone).of(0);
  const blanked = steps.map((step, i) => blankedInsertion(step, spans, starts[i] ?? 0));
  const erased = new Set(gone.map(({ offset }) => offset));
  const inserted = yield* tokensIn(blanked);
  const claimed = inserted.flatMap((token, offset) =>
    token.kind === 'unit' && isErased(token) && !erased.has(offset) ? [{ seq: 0, offset, length: 1 }] : [],
  );
  if (claimed.length === 0) return blanked;
  const only = Instances.of(claimed).of(0);
  return blanked.map((step, i) => unclaimedInsertion(step, only, starts[i] ?? 0));
}

/** Whether a step brings text that says of itself that it was erased. */
function claims(step: Step): boolean {
  if (!(step instanceof ReplaceStep || step instanceof ReplaceAroundStep)) return false;
  const { content } = step.slice;
  return content.size > 0 && content.textBetween(0, content.size).includes(FILLER);
}

function startsOf(steps: readonly Step[]): number[] {
  let sum = 0;
  return insertedLengths(steps).map((length) => (sum += length) - length);
}
