import { ChangeDetectionStrategy, Component, effect, inject, input, signal } from '@angular/core';
import { FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import type { Invited } from '@oxbow/contract';
import { Store } from '@ngrx/store';
import { finalize } from 'rxjs';
import { saidOf } from '../api/api';
import { refusedAt, tryAgain } from '../api/refusals';
import { SessionEvents } from '../session/session.store';
import { MembershipApi } from '../api/membership-api';
import { Profile, profileControls } from './profile';

/** Taking an invitation: who invites, and who one is going to be. */
@Component({
  selector: 'ox-join',
  imports: [MatButtonModule, MatIconModule, MatProgressBarModule, Profile, ReactiveFormsModule, RouterLink],
  templateUrl: './join.html',
  styleUrl: '../look/door.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Join {
  /** What the invitation's link carries. */
  readonly token = input.required<string>();

  private readonly api = inject(MembershipApi);
  private readonly store = inject(Store);
  /** What the invitation says; null until that is known. */
  protected readonly invited = signal<Invited | null>(null);
  /** Why the link does not hold. */
  protected readonly broken = signal('');
  protected readonly trouble = signal('');
  protected readonly busy = signal(false);
  protected readonly form = new FormGroup(profileControls());

  constructor() {
    effect(() => {
      this.api.invited(this.token()).subscribe({
        next: (invited) => this.invited.set(invited),
        error: (error: unknown) => this.broken.set(saidOf(error)),
      });
    });
  }

  protected submit(): void {
    this.trouble.set('');
    tryAgain(this.form);
    if (this.form.invalid || this.busy()) return;
    this.busy.set(true);
    this.api
      .join(this.token(), this.form.getRawValue())
      .pipe(finalize(() => this.busy.set(false)))
      .subscribe({
        next: (person) => this.store.dispatch(SessionEvents.cameIn({ person, then: '/' })),
        error: (error: unknown) => this.trouble.set(refusedAt(this.form, error)),
      });
  }
}
