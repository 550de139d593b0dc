import type { Step } from 'prosemirror-transform';
import { Mapping } from 'prosemirror-transform';
import { insertedLengths } from './provenance.js';
import type { Source } from './edit.js';

/** Says which tokens of which step's insertion it is about. */
type Placed = Pick<Source, 'step' | 'at' | 'length'>;

/** A mapping as its own package types it inside: mirrors tell which maps undo each other. */
type Mirrored = Mapping & { setMirror(undone: number, redone: number): void };

/**
 * Carries a writer's steps over what others did meanwhile (operational transformation by position maps).
 *
 * `mapping` holds, up to index `first`, the inverses of `own`, last first, and then the maps of what came between; this
 * function extends it. `apply` tries a carried step on the present document and, when it fits, adds the step's map to `mapping`.
 * A step whose place is gone, or that no longer fits, is null in the answer. The authority and the editors share it.
 */
export function carrySteps(
  own: readonly Step[],
  mapping: Mapping,
  apply: (step: Step) => boolean,
  first = own.length,
): (Step | null)[] {
  let from = first;
  return own.map((step) => {
    const carried = step.map(mapping.slice(from));
    from--;
    if (!carried || !apply(carried)) return null;
    (mapping as Mirrored).setMirror(from, mapping.maps.length - 1);
    return carried;
  });
}

/** The mapping that `carrySteps` starts from. */
export function mappingOver(own: readonly Step[], between: readonly Step[]): Mapping {
  const mapping = new Mapping();
  for (const step of [...own].reverse()) mapping.appendMap(step.getMap().invert());
  for (const step of between) mapping.appendMap(step.getMap());
  return mapping;
}

/** Steps that were kept, and the sources that still have their step, renumbered. */
export function keepCarried<S extends Placed>(
  carried: readonly (Step | null)[],
  sources: readonly S[],
): { steps: Step[]; sources: S[] } {
  const steps = carried.filter((step) => step !== null);
  const lengths = insertedLengths(steps);
  const index = new Map<number, number>();
  carried.forEach((step, i) => step && index.set(i, index.size));
  const kept = sources.flatMap((source) => {
    const step = index.get(source.step);
    return step !== undefined && source.at + source.length <= (lengths[step] ?? 0)
      ? [{ ...source, step }]
      : [];
  });
  return { steps, sources: kept };
}
