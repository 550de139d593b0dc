import type { ComparedChange } from '@oxbow/contract';
import type { Family, Section } from '@oxbow/core/compare';
import { familyOf, sectionOf } from '@oxbow/core/compare';
import { peopleOf } from './look';

/** Which changes a reader wants to see: by whom, of what family, in which section, of which group. Null is all. */
export interface Filter {
  readonly person: string | null;
  readonly hidden: ReadonlySet<Family>;
  readonly section: number | null;
  readonly group: string | null;
}

export const EVERYTHING: Filter = { person: null, hidden: new Set(), section: null, group: null };

export function isShown(change: ComparedChange, filter: Filter, sections: readonly Section[]): boolean {
  return (
    !filter.hidden.has(familyOf(change.kind)) &&
    (filter.person === null || peopleOf(change).includes(filter.person)) &&
    (filter.group === null || change.group === filter.group) &&
    (filter.section === null || sectionOf(sections, change) === filter.section)
  );
}

/** How many changes there are of each person, family, section and group. */
export interface Counts {
  readonly people: ReadonlyMap<string, number>;
  readonly families: ReadonlyMap<Family, number>;
  readonly sections: ReadonlyMap<number, number>;
  readonly groups: ReadonlyMap<string, number>;
}

export function countsOf(changes: readonly ComparedChange[], sections: readonly Section[]): Counts {
  const people = new Map<string, number>();
  const families = new Map<Family, number>();
  const inSections = new Map<number, number>();
  const groups = new Map<string, number>();
  const add = <K>(map: Map<K, number>, key: K): void => void map.set(key, (map.get(key) ?? 0) + 1);
  for (const change of changes) {
    for (const person of peopleOf(change)) add(people, person);
    add(families, familyOf(change.kind));
    add(inSections, sectionOf(sections, change));
    if (change.group !== null) add(groups, change.group);
  }
  return { people, families, sections: inSections, groups };
}
