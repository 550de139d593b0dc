import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { catchError, combineLatest, of, switchMap } from 'rxjs';
import { Api } from '../api/api';
import { FileReport } from './file-report';

/** What came with the file that an edit filed; shows nothing where nothing is known. */
@Component({
  selector: 'ox-came-along',
  imports: [FileReport],
  template: `
    @if (filing(); as filing) {
      @if (filing.author) {
        <p>The file says it is by {{ filing.author }}.</p>
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
  /** A moment filed before this was remembered has none, which is no trouble of the reader's. */
  protected readonly filing = toSignal(
    combineLatest([toObservable(this.document), toObservable(this.seq)]).pipe(
      switchMap(([document, seq]) => this.api.filing(document, seq).pipe(catchError(() => of(null)))),
    ),
    { initialValue: null },
  );
}
