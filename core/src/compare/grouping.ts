import type { Change } from './changes.js';
import { TOLD } from './thresholds.js';

/** The group of all changes of typography. */
export const TYPOGRAPHY = 'typography';

/**
 * Changes with the names of the groups they belong to: typography; a word that was renamed throughout, as "pond > pool"; one change of form in many
 * places, as "form: level".
 */
export function grouped(changes: readonly Change[]): readonly Change[] {
  const names = new Map<Change, string>();
  for (const change of changes) if (change.kind === 'typography') names.set(change, TYPOGRAPHY);
  if (changes.length >= TOLD.renamed) {
    for (const [what, all] of formsIn(changes))
      if (all.length >= TOLD.renamed) for (const change of all) names.set(change, `form: ${what}`);
    for (const [name, all] of renamesIn(changes).sort((one, other) => one[1].length - other[1].length))
      for (const change of all) names.set(change, name);
  }
  if (names.size === 0) return changes;
  return changes.map((change) => {
    const group = names.get(change);
    return group === undefined ? change : { ...change, group };
  });
}

/** Whether a group is of a word that was renamed. */
export function isRename(group: string): boolean {
  return group.includes(' > ');
}

function formsIn(changes: readonly Change[]): Map<string, Change[]> {
  const out = new Map<string, Change[]>();
  for (const change of changes) {
    if (change.kind !== 'form' || change.form.length === 0) continue;
    const what = change.form.join(' ');
    if (!out.get(what)?.push(change)) out.set(what, [change]);
  }
  return out;
}

/** What was renamed throughout: one replacement again and again, told with a small letter where it also stands so. */
function renamesIn(changes: readonly Change[]): [name: string, all: readonly Change[]][] {
  // Most words are replaced once: those have no list of their own.
  const once = new Map<string, Change>();
  const often = new Map<string, Change[]>();
  for (const change of changes) {
    if (!mayBeRename(change)) continue;
    const { earlier } = change;
    const first = once.get(earlier);
    if (!first) once.set(earlier, change);
    else if (!often.get(earlier)?.push(change)) often.set(earlier, [first, change]);
  }
  const out: [string, readonly Change[]][] = [];
  for (const [earlier, some] of often) {
    const capital = capitalised(earlier);
    const more = often.get(capital) ?? [once.get(capital)].filter((one) => one !== undefined);
    const [small, large] = [byLater(some), byLater(capital === earlier ? [] : more)];
    for (const [later, all] of small) {
      const same = [...all, ...(large.get(capitalised(later)) ?? [])];
      if (same.length >= TOLD.renamed && holdsLetter(earlier) && holdsLetter(later))
        out.push([`${earlier} > ${later}`, same]);
    }
  }
  return out;
}

function byLater(changes: readonly Change[]): Map<string, Change[]> {
  const out = new Map<string, Change[]>();
  for (const change of changes) if (!out.get(change.later)?.push(change)) out.set(change.later, [change]);
  return out;
}

/** The groups among changes with what belongs to each: what a reader takes in, decides about, or takes back as one. */
export function groupsOf<C extends Pick<Change, 'group'>>(changes: readonly C[]): Map<string, C[]> {
  const out = new Map<string, C[]>();
  for (const change of changes)
    if (change.group !== null && !out.get(change.group)?.push(change)) out.set(change.group, [change]);
  return out;
}

function mayBeRename({ kind, block, wordsAdded, wordsRemoved }: Change): boolean {
  if (kind !== 'replaced' || block) return false;
  const [fewest, most] = [Math.min(wordsAdded, wordsRemoved), Math.max(wordsAdded, wordsRemoved)];
  return fewest > 0 && most <= TOLD.renamedWords;
}

function holdsLetter(text: string): boolean {
  return /\p{L}/u.test(text);
}

/** A text with a capital at its beginning. */
function capitalised(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}
