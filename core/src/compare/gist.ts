import type { Change } from './changes.js';
import { TOLD } from './thresholds.js';

/** One line that says what a list of changes does, made from its largest ones. */
export function gistOf(changes: readonly Change[]): string {
  if (changes.length === 0) return 'No change';
  const ranked = [...changes].sort((a, b) => weight(b) - weight(a) || a.id - b.id);
  const told = ranked.slice(0, 2).sort((a, b) => a.id - b.id);
  const rest = changes.length - told.length;
  const line = told.map(phrase).join('; ');
  return `${line.charAt(0).toUpperCase()}${line.slice(1)}${rest > 0 ? `; ${rest} more ${rest === 1 ? 'change' : 'changes'}` : ''}`;
}

/** Text counts before form, and much of it before little. */
function weight(change: Change): number {
  if (change.kind === 'form') return 0.5;
  return change.wordsAdded + change.wordsRemoved + change.wordsMoved / 2 + 1;
}

function phrase(change: Change): string {
  switch (change.kind) {
    case 'added':
      return `added ${quoted(change.later)}`;
    case 'removed':
      return `removed ${quoted(change.earlier)}`;
    case 'replaced':
      return `${quoted(change.earlier)} became ${quoted(change.later)}`;
    case 'moved':
      return `moved ${quoted(change.later)}`;
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

function quoted(text: string): string {
  const line = text.replace(/\s+/g, ' ').trim();
  if (line === '') return text === '' ? 'an empty line' : 'white space';
  if (line.length <= TOLD.gistLetters) return `“${line}”`;
  const cut = line.slice(0, TOLD.gistLetters + 1).replace(/\s+\S*$/, '');
  return `“${cut.slice(0, TOLD.gistLetters).replace(/[\ud800-\udbff]$/, '')}…”`;
}
