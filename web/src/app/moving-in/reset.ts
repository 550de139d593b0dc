import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';
import { MatInputModule } from '@angular/material/input';
import { RouterLink } from '@angular/router';
import { finalize } from 'rxjs';
import { refusedAt, tryAgain } from '../api/refusals';
import { MembershipApi } from '../api/membership-api';

/** Setting a new password by a link that was sent. */
@Component({
  selector: 'ox-reset',
  imports: [
    MatButtonModule,
    MatFormFieldModule,
    MatIconModule,
    MatInputModule,
    ReactiveFormsModule,
    RouterLink,
  ],
  templateUrl: './reset.html',
  styleUrl: '../look/door.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Reset {
  /** What the link carries. */
  readonly token = input.required<string>();

  private readonly api = inject(MembershipApi);
  protected readonly busy = signal(false);
  protected readonly trouble = signal('');
  protected readonly done = signal(false);
  protected readonly form = new FormGroup({
    password: new FormControl('', {
      nonNullable: true,
      validators: [Validators.required, Validators.maxLength(200)],
    }),
  });

  protected submit(): void {
    this.trouble.set('');
    tryAgain(this.form);
    if (this.form.invalid || this.busy()) return;
    this.busy.set(true);
    this.api
      .reset(this.token(), this.form.getRawValue().password)
      .pipe(finalize(() => this.busy.set(false)))
      .subscribe({
        next: () => this.done.set(true),
        error: (error: unknown) => this.trouble.set(refusedAt(this.form, error)),
      });
  }
}
