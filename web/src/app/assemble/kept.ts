import type { Decision } from '@oxbow/core/compare';

/** An assembly that was begun and not put anywhere yet. */
export interface Kept {
  readonly document: string;
  /** The document that `earlier` is a moment of. */
  readonly other: string;
  readonly earlier: number;
  readonly later: number;
  readonly takes: readonly (readonly [change: number, take: Decision])[];
  /** How many changes there are. */
  readonly of: number;
  readonly at: number;
}

type Key = Pick<Kept, 'document' | 'other' | 'earlier' | 'later'>;

/** Most assemblies kept for one person on one device; the oldest go. */
const MOST = 30;

/** The assemblies that a person has begun in a document on this device, latest first. */
export function begun(person: string, document: string): Kept[] {
  return all(person).filter((kept) => kept.document === document);
}

export function recall(person: string, key: Key): Kept | null {
  return all(person).find((kept) => isSame(kept, key)) ?? null;
}

/** Keeps one in place of what was kept of the same pair. */
export function keep(person: string, kept: Kept): void {
  store(person, [kept, ...all(person).filter((one) => !isSame(one, kept))].slice(0, MOST));
}

export function forget(person: string, key: Key): void {
  store(
    person,
    all(person).filter((one) => !isSame(one, key)),
  );
}

function isSame(a: Key, b: Key): boolean {
  return a.document === b.document && a.other === b.other && a.earlier === b.earlier && a.later === b.later;
}

function all(person: string): Kept[] {
  const held: unknown = JSON.parse(localStorage.getItem(nameOf(person)) ?? '[]');
  return Array.isArray(held) ? (held as Kept[]) : [];
}

function store(person: string, kept: readonly Kept[]): void {
  localStorage.setItem(nameOf(person), JSON.stringify(kept));
}

function nameOf(person: string): string {
  return `oxbow-assemblies:${person}`;
}
