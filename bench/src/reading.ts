import { wordCount } from '@oxbow/core/content';
import { readDocx } from '@oxbow/core/formats';
import mammoth from 'mammoth';
import { median } from './document.js';
import type { Taken } from './files.js';

const RUNS = 7;

const readers: Record<string, (bytes: Buffer) => Promise<unknown>> = {
  own: async (bytes) => readDocx(bytes),
  mammoth: async (buffer) => mammoth.convertToHtml({ buffer }),
};

/** Reads a file with one reader in this process and tells the parent what that took. */
process.once('message', (message) => void measure(Buffer.from(message as Uint8Array)));

async function measure(bytes: Buffer): Promise<void> {
  const read = readers[process.argv[2] ?? ''];
  if (!read) throw new Error('which reader?');
  globalThis.gc?.();
  const start = process.memoryUsage().rss;
  await read(bytes);
  const memory = process.resourceUsage().maxRSS * 1024 - start;
  const times: number[] = [];
  for (let i = 0; i < RUNS; i++) {
    globalThis.gc?.();
    const begun = performance.now();
    await read(bytes);
    times.push(performance.now() - begun);
  }
  const taken: Taken = { time: median(times), memory, words: wordCount(readDocx(bytes).doc) };
  process.send?.(taken, () => process.exit(0));
}
