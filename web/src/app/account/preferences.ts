import { ChangeDetectionStrategy, Component, effect, inject, signal, untracked } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import type { Preferences as Wanted } from '@oxbow/contract';
import { Store } from '@ngrx/store';
import { finalize } from 'rxjs';
import { refusedAt } from '../api/refusals';
import { Preferring } from '../session/preferring';
import { session } from '../session/session.store';

/** How one wants things for oneself: mail, holding back, the look, keys. */
@Component({
  selector: 'ox-preferences',
  imports: [MatButtonModule, MatCheckboxModule, MatFormFieldModule, MatSelectModule, ReactiveFormsModule],
  template: `
    <form [formGroup]="form" (ngSubmit)="keep()" novalidate>
      <mat-form-field appearance="outline" subscriptSizing="dynamic">
        <mat-label i18n>Look</mat-label>
        <mat-select formControlName="theme">
          <mat-option i18n value="system">As this device has it</mat-option>
          <mat-option i18n value="light">Light</mat-option>
          <mat-option i18n value="dark">Dark</mat-option>
        </mat-select>
      </mat-form-field>
      <mat-form-field appearance="outline" subscriptSizing="dynamic">
        <mat-label i18n>Notices by mail</mat-label>
        <mat-select formControlName="mail">
          <mat-option i18n value="none">None</mat-option>
          <mat-option i18n value="each">Each, once its sitting is over</mat-option>
          <mat-option i18n value="daily">Together, once a day</mat-option>
        </mat-select>
      </mat-form-field>
      <mat-checkbox i18n formControlName="holdBack">
        Hold my writing back in documents that I make, until I publish it
      </mat-checkbox>
      <mat-checkbox i18n formControlName="keys">
        Single letters are keys for acts, such as n to name a moment
      </mat-checkbox>
      <button i18n matButton="filled" type="submit" [disabled]="busy()">Keep these settings</button>
    </form>
    <p role="status">{{ told() }}</p>
    <p class="trouble" role="alert">{{ refused() }}</p>
  `,
  styleUrl: './account.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Preferences {
  private readonly preferring = inject(Preferring);
  private readonly me = inject(Store).selectSignal(session.selectPerson);
  protected readonly told = signal('');
  protected readonly refused = signal('');
  protected readonly busy = signal(false);
  protected readonly form = new FormGroup({
    mail: new FormControl<Wanted['mail']>('none', { nonNullable: true }),
    holdBack: new FormControl(false, { nonNullable: true }),
    theme: new FormControl<Wanted['theme']>('system', { nonNullable: true }),
    keys: new FormControl(true, { nonNullable: true }),
  });

  constructor() {
    effect(() => {
      const preferences = this.me()?.preferences;
      if (preferences) untracked(() => this.form.setValue(preferences));
    });
  }

  protected keep(): void {
    if (this.busy()) return;
    this.told.set('');
    this.refused.set('');
    this.busy.set(true);
    this.preferring
      .change(this.form.getRawValue())
      .pipe(finalize(() => this.busy.set(false)))
      .subscribe({
        next: () => this.told.set($localize`Your settings are kept.`),
        error: (error: unknown) => this.refused.set(refusedAt(this.form, error)),
      });
  }
}
