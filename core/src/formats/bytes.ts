import { FormatError } from './format.js';

/** Part of the Encoding Standard, which Node, browsers and their workers all have. */
declare class TextDecoder {
  constructor(label: string, options?: { readonly fatal?: boolean });
  decode(bytes: Uint8Array): string;
}
declare class TextEncoder {
  encode(text: string): Uint8Array;
}
/** Base64 of the HTML Standard, over strings of which each unit is a byte. */
declare function atob(text: string): string;
declare function btoa(bytes: string): string;

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

/** Most characters of a text file, not counting what it carries of images. */
const LONGEST = 4_000_000;

/** The text of a file of text, of which `counted` may be left uncounted. Throws `FormatError` for what is no text, or too long. */
export function textOfFile(bytes: Uint8Array, counted: (text: string) => string = (text) => text): string {
  const text = textOfBytes(bytes);
  if (counted(text).length > LONGEST)
    throw new FormatError(`This file is longer than ${LONGEST / 1e6} million characters.`);
  return text;
}

/** Bytes as base64 (RFC 4648, 4). */
export function base64(bytes: Uint8Array): string {
  const parts: string[] = [];
  for (let i = 0; i < bytes.length; i += 0x8000)
    parts.push(String.fromCharCode(...bytes.subarray(i, i + 0x8000)));
  return btoa(parts.join(''));
}

/** The bytes that base64 stands for; none where it is not well-formed. */
export function bytesOfBase64(text: string): Uint8Array {
  try {
    return Uint8Array.from(atob(text), (unit) => unit.charCodeAt(0));
  } catch {
    return new Uint8Array();
  }
}
