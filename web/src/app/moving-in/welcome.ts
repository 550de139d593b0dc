import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';
import { MatInputModule } from '@angular/material/input';
import { Store } from '@ngrx/store';
import { finalize } from 'rxjs';
import { refusedAt, tryAgain } from '../api/refusals';
import { SessionEvents } from '../session/session.store';
import { MembershipApi } from '../api/membership-api';
import { Profile, profileControls } from './profile';

/** The first visit to an empty server: the organisation, and its first administrator. */
@Component({
  selector: 'ox-welcome',
  imports: [MatButtonModule, MatFormFieldModule, MatIconModule, MatInputModule, Profile, ReactiveFormsModule],
  templateUrl: './welcome.html',
  styleUrl: '../look/door.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Welcome {
  private readonly api = inject(MembershipApi);
  private readonly store = inject(Store);
  protected readonly busy = signal(false);
  protected readonly trouble = signal('');
  protected readonly profile = new FormGroup(profileControls());
  protected readonly form = new FormGroup({
    code: new FormControl('', { nonNullable: true, validators: [Validators.required] }),
    organisation: new FormControl('', {
      nonNullable: true,
      validators: [Validators.required, Validators.maxLength(80)],
    }),
    email: new FormControl('', { nonNullable: true, validators: [Validators.required, Validators.email] }),
  });

  protected submit(): void {
    this.trouble.set('');
    tryAgain(this.form);
    tryAgain(this.profile);
    if (this.form.invalid || this.profile.invalid || this.busy()) return;
    this.busy.set(true);
    this.api
      .setUp({ ...this.form.getRawValue(), ...this.profile.getRawValue() })
      .pipe(finalize(() => this.busy.set(false)))
      .subscribe({
        next: (person) => this.store.dispatch(SessionEvents.cameIn({ person, then: '/' })),
        error: (error: unknown) => {
          const rest = refusedAt(this.form, error);
          this.trouble.set(rest === '' ? '' : refusedAt(this.profile, error));
        },
      });
  }
}
