import { Injectable, signal } from '@angular/core';
import type {
  AssembleTask,
  FileAbout,
  FileCompared,
  FileTask,
  ReadTask,
  RedlineTask,
  Report,
  Task,
} from './messages';

type Without<T> = Omit<T, 'id' | 'kind'>;

/** Reads and compares in a web worker: what comes from outside, and what is to be saved as a file. */
@Injectable({ providedIn: 'root' })
export class Comparer {
  private worker: Worker | null = null;
  private next = 1;
  private readonly waiting = new Map<
    number,
    { done: (report: Report) => void; fail: (error: Error) => void }
  >();
  private readonly doing = signal('');
  /** What is under way, in words; empty when nothing is. */
  readonly progress = this.doing.asReadonly();

  /** Reads a file and compares a document with it. Rejects with why it cannot be read. */
  async file(task: Without<FileTask>): Promise<FileCompared> {
    const report = await this.run({ ...task, kind: 'file', id: this.next++ });
    if ('compared' in report) return report.compared;
    throw new Error('trouble' in report ? report.trouble : $localize`The comparison was broken off.`);
  }

  /** What a file holds beside its text. Rejects with why it cannot be read. */
  async about(task: Without<ReadTask>): Promise<FileAbout> {
    const report = await this.run({ ...task, kind: 'read', id: this.next++ });
    if ('about' in report) return report.about;
    throw new Error('trouble' in report ? report.trouble : $localize`The file could not be read.`);
  }

  /** A comparison as a file. */
  async redline(task: Without<RedlineTask>): Promise<Uint8Array<ArrayBuffer>> {
    const report = await this.run({ ...task, kind: 'redline', id: this.next++ });
    if ('redline' in report) return report.redline;
    throw new Error('trouble' in report ? report.trouble : $localize`The file could not be made.`);
  }

  /** The document that decisions about changes make, as ProseMirror JSON. */
  async assemble(task: Without<AssembleTask>): Promise<unknown> {
    const report = await this.run({ ...task, kind: 'assemble', id: this.next++ });
    if ('assembled' in report) return report.assembled;
    throw new Error('trouble' in report ? report.trouble : $localize`It could not be put together.`);
  }

  /** Breaks off whatever is under way. */
  cancel(): void {
    this.worker?.terminate();
    this.worker = null;
    this.doing.set('');
    for (const { fail } of this.waiting.values()) fail(new Error($localize`The comparison was broken off.`));
    this.waiting.clear();
  }

  private run(task: Task): Promise<Report> {
    const worker = (this.worker ??= this.begin());
    return new Promise((done, fail) => {
      this.waiting.set(task.id, { done, fail });
      worker.postMessage(task);
    });
  }

  private begin(): Worker {
    const worker = new Worker(new URL('./compare.worker', import.meta.url), { type: 'module' });
    worker.addEventListener('message', ({ data }: MessageEvent<Report>) => {
      if ('progress' in data) return this.doing.set(progressSaid(data.progress));
      this.doing.set('');
      this.waiting.get(data.id)?.done(data);
      this.waiting.delete(data.id);
    });
    worker.addEventListener('error', () => this.cancel());
    return worker;
  }
}

function progressSaid(percent: number | null): string {
  return percent === null ? $localize`Reading the file …` : $localize`Comparing … ${percent} %`;
}
