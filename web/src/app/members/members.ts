import { ChangeDetectionStrategy, Component, inject, signal, viewChild } from '@angular/core';
import { FormControl, FormGroup, FormGroupDirective, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';
import { MatInputModule } from '@angular/material/input';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import type { Invitation, Member, MemberPatch, Members as All } from '@oxbow/contract';
import { Store } from '@ngrx/store';
import type { Observable } from 'rxjs';
import { finalize } from 'rxjs';
import { saidOf } from '../api/api';
import { refusedAt, tryAgain } from '../api/refusals';
import { colourOf } from '../look/colours';
import { dayAndTime, shortTime } from '../look/time';
import { MembershipApi } from '../api/membership-api';
import { session } from '../session/session.store';
import { Groups } from './groups';
import { Organisation } from './organisation';

/** Inviting people, for whoever may; for administrators also who belongs here, groups, and what the organisation has decided. */
@Component({
  selector: 'ox-members',
  imports: [
    Groups,
    MatButtonModule,
    MatCheckboxModule,
    MatFormFieldModule,
    MatIconModule,
    MatInputModule,
    MatProgressBarModule,
    Organisation,
    ReactiveFormsModule,
    RouterLink,
  ],
  templateUrl: './members.html',
  styleUrl: './members.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Members {
  private readonly api = inject(MembershipApi);
  protected readonly me = inject(Store).selectSignal(session.selectPerson);
  /** Everybody; null until that is known. */
  protected readonly all = signal<All | null>(null);
  protected readonly trouble = signal('');
  protected readonly told = signal('');
  protected readonly busy = signal(false);
  /** Whom one is asked about before they are disabled. */
  protected readonly asked = signal<string | null>(null);
  protected readonly form = new FormGroup({
    email: new FormControl('', { nonNullable: true, validators: [Validators.required, Validators.email] }),
    message: new FormControl('', { nonNullable: true, validators: [Validators.maxLength(2000)] }),
    guest: new FormControl(false, { nonNullable: true }),
  });
  protected readonly refused = signal('');
  protected readonly colourOf = colourOf;
  protected readonly dayAndTime = dayAndTime;
  protected readonly shortTime = shortTime;
  protected readonly said = {
    promoted: $localize`is an administrator now.`,
    demoted: $localize`is no administrator any more.`,
  };

  /** The form as it was submitted: once it is done with, nothing is missing in it. */
  private readonly directive = viewChild.required(FormGroupDirective);

  constructor() {
    this.load();
  }

  /** Who belongs here is for administrators; others may only be let invite. */
  protected load(): void {
    this.trouble.set('');
    if (!this.me()?.admin) return;
    this.api.members().subscribe({
      next: (all) => this.all.set(all),
      error: (error: unknown) => this.trouble.set(saidOf(error)),
    });
  }

  protected invite(): void {
    this.refused.set('');
    tryAgain(this.form);
    if (this.form.invalid || this.busy()) return;
    const { email, message, guest } = this.form.getRawValue();
    this.doing(this.api.invite({ email, guest, ...(message ? { message } : {}) }), (invitation) => {
      this.directive().resetForm();
      this.told.set(
        $localize`${invitation.email} is invited; the link holds until ${dayAndTime(invitation.until)}.`,
      );
      this.load();
    });
  }

  protected inviteAgain({ email, guest }: Invitation): void {
    this.doing(this.api.invite({ email, guest }), () => {
      this.told.set($localize`A new link was sent to ${email}; the one before does not hold any more.`);
      this.load();
    });
  }

  protected withdraw({ id, email }: Invitation): void {
    this.doing(this.api.withdraw(id), () => {
      this.told.set($localize`The invitation to ${email} is withdrawn.`);
      this.load();
    });
  }

  protected standingOf({ admin, guest, disabled }: Member): string {
    const said = [
      ...(admin ? [$localize`administrator`] : guest ? [$localize`guest`] : []),
      ...(disabled ? [$localize`disabled`] : []),
    ];
    return said.join(', ');
  }

  protected administering({ admin, name }: Member): string {
    return admin ? $localize`Take administering from ${name}` : $localize`Make an administrator of ${name}`;
  }

  protected change(member: Member, patch: MemberPatch, told: string): void {
    this.asked.set(null);
    this.doing(this.api.change(member.id, patch), (changed) => {
      this.told.set(`${member.name} ${told}`);
      this.all.update(
        (all) => all && { ...all, people: all.people.map((one) => (one.id === changed.id ? changed : one)) },
      );
    });
  }

  private doing<T>(call: Observable<T>, done: (value: T) => void): void {
    this.told.set('');
    this.busy.set(true);
    call.pipe(finalize(() => this.busy.set(false))).subscribe({
      next: done,
      error: (error: unknown) => this.refused.set(refusedAt(this.form, error)),
    });
  }
}
