import type { UnzipFileInfo } from 'fflate';
import { unzipSync, zipSync } from 'fflate';
import { utf8 } from '../bytes.js';
import { FormatError } from '../format.js';

/** What a package may hold at most, so that no file takes the machine with it. */
export const LIMITS = {
  /** Bytes of the file itself. */
  file: 64 * 2 ** 20,
  /** Bytes of all its parts, unpacked. */
  unpacked: 256 * 2 ** 20,
  /** Bytes of all its XML parts, unpacked: a tree takes many times as much. */
  xml: 48 * 2 ** 20,
  parts: 5000,
  /** How many times smaller than its content a part of over a megabyte may be. */
  ratio: 400,
};
type Limits = typeof LIMITS;

/** The parts of a package by name. */
export type ZipParts = ReadonlyMap<string, Uint8Array>;

/** Unpacks a zip file. Throws `FormatError` when it is none, is broken, or would unpack to more than the limits allow. */
export function unpack(bytes: Uint8Array, more: Partial<Limits> = {}): ZipParts {
  const limits: Limits = { ...LIMITS, ...more };
  if (bytes.length > limits.file)
    throw new FormatError(`This file is larger than ${limits.file / 2 ** 20} MB.`);
  const sums = { parts: 0, bytes: 0, xml: 0 };
  try {
    return new Map(
      Object.entries(unzipSync(bytes, { filter: (part) => wanted(part, sums, limits) })).map(
        ([name, data]) => [name.replace(/^\//, ''), data],
      ),
    );
  } catch (error) {
    if (error instanceof FormatError) throw error;
    throw new FormatError('This file is damaged: its parts cannot be unpacked.');
  }
}

/** Whether a part is to be unpacked. `fflate` never writes more than the size a part declares, which is what is counted. */
function wanted(
  part: UnzipFileInfo,
  sums: { parts: number; bytes: number; xml: number },
  limits: Limits,
): boolean {
  if (part.name.endsWith('/')) return false;
  sums.parts++;
  sums.bytes += part.originalSize;
  if (!/\.(png|jpe?g|gif|webp|bmp|tiff?|emf|wmf|bin|odttf|ttf)$/i.test(part.name))
    sums.xml += part.originalSize;
  const bomb = part.originalSize > 2 ** 20 && part.originalSize > part.size * limits.ratio;
  if (bomb || sums.parts > limits.parts || sums.bytes > limits.unpacked || sums.xml > limits.xml)
    throw new FormatError('This file would unpack to far more than a document holds, so it was not opened.');
  return true;
}

/** One part to pack: text or bytes. `stored` parts are not compressed, as ODF asks of `mimetype`. */
export interface ZipPart {
  readonly name: string;
  readonly content: string | Uint8Array;
  readonly stored?: boolean;
}

/** All parts of a package bear this time, so that the same document always gives the same bytes. */
const PACKED_AT = '1980-01-01T00:00:00';

/** Packs parts, in their order. Pictures are compressed already and are only stored. */
export function pack(parts: readonly ZipPart[]): Uint8Array {
  return zipSync(
    Object.fromEntries(
      parts.map(({ name, content, stored }) => [
        name,
        [
          typeof content === 'string' ? utf8(content) : content,
          { level: stored || /\.(png|jpe?g|gif|webp)$/.test(name) ? 0 : 6, mtime: PACKED_AT },
        ],
      ]),
    ),
  );
}
