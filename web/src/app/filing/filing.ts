import { Injectable, inject } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import type { ArrivalFiled, DocumentSummary, FileForm, Letter, Outcome } from '@oxbow/contract';
import { Subject, firstValueFrom, takeUntil } from 'rxjs';
import type { Observable } from 'rxjs';
import { Api } from '../api/api';
import { bytesOf } from '../look/save';
import { Comparer } from '../worker/comparer';
import type { FileAbout } from '../worker/messages';
import type { FilingData, FilingDialog } from './filing-dialog';

/** The ending of a file that holds a whole history. */
export const ARCHIVE = '.zip';

/** A file that came in a message. */
export interface Arrived {
  readonly letter: string;
  readonly index: number;
  readonly sender: string;
  readonly file: File;
}

/** Takes files from outside: looks into them, asks what is to be asked, and hands them to the server. */
@Injectable({ providedIn: 'root' })
export class Filing {
  private readonly api = inject(Api);
  private readonly comparer = inject(Comparer);
  private readonly dialog = inject(MatDialog);

  private readonly broken = new Subject<void>();

  /** Breaks off whatever is under way; what was asked for answers null. */
  breakOff(): void {
    this.broken.next();
    this.comparer.cancel();
  }

  /** Answers null for a call that is broken off. */
  private made<T>(call: Observable<T>): Promise<T | null> {
    return firstValueFrom(call.pipe(takeUntil(this.broken)), { defaultValue: null });
  }

  /**
   * Makes a document of a file, or, of an archive, one with the same history, after asking only where the file holds more than a document can take as it is. Null when it
   * was left. Rejects with why the file cannot be read.
   */
  async bringIn(file: File): Promise<DocumentSummary | null> {
    if (file.name.toLowerCase().endsWith(ARCHIVE)) return this.made(this.api.readArchive(file));
    const about = await this.about(file);
    const plain = about.tracked.length + about.remarks.length + about.leftOut.length === 0;
    const fields = plain ? {} : await this.ask({ name: file.name, about, document: null, comment: '' });
    return fields ? this.made(this.api.importDocument(file, fields)) : null;
  }

  /** Files a file on top of a document, after asking for a word about it. Null when it was left. */
  async onTop(file: File, document: Pick<DocumentSummary, 'id' | 'title'>): Promise<Outcome | null> {
    const about = await this.about(file);
    const { name } = file;
    const comment = $localize`From the file ${name}${about.author ? $localize` by ${about.author}` : ''}`;
    const fields = await this.ask({ name, about, document: document.title, comment });
    return fields ? this.made(this.api.fileVersion(document.id, file, fields)) : null;
  }

  /** Fetches a file that came in a message. */
  async arrived(letter: Letter, index: number, name: string): Promise<Arrived> {
    const blob = await firstValueFrom(this.api.arrivedFile(letter.id, index));
    const file = new File([blob], name, { lastModified: Date.parse(letter.at) });
    return { letter: letter.id, index, sender: letter.from.name || letter.from.address, file };
  }

  /**
   * Files a file that came in a message on top of a document, or as one of its own with null, by whoever sent it. Null when
   * it was left.
   */
  async arrivedOnTop(
    { letter, index, sender, file }: Arrived,
    document: Pick<DocumentSummary, 'id' | 'title'> | null,
  ): Promise<ArrivalFiled | null> {
    const about = await this.about(file);
    const comment = $localize`${file.name}, as ${sender} sent it`;
    const fields = await this.ask({ name: file.name, about, document: document?.title ?? null, comment });
    if (!fields) return null;
    const { tracked, major, comment: word } = fields;
    return firstValueFrom(
      this.api.fileArrived(letter, index, {
        ...(document ? { document: document.id } : {}),
        ...(word ? { comment: word } : {}),
        ...(tracked ? { tracked } : {}),
        major: major === 'true',
      }),
    );
  }

  private async about(file: File): Promise<FileAbout> {
    return this.comparer.about({ name: file.name, bytes: await bytesOf(file) });
  }

  private async ask(data: FilingData): Promise<FileForm | null> {
    const there = await import('./filing-dialog');
    const dialog = this.dialog.open<FilingDialog, FilingData, FileForm>(there.FilingDialog, {
      data,
      width: '560px',
      maxWidth: '96vw',
    });
    return (await firstValueFrom(dialog.afterClosed())) ?? null;
  }
}
