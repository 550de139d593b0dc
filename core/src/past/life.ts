import type { Block } from './block.js';
import { blockAt, lastEvent, nextEvent } from './block.js';
import type { AtomPart, Origins } from './origins.js';
import { originsOf } from './origins.js';
import type { Makers, Tape } from './tape.js';

/** How a passage came by a form, or by its end. */
export type Turn = 'written' | 'copied' | 'changed' | 'split' | 'joined' | 'moved' | 'removed' | 'returned';

/** One form of a passage, from the edit that made it on. Of one that was removed, `text` is empty. */
export interface PassageForm {
  readonly seq: number;
  readonly turn: Turn;
  readonly text: string;
  /** What was split off, or what it was joined with. */
  readonly with: readonly string[];
}

/**
 * The life of the passage that the atom's block is at a moment: its forms in order, from its birth to now or to its removal.
 * A passage goes where most of its letters go: of a split the longer part is followed, of a join the longer part was it;
 * the first in the document of equals. Letters are known by their origin, so that a passage that moved, or was taken out
 * and came back, stays the same. Cost follows the edits that touched it.
 */
export function lifeOf(tape: Tape, atom: number, moment: number): PassageForm[] {
  const block = blockAt(tape, atom, moment);
  if (!block) return [];
  const origins = originsOf(tape);
  return [...backward(tape, origins, block), ...forward(tape, origins, block)];
}

/** The forms up to a block's moment, the block's own last. */
function backward(tape: Tape, origins: Origins, start: Block): PassageForm[] {
  const forms: PassageForm[] = [];
  let block = start;
  for (;;) {
    const seq = lastEvent(tape, block);
    const before = seq === 0 ? null : heaviest(homes(tape, heldBefore(tape, origins, block, seq), seq - 1));
    if (before) {
      const made = turnBetween(tape, origins, before, block, seq);
      if (made) forms.push(made);
      block = before;
      continue;
    }
    const { home, copied } = seq === 0 ? { home: null, copied: false } : lastHome(tape, origins, block, seq);
    if (!home) {
      forms.push(formOf(seq, copied ? 'copied' : 'written', block.text));
      return forms.reverse();
    }
    forms.push(formOf(seq, 'returned', block.text), formOf(home.moment + 1, 'removed', ''));
    block = home;
  }
}

/** The forms after a block's moment. */
function forward(tape: Tape, origins: Origins, start: Block): PassageForm[] {
  const forms: PassageForm[] = [];
  let block = start;
  for (;;) {
    const seq = nextEvent(tape, block);
    if (seq === null) return forms;
    const after = heaviest(homes(tape, heldAfter(tape, origins, block, seq), seq));
    if (after) {
      const made = turnBetween(tape, origins, block, after, seq);
      if (made) forms.push(made);
      block = after;
      continue;
    }
    forms.push(formOf(seq, 'removed', ''));
    const home = nextHome(tape, origins, block, seq);
    if (!home) return forms;
    forms.push(formOf(home.moment, 'returned', home.text));
    block = home;
  }
}

function formOf(seq: number, turn: Turn, text: string, others: readonly Home[] = []): PassageForm {
  return { seq, turn, text, with: others.map(({ block }) => block.text) };
}

/** A block that some letters stand in, and how many of them. */
interface Home {
  readonly block: Block;
  readonly letters: number;
}

/** The blocks that some parts stood in at a moment, in the order of the document. */
function homes(tape: Tape, parts: readonly AtomPart[], moment: number): Home[] {
  const found = new Map<number, Home>();
  const blocks = new Map<number, Block>();
  for (const { atom, from, to } of parts) {
    const block = blocks.get(atom) ?? blockAt(tape, atom, moment);
    if (!block) continue;
    for (const one of block.atoms) blocks.set(one, block);
    const letters = (found.get(block.left)?.letters ?? 0) + to - from;
    found.set(block.left, { block, letters });
  }
  return [...found.values()].sort((a, b) => a.block.left - b.block.left);
}

function heaviest(found: readonly Home[]): Block | null {
  let best: Home | null = null;
  for (const home of found) if (!best || home.letters > best.letters) best = home;
  return best?.block ?? null;
}

