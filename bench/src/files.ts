import { fork } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { textSchema as schema } from '@oxbow/core/kinds/text';
import { pictureOf, writeDocx } from '@oxbow/core/formats';
import type { Picture } from '@oxbow/core/formats';
import { Random, document, noisyPng } from '@oxbow/core/testing';
import type { Node } from 'prosemirror-model';
import { less } from './figures.js';
import type { Figure } from './figures.js';

/** What a reader took, from a process of its own. */
export interface Taken {
  /** Median of a few runs, in milliseconds. */
  readonly time: number;
  /** Bytes resident at the peak above what the process held with the file in memory. */
  readonly memory: number;
  readonly words: number;
}

const BLOCKS = 3400;
const IMAGES = 200;

/** Reading a word-processor file of 300 pages with 200 images, against a library that turns such files into HTML. */
export async function benchFiles(): Promise<Figure[]> {
  const bytes = Buffer.from(large());
  const [own, reference] = [await taken('own', bytes), await taken('mammoth', bytes)];
  const size = (count: number): string => `${(count / 2 ** 20).toFixed(0)} MB`;
  return [
    less('a .docx of some 300 pages: time to read / that of mammoth', own.time / reference.time, {
      goal: 0.5,
      note: `${own.words.toLocaleString('en')} words, ${IMAGES} images, ${size(bytes.length)}; ${own.time.toFixed(0)} and ${reference.time.toFixed(0)} ms`,
    }),
    less('the same: memory at the peak above the file', own.memory / 2 ** 20, {
      unit: 'MB',
      digits: 0,
      note: `mammoth ${size(reference.memory)}`,
    }),
  ];
}

/** About 400 words a page. */
function large(): Uint8Array {
  const random = new Random(300);
  const pictures = new Map<string, Picture>();
  const blocks: Node[] = [];
  document(random, BLOCKS).forEach((block, _offset, i) => {
    blocks.push(block);
    if (i % Math.floor(BLOCKS / IMAGES) !== 0 || pictures.size >= IMAGES) return;
    const picture = pictureOf(noisyPng(random, 160, 120));
    if (!picture) throw new Error('a PNG image is a picture');
    pictures.set(picture.hash, picture);
    const image = schema.node('image', { hash: picture.hash, alt: `Figure ${i}`, width: null });
    blocks.push(schema.node('paragraph', null, [image]));
  });
  return writeDocx(schema.node('doc', null, blocks), {
    title: 'A year on the marsh',
    author: 'Ines Okell',
    at: '2026-11-24T09:30:00.000Z',
    picture: (hash) => pictures.get(hash) ?? null,
  });
}

function taken(reader: 'own' | 'mammoth', bytes: Buffer): Promise<Taken> {
  const child = fork(fileURLToPath(new URL('./reading.js', import.meta.url)), [reader], {
    execArgv: ['--expose-gc'],
    serialization: 'advanced',
  });
  return new Promise((resolve, reject) => {
    child.once('message', (message) => resolve(message as Taken));
    child.once('exit', (code) =>
      code ? reject(new Error(`reading with ${reader} ended with ${code}`)) : null,
    );
    child.send(bytes);
  });
}
