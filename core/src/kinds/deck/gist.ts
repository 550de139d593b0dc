import type { Node } from 'prosemirror-model';
import type { Change } from '../../compare/index.js';
import { gistOf } from '../../compare/index.js';
import { shortened, told } from '../../content/index.js';
import type { SlideChange } from './slides.js';
import { slideChanges } from './slides.js';

/** Most slides that are named for one turn, and letters of each title. */
const NAMED = 2;
const LETTERS = 40;

const TURNS: Readonly<Record<SlideChange['turn'], (what: string) => string>> = {
  added: (what) => `added ${what}`,
  removed: (what) => `removed ${what}`,
  moved: (what) => `moved ${what}`,
  hidden: (what) => `hid ${what}`,
  shown: (what) => `showed ${what} again`,
  text: (what) => `text on ${what}`,
  form: (what) => `the look of ${what}`,
};

/**
 * What is different between two decks of one history, in a line: which slides came, went and moved, and on which text or only looks differ; where
 * that is text on one slide, which.
 */
export function deckGist(earlier: Node, later: Node, all: readonly Change[]): string {
  const changes = slideChanges(earlier, later);
  const [only] = changes;
  if (changes.length === 1 && only?.turn === 'text') return `${gistOf(all)}, on ${slidesTold([only])}`;
  const parts = (Object.keys(TURNS) as SlideChange['turn'][]).flatMap((turn) => {
    const of = changes.filter((change) => change.turn === turn);
    return of.length > 0 ? [TURNS[turn](slidesTold(of))] : [];
  });
  const line = parts.join('; ');
  return line === '' ? 'No change' : line.charAt(0).toUpperCase() + line.slice(1);
}

/** Slides by their titles, where they are few and have one; else how many there are. */
function slidesTold(changes: readonly SlideChange[]): string {
  const titles = changes.map(({ title }) => told(title).replace(/\s+/g, ' ').trim());
  if (titles.length > NAMED || titles.some((title) => title === ''))
    return titles.length === 1 ? 'a slide' : `${titles.length} slides`;
  return titles.map((title) => `“${shortened(title, LETTERS)}”`).join(' and ');
}
