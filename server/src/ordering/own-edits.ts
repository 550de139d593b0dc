import { nanoid } from 'nanoid';

/** Edits that this process makes itself are those of a client of its own, counted like anybody's. */
export class OwnEdits {
  readonly client = `server-${nanoid(10)}`;
  private counter = 1;

  next(): number {
    return this.counter++;
  }
}
