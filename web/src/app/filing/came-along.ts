import { HttpErrorResponse } from '@angular/common/http';
import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { catchError, combineLatest, of, switchMap } from 'rxjs';
import type { Observable } from 'rxjs';
import { Api, saidOf } from '../api/api';
import { FileReport } from './file-report';

/** What came with the file that an edit filed; shows nothing where nothing is known. */
@Component({
  selector: 'ox-came-along',
  imports: [FileReport],
  template: `
    @if (trouble()) {
      <p i18n role="alert">What came with the file cannot be told. {{ trouble() }}</p>
    }
    @if (filing(); as filing) {
      @if (filing.author) {
        <p i18n>The file says it is by {{ filing.author }}.</p>
      }
      <ox-file-report [about]="filing" />
    }
  `,
  styleUrl: './file-report.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CameAlong {
  readonly document = input.required<string>();
  readonly seq = input.required<number>();

  private readonly api = inject(Api);
  protected readonly trouble = signal('');
  protected readonly filing = toSignal(
    combineLatest([toObservable(this.document), toObservable(this.seq)]).pipe(
      switchMap(([document, seq]) => {
        this.trouble.set('');
        return this.api.filing(document, seq).pipe(catchError((error: unknown) => this.none(error)));
      }),
    ),
    { initialValue: null },
  );

  /** A moment filed before this was remembered has nothing to tell, which is no trouble of the reader's. */
  private none(error: unknown): Observable<null> {
    if (!(error instanceof HttpErrorResponse && error.status === 404)) this.trouble.set(saidOf(error));
    return of(null);
  }
}
