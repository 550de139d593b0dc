import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import type { OrganisationSettings } from '@oxbow/contract';
import { finalize } from 'rxjs';
import { saidOf } from '../api/api';
import { refusedAt, tryAgain } from '../api/refusals';
import { MembershipApi } from '../api/membership-api';

/** What the organisation has decided, for administrators: its name, who invites and takes guests, how long the bin keeps. */
@Component({
  selector: 'ox-organisation',
  imports: [
    MatButtonModule,
    MatCheckboxModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    ReactiveFormsModule,
  ],
  template: `
    <section aria-labelledby="organisation-title">
      <h2 i18n id="organisation-title">The organisation</h2>
      @if (trouble()) {
        <p class="trouble" role="alert">
          {{ trouble() }} <button i18n matButton type="button" (click)="load()">Try again</button>
        </p>
      }
      <form [formGroup]="form" (ngSubmit)="keep()" novalidate>
        <mat-form-field appearance="outline" subscriptSizing="dynamic">
          <mat-label i18n>Its name</mat-label>
          <input matInput formControlName="name" autocomplete="organization" />
          @if (form.controls.name.invalid) {
            <mat-error i18n>Please give a name, in at most 80 letters</mat-error>
          }
        </mat-form-field>
        <mat-form-field appearance="outline" subscriptSizing="dynamic">
          <mat-label i18n>Who may invite people</mat-label>
          <mat-select formControlName="invites">
            <mat-option i18n value="admins">Administrators</mat-option>
            <mat-option i18n value="everybody">Everybody here but guests</mat-option>
          </mat-select>
        </mat-form-field>
        <mat-form-field appearance="outline" subscriptSizing="dynamic">
          <mat-label i18n>Who may share with addresses outside</mat-label>
          <mat-select formControlName="guests">
            <mat-option i18n value="everybody">Whoever owns what is shared</mat-option>
            <mat-option i18n value="admins">Administrators</mat-option>
            <mat-option i18n value="none">Nobody: no guests are taken</mat-option>
          </mat-select>
        </mat-form-field>
        <mat-form-field appearance="outline" subscriptSizing="dynamic">
          <mat-label i18n>Days that the bin keeps</mat-label>
          <input matInput type="number" formControlName="binDays" min="1" max="3650" step="1" />
          @if (form.controls.binDays.invalid) {
            <mat-error i18n>Please give a whole number of days, 1 to 3650</mat-error>
          }
        </mat-form-field>
        <mat-checkbox i18n formControlName="secondOwner">
          A second owner has to agree before something is erased for good
        </mat-checkbox>
        <button i18n matButton="filled" type="submit" [disabled]="busy()">Keep these settings</button>
      </form>
      <p role="status">{{ told() }}</p>
      <p class="trouble" role="alert">{{ refused() }}</p>
    </section>
  `,
  styleUrl: './members.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Organisation {
  private readonly api = inject(MembershipApi);
  protected readonly trouble = signal('');
  protected readonly refused = signal('');
  protected readonly told = signal('');
  protected readonly busy = signal(false);
  protected readonly form = new FormGroup({
    name: new FormControl('', {
      nonNullable: true,
      validators: [Validators.required, Validators.maxLength(80)],
    }),
    invites: new FormControl<OrganisationSettings['invites']>('admins', { nonNullable: true }),
    guests: new FormControl<OrganisationSettings['guests']>('everybody', { nonNullable: true }),
    secondOwner: new FormControl(false, { nonNullable: true }),
    binDays: new FormControl(30, {
      nonNullable: true,
      validators: [Validators.required, Validators.min(1), Validators.max(3650), Validators.pattern(/^\d+$/)],
    }),
  });

  constructor() {
    this.load();
  }

  protected load(): void {
    this.trouble.set('');
    this.api.settings().subscribe({
      next: (settings) => this.form.setValue(settings),
      error: (error: unknown) => this.trouble.set(saidOf(error)),
    });
  }

  protected keep(): void {
    tryAgain(this.form);
    if (this.form.invalid || this.busy()) return;
    this.told.set('');
    this.refused.set('');
    this.busy.set(true);
    this.api
      .changeSettings(this.form.getRawValue())
      .pipe(finalize(() => this.busy.set(false)))
      .subscribe({
        next: (settings) => {
          this.form.setValue(settings);
          this.told.set($localize`These settings are kept.`);
        },
        error: (error: unknown) => this.refused.set(refusedAt(this.form, error)),
      });
  }
}
