import type { Me, Person } from '@oxbow/contract';
import { HttpErrorResponse } from '@angular/common/http';

/** Who was last signed in in this browser, and whom they know. */
export interface Remembered {
  readonly person: Me;
  readonly people: Person[];
}

const NAME = 'oxbow-signed-in';

/** Remembers who is signed in, so that the app opens without the server; nobody, when null. */
export function remember(who: Remembered | null): void {
  if (who) localStorage.setItem(NAME, JSON.stringify(who));
  else localStorage.removeItem(NAME);
}

/** Who was last signed in here, unless they signed out. */
export function remembered(): Remembered | null {
  const held = localStorage.getItem(NAME);
  try {
    return JSON.parse(held ?? 'null') as Remembered | null;
  } catch {
    // Damaged storage is as good as none.
    localStorage.removeItem(NAME);
    return null;
  }
}

/** Whether a call failed since nobody is signed in; anything else says nothing about that. */
export function isSignedOut(error: unknown): boolean {
  return error instanceof HttpErrorResponse && error.status === 401;
}

/** Whether a call failed because the server cannot be reached: 504 is what a service worker answers then. */
export function isAway(error: unknown): boolean {
  return error instanceof HttpErrorResponse && (error.status === 0 || error.status === 504);
}
