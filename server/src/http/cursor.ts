import { Trouble } from '../trouble/trouble.js';

/** Most items of one page of a list, where none is asked for. */
export const PAGE = 50;

/** A place in a list, in a form that says nothing. */
export function cursorAt(key: number): string {
  return Buffer.from(String(key)).toString('base64url');
}

/** The key that a cursor stands for. Throws 422 for one that was not given out. */
export function cursorKey(cursor: string): number {
  const key = Number(Buffer.from(cursor, 'base64url').toString());
  if (!Number.isInteger(key) || key < 1) throw Trouble.field('cursor', 'is not one that was given out');
  return key;
}
