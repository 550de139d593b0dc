import { appendFile, readFile } from 'node:fs/promises';
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

/** Notes erasures in a file of the data folder. */
export class Journal {
  constructor(private readonly folder: string) {}

  /** Notes what is about to be erased; durable enough to be copied with the folder. */
  async note(entry: Entry): Promise<void> {
    await appendFile(join(this.folder, JOURNAL), `${JSON.stringify(entry)}\n`, { flush: true });
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
    // A last line that a fall cut short was never acted on.
    const lines = text.split('\n').slice(0, -1);
    return lines.map((line) => JSON.parse(line) as Entry);
  }
}
