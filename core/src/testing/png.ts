import { zlibSync } from 'fflate';
import type { Picture } from '../formats/picture.js';
import { pictureOf } from '../formats/picture.js';
import type { Random } from './random.js';

/** A grey PNG image of a size, in pixels. */
export function png(width: number, height: number, grey = 128): Uint8Array {
  return pngWith(width, height, () => grey);
}

/** A PNG image of noise, which hardly compresses, as photographs do not. */
export function noisyPng(random: Random, width: number, height: number): Uint8Array {
  return pngWith(width, height, () => random.between(0, 255));
}

/** Source: PNG (Third Edition), 5.3 and 11.2. */
function pngWith(width: number, height: number, grey: () => number): Uint8Array {
  const rows = new Uint8Array((width + 1) * height).map(grey);
  for (let row = 0; row < height; row++) rows[row * (width + 1)] = 0;
  const header = new Uint8Array([...word(width), ...word(height), 8, 0, 0, 0, 0]);
  const signature = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];
  return Uint8Array.from([
    ...signature,
    ...chunk('IHDR', header),
    ...chunk('IDAT', zlibSync(rows)),
    ...chunk('IEND', new Uint8Array()),
  ]);
}

/** The same as documents hold it. */
export function pngPicture(width: number, height: number, grey = 128): Picture {
  const picture = pictureOf(png(width, height, grey));
  if (!picture) throw new Error('a PNG image is a picture');
  return picture;
}

function word(value: number): number[] {
  return [24, 16, 8, 0].map((shift) => (value >>> shift) & 255);
}

function chunk(type: string, data: Uint8Array): number[] {
  const body = [...type].map((letter) => letter.charCodeAt(0)).concat([...data]);
  return [...word(data.length), ...body, ...word(crc(body))];
}

/** The cyclic redundancy check of PNG, Annex D. */
function crc(bytes: readonly number[]): number {
  let sum = 0xffffffff;
  for (const byte of bytes) {
    sum ^= byte;
    for (let bit = 0; bit < 8; bit++) sum = sum & 1 ? 0xedb88320 ^ (sum >>> 1) : sum >>> 1;
  }
  return (sum ^ 0xffffffff) >>> 0;
}
