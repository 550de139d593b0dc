import type { Node } from 'prosemirror-model';
import type { Comparison } from '../compare/compare.js';
import type { KindName } from '../kinds/index.js';
import type { Reading } from './reading.js';
import type { Hands, WriteOptions } from './writing.js';

/** Endings of file names, the first of which is written, a media type, and what people call a format. */
export interface AboutFormat {
  readonly endings: readonly [string, ...string[]];
  readonly type: string;
  readonly name: string;
  /** Kinds of document that can be written in it. */
  readonly kinds: readonly KindName[];
  /** Whether it holds no more than what the first sheet shows: of a file of it that comes back all else stays as it was. */
  readonly valuesOnly?: boolean;
}

/** A format of files: what can be done with a document in it. */
export interface FileFormat {
  /** Throws `FormatError` for bytes that cannot be read. Absent where a format is written only. */
  readonly read?: (bytes: Uint8Array) => Reading;
  readonly write: (doc: Node, options: WriteOptions) => Uint8Array;
  /** A comparison as a file. Where the format tracks changes, accepting all gives the later document, rejecting them the earlier. */
  readonly redline?: (comparison: Comparison, hands: Hands, options: RedlineFileOptions) => Uint8Array;
}

/** What a redline says beside its changes. */
export interface RedlineFileOptions extends WriteOptions {
  /** What the two ends are, such as "Version 11, 3 Feb 2026, 17:20". */
  readonly ends: readonly [earlier: string, later: string];
  /** Who made a change and when, in words for people. */
  readonly who: (change: number) => string;
}

/** A file that cannot be read, said so that its sender can act on it. */
export class FormatError extends Error {
  constructor(message: string) {
    super(message);
    this.name = 'FormatError';
  }
}

/** How images cross the border of a text file. */
export interface Images {
  /** The address to write for a stored image. */
  address(hash: string): string;
  /** The stored image that an address in a file stands for, or null: then its alternative text is kept. */
  stored(address: string, hash: string | null): string | null;
}

/** Images neither written with an address nor read. */
export const NO_IMAGES: Images = { address: (hash) => `image:${hash}`, stored: () => null };
