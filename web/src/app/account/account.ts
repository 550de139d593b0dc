import { ChangeDetectionStrategy, Component, inject, signal, viewChild } from '@angular/core';
import { FormControl, FormGroup, FormGroupDirective, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';
import { MatInputModule } from '@angular/material/input';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import type { SignedIn } from '@oxbow/contract';
import { Store } from '@ngrx/store';
import { finalize } from 'rxjs';
import { Api, saidOf } from '../api/api';
import { refusedAt, tryAgain } from '../api/refusals';
import { fullTime, shortTime } from '../look/time';
import { session } from '../session/session.store';
import { browserOf } from './browser';
import { OwnProfile } from './own-profile';
import { Preferences } from './preferences';

/** One's own account: settings, how others see one, the password, and where one is signed in. */
@Component({
  selector: 'ox-account',
  imports: [
    MatButtonModule,
    MatFormFieldModule,
    MatIconModule,
    MatInputModule,
    MatProgressBarModule,
    OwnProfile,
    Preferences,
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

  /** The form as it was submitted: once it is done with, nothing is missing in it. */
  private readonly directive = viewChild.required(FormGroupDirective);

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
    tryAgain(this.form);
    if (this.form.invalid || this.busy()) return;
    this.busy.set(true);
    this.api
      .changePassword(this.form.getRawValue())
      .pipe(finalize(() => this.busy.set(false)))
      .subscribe({
        next: () => {
          this.directive().resetForm();
          this.told.set($localize`Your password is changed. You are signed out everywhere but here.`);
          this.load();
        },
        error: (error: unknown) => this.refused.set(refusedAt(this.form, error)),
      });
  }
}
