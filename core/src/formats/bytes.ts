import { FormatError } from './format.js';

/** Part of the Encoding Standard, which Node, browsers and their workers all have. */
declare class TextDecoder {
  constructor(label: string, options?: { readonly fatal?: boolean });
  decode(bytes: Uint8Array): string;
}
declare class TextEncoder {
  encode(text: string): Uint8Array;
}

/** Text as UTF-8. */
export function utf8(text: string): Uint8Array {
  return new TextEncoder().encode(text);
}

/** The text of a file: UTF-8, or UTF-16 where it begins with a byte order mark. Throws `FormatError` for what is no text. */
export function textOfBytes(bytes: Uint8Array): string {
  const [a, b] = bytes;
  const wide = a === 0xff && b === 0xfe ? 'utf-16le' : a === 0xfe && b === 0xff ? 'utf-16be' : null;
  if (!wide && bytes.includes(0)) throw new FormatError('This file is not text.');
  try {
    return new TextDecoder(wide ?? 'utf-8', { fatal: true }).decode(bytes);
  } catch {
    throw new FormatError('This file is not UTF-8 text.');
  }
}
