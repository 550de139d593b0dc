import { ChangeDetectionStrategy, Component, inject, viewChild } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormControl, FormGroup, FormGroupDirective, ReactiveFormsModule, Validators } from '@angular/forms';
import type { AbstractControl, ValidationErrors } from '@angular/forms';
import { MatAutocompleteModule } from '@angular/material/autocomplete';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import type { Candidate } from '@oxbow/contract';
import { catchError, debounceTime, map, of, switchMap } from 'rxjs';
import { saidOf } from '../api/api';
import { tryAgain } from '../api/refusals';
import { How, howFields, howOf } from './how';
import { SharingApi } from './sharing-api';
import { SharingRoom } from './sharing-room';

/** Milliseconds of quiet after which people are looked for by what was typed. */
const QUIET = 200;

/** Gives what is shared to somebody: by name, as a group, to everybody here, or by an address outside. */
@Component({
  selector: 'ox-share-with',
  imports: [
    How,
    MatAutocompleteModule,
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    ReactiveFormsModule,
  ],
  templateUrl: './share-with.html',
  styleUrl: './sharing.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ShareWith {
  private readonly api = inject(SharingApi);
  private readonly directive = viewChild.required(FormGroupDirective);
  protected readonly room = inject(SharingRoom);
  /** Who was found by what was typed, by what stands in the field once they are chosen. */
  private readonly found = new Map<string, Candidate>();
  protected readonly how = new FormGroup(howFields());
  protected readonly form = new FormGroup({
    email: new FormControl('', {
      nonNullable: true,
      validators: [Validators.required, (control) => this.somebody(control)],
    }),
    message: new FormControl('', { nonNullable: true, validators: [Validators.maxLength(2000)] }),
  });
  protected readonly candidates = toSignal(
    this.form.controls.email.valueChanges.pipe(
      debounceTime(QUIET),
      switchMap((typed) =>
        typed.trim().length < 2 || this.found.has(typed)
          ? of<Candidate[]>([])
          : this.api.candidates(this.room.what(), typed.trim()).pipe(
              catchError((error: unknown) => {
                this.room.refused.set(saidOf(error));
                return of<Candidate[]>([]);
              }),
            ),
      ),
      map((found) => {
        for (const one of found) this.found.set(one.holder.name, one);
        return found;
      }),
    ),
    { initialValue: [] as Candidate[] },
  );

  protected aboutCandidate({ holder, email }: Candidate): string {
    return { group: $localize`a group`, everybody: $localize`all but guests`, person: email, invited: email }[
      holder.kind
    ];
  }

  protected share(): void {
    tryAgain(this.form);
    tryAgain(this.how);
    if (this.form.invalid || this.how.invalid || this.room.busy()) return;
    const { email, message } = this.form.getRawValue();
    const candidate = this.found.get(email);
    const whom = candidate ? { holder: candidate.holder.id } : { email };
    const input = { ...whom, ...howOf(this.how.controls), ...(message ? { message } : {}) };
    this.room.doing(
      this.api.shareWith(this.room.what(), input),
      (told) => {
        const isInvited = told.shares.some(({ holder }) => holder.id === email.toLowerCase());
        this.room.told.set(told);
        this.room.said.set(
          isInvited
            ? $localize`${email} is nobody here yet, and was invited as a guest; it is theirs as soon as they have come.`
            : candidate?.holder.kind === 'everybody'
              ? $localize`Everybody here has it now.`
              : $localize`It is shared with ${email}, who was written to.`,
        );
        this.directive().resetForm();
        this.how.reset();
      },
      new FormGroup({ ...this.form.controls, ...this.how.controls }),
    );
  }

  /** A name that was chosen from the list, or an address. */
  private somebody(control: AbstractControl<string>): ValidationErrors | null {
    return this.found.has(control.value) ? null : Validators.email(control);
  }
}
