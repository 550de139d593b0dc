import { tellDocument } from '@oxbow/core/content';
import { readAnyDocument } from '@oxbow/core/kinds';
import { FormatError, formatOfFile } from '@oxbow/core/formats';
import type { Format, Reading, SealedEdit } from '@oxbow/core/formats';
import type { Node } from 'prosemirror-model';
import type { ArchiveAbout } from '@oxbow/contract';
import { Slices } from '../threads/slices.js';
import { Threads, TooLong } from '../threads/threads.js';
import type { About, Done, Given, ReadLetter, Task, WholeArchive } from './file-task.js';

/** How long a file may take, in milliseconds; a hostile one ends here. */
const LONGEST = 30_000;
/** A history is replayed edit by edit, so it may take longer. */
const LONGEST_ARCHIVE = 600_000;
/** Memory that reading a file may take, in megabytes. */
const MOST_MEMORY = 768;
const FILE_TASK = new URL('./file-task.js', import.meta.url);

/** Reads and writes files off the main thread, within bounds of time and memory. */
export class Files {
  private readonly threads = new Threads<Task, Done>(FILE_TASK, MOST_MEMORY);
  /** Whole histories have a thread of their own, so that they do not hold up files. */
  private readonly archives = new Threads<Task, Done>(FILE_TASK, MOST_MEMORY, 1);

  /**
   * Reads a file, whose format is told by the ending of its name. Throws `FormatError` for one that cannot be read, and an
   * `AbortError` when `signal` breaks it off.
   */
  async read(name: string, given: Given, signal?: AbortSignal): Promise<Reading> {
    const done = await this.run({ kind: 'read', format: formatOfFile(name), given }, signal);
    if (!('read' in done)) throw new FormatError('This file cannot be read.');
    const { doc, before, ...rest } = done.read;
    const slices = new Slices();
    const parsed = (json: string): Promise<Node> => slices.through(readAnyDocument(json));
    return { ...rest, doc: await parsed(doc), before: before === null ? null : await parsed(before) };
  }

  /** Writes a document as a file of a format. */
  async write(format: Format, doc: Node, about: About, signal?: AbortSignal): Promise<Uint8Array> {
    const json = await new Slices().through(tellDocument(doc));
    const done = await this.run({ kind: 'write', format, doc: json, about }, signal);
    if (!('written' in done)) throw new FormatError('This file cannot be written.');
    return done.written;
  }

  /** Reads a message. Throws `FormatError`. */
  async letter(bytes: Uint8Array): Promise<ReadLetter> {
    const done = await this.run({ kind: 'letter', bytes });
    if (!('letter' in done)) throw new FormatError('This message cannot be read.');
    return done.letter;
  }

  /** Writes the whole history of a document. */
  async archive(
    about: ArchiveAbout,
    log: readonly SealedEdit[],
    images: readonly Uint8Array[],
    signal?: AbortSignal,
  ): Promise<Uint8Array> {
    const done = await this.run({ kind: 'archive', about, log, images }, signal, LONGEST_ARCHIVE);
    if (!('written' in done)) throw new FormatError('This history cannot be written.');
    return done.written;
  }

  /** Reads and verifies an archive. Throws `FormatError` with what is wrong. */
  async unarchive(given: Given, signal?: AbortSignal): Promise<WholeArchive> {
    const done = await this.run({ kind: 'unarchive', given }, signal, LONGEST_ARCHIVE);
    if (!('archive' in done)) throw new FormatError('This archive cannot be read.');
    return done.archive;
  }

  async close(): Promise<void> {
    await Promise.all([this.threads.close(), this.archives.close()]);
  }

  private async run(task: Task, signal?: AbortSignal, longest = LONGEST): Promise<Done> {
    const lane = task.kind === 'archive' || task.kind === 'unarchive' ? this.archives : this.threads;
    const done = await lane.run(task, { longest, signal }).catch((error: unknown) => {
      if (error instanceof TooLong) throw new FormatError('This file takes too long, so it was given up.');
      if (isOutOfMemory(error)) throw new FormatError('This file is too large to be read.');
      throw error;
    });
    if ('refused' in done) throw new FormatError(done.refused);
    return done;
  }
}

function isOutOfMemory(error: unknown): boolean {
  return error instanceof Error && 'code' in error && error.code === 'ERR_WORKER_OUT_OF_MEMORY';
}
