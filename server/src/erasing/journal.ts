import { open, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { InstanceRange } from '@oxbow/core/history';
import type { Stored } from '../store/models.js';
import type { WordsIn } from './words-elsewhere.js';

/** The file beside the database in which erasures are noted, so that they can be done again in a backup that was made before. */
export const JOURNAL = 'erasures.jsonl';

/** What an erasure took, by where it was; never what it said. */
export interface Entry extends Pick<Stored<'erasures'>, 'id' | 'kind' | 'reason'> {
  /** The id of who erased, and of who agreed; empty for nobody. */
  readonly by: string;
  readonly agreed: string;
  /** The id of the document it was begun in. */
  readonly document: string;
  readonly at: number;
  /** Instances by the id of their document. */
  readonly sets: Readonly<Record<string, readonly InstanceRange[]>>;
  readonly words: readonly WordsIn[];
  /** Names of messages, with the box they lay in. */
  readonly messages: readonly string[];
  readonly images: readonly string[];
}

const NEWLINE = 10;

/** The entry of a line; none for one that was cut short, which was never acted on: an erasure begins when its entry is whole. */
function entryOf(line: string): Entry[] {
  if (line === '') return [];
  try {
    return [JSON.parse(line) as Entry];
  } catch (error) {
    if (error instanceof SyntaxError) return [];
    throw error;
  }
}

/** Notes erasures in a file of the data folder. */
export class Journal {
  constructor(private readonly folder: string) {}

  /**
   * Notes what is about to be erased; durable when it resolves. What a full disk or a fall cut short before is ended first, so that it
   * takes no entry along; when this one is cut short, it is taken off again.
   */
  async note(entry: Entry): Promise<void> {
    const file = await open(join(this.folder, JOURNAL), 'a+');
    try {
      const { size } = await file.stat();
      const [last] = size > 0 ? (await file.read(Buffer.alloc(1), 0, 1, size - 1)).buffer : [NEWLINE];
      const line = `${last === NEWLINE ? '' : '\n'}${JSON.stringify(entry)}\n`;
      try {
        await file.appendFile(line);
        await file.sync();
      } catch (error) {
        await file.truncate(size).catch(() => undefined);
        throw error;
      }
    } finally {
      await file.close();
    }
  }

  /** What was noted of one erasure; more than once where a fall broke it off. */
  async of(id: string): Promise<Entry[]> {
    return (await this.read()).filter((entry) => entry.id === id);
  }

  /** All that was noted, in order. */
  async read(): Promise<Entry[]> {
    const text = await readFile(join(this.folder, JOURNAL), 'utf8').catch((error: NodeJS.ErrnoException) => {
      if (error.code === 'ENOENT') return '';
      throw error;
    });
    return text.split('\n').flatMap(entryOf);
  }
}
