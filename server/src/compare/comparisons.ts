import { createHash } from 'node:crypto';
import { LRUCache } from 'lru-cache';
import { textSchema } from '@oxbow/core/content';
import { Node } from 'prosemirror-model';
import { threadsFor } from '../threads/threads.js';
import type { Compared, Decisions, Redline, Task } from './compare-task.js';

/** Characters of compared text whose results are kept at hand. */
const CACHE = 32_000_000;

/** Compares documents off the main thread. A pair asked for again comes from a cache keyed by the two contents. */
export class Comparisons {
  private readonly pool = threadsFor<Task, Compared>(new URL('./compare-task.js', import.meta.url));
  private readonly held = new LRUCache<string, { compared: Promise<Compared>; size: number }>({
    maxSize: CACHE,
    sizeCalculation: ({ size }) => size,
  });

  compare(earlier: Node, later: Node): Promise<Compared> {
    const task = taskOf(earlier, later);
    const key = createHash('sha256').update(task.earlier).update('\0').update(task.later).digest('base64');
    const found = this.held.get(key);
    if (found) return found.compared;
    const compared = this.pool.run(task);
    this.held.set(key, { compared, size: task.earlier.length + task.later.length });
    compared.catch(() => this.held.delete(key));
    return compared;
  }

  /** The comparison as a file. */
  async redline(earlier: Node, later: Node, redline: Redline): Promise<Uint8Array> {
    const { file } = await this.pool.run({ ...taskOf(earlier, later), redline });
    return file ?? new Uint8Array();
  }

  /** The document that decisions make of a comparison. */
  async assembled(earlier: Node, later: Node, decisions: Decisions): Promise<Node> {
    const { assembled } = await this.pool.run({ ...taskOf(earlier, later), decisions });
    return Node.fromJSON(textSchema, JSON.parse(assembled ?? ''));
  }

  async close(): Promise<void> {
    await this.pool.close({ force: true });
  }
}

function taskOf(earlier: Node, later: Node): { earlier: string; later: string } {
  return { earlier: JSON.stringify(earlier.toJSON()), later: JSON.stringify(later.toJSON()) };
}
