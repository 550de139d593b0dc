/** How many documents are remembered. */
const MOST = 20;

const nameFor = (person: string): string => `oxbow-recent:${person}`;

/** Documents that somebody was last in on this device, the last one first. */
export function recentOf(person: string): readonly string[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(nameFor(person)) ?? '[]');
    return Array.isArray(kept) ? kept.filter((one) => typeof one === 'string') : [];
  } catch {
    return [];
  }
}

/** Remembers that somebody is in a document. */
export function cameInto(person: string, document: string): void {
  const others = recentOf(person).filter((one) => one !== document);
  localStorage.setItem(nameFor(person), JSON.stringify([document, ...others].slice(0, MOST)));
}