function wholeParts(tape: Tape, { atoms }: Block): AtomPart[] {
  return atoms.map((atom) => ({ atom, from: 0, to: tape.length(atom) }));
}

/** A block's letters as they stood right before the edit that made it what it is; those it brought are left out. */
function heldBefore(tape: Tape, origins: Origins, block: Block, seq: number): AtomPart[] {
  return wholeParts(tape, block).flatMap((part) =>
    tape.born(part.atom) < seq
      ? [part]
      : origins.others(part).filter(({ atom }) => tape.aliveAt(atom, seq - 1) && tape.died(atom) === seq),
  );
}

/** A block's letters as they stand right after an edit; those it took out are left out. */
function heldAfter(tape: Tape, origins: Origins, block: Block, seq: number): AtomPart[] {
  return wholeParts(tape, block).flatMap((part) =>
    tape.died(part.atom) !== seq
      ? [part]
      : origins.others(part).filter(({ atom }) => tape.born(atom) === seq && tape.aliveAt(atom, seq)),
  );
}

/** The block in which the letters of one that came back were last, or that they are copied from elsewhere. */
function lastHome(
  tape: Tape,
  origins: Origins,
  block: Block,
  seq: number,
): { home: Block | null; copied: boolean } {
  const others = wholeParts(tape, block).flatMap((part) => origins.others(part));
  const copied = others.some(({ atom }) => tape.aliveAt(atom, seq - 1));
  const dead = others.filter(({ atom }) => tape.died(atom) !== 0 && tape.died(atom) < seq);
  if (copied || dead.length === 0) return { home: null, copied };
  const last = Math.max(...dead.map(({ atom }) => tape.died(atom)));
  const parts = dead.filter(({ atom }) => tape.died(atom) === last);
  return { home: heaviest(homes(tape, parts, last - 1)), copied };
}

/** The block in which letters of one that was removed first came back. */
function nextHome(tape: Tape, origins: Origins, block: Block, seq: number): Block | null {
  const later = wholeParts(tape, block)
    .flatMap((part) => origins.others(part))
    .filter(({ atom }) => tape.born(atom) > seq);
  if (later.length === 0) return null;
  const first = Math.min(...later.map(({ atom }) => tape.born(atom)));
  return heaviest(
    homes(
      tape,
      later.filter(({ atom }) => tape.born(atom) === first),
      first,
    ),
  );
}

/** How one block became another at an edit; null when nothing of it is to be seen. */
function turnBetween(
  tape: Tape,
  origins: Origins,
  before: Block,
  after: Block,
  seq: number,
): PassageForm | null {
  const stayed = before.atoms.some((atom) => after.atoms.includes(atom));
  const apart = homes(tape, heldAfter(tape, origins, before, seq), seq).filter(
    ({ block }) => block.left !== after.left,
  );
  const together = homes(tape, heldBefore(tape, origins, after, seq), seq - 1).filter(
    ({ block }) => block.left !== before.left,
  );
  if (!stayed) return formOf(seq, 'moved', after.text);
  if (apart.length > 0) return formOf(seq, 'split', after.text, apart);
  if (together.length > 0) return formOf(seq, 'joined', after.text, together);
  return before.text === after.text ? null : formOf(seq, 'changed', after.text);
}

/** A form that stood for a while, and everything that one person did to it until then. */
export interface Stay extends PassageForm {
  /** The edit after which the form was another one; null when it is the present one. */
  readonly until: number | null;
}

/** Forms without those that one person went on changing within `gap` milliseconds: what a reader wants to go through. */
export function settledForms(forms: readonly PassageForm[], makers: Makers, gap: number): Stay[] {
  const out: PassageForm[] = [];
  for (const next of forms) {
    const last = out.at(-1);
    if (last && next.turn === 'changed' && (last.turn === 'changed' || last.turn === 'written')) {
      const [a, b] = [makers(last.seq), makers(next.seq)];
      if (a.author === b.author && b.at - a.at <= gap) {
        out[out.length - 1] = { ...next, turn: last.turn };
        continue;
      }
    }
    out.push(next);
  }
  return out.map((one, i) => ({ ...one, until: out[i + 1]?.seq ?? null }));
}
