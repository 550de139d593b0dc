import { commonStrings } from '../compare/index.js';
import { isWord, segments, sharedEnds } from '../content/index.js';
import type { PassageForm } from './life.js';
import type { Makers } from './tape.js';

/** Wording that went back and forth between people. */
export interface Contest {
  /** The two wordings; one may be empty. */
  readonly one: string;
  readonly other: string;
  /** Who put which of them there, in order of time. */
  readonly turns: readonly { readonly seq: number; readonly by: string; readonly wording: string }[];
}

/** Turns after which a replaced wording counts as contested, and one that only came and went. */
const TURNS = 2;
const TURNS_OF_NOTHING = 3;

interface Hunk {
  readonly seq: number;
  readonly by: string;
  readonly out: string;
  readonly in: string;
}

/**
 * Wording that one person changed and another changed back, in a passage told by its settled forms: a replacement that was
 * undone, or words that came, went and came again. Most turns first.
 */
export function contestsIn(forms: readonly PassageForm[], makers: Makers): Contest[] {
  const hunks = forms.flatMap((form, i) => {
    const before = forms[i - 1];
    return before && before.text && form.text ? hunksBetween(before.text, form, makers) : [];
  });
  const taken = new Set<Hunk>();
  const contests: Contest[] = [];
  for (const [i, start] of hunks.entries()) {
    if (taken.has(start)) continue;
    const chain = [start];
    for (const next of hunks.slice(i + 1)) {
      const last = chain.at(-1) as Hunk;
      if (!taken.has(next) && next.by !== last.by && next.out === last.in && next.in === last.out)
        chain.push(next);
    }
    const replaced = start.out !== '' && start.in !== '';
    if (chain.length < (replaced ? TURNS : TURNS_OF_NOTHING)) continue;
    for (const hunk of chain) taken.add(hunk);
    contests.push({
      one: start.out,
      other: start.in,
      turns: chain.map(({ seq, by, in: wording }) => ({ seq, by, wording })),
    });
  }
  return contests.sort((a, b) => b.turns.length - a.turns.length);
}

/** What a form changed of the one before it, word by word; changes of signs and white space alone are left out. */
function hunksBetween(before: string, { seq, text }: PassageForm, makers: Makers): Hunk[] {
  const [a, b] = [segments(before), segments(text)];
  const hunks: Hunk[] = [];
  const { author: by } = makers(seq);
  const runs = commonStrings(a, b).filter((run) => a.slice(run.a, run.a + run.length).some(isWord));
  let [x, y] = [0, 0];
  for (const run of [...runs, { a: a.length, b: b.length, length: 0 }]) {
    const [gone, came] = withoutEqualEnds(a.slice(x, run.a), b.slice(y, run.b));
    if ([...gone, ...came].some(isWord))
      hunks.push({ seq, by, out: gone.join('').trim(), in: came.join('').trim() });
    [x, y] = [run.a + run.length, run.b + run.length];
  }
  return hunks;
}

function withoutEqualEnds(a: readonly string[], b: readonly string[]): [string[], string[]] {
  const { head, tail } = sharedEnds(a, b);
  return [a.slice(head, a.length - tail), b.slice(head, b.length - tail)];
}
