import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';
import { MatInputModule } from '@angular/material/input';
import { Router, RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { finalize } from 'rxjs';
import { ACTS } from '../acting/acts';
import { refusedAt } from '../api/refusals';
import { LiveChannel } from '../live/channel';
import { session } from '../session/session.store';
import { SharingApi } from '../sharing/sharing-api';

/** What whoever does not have a document sees at its address: a word about that, and a way to ask for it. */
@Component({
  selector: 'ox-no-access',
  imports: [
    MatButtonModule,
    MatFormFieldModule,
    MatIconModule,
    MatInputModule,
    ReactiveFormsModule,
    RouterLink,
  ],
  templateUrl: './no-access.html',
  styleUrl: '../look/door.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NoAccess {
  protected readonly acts = ACTS;
  /** The document's id. */
  readonly id = input.required<string>();

  private readonly api = inject(SharingApi);
  protected readonly me = inject(Store).selectSignal(session.selectPerson);
  protected readonly busy = signal(false);
  protected readonly asked = signal(false);
  protected readonly refused = signal('');
  protected readonly form = new FormGroup({
    message: new FormControl('', { nonNullable: true, validators: [Validators.maxLength(500)] }),
  });

  constructor() {
    const router = inject(Router);
    inject(LiveChannel)
      .on('shelf')
      .pipe(takeUntilDestroyed())
      .subscribe(({ document }) => {
        if (document === this.id()) void router.navigate(['/documents', this.id()]);
      });
  }

  protected ask(): void {
    if (this.form.invalid || this.busy()) return;
    this.refused.set('');
    this.busy.set(true);
    this.api
      .ask(this.id(), this.form.getRawValue().message)
      .pipe(finalize(() => this.busy.set(false)))
      .subscribe({
        next: () => this.asked.set(true),
        error: (error: unknown) => this.refused.set(refusedAt(this.form, error)),
      });
  }
}
