import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';
import { MatInputModule } from '@angular/material/input';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import type { SignedIn } from '@oxbow/contract';
import { Store } from '@ngrx/store';
import { finalize } from 'rxjs';
import { Api, fieldsOf, saidOf } from '../api/api';
import { fullTime, shortTime } from '../look/time';
import { session } from '../session/session.store';
import { browserOf } from './browser';

/** One's own account: the password, and where one is signed in. */
@Component({
  selector: 'ox-account',
  imports: [
    MatButtonModule,
    MatFormFieldModule,
    MatIconModule,
    MatInputModule,
    MatProgressBarModule,
    ReactiveFormsModule,
    RouterLink,
  ],
  templateUrl: './account.html',
  styleUrl: './account.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Account {
  private readonly api = inject(Api);
  protected readonly me = inject(Store).selectSignal(session.selectPerson);
  /** Where one is signed in; null until that is known. */
  protected readonly places = signal<readonly SignedIn[] | null>(null);
  /** Why the places are not known, or could not be left. */
  protected readonly trouble = signal('');
  /** What became of the last change of password. */
  protected readonly told = signal('');
  /** Why the last one failed, beside what is said at the fields. */
  protected readonly refused = signal('');
  protected readonly busy = signal(false);
  protected readonly form = new FormGroup({
    current: new FormControl('', { nonNullable: true, validators: [Validators.required] }),
    password: new FormControl('', {
      nonNullable: true,
      validators: [Validators.required, Validators.maxLength(200)],
    }),
  });
  protected readonly browserOf = browserOf;
  protected readonly fullTime = fullTime;
  protected readonly shortTime = shortTime;

  constructor() {
    this.load();
  }

  /** Asks where one is signed in. */
  protected load(): void {
    this.trouble.set('');
    this.api.sessions().subscribe({
      next: (places) => this.places.set(places),
      error: (error: unknown) => this.trouble.set(saidOf(error)),
    });
  }

  /** Signs out in one place, or without one everywhere but here. */
  protected leave(place?: SignedIn): void {
    this.trouble.set('');
    this.api.endSessions(place?.id).subscribe({
      next: () =>
        this.places.update(
          (places) => places?.filter((one) => one.current || (place && one !== place)) ?? null,
        ),
      error: (error: unknown) => this.trouble.set(saidOf(error)),
    });
  }

  protected change(): void {
    this.told.set('');
    this.refused.set('');
    // What the server said of an earlier try is over; only what the form itself knows to be wrong holds it back.
    for (const control of Object.values(this.form.controls)) control.updateValueAndValidity();
    if (this.form.invalid || this.busy()) return;
    this.busy.set(true);
    this.api
      .changePassword(this.form.getRawValue())
      .pipe(finalize(() => this.busy.set(false)))
      .subscribe({
        next: () => {
          this.form.reset();
          this.told.set('Your password is changed. You are signed out everywhere but here.');
          this.load();
        },
        error: (error: unknown) => this.refuse(error),
      });
  }

  /** Says what the server said at the fields it is about; what was typed stays. */
  private refuse(error: unknown): void {
    const fields = fieldsOf(error);
    for (const name of ['current', 'password'] as const)
      if (fields[name]) this.form.controls[name].setErrors({ said: fields[name] });
    if (Object.keys(fields).length === 0) this.refused.set(saidOf(error));
  }
}
