import type { Change } from './changes.js';
import { standsOf } from './changes.js';
import { TYPOGRAPHY, groupsOf, isRename } from './grouping.js';
import { TOLD } from './thresholds.js';

/** Something a gist may tell: one change, or a group of them. */
interface Item {
  readonly phrase: () => string;
  readonly weight: number;
  readonly at: number;
  /** How many changes it tells of. */
  readonly count: number;
}

/** One line that says what a list of changes does, made from the largest ones; groups are told as one. */
export function gistOf(changes: readonly Change[]): string {
  if (changes.length === 0) return 'No change';
  const told = largest(itemsOf(changes)).sort((a, b) => a.at - b.at);
  const rest = changes.length - told.reduce((sum, { count }) => sum + count, 0);
  const line = told.map(({ phrase }) => phrase()).join('; ');
  return `${line.charAt(0).toUpperCase()}${line.slice(1)}${rest > 0 ? `; ${rest} more ${rest === 1 ? 'change' : 'changes'}` : ''}`;
}

/** The two largest single changes, and groups as large as they are; three at most. */
function largest(items: readonly Item[]): Item[] {
  const out: Item[] = [];
  let single = 0;
  for (const item of [...items].sort((a, b) => b.weight - a.weight || a.at - b.at)) {
    if (out.length === 3 || (item.count === 1 && single === 2)) break;
    if (item.count === 1) single++;
    out.push(item);
  }
  return out;
}

function itemsOf(changes: readonly Change[]): Item[] {
  const numbers = changes.filter(isNumber);
  const told = new Set(numbers.length > 1 ? numbers.map(({ id }) => id) : []);
  const out: Item[] = [...groupsOf(changes)].map(([name, all]) => {
    for (const { id } of all) told.add(id);
    const count = all.length;
    const weight = isRename(name) ? 2 * count + 1 : 0.6;
    return { phrase: () => groupPhrase(name, count), weight, at: all[0]?.id ?? 0, count };
  });
  if (numbers.length > 1) {
    const count = numbers.length;
    out.push({ phrase: () => `${count} numbers changed`, weight: count + 1, at: numbers[0]?.id ?? 0, count });
  }
  for (const change of changes)
    if (!told.has(change.id))
      out.push({ phrase: () => phrase(change), weight: weight(change), at: change.id, count: 1 });
  return out;
}

/** Whether a change puts one number in place of another, whatever stands round them. */
function isNumber({ kind, earlier, later }: Change): boolean {
  const holds = (text: string): boolean => /\d/.test(text) && !/\p{L}/u.test(text);
  return kind === 'replaced' && holds(earlier) && holds(later);
}

/** Text counts before form, and much of it before little. */
function weight(change: Change): number {
  if (change.kind === 'form') return 0.5;
  return change.wordsAdded + change.wordsRemoved + change.wordsMoved / 2 + 1;
}

function groupPhrase(name: string, count: number): string {
  const places = count === 1 ? '1 place' : `${count} places`;
  if (isRename(name)) return `renamed ${name.replace(' > ', ' to ')} in ${places}`;
  return name === TYPOGRAPHY ? `typography in ${places}` : `form of ${places} changed alike`;
}

function phrase(change: Change): string {
  switch (change.kind) {
    case 'added':
      return `added ${quoted(change.later)}`;
    case 'removed':
      return `removed ${quoted(change.earlier)}`;
    case 'replaced':
    case 'typography':
      return `${quoted(change.earlier)} became ${quoted(change.later)}`;
    case 'moved':
      return change.section === null
        ? `moved ${quoted(change.later)}`
        : `moved the section ${quoted(change.section)} ${directionOf(change)}`;
    case 'copied':
      return `copied ${quoted(change.later)}`;
    case 'split':
      return `split off ${quoted(change.later)}`;
    case 'joined':
      return `joined ${quoted(change.earlier)} to what stands before it`;
    case 'form':
      return `form of ${quoted(change.later)} changed`;
  }
}

/** Whether what moved stands further up or down than it did. */
function directionOf(change: Change): 'up' | 'down' {
  const { earlier, later } = standsOf(change);
  return (later[0]?.across ?? 0) < (earlier[0]?.from ?? 0) ? 'up' : 'down';
}

function quoted(text: string): string {
  const line = text.replace(/\s+/g, ' ').trim();
  if (line === '') return text === '' ? 'an empty line' : 'white space';
  if (line.length <= TOLD.gistLetters) return `“${line}”`;
  const cut = line.slice(0, TOLD.gistLetters + 1).replace(/\s+\S*$/, '');
  return `“${cut.slice(0, TOLD.gistLetters).replace(/[\ud800-\udbff]$/, '')}…”`;
}
