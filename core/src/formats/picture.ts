import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import { imageSize } from 'image-size';

/** An image that a file carries, as documents can hold it. Sizes are in pixels. */
export interface Picture {
  /** SHA-256 of the bytes, in hexadecimal: the name it is stored under. */
  readonly hash: string;
  readonly type: 'image/png' | 'image/jpeg' | 'image/gif' | 'image/webp';
  readonly width: number;
  readonly height: number;
  readonly bytes: Uint8Array;
}

const TYPES: Readonly<Record<string, Picture['type']>> = {
  png: 'image/png',
  jpg: 'image/jpeg',
  gif: 'image/gif',
  webp: 'image/webp',
};

/** What bytes show, as their first ones say, or null when that is no image documents can hold. */
export function pictureOf(bytes: Uint8Array): Picture | null {
  const size = sizeOf(bytes);
  const type = TYPES[size?.type ?? ''];
  if (!size || !type || !(size.width > 0) || !(size.height > 0)) return null;
  return { hash: bytesToHex(sha256(bytes)), type, width: size.width, height: size.height, bytes };
}

function sizeOf(bytes: Uint8Array): { width: number; height: number; type?: string } | null {
  try {
    return imageSize(bytes);
  } catch {
    return null;
  }
}

/** The ending of a file with such an image. */
export function endingOf({ type }: Pick<Picture, 'type'>): string {
  return type === 'image/jpeg' ? 'jpg' : type.slice('image/'.length);
}
