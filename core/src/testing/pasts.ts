import type { Node } from 'prosemirror-model';
import type { Makers } from '../past/index.js';
import { Letters, Tape } from '../past/index.js';
import type { Random } from './random.js';
import type { History, Mix } from './writers.js';
import { writeHistory } from './writers.js';

/** A made-up history with its tape, and full copies of every state to check against. */
export interface Past extends History {
  readonly tape: Tape;
  readonly letters: Letters;
  readonly makers: Makers;
}

/** Writes a random history of `length` edits, with what is needed to look back at it. */
export function writePast(random: Random, length: number, mix: Mix = {}): Past {
  const history = writeHistory(random, length, mix);
  const letters = Letters.starting(history.docs[0] as Node);
  for (const { steps } of history.edits) letters.append(steps);
  const makers: Makers = (seq) => {
    const edit = history.edits[seq - 1];
    return { author: edit?.author ?? '', at: edit?.acceptedAt ?? 0 };
  };
  return { ...history, letters, makers, tape: new Tape(history.provenance.runs, letters) };
}

/** The texts of a document's text blocks, in order; what is no text left out of them. */
export function blockTexts(doc: Node): string[] {
  const out: string[] = [];
  doc.descendants((node) => {
    if (!node.isTextblock) return true;
    out.push(node.textContent);
    return false;
  });
  return out;
}
