import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';
import { MatInputModule } from '@angular/material/input';
import { Router, RouterLink } from '@angular/router';
import type { DemoPerson } from '@oxbow/contract';
import { Store } from '@ngrx/store';
import { EMPTY, catchError, of } from 'rxjs';
import { Api } from '../api/api';
import { colourOf } from '../look/colours';
import { MembershipApi } from '../api/membership-api';
import { SessionEvents, session } from './session.store';

const DEMO_PASSWORD = 'tidemill';

/** Signing in; in demo mode it lists the invented people to sign in as. */
@Component({
  selector: 'ox-sign-in',
  imports: [
    RouterLink,
    ReactiveFormsModule,
    MatButtonModule,
    MatFormFieldModule,
    MatIconModule,
    MatInputModule,
  ],
  templateUrl: './sign-in.html',
  styleUrl: '../look/door.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SignIn {
  /** Where to go afterwards. */
  readonly then = input('/');

  private readonly store = inject(Store);
  protected readonly trouble = this.store.selectSignal(session.selectTrouble);
  protected readonly status = this.store.selectSignal(session.selectStatus);
  protected readonly people = toSignal(
    inject(Api)
      .demoPeople()
      .pipe(catchError(() => of<DemoPerson[]>([]))),
    { initialValue: null },
  );
  /** Whose house this is. */
  protected readonly organisation = signal('');
  protected readonly tried = signal(false);
  protected readonly form = new FormGroup({
    email: new FormControl('', { nonNullable: true, validators: [Validators.required, Validators.email] }),
    password: new FormControl('', { nonNullable: true, validators: [Validators.required] }),
  });
  protected readonly colourOf = colourOf;

  constructor() {
    const router = inject(Router);
    inject(MembershipApi)
      .organisation()
      .pipe(catchError(() => EMPTY))
      .subscribe(({ name }) => {
        if (name === null) void router.navigateByUrl('/welcome');
        else this.organisation.set(name);
      });
  }

  protected submit(): void {
    this.tried.set(true);
    if (this.form.valid) this.enter(this.form.getRawValue());
  }

  protected enterAs(person: DemoPerson): void {
    this.enter({ email: person.email, password: DEMO_PASSWORD });
  }

  private enter(credentials: { email: string; password: string }): void {
    this.store.dispatch(SessionEvents.signInAsked({ credentials, then: this.then() || '/' }));
  }
}
