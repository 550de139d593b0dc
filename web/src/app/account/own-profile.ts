import { ChangeDetectionStrategy, Component, effect, inject, signal, untracked } from '@angular/core';
import { FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { finalize } from 'rxjs';
import { Api } from '../api/api';
import { refusedAt, tryAgain } from '../api/refusals';
import { Profile, calledControls } from '../moving-in/profile';
import { SessionEvents, session } from '../session/session.store';

/** How others see one: name, initials and colour. */
@Component({
  selector: 'ox-own-profile',
  imports: [MatButtonModule, Profile, ReactiveFormsModule],
  template: `
    <form [formGroup]="form" (ngSubmit)="keep()" novalidate>
      <ox-profile [form]="form" />
      <button i18n matButton="filled" type="submit" [disabled]="busy()">Change how others see you</button>
    </form>
    <p role="status">{{ told() }}</p>
    <p class="trouble" role="alert">{{ refused() }}</p>
  `,
  styleUrl: './account.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OwnProfile {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly me = this.store.selectSignal(session.selectPerson);
  protected readonly told = signal('');
  protected readonly refused = signal('');
  protected readonly busy = signal(false);
  protected readonly form = new FormGroup(calledControls());

  constructor() {
    effect(() => {
      const me = this.me();
      if (!me) return;
      const { name, initials, colour } = me;
      untracked(() => this.form.setValue({ name, initials, colour }));
      this.form.controls.initials.markAsDirty();
    });
  }

  protected keep(): void {
    tryAgain(this.form);
    if (this.form.invalid || this.busy()) return;
    this.told.set('');
    this.refused.set('');
    this.busy.set(true);
    this.api
      .changeProfile(this.form.getRawValue())
      .pipe(finalize(() => this.busy.set(false)))
      .subscribe({
        next: (person) => {
          this.store.dispatch(SessionEvents.meChanged({ person }));
          this.told.set($localize`Others see you so from now on, in what you wrote before too.`);
        },
        error: (error: unknown) => this.refused.set(refusedAt(this.form, error)),
      });
  }
}
