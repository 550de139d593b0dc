import type { Range } from '../tideline/layout';

/** What a reload brings back of a desk. */
export interface Place {
  readonly scroll: number;
  readonly selection: { readonly anchor: number; readonly head: number } | null;
  readonly range: Range | null;
  readonly folded: boolean;
  readonly log: boolean;
}

const NOWHERE: Place = { scroll: 0, selection: null, range: null, folded: false, log: false };

/** Where this window last was in a document. */
export function recallPlace(document: string): Place {
  try {
    return {
      ...NOWHERE,
      ...(JSON.parse(sessionStorage.getItem(`oxbow-desk-${document}`) ?? '{}') as Partial<Place>),
    };
  } catch {
    return NOWHERE;
  }
}

export function keepPlace(document: string, place: Partial<Place>): void {
  sessionStorage.setItem(`oxbow-desk-${document}`, JSON.stringify({ ...recallPlace(document), ...place }));
}
