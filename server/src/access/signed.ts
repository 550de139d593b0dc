import type { Person } from '@oxbow/contract';

/** Somebody who is signed in. */
export interface Signed extends Person {
  readonly key: number;
}
