import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, concatBytes, hexToBytes } from '@noble/hashes/utils.js';
import type { Cause } from '../../history/index.js';
import { utf8 } from '../bytes.js';

/** An edit as a log holds it, people by their outside id, times in milliseconds. */
export interface LoggedEdit {
  readonly seq: number;
  readonly author: string;
  readonly client: string;
  readonly counter: number;
  readonly acceptedAt: number;
  readonly writtenAt: number;
  readonly schema: number;
  readonly steps: readonly unknown[];
  readonly sources: readonly unknown[];
  readonly cause: unknown;
  readonly wordsIn: number;
  readonly wordsOut: number;
}

/** An edit with its seal, in hexadecimal. An edit that was erased has lost its salt, so that nobody can guess what it was. */
export interface SealedEdit extends LoggedEdit {
  readonly salt: string | null;
  readonly digest: string;
}

/** The fields an edit's digest is over, in this order. */
const FIELDS = [
  'seq',
  'author',
  'client',
  'counter',
  'acceptedAt',
  'writtenAt',
  'schema',
  'steps',
  'sources',
  'cause',
  'wordsIn',
  'wordsOut',
] as const;

/** The digest of an edit, in hexadecimal: SHA-256 of what is sealed of it. */
export function digestOf(salt: string, edit: LoggedEdit): string {
  return bytesToHex(sha256(sealedOf(salt, edit)));
}

/** What is sealed of an edit: its salt, and the UTF-8 of its fields as a JSON array. */
export function sealedOf(salt: string, edit: LoggedEdit): Uint8Array {
  return concatBytes(hexToBytes(salt), utf8(JSON.stringify(FIELDS.map((field) => edit[field]))));
}

/**
 * The edits of a log that were changed after they were sealed, and that no erasure vouches for as they stand now. The last erasure
 * vouches for all that were changed up to then: its cause has the last link of the chain over their digests without salts.
 */
export function unvouchedIn(log: readonly SealedEdit[]): ReadonlySet<number> {
  const opened = log.filter(({ salt }) => salt === null);
  if (opened.length === 0) return new Set();
  const vouching = log.findLast(({ cause }) => isErasure(cause))?.cause as Vouching | undefined;
  const named = new Set(
    (vouching?.of ?? []).flatMap(([first, last]) =>
      Array.from({ length: Math.min(last, log.length) - first + 1 }, (_, i) => first + i),
    ),
  );
  const covered = log.filter(({ seq }) => named.has(seq));
  const holds = vouching?.digest === chainOf(covered.map((edit) => digestOf('', edit)));
  return new Set(opened.flatMap(({ seq }) => (holds && named.has(seq) ? [] : [seq])));
}

type Vouching = Extract<Cause, { readonly kind: 'erasure' | 'thinning' }>;

function isErasure(cause: unknown): cause is Vouching {
  const { kind } = cause as { kind?: unknown };
  return kind === 'erasure' || kind === 'thinning';
}

/**
 * The last link of the chain over digests: each link is SHA-256 over the link before it (32 zero bytes at first) and the
 * digest. Whoever has noted a link can tell later that nothing before it was changed, and it needs no salt for that.
 */
export function chainOf(digests: Iterable<string>): string {
  let link: Uint8Array = new Uint8Array(32);
  for (const digest of digests) link = sha256(concatBytes(link, hexToBytes(digest)));
  return bytesToHex(link);
}
