import { textSchema } from '@oxbow/core/kinds/text';
import { compare } from '@oxbow/core/compare';
import { Node } from 'prosemirror-model';
import type { Memory } from './compare.js';
import type { Level } from './texts.js';
import { page, revision } from './texts.js';

/** Compares two documents in a process of its own and tells the parent how much memory that took at its peak. */
const [size, level] = [Number(process.argv[2]), process.argv[3] as Level];
const { earlier, later } = revision(size, level);
const texts = [earlier, later].map((paragraphs) => JSON.stringify(page(paragraphs).toJSON()));
compare(page(['a b']), page(['a c']));
globalThis.gc?.();
const used = (): number => process.memoryUsage().heapUsed + process.memoryUsage().arrayBuffers;
const baseline = used();
const start = process.memoryUsage().rss;
let live = 0;
let share = 0;
/** What is reachable, looked at twenty times on the way and at the end. */
const watch = (done: number): void => {
  if (done < share) return;
  share = done + 0.05;
  globalThis.gc?.();
  live = Math.max(live, used());
};
const [a, b] = texts.map((text) => Node.fromJSON(textSchema, JSON.parse(text)));
const first = a && b ? compare(a, b, { tell: watch }) : null;
share = 0;
watch(1);
const memory: Memory = {
  json: texts.reduce((sum, text) => sum + text.length, 0),
  live: live - baseline,
  resident: process.resourceUsage().maxRSS * 1024 - start,
  changes: first?.changes.length ?? 0,
};
process.send?.(memory, () => process.exit(0));
