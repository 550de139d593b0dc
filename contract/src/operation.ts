import type { TObject, TSchema } from '@sinclair/typebox';

/** One call of the API: everything that routing, checking and the published description need to know of it. */
export interface Operation {
  readonly id: string;
  readonly method: 'get' | 'post' | 'put' | 'patch' | 'delete';
  /** With parameters as `:name`. */
  readonly path: string;
  readonly summary: string;
  readonly query?: TObject;
  readonly body?: TSchema;
  /** A multipart body: its fields; the file itself is the part `file`. */
  readonly form?: TObject;
  /** How many files it takes, all as parts `file`, where that is not one. */
  readonly files?: { readonly least: number; readonly most: number };
  /** Largest file it takes, in bytes, where that is not the usual. */
  readonly most?: number;
  readonly status: number;
  readonly answer: TSchema | null;
  /** Whether it may be called without being signed in. */
  readonly open?: boolean;
}

/** Says that a value is an operation, and keeps its exact type. */
export function operation<const T extends Operation>(value: T): T {
  return value;
}
