import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';
import { MatInputModule } from '@angular/material/input';
import { RouterLink } from '@angular/router';
import { finalize } from 'rxjs';
import { refusedAt, tryAgain } from '../api/refusals';
import { MembershipApi } from '../api/membership-api';

/** Asking for a link to a new password. Whether anybody has the address is not told. */
@Component({
  selector: 'ox-forgotten',
  imports: [
    MatButtonModule,
    MatFormFieldModule,
    MatIconModule,
    MatInputModule,
    ReactiveFormsModule,
    RouterLink,
  ],
  templateUrl: './forgotten.html',
  styleUrl: '../look/door.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Forgotten {
  private readonly api = inject(MembershipApi);
  protected readonly busy = signal(false);
  protected readonly trouble = signal('');
  /** The address that was asked for. */
  protected readonly sent = signal('');
  protected readonly form = new FormGroup({
    email: new FormControl('', { nonNullable: true, validators: [Validators.required, Validators.email] }),
  });

  protected submit(): void {
    this.trouble.set('');
    tryAgain(this.form);
    if (this.form.invalid || this.busy()) return;
    this.busy.set(true);
    const { email } = this.form.getRawValue();
    this.api
      .forgotten(email)
      .pipe(finalize(() => this.busy.set(false)))
      .subscribe({
        next: () => this.sent.set(email),
        error: (error: unknown) => this.trouble.set(refusedAt(this.form, error)),
      });
  }
}
