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

/** The edit up to which somebody had seen a document when they last left it in this browser, or null. */
export function recallSeen(document: string, person: string): number | null {
  const seq = Number(localStorage.getItem(`oxbow-seen-${person}-${document}`) ?? NaN);
  return Number.isInteger(seq) ? seq : null;
}

export function keepSeen(document: string, person: string, seq: number): void {
  if (seq > 0) localStorage.setItem(`oxbow-seen-${person}-${document}`, String(seq));
}
