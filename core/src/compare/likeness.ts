import { isWord, segments } from '../content/index.js';

/** How many words in a row make a shingle: fewer find texts alike that only share a subject. */
const WIDTH = 4;

/**
 * The runs of words of a text, each as a number: its shingles after Broder 1997, "On the resemblance and containment of
 * documents". Numbers are hashes (FNV-1a, 32 bits), so that two runs are rarely taken for one.
 */
export function shinglesOf(text: string, width = WIDTH): Set<number> {
  const words = segments(text.toLowerCase()).filter(isWord);
  const out = new Set<number>();
  for (let i = 0; i + width <= words.length; i++) out.add(hashOf(words.slice(i, i + width).join(' ')));
  return out;
}

/** The resemblance of two texts by their shingles (Broder 1997, section 2): what they share of all they have, from 0 to 1. */
export function resemblance(a: ReadonlySet<number>, b: ReadonlySet<number>): number {
  const [small, large] = a.size < b.size ? [a, b] : [b, a];
  let shared = 0;
  for (const shingle of small) if (large.has(shingle)) shared++;
  const all = a.size + b.size - shared;
  return all === 0 ? 0 : shared / all;
}

function hashOf(text: string): number {
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
  return hash >>> 0;
}
