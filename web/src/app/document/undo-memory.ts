import type { Acts } from '@oxbow/core/history';

/** Most acts remembered, and how many edits back the oldest may lie: a reload reads that many anew. */
const MOST = 60;
const REACH = 1500;

/** What this tab could undo and redo in a document before it was loaded anew; null for nothing. */
export function recallActs(person: string, document: string): Acts | null {
  const held = sessionStorage.getItem(nameOf(person, document));
  return held === null ? null : { reversals: [], ...(JSON.parse(held) as Omit<Acts, 'reversals'>) };
}

/** Remembers it, as far as it is not too long ago. `head` is the last accepted edit. */
export function keepActs(
  person: string,
  document: string,
  { done, undone, reversals }: Acts,
  head: number,
): void {
  const isNear = (group: readonly number[]): boolean => group.every((seq) => head - seq < REACH);
  const near = (groups: Acts['done']): Acts['done'] => groups.filter(isNear).slice(-MOST);
  const acts: Acts = {
    done: near(done),
    undone: near(undone),
    reversals: reversals.filter(({ seq, of }) => isNear([seq, ...of])),
  };
  const name = nameOf(person, document);
  if (acts.done.length + acts.undone.length === 0) sessionStorage.removeItem(name);
  else sessionStorage.setItem(name, JSON.stringify(acts));
}

/** The last edit before all that some acts are about. */
export function before({ done, undone }: Acts): number {
  return Math.min(...[...done, ...undone].flat()) - 1;
}

function nameOf(person: string, document: string): string {
  return `oxbow-undo:${person}:${document}`;
}
