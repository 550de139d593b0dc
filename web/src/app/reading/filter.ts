import type { ComparedChange } from '@oxbow/contract';
import type { Family, Section } from '@oxbow/core/compare';
import { familyOf, sectionOf } from '@oxbow/core/compare';
import { peopleOf } from './look';

/** Which changes a reader wants to see: by whom, of what family, in which section. Null is all. */
export interface Filter {
  readonly person: string | null;
  readonly hidden: ReadonlySet<Family>;
  readonly section: number | null;
}

export const EVERYTHING: Filter = { person: null, hidden: new Set(), section: null };

export function isShown(change: ComparedChange, filter: Filter, sections: readonly Section[]): boolean {
  return (
    !filter.hidden.has(familyOf(change.kind)) &&
    (filter.person === null || peopleOf(change).includes(filter.person)) &&
    (filter.section === null || sectionOf(sections, change) === filter.section)
  );
}

/** How many changes there are of each person, family and section. */
export interface Counts {
  readonly people: ReadonlyMap<string, number>;
  readonly families: ReadonlyMap<Family, number>;
  readonly sections: ReadonlyMap<number, number>;
}

export function countsOf(changes: readonly ComparedChange[], sections: readonly Section[]): Counts {
  const people = new Map<string, number>();
  const families = new Map<Family, number>();
  const inSections = new Map<number, number>();
  const add = <K>(map: Map<K, number>, key: K): void => void map.set(key, (map.get(key) ?? 0) + 1);
  for (const change of changes) {
    for (const person of peopleOf(change)) add(people, person);
    add(families, familyOf(change.kind));
    add(inSections, sectionOf(sections, change));
  }
  return { people, families, sections: inSections };
}
